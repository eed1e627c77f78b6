import {
  ImageBitmapLoader,
  LinearFilter,
  LinearMipmapLinearFilter,
  LinearSRGBColorSpace,
  NearestFilter,
  NearestMipmapNearestFilter,
  RepeatWrapping,
  SRGBColorSpace,
  Texture,
} from 'three';
import { imageUrl } from '../../shared/api';

interface Entry {
  texture: Texture;
  ready: boolean;
}

/** Pictures on the graphics card, each once per size and use. Decoded off the main thread. */
export class TextureStore {
  private readonly entries = new Map<string, Entry>();
  private readonly loader = new ImageBitmapLoader().setOptions({
    imageOrientation: 'flipY',
    premultiplyAlpha: 'none',
    colorSpaceConversion: 'none',
  });
  loading = 0;

  constructor(
    private readonly anisotropy: number,
    private readonly changed: () => void,
  ) {}

  /**
   * @param use `whole` gives the real size of a picture that lies on a surface as a whole, by its second coordinates
   */
  get(hash: string, size: number, use: { colour: boolean; sharp: boolean; whole?: [number, number] }): Texture {
    const key = `${hash}/${size}/${use.colour}/${use.sharp}/${use.whole ?? ''}`;
    const known = this.entries.get(key);
    if (known) return known.texture;
    const texture = new Texture();
    texture.wrapS = texture.wrapT = RepeatWrapping;
    texture.colorSpace = use.colour ? SRGBColorSpace : LinearSRGBColorSpace;
    texture.anisotropy = this.anisotropy;
    texture.magFilter = use.sharp ? NearestFilter : LinearFilter;
    texture.minFilter = use.sharp ? NearestMipmapNearestFilter : LinearMipmapLinearFilter;
    if (use.whole) {
      texture.channel = 1;
      texture.repeat.set(1 / use.whole[0], 1 / use.whole[1]);
    }
    // bitmaps come flipped already
    texture.flipY = false;
    const entry: Entry = { texture, ready: false };
    this.entries.set(key, entry);
    this.loading++;
    this.loader.load(
      imageUrl(hash, size),
      (bitmap) => {
        texture.image = bitmap;
        texture.needsUpdate = true;
        entry.ready = true;
        this.loading--;
        this.changed();
      },
      undefined,
      () => {
        this.loading--;
        this.changed();
      },
    );
    return texture;
  }

  dispose(): void {
    for (const { texture } of this.entries.values()) {
      (texture.image as ImageBitmap | undefined)?.close?.();
      texture.dispose();
    }
    this.entries.clear();
  }
}
