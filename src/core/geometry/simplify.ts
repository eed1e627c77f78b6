type Point = readonly [number, number];

/**
 * The points of a line off which it would run by more than `aside` without them (D. Douglas and T. Peucker, 1973).
 *
 * @example simplifyLine([[0, 0], [5, 0.1], [10, 0]], 1) // [[0, 0], [10, 0]]
 */
export function simplifyLine(line: readonly Point[], aside: number): Point[] {
  const keep = new Uint8Array(line.length);
  keep[0] = keep[line.length - 1] = 1;
  const open: [number, number][] = [[0, line.length - 1]];
  for (let next = open.pop(); next; next = open.pop()) {
    const [from, to] = next;
    const [a, b] = [line[from], line[to]];
    const l = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    let [most, at] = [aside, -1];
    for (let n = from + 1; n < to; n++) {
      const off = Math.abs((line[n][0] - a[0]) * (b[1] - a[1]) - (line[n][1] - a[1]) * (b[0] - a[0])) / l;
      if (off > most + 1e-9) [most, at] = [off, n];
    }
    if (at < 0) continue;
    keep[at] = 1;
    open.push([from, at], [at, to]);
  }
  return line.filter((_, n) => keep[n]);
}
