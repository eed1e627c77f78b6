import { type PerspectiveCamera, type Scene, Vector2, type WebGLRenderer, WebGLRenderTarget } from 'three';
import { Developing, type Development } from './Developing';

/** Most that is drawn at once, px a side, and what is drawn round it so that its edges know what lies beyond. */
const TILE = 2048;
const MARGIN = 192;
/** Metered on so small a picture, px wide. */
const METERED_PX = 512;

/** Where tiles of a picture lie, row by row. */
export function tilesOf(
  widthPx: number,
  heightPx: number,
  tile = TILE,
): { x: number; y: number; w: number; h: number }[] {
  const parts = (size: number) => {
    const count = Math.ceil(size / tile);
    return Array.from({ length: count }, (_, n) => {
      const [from, to] = [Math.round((n * size) / count), Math.round(((n + 1) * size) / count)];
      return { from, size: to - from };
    });
  };
  return parts(heightPx).flatMap((v) => parts(widthPx).map((u) => ({ x: u.from, y: v.from, w: u.size, h: v.size })));
}

/**
 * A picture of a scene of any size, tile by tile; metered as a whole.
 * @param camera of the picture's aspect; its view is given back as it was
 * @returns PNG; null where `signal` stopped it
 */
export async function makeStill(
  renderer: WebGLRenderer,
  scene: Scene,
  camera: PerspectiveCamera,
  how: Development,
  { widthPx, heightPx }: { widthPx: number; heightPx: number },
  progress: (share: number) => void,
  signal: AbortSignal,
): Promise<Blob | null> {
  const developing = new Developing(renderer, () => undefined);
  const into = new WebGLRenderTarget(1, 1);
  const canvas = new OffscreenCanvas(widthPx, heightPx);
  const paper = canvas.getContext('2d')!;
  const drawInto = (w: number, h: number, with_: Development) => {
    into.setSize(w, h);
    developing.resize(new Vector2(w, h));
    developing.draw(scene, camera, with_, into);
  };
  try {
    let fixed = how.fixed;
    if (fixed === null) {
      // twice: the first guess of the exposure is none
      for (let n = 0; n < 2; n++) {
        drawInto(METERED_PX, Math.max(1, Math.round((METERED_PX * heightPx) / widthPx)), how);
        await developing.read;
      }
      fixed = developing.metering;
    }
    const tiles = tilesOf(widthPx, heightPx);
    for (const [n, { x, y, w, h }] of tiles.entries()) {
      if (signal.aborted) return null;
      const margin = tiles.length > 1 ? MARGIN : 0;
      camera.setViewOffset(widthPx, heightPx, x - margin, y - margin, w + 2 * margin, h + 2 * margin);
      drawInto(w + 2 * margin, h + 2 * margin, { ...how, fixed });
      const pixels = new Uint8ClampedArray(w * h * 4);
      await renderer.readRenderTargetPixelsAsync(into, margin, margin, w, h, pixels);
      paper.putImageData(new ImageData(upright(pixels, w, h), w, h), x, y);
      progress((n + 1) / tiles.length);
    }
    return signal.aborted ? null : await canvas.convertToBlob({ type: 'image/png' });
  } finally {
    camera.clearViewOffset();
    into.dispose();
    developing.dispose();
  }
}

/** Rows from the top: graphics cards count them from below. */
export function upright(pixels: Uint8ClampedArray, width: number, height: number): Uint8ClampedArray<ArrayBuffer> {
  const out = new Uint8ClampedArray(pixels.length);
  for (let row = 0; row < height; row++)
    out.set(pixels.subarray((height - 1 - row) * width * 4, (height - row) * width * 4), row * width * 4);
  return out;
}
