/** What is cut: a square of pixels, on some of which something lies. */
interface Square {
  side: number;
  lies(k: number): boolean;
}

const LEVELS = 1024;

/**
 * What stays as it lies under a patch: pixels are joined over the largest differences first, never what must stay with
 * what must go, so that the two part where they differ least (C. Couprie, L. Grady, L. Najman and H. Talbot, “Power
 * watershed”, 2011: cuts by a maximum spanning forest).
 *
 * @param apart how far the patch differs from what lies there, pixel by pixel
 * @param told what must go, though something lies there
 * @returns 1 for what stays
 */
export function keptOf(place: Square, apart: Float32Array, told: Uint8Array | null): Uint8Array {
  const { side } = place;
  const [free, stays, goes] = [0, 1, 2];
  const kind = new Uint8Array(side * side);
  for (let j = 0, k = 0; j < side; j++)
    for (let i = 0; i < side; i++, k++) {
      if (!place.lies(k) || told?.[k]) kind[k] = goes;
      else if (!i || !j || i === side - 1 || j === side - 1) kind[k] = stays;
    }
  const parent = Int32Array.from(kind.keys());
  const find = (k: number): number => {
    while (parent[k] !== k) k = parent[k] = parent[parent[k]];
    return k;
  };
  let most = 1e-9;
  for (const v of apart) most = Math.max(most, v);
  // beside what is bare the difference at the last pixel that is not counts
  const cost = (k: number, l: number) =>
    !place.lies(k) ? apart[l] : !place.lies(l) ? apart[k] : (apart[k] + apart[l]) / 2;
  const level = (k: number, l: number) => Math.floor((cost(k, l) / most) * (LEVELS - 1));
  const edges: number[][] = Array.from({ length: LEVELS }, () => []);
  for (let j = 0, k = 0; j < side; j++)
    for (let i = 0; i < side; i++, k++) {
      if (i + 1 < side) edges[level(k, k + 1)].push(k * 2);
      if (j + 1 < side) edges[level(k, k + side)].push(k * 2 + 1);
    }
  for (let n = LEVELS - 1; n >= 0; n--)
    for (const e of edges[n]) {
      const k = e >> 1;
      const [a, b] = [find(k), find(e & 1 ? k + side : k + 1)];
      if (a === b || (kind[a] && kind[b] && kind[a] !== kind[b])) continue;
      kind[a] = kind[a] || kind[b];
      parent[b] = a;
    }
  return kind.map((_, k) => {
    const of = kind[find(k)];
    return of === stays || (of === free && place.lies(k)) ? 1 : 0;
  });
}
