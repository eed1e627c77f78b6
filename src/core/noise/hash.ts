/**
 * Integer hashes: the only source of chance in core. The same numbers give the same result in every engine, which
 * floating-point generators built on `sin` do not.
 */

/** Mixes four integers into 32 bits (MurmurHash3's mixing steps). */
export function hash(a: number, b: number, c: number, salt: number): number {
  let h = Math.imul(a ^ 0x9e3779b9, 0xcc9e2d51);
  h = Math.imul((h << 15) | (h >>> 17), 0x1b873593) ^ Math.imul(b, 0x85ebca6b);
  h = Math.imul((h << 13) | (h >>> 19), 5) + 0xe6546b64;
  h ^= Math.imul(c, 0xc2b2ae35);
  h = Math.imul((h << 13) | (h >>> 19), 5) + 0xe6546b64;
  h ^= Math.imul(salt, 0x27d4eb2f);
  h ^= h >>> 16;
  h = Math.imul(h, 0x85ebca6b);
  h ^= h >>> 13;
  h = Math.imul(h, 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

/** Another 32 bits from a hash. */
export function rehash(seed: number, salt: number): number {
  let h = Math.imul(seed ^ Math.imul(salt + 1, 0x9e3779b1), 0x85ebca6b);
  h ^= h >>> 15;
  h = Math.imul(h, 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

/** 0 ≤ value < 1 from 32 bits; exact in float64. */
export const unit = (bits: number): number => bits / 4294967296;

/** A whole number 0 … count − 1 from 32 bits. */
export const below = (bits: number, count: number): number => Math.floor((bits / 4294967296) * count);
