import type { Piece } from '../lay/pieces';

/**
 * One number for all pieces of a surface, so that “the same pieces” can be checked anywhere: FNV-1a over coordinates
 * in hundredths of a millimetre, identities, prints and tones in thousandths. `sin` and `pow` may differ in the last
 * bit between engines; these integers do not.
 */
export function fingerprint(pieces: Piece[]): string {
  let h = 0x811c9dc5;
  const put = (v: number) => {
    let n = Math.round(v) | 0;
    for (let i = 0; i < 4; i++) {
      h = Math.imul(h ^ (n & 255), 0x01000193);
      n >>= 8;
    }
  };
  for (const p of pieces) {
    put(p.course);
    put(p.index);
    put(p.material);
    put(p.appearance.print);
    put(p.appearance.seed);
    put(p.appearance.u * 10_000);
    put(p.appearance.v * 10_000);
    for (const g of p.appearance.gain) put(g * 1000);
    for (const loop of p.outline) {
      for (const [x, y] of loop) {
        put(x * 100);
        put(y * 100);
      }
    }
  }
  return (h >>> 0).toString(16).padStart(8, '0');
}
