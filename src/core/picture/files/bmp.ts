import { type ReadPicture, roomFor, widen } from './reader';

const [PLAIN, RUNS_8, RUNS_4, MASKS, , , ALPHA_MASKS] = [0, 1, 2, 3, 4, 5, 6];

export const isBmp = (head: Uint8Array): boolean => head[0] === 0x42 && head[1] === 0x4d;

/** Pixels per inch that a BMP states, null where it states none. */
export function densityOfBmp(bytes: Uint8Array): number | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.byteLength < 54 || view.getUint32(14, true) < 40) return null;
  const perMetre = view.getInt32(38, true);
  return perMetre > 0 ? perMetre * 0.0254 : null;
}

/**
 * Reads a Windows bitmap: 1, 4, 8, 16, 24 and 32 bits, palettes, masks, runs; rows from below or from above.
 * Microsoft, “Bitmap Storage”.
 * @throws Error with the fault, when it is cut off or of a kind that is not read
 */
export function readBmp(bytes: Uint8Array, mostPixels: number): ReadPicture {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.byteLength < 30) throw new Error('it is cut off within its header');
  const header = view.getUint32(14, true);
  const old = header === 12;
  if (!old && header < 40) throw new Error(`its header of ${header} bytes is not known`);
  const width = old ? view.getUint16(18, true) : view.getInt32(18, true);
  const rows = old ? view.getInt16(20, true) : view.getInt32(22, true);
  const bits = view.getUint16(old ? 24 : 28, true);
  const kind = old ? PLAIN : view.getUint32(30, true);
  const [height, fromBelow] = [Math.abs(rows), rows > 0];
  if (![1, 4, 8, 16, 24, 32].includes(bits)) throw new Error(`it has ${bits} bits a pixel, which is not read`);
  if (![PLAIN, RUNS_8, RUNS_4, MASKS, ALPHA_MASKS].includes(kind))
    throw new Error(`it is packed in a way (${kind}) that is not read`);
  const masks = masksOf(view, header, bits, kind);
  const out = roomFor(width, height, masks[3] ? 4 : 3, mostPixels);
  const start = view.getUint32(10, true);
  const put = (x: number, y: number, red: number, green: number, blue: number, alpha: number) => {
    const at = ((fromBelow ? height - 1 - y : y) * width + x) * out.channels;
    out.data[at] = red;
    out.data[at + 1] = green;
    out.data[at + 2] = blue;
    if (out.channels === 4) out.data[at + 3] = alpha;
  };
  const palette = (index: number) => {
    const at = 14 + header + index * (old ? 3 : 4);
    return [view.getUint8(at + 2), view.getUint8(at + 1), view.getUint8(at)] as const;
  };
  try {
    if (kind === RUNS_8 || kind === RUNS_4) {
      eachRun(bytes, start, width, height, kind === RUNS_4, (x, y, index) => put(x, y, ...palette(index), 255));
      return out;
    }
    const stride = Math.ceil((width * bits) / 32) * 4;
    if (start + stride * height > view.byteLength) throw new RangeError();
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const at = start + y * stride;
        if (bits <= 8) {
          const byte = view.getUint8(at + ((x * bits) >> 3));
          const index = (byte >> (8 - bits - ((x * bits) & 7))) & (2 ** bits - 1);
          put(x, y, ...palette(index), 255);
        } else if (bits === 24) {
          const p = at + x * 3;
          put(x, y, view.getUint8(p + 2), view.getUint8(p + 1), view.getUint8(p), 255);
        } else {
          const value = bits === 16 ? view.getUint16(at + x * 2, true) : view.getUint32(at + x * 4, true);
          const [r, g, b, a] = masks.map((mask) => masked(value, mask));
          put(x, y, r, g, b, masks[3] ? a : 255);
        }
      }
    }
  } catch (error) {
    if (error instanceof RangeError) throw new Error('it is cut off');
    throw error;
  }
  return out;
}

/** Which bits of a pixel are red, green, blue and opacity. */
function masksOf(view: DataView, header: number, bits: number, kind: number): number[] {
  if (kind === MASKS || kind === ALPHA_MASKS) {
    const count = kind === ALPHA_MASKS || header >= 56 ? 4 : 3;
    return [0, 1, 2, 3].map((n) => (n < count ? view.getUint32(54 + n * 4, true) : 0));
  }
  return bits === 16 ? [0x7c00, 0x3e0, 0x1f, 0] : [0xff0000, 0xff00, 0xff, 0];
}

function masked(value: number, mask: number): number {
  if (!mask) return 0;
  const low = Math.clz32(1) - Math.clz32(mask & -mask);
  const bits = 32 - Math.clz32(mask >>> low);
  return widen(((value & mask) >>> low) & (2 ** bits - 1), bits);
}

/** Runs of a packed bitmap, pixel by pixel; what they leave out stays black. */
function eachRun(
  bytes: Uint8Array,
  start: number,
  width: number,
  height: number,
  half: boolean,
  put: (x: number, y: number, index: number) => void,
): void {
  let [x, y, at] = [0, 0, start];
  const pixel = (index: number) => {
    if (x < width && y < height) put(x, y, index);
    x++;
  };
  const nibble = (byte: number, n: number) => (half ? (n % 2 ? byte & 15 : byte >> 4) : byte);
  while (y < height) {
    if (at + 1 >= bytes.length) throw new RangeError();
    const [count, value] = [bytes[at++], bytes[at++]];
    if (count) for (let n = 0; n < count; n++) pixel(nibble(value, n));
    else if (value === 0) [x, y] = [0, y + 1];
    else if (value === 1) return;
    else if (value === 2) {
      x += bytes[at++];
      y += bytes[at++];
    } else {
      const length = half ? Math.ceil(value / 2) : value;
      if (at + length > bytes.length) throw new RangeError();
      for (let n = 0; n < value; n++) pixel(nibble(bytes[at + (half ? n >> 1 : n)], n));
      at += length + (length & 1);
    }
  }
}
