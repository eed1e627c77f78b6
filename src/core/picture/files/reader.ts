/** A picture as a file holds it: 8 bits a channel, row by row from the top. */
export interface ReadPicture {
  width: number;
  height: number;
  channels: 3 | 4;
  data: Uint8Array;
}

/**
 * Room for a picture whose size a file states.
 * @throws Error when there is nothing in it, or more than is taken
 */
export function roomFor(width: number, height: number, channels: 3 | 4, mostPixels: number): ReadPicture {
  if (!(width > 0) || !(height > 0)) throw new Error(`it says it is ${width} × ${height} pixels`);
  if (width * height > mostPixels) throw new Error(`it is ${width} × ${height} pixels, which is too many`);
  return { width, height, channels, data: new Uint8Array(width * height * channels) };
}

/** Where a value of so many bits lies in 0..255. */
export const widen = (value: number, bits: number): number =>
  bits === 8 ? value : bits === 0 ? 0 : Math.round((value * 255) / (2 ** bits - 1));
