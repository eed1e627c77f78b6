import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { brotliCompressSync, brotliDecompressSync, constants } from 'node:zlib';

/**
 * Frozen arrays in a file: named lists of whole numbers, compared within one quantum. `FREEZE=1 npx jest frozen` writes
 * them anew; a commit that does says which faults it cured.
 */
export type Lists = Map<string, number[]>;

export const refreezing = process.env.FREEZE === '1';

export function writeFrozen(file: string, lists: Lists): void {
  const header = Buffer.from(JSON.stringify([...lists].map(([name, l]) => [name, l.length])));
  const total = [...lists.values()].reduce((n, l) => n + l.length, 0);
  const numbers = new Int32Array(total);
  let at = 0;
  for (const list of lists.values()) for (const v of list) numbers[at++] = v;
  // byte planes of the differences over a stride compress many times as well as the numbers themselves
  const planes = Buffer.alloc(total * 4);
  for (let i = 0; i < total; i++) {
    const d = i >= STRIDE ? (numbers[i] - numbers[i - STRIDE]) | 0 : numbers[i];
    const folded = (d << 1) ^ (d >> 31);
    for (let b = 0; b < 4; b++) planes[b * total + i] = (folded >>> (8 * b)) & 255;
  }
  const size = Buffer.alloc(4);
  size.writeUInt32LE(header.length);
  const quality = { params: { [constants.BROTLI_PARAM_QUALITY]: 9, [constants.BROTLI_PARAM_LGWIN]: 24 } };
  writeFileSync(file, brotliCompressSync(Buffer.concat([size, header, planes]), quality));
}

const STRIDE = 3;

export function readFrozen(file: string): Lists {
  if (!existsSync(file)) throw new Error(`${file} is missing; FREEZE=1 writes it`);
  const bytes = brotliDecompressSync(readFileSync(file));
  const headerLength = bytes.readUInt32LE(0);
  const header = JSON.parse(bytes.subarray(4, 4 + headerLength).toString()) as [string, number][];
  const planes = bytes.subarray(4 + headerLength);
  const total = planes.length / 4;
  const numbers = new Int32Array(total);
  for (let i = 0; i < total; i++) {
    let folded = 0;
    for (let b = 0; b < 4; b++) folded |= planes[b * total + i] << (8 * b);
    const d = (folded >>> 1) ^ -(folded & 1);
    numbers[i] = i >= STRIDE ? (d + numbers[i - STRIDE]) | 0 : d;
  }
  const out: Lists = new Map();
  let at = 0;
  for (const [name, length] of header) out.set(name, Array.from(numbers.subarray(at, (at += length))));
  return out;
}

/** Names of the lists that differ by more than one quantum anywhere, with the first place. */
export function findChanged(before: Lists, now: Lists): string[] {
  const out: string[] = [];
  for (const name of new Set([...before.keys(), ...now.keys()])) {
    const [a, b] = [before.get(name), now.get(name)];
    if (!a || !b) out.push(`${name}: ${a ? 'gone' : 'new'}`);
    else if (a.length !== b.length) out.push(`${name}: ${a.length} numbers were, ${b.length} are`);
    else {
      const at = a.findIndex((v, i) => Math.abs(v - (b[i] | 0)) > 1);
      if (at >= 0) out.push(`${name}: number ${at} was ${a[at]}, is ${b[at] | 0}`);
    }
  }
  return out;
}
