import { type ReadPicture, roomFor, widen } from './reader';

const [PALETTE, COLOUR, GREY] = [1, 2, 3];
const RUNS = 8;

/** Whether a file begins as a TGA does: it has no mark of its own, so every number of its header has to make sense. */
export function isTga(head: Uint8Array): boolean {
  if (head.length < 18) return false;
  const [, map, kind] = head;
  const bits = head[16];
  const known = [PALETTE, COLOUR, GREY].includes(kind & ~RUNS) && (kind & ~11) === 0;
  return (
    known && map <= 1 && [8, 15, 16, 24, 32].includes(bits) && (head[17] & 0xc0) === 0 && (head[12] | head[13]) > 0
  );
}

/**
 * Reads a TGA: palettes, grey, 15 to 32 bits, plain or in runs; rows from below or from above.
 * Truevision, “TGA File Format Specification”, version 2.0.
 * @throws Error with the fault, when it is cut off or of a kind that is not read
 */
export function readTga(bytes: Uint8Array, mostPixels: number): ReadPicture {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (!isTga(bytes)) throw new Error('its header is that of no TGA that is read');
  const kind = bytes[2] & ~RUNS;
  const [first, count, mapBits] = [view.getUint16(3, true), view.getUint16(5, true), bytes[7]];
  const [width, height, bits] = [view.getUint16(12, true), view.getUint16(14, true), bytes[16]];
  const [alphaBits, fromAbove, fromRight] = [bytes[17] & 15, (bytes[17] & 32) !== 0, (bytes[17] & 16) !== 0];
  const hasAlpha = kind === COLOUR && bits === 32 && alphaBits > 0;
  const out = roomFor(width, height, hasAlpha ? 4 : 3, mostPixels);
  const size = Math.ceil(bits / 8);
  const palette = 18 + bytes[0];
  const mapSize = Math.ceil(mapBits / 8);
  let at = palette + (bytes[1] ? count * mapSize : 0);

  const colour = (p: number, of: number): readonly [number, number, number, number] => {
    if (of <= 16) {
      const v = view.getUint16(p, true);
      return [widen((v >> 10) & 31, 5), widen((v >> 5) & 31, 5), widen(v & 31, 5), 255];
    }
    return [bytes[p + 2], bytes[p + 1], bytes[p], of === 32 ? bytes[p + 3] : 255];
  };
  const pixel = (p: number) => {
    if (kind === GREY) return [bytes[p], bytes[p], bytes[p], 255] as const;
    if (kind === COLOUR) return colour(p, bits);
    const index = (size === 1 ? bytes[p] : view.getUint16(p, true)) - first;
    if (index < 0 || index >= count) throw new Error('a pixel names a colour that is not in its palette');
    return colour(palette + index * mapSize, mapBits);
  };
  const put = (n: number, p: number) => {
    if (p + size > bytes.length) throw new Error('it is cut off');
    const [x, y] = [n % width, Math.floor(n / width)];
    const to = ((fromAbove ? y : height - 1 - y) * width + (fromRight ? width - 1 - x : x)) * out.channels;
    const read = pixel(p);
    for (let c = 0; c < out.channels; c++) out.data[to + c] = read[c];
  };

  const total = width * height;
  if (!(bytes[2] & RUNS)) {
    for (let n = 0; n < total; n++, at += size) put(n, at);
    return out;
  }
  for (let n = 0; n < total;) {
    if (at >= bytes.length) throw new Error('it is cut off');
    const packet = bytes[at++];
    const length = Math.min((packet & 127) + 1, total - n);
    for (let k = 0; k < length; k++) {
      put(n++, at);
      if (!(packet & 128)) at += size;
    }
    if (packet & 128) at += size;
  }
  return out;
}
