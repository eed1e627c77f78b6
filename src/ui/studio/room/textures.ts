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
import { imageUrl, type ScreenUse } from '../../shared/api';

interface Entry {
  texture: Texture;
  hash: string;
  as: ScreenUse | undefined;
  /** Longest side of what is shown, of what is being fetched, and the most that is ever shown, px. */
  shown: number;
  asked: number;
  most: number;
}

/** Pictures are shown at this size first, px; larger ones come when the view needs them. */
const FIRST = 512;
/** A picture may be enlarged by this before a larger one is fetched. */
const ENLARGED = 1.3;

/**
 * Pictures on the graphics card, each once per size and use, compressed for the screen: small ones first, larger ones
 * as the view needs them. Decoded off the main thread.
 */
export class TextureStore {
  private readonly entries = new Map<string, Entry>();
  private readonly loader = new ImageBitmapLoader().setOptions({
    imageOrientation: 'flipY',
    premultiplyAlpha: 'none',
    colorSpaceConversion: 'none',
  });
  loading = 0;
  /** Larger ones on their way. */
  refining = 0;

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
    // what is shown pixel by pixel is shown as it is
    const as = use.sharp ? undefined : use.colour ? 'colour' : 'data';
    const entry: Entry = { texture, hash, as, shown: 0, asked: 0, most: size };
    this.entries.set(key, entry);
    this.loading++;
    this.fetch(entry, use.sharp ? size : Math.min(size, FIRST), () => this.loading--);
    return texture;
  }

  /** The picture is seen so large, px: a larger one is fetched where that is more than is there. */
  refine(hash: string, seenPx: number): void {
    for (const entry of this.entries.values())
      if (entry.hash === hash && entry.shown && entry.asked < entry.most && seenPx > entry.asked * ENLARGED) {
        this.refining++;
        this.fetch(
          entry,
          Math.min(entry.most, entry.asked * 2 ** Math.ceil(Math.log2(seenPx / entry.asked / ENLARGED))),
          () => this.refining--,
        );
      }
  }

  private fetch(entry: Entry, size: number, settled: () => void = () => undefined): void {
    const { texture, hash, as } = entry;
    entry.asked = size;
    this.loader.load(
      imageUrl(hash, size, as),
      (bitmap) => {
        settled();
        const before = texture.image as ImageBitmap | undefined;
        // room on the card is taken for one size
        if (before) texture.dispose();
        texture.image = bitmap;
        texture.needsUpdate = true;
        entry.shown = size;
        before?.close();
        this.changed();
      },
      undefined,
      () => {
        settled();
        this.changed();
      },
    );
  }

  dispose(): void {
    for (const { texture } of this.entries.values()) {
      (texture.image as ImageBitmap | undefined)?.close?.();
      texture.dispose();
    }
    this.entries.clear();
  }
}
