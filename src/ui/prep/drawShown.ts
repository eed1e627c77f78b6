import type { Shown } from '@/workers/prep.worker';

/** A picture as a canvas that can be drawn at any size. */
export function toCanvas(shown: Shown): HTMLCanvasElement {
  const canvas = document.createElement('canvas');
  canvas.width = shown.width;
  canvas.height = shown.height;
  canvas.getContext('2d')!.putImageData(new ImageData(shown.bytes, shown.width, shown.height), 0, 0);
  return canvas;
}

/** Half-size copies of a canvas, so that far views are not rough. */
export function halvings(full: HTMLCanvasElement): HTMLCanvasElement[] {
  const list = [full];
  while (list.at(-1)!.width > 64 && list.at(-1)!.height > 64) {
    const from = list.at(-1)!;
    const half = document.createElement('canvas');
    half.width = Math.round(from.width / 2);
    half.height = Math.round(from.height / 2);
    const context = half.getContext('2d')!;
    context.imageSmoothingQuality = 'high';
    context.drawImage(from, 0, 0, half.width, half.height);
    list.push(half);
  }
  return list;
}
