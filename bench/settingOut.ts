import { lay } from '../src/core/lay/lay';
import { proposeStarts } from '../src/core/lay/proposeStarts';
import { listPieces } from '../src/core/lay/pieces';
import { openSheet, type Region } from '../src/core/lay/region';
import { FIRST_MAPPING } from '../src/core/mapping/schema';
import type { Vec2, Vec3 } from '../src/core/geometry/vec';
import type { PartMesh } from '../src/core/mesh/types';
import { facesOf, looseMesh, patch } from '../src/core/testing/shapes';
import { laidSpec, oak, wallMesh } from '../src/core/testing/surfaces';
import { compare, type Rows } from './measure';

const region = (parts: readonly PartMesh[], rest: Partial<Region>): Region => ({
  id: 'run',
  patches: parts.map((part) => ({ faces: [0, facesOf(part).length] })),
  mapping: FIRST_MAPPING.develop,
  cuts: [],
  origin: [0, 0, 0],
  spec: null,
  colour: null,
  ...rest,
});

/** Forty walls in zigzag, each cut up into 60 faces, opened as one run and one by one. */
export async function benchRun(rows: Rows): Promise<void> {
  const at = (n: number): Vec2 => [n * 1800, (n % 2) * 900];
  const parts = Array.from({ length: 40 }, (_, n) => {
    const [[u, w], [x, z]] = [at(n), at(n + 1)];
    return looseMesh(patch(6, 5, (s, t) => [u + (x - u) * s, t * 3000, w + (z - w) * s] as Vec3));
  });
  const run = region(parts, {});
  const alone = parts.map((part) => region([part], { mapping: FIRST_MAPPING.develop }));
  const { taken, base, ratio } = await compare(
    () => openSheet(parts, run),
    () => alone.map((one, n) => openSheet([parts[n]], one).area),
  );
  rows.push({
    name: 'a run of 40 surfaces opened',
    value: taken,
    unit: 'ms',
    against: `their sheets one by one, ${base.toFixed(1)} ms`,
    ratio,
    budget: 1.5,
  });
}

/** A wall of 60 m² with an arch and two windows: the best start against cutting its pieces once. */
export async function benchStart(rows: Rows): Promise<void> {
  const arch = Array.from({ length: 25 }, (_, n): Vec2 => {
    const a = (Math.PI * n) / 24;
    return [7000 - 1000 * Math.cos(a), 1700 + 700 * Math.sin(a)];
  });
  const window = (x: number): Vec2[] => [
    [x, 900],
    [x, 2100],
    [x + 1370, 2100],
    [x + 1370, 900],
  ];
  const outer: Vec2[] = [[0, 0], [6000, 0], ...arch, [8000, 0], [22_400, 0], [22_400, 3050], [0, 3050]];
  const mesh = wallMesh([outer, window(2300), window(12_100)]);
  const layout = { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false } as const;
  const materials = { oak: oak() };
  const laid = lay(
    region([mesh], { mapping: FIRST_MAPPING.flat, spec: laidSpec({ layout, joint: 10 }) }),
    [mesh],
    materials,
  );
  const options = { symmetric: false, turned: false, hidden: [] };
  const { taken, base, ratio } = await compare(
    () => proposeStarts(laid, materials, options).length,
    () => listPieces(laid.arrangement!).length,
  );
  rows.push({
    name: `the best start for ${(laid.sheet.area / 1e6).toFixed(0)} m² with an arch and two windows`,
    value: taken,
    unit: 'ms',
    against: `cutting its ${laid.pieces.length.toLocaleString('en')} pieces once, ${base.toFixed(0)} ms`,
    ratio,
    budget: 20,
  });
}
