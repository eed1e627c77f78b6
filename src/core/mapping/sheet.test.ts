import type { Vec3 } from '../geometry/vec';
import { listFaces, packFaces, type PartMesh } from '../mesh/types';
import { boxTriangles, floorTriangles, preparedFrom, prismWalls } from '../testing/fixtures';
import { loopArea } from '../geometry/loop';
import { buildSheet, type Sheet } from './sheet';

const flat = { kind: 'flat', direction: 'auto' } as const;
const box = { kind: 'box', axes: 'surface' } as const;

async function merged(triangles: number[], rotation?: [number, number, number, number]) {
  const { parts } = await preparedFrom([{ name: 'P', triangles, node: { rotation } }]);
  return { mesh: parts[0].mesh, faces: packFaces(parts[0].surfaces.flatMap((s) => [...listFaces(s.faces)])) };
}

/** Every triangle edge: its length on the mesh and on the sheet. */
function edgeRatios(mesh: PartMesh, sheet: Sheet): number[] {
  const out: number[] = [];
  sheet.faces.forEach((f, i) => {
    for (let k = 0; k < 3; k++) {
      const [v, w] = [mesh.indices[f * 3 + k], mesh.indices[f * 3 + ((k + 1) % 3)]];
      const real = Math.hypot(...[0, 1, 2].map((c) => mesh.positions[w * 3 + c] - mesh.positions[v * 3 + c]));
      const [a, b] = [i * 6 + k * 2, i * 6 + ((k + 1) % 3) * 2];
      out.push(Math.hypot(sheet.corners[b] - sheet.corners[a], sheet.corners[b + 1] - sheet.corners[a + 1]) / real);
    }
  });
  return out;
}

/** Signed area of every face on the sheet; negative would be mirrored. */
const faceAreas = (s: Sheet) =>
  Array.from(s.faces, (_, i) => {
    const c = s.corners.subarray(i * 6, i * 6 + 6);
    return ((c[2] - c[0]) * (c[5] - c[1]) - (c[3] - c[1]) * (c[4] - c[0])) / 2;
  });

/** Where a world point appears on the sheet, once for each corner that stands there. */
function appearances(mesh: PartMesh, sheet: Sheet, p: Vec3): string[] {
  const found = new Set<string>();
  sheet.faces.forEach((f, i) => {
    for (let k = 0; k < 3; k++) {
      const v = mesh.indices[f * 3 + k] * 3;
      if ([0, 1, 2].every((c) => Math.abs(mesh.positions[v + c] + mesh.origin[c] - p[c]) < 0.01)) {
        found.add(`${sheet.corners[i * 6 + k * 2].toFixed(1)},${sheet.corners[i * 6 + k * 2 + 1].toFixed(1)}`);
      }
    }
  });
  return [...found];
}

test.each<[string, number[]]>([
  ['floor', floorTriangles(5.4, 4.2)],
  ['wall facing south', [0, 0, 0, 5, 0, 0, 5, 3, 0, 0, 0, 0, 5, 3, 0, 0, 3, 0]],
  ['wall facing north', [5, 0, 0, 0, 0, 0, 0, 3, 0, 5, 0, 0, 0, 3, 0, 5, 3, 0]],
  ['ceiling', [0, 3, 0, 5, 3, 0, 5, 3, 4, 0, 3, 0, 5, 3, 4, 0, 3, 4]],
  ['roof slope', [0, 2, 4, 5, 2, 4, 5, 5, 0, 0, 2, 4, 5, 5, 0, 0, 5, 0]],
])('a flat %s keeps its size and is never mirrored', async (_name, triangles) => {
  const { mesh, faces } = await merged(triangles);
  const sheet = buildSheet(mesh, faces, flat);
  for (const r of edgeRatios(mesh, sheet)) expect(r).toBeCloseTo(1, 5);
  for (const a of faceAreas(sheet)) expect(a).toBeGreaterThan(0);
  expect(sheet.area).toBeCloseTo(sheet.trueArea, -1);
  expect(sheet.stretch.most).toBeCloseTo(1, 5);
});

test('stretch is stated where a slope is thrown on from above', async () => {
  // rises 3 over 4: seen from above it is 0.8 of its length
  const { mesh, faces } = await merged([0, 0, 4, 5, 0, 4, 5, 3, 0, 0, 0, 4, 5, 3, 0, 0, 3, 0]);
  const sheet = buildSheet(mesh, faces, { kind: 'flat', direction: 'up' });
  expect(sheet.stretch.least).toBeCloseTo(0.8, 5);
  expect(sheet.stretch.most).toBeCloseTo(1, 5);
  expect(sheet.area / sheet.trueArea).toBeCloseTo(0.8, 5);
});

test('outlines have holes and forget the cuts of the modeller', async () => {
  // a ring of eight triangles round a square hole, with a T-junction on one side
  const quad = (x0: number, z0: number, x1: number, z1: number) => [
    x0,
    0,
    z1,
    x1,
    0,
    z1,
    x1,
    0,
    z0,
    x0,
    0,
    z1,
    x1,
    0,
    z0,
    x0,
    0,
    z0,
  ];
  const ring = [...quad(0, 0, 3, 1), ...quad(0, 1, 1, 2), ...quad(2, 1, 3, 2), ...quad(0, 2, 3, 3)];
  const { mesh, faces } = await merged(ring);
  const [chart] = buildSheet(mesh, faces, flat).charts;
  expect(chart.outline).toHaveLength(2);
  expect(chart.outline[0]).toHaveLength(4);
  expect(chart.outline.map((l) => Math.round(loopArea(l) / 1e6))).toEqual([9, -1]);
});

describe('box mapping', () => {
  test('a box: true on all six sides, not mirrored, continuous round its vertical edges', async () => {
    const { mesh, faces } = await merged(boxTriangles([0, 0, 0], [4, 3, 2]));
    const sheet = buildSheet(mesh, faces, box);
    expect(sheet.charts).toHaveLength(6);
    for (const r of edgeRatios(mesh, sheet)) expect(r).toBeCloseTo(1, 4);
    for (const a of faceAreas(sheet)) expect(a).toBeGreaterThan(0);
    const loops = sheet.breaks.filter((b) => b.kind === 'loop');
    expect(loops).toHaveLength(1);
    expect(loops[0].shift).toBeCloseTo(12000, 1);
    // three of the four vertical edges appear at one place on the side charts, the fourth at two
    const sides = buildSheet(mesh, packFaces(sideFaces(mesh, faces)), box);
    const counts = [
      [0, 0],
      [4000, 0],
      [4000, 2000],
      [0, 2000],
    ]
      .map(([x, z]) => appearances(mesh, sides, [x, 0, z]).length)
      .sort();
    expect(counts).toEqual([1, 1, 1, 2]);
  });

  test('an L-shaped plan: one break of the size of its perimeter', async () => {
    const plan: [number, number][] = [
      [0, 6],
      [5, 6],
      [5, 3],
      [2, 3],
      [2, 0],
      [0, 0],
    ];
    const { mesh, faces } = await merged(prismWalls(plan, 3));
    const sheet = buildSheet(mesh, faces, box);
    expect(sheet.breaks.map((b) => [b.kind, Math.round(b.shift)])).toEqual([['loop', 22000]]);
    expect(sheet.bounds.maxX - sheet.bounds.minX).toBeCloseTo(22000, 1);
    for (const r of edgeRatios(mesh, sheet)) expect(r).toBeCloseTo(1, 4);
    for (const a of faceAreas(sheet)) expect(a).toBeGreaterThan(0);
  });

  test('a box turned in plan is still true to size', async () => {
    const half = (20 * Math.PI) / 360;
    const { mesh, faces } = await merged(boxTriangles([0, 0, 0], [4, 3, 2]), [0, Math.sin(half), 0, Math.cos(half)]);
    for (const r of edgeRatios(mesh, buildSheet(mesh, faces, box))) expect(r).toBeCloseTo(1, 4);
    const world = buildSheet(mesh, faces, { kind: 'box', axes: 'world' });
    expect(world.stretch.least).toBeCloseTo(Math.cos((20 * Math.PI) / 180), 3);
  });

  test('separate bodies do not cover each other on the sheet', async () => {
    const { mesh, faces } = await merged([
      ...boxTriangles([0, 0, 0], [1, 1, 1]),
      ...boxTriangles([0, 0, 5], [1, 1, 6]),
    ]);
    const { charts } = buildSheet(mesh, faces, box);
    charts.forEach((a, i) =>
      charts.slice(i + 1).forEach((b) => {
        const dx = Math.min(a.bounds.maxX, b.bounds.maxX) - Math.max(a.bounds.minX, b.bounds.minX);
        const dy = Math.min(a.bounds.maxY, b.bounds.maxY) - Math.max(a.bounds.minY, b.bounds.minY);
        expect(Math.min(dx, dy)).toBeLessThan(0.2);
      }),
    );
  });
});

function sideFaces(mesh: PartMesh, runs: number[]): number[] {
  return [...listFaces(runs)].filter((f) => {
    const ys = [0, 1, 2].map((k) => mesh.positions[mesh.indices[f * 3 + k] * 3 + 1]);
    return Math.max(...ys) - Math.min(...ys) > 1;
  });
}
