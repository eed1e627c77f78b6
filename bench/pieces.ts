import { dressPieces } from '@/core/dress/dressPieces';
import type { PieceBuffers } from '@/core/dress/pieceStore';
import { mapTriangle, blankMeshMap } from '@/core/lay/meshMap';
import { areaOfCorners, ConvexClipper } from '@/core/geometry/clip';
import { Cells } from '@/core/layout/cells';
import type { OwnModule } from '@/core/layout/own/module';
import { layOwn } from '@/core/layout/own/own';
import type { LayoutSpec } from '@/core/layout/schema';
import { buildSheet } from '@/core/mapping/sheet';
import { prepareModel } from '@/core/mesh/prepare';
import { fileSetOf } from '@/core/formats/fileSet';
import { readModel } from '@/core/formats/readModel';
import { chartFaces } from '@/core/lay/chartFaces';
import { areaOf } from '@/core/layout/area';
import { loopInLayout } from '@/core/setout/layoutFrame';
import { arrangeOn } from '@/core/testing/surfaces';
import { cylinderTriangles, makeGlb } from '@/core/testing/fixtures';
import { laidSpec, oak, rectangle, wallMesh, wallSheet } from '@/core/testing/surfaces';
import { compare, type Rows } from './measure';

const LAYOUTS: [name: string, layout: LayoutSpec, joint: number, budget: number][] = [
  ['stretcher bond', { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false }, 10, 2.5],
  ['herringbone', { kind: 'herringbone', lengthMm: 490, widthMm: 70, strands: 1 }, 2, 4],
  ['hexagons', { kind: 'hexagon', acrossFlatsMm: 200, pointUp: true }, 2, 4],
  ['Flemish bond', { kind: 'flemish', stretcherMm: 215, headerMm: 102.5, heightMm: 65, closers: true }, 10, 4],
  ['octagons with inserts', { kind: 'octagon', acrossMm: 150, insertMm: 60 }, 2, 4],
  ['a module of 200 shapes', layOwn(shapes200()), 2, 6],
  [
    'random-length planks',
    {
      kind: 'planks',
      lengths: { kind: 'range', fromMm: 800, toMm: 2000 },
      widths: { kind: 'one', mm: 190 },
      stagger: { kind: 'random', leastApartMm: 250, leastEndMm: 300, carryOffcuts: true, layoutNumber: 1 },
    },
    2,
    6,
  ],
  [
    'coursed stone',
    {
      kind: 'coursed',
      lengths: { kind: 'range', fromMm: 180, toMm: 520 },
      heights: { kind: 'one', mm: 120 },
      leastApartMm: 60,
      leastEndMm: 60,
      layoutNumber: 1,
    },
    8,
    6,
  ],
];

/** Slanted quadrilaterals between the crossings of a grid of 20 × 10, each moved a little: no two are alike. */
function shapes200(): OwnModule {
  const at = (i: number, j: number) => {
    const [u, v] = [((i % 20) + 20) % 20, ((j % 10) + 10) % 10];
    return [i * 120 + 30 * Math.sin(3 * u + 5 * v), j * 120 + 30 * Math.cos(7 * u + 2 * v)];
  };
  const shapes = Array.from({ length: 200 }, (_, n) => {
    const [i, j] = [n % 20, Math.floor(n / 20)];
    const corners = [at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)].flat();
    return { role: 'tile', corners };
  });
  return { id: 'uneven', name: 'Uneven', as: 'cells', right: [2400, 0], up: [0, 1200], shapes };
}

/** Indexed loops that write the same bytes into freshly allocated arrays, one for each kind of array. */
function fillLike(buffers: PieceBuffers[]): number {
  let n = 0;
  for (const b of buffers) {
    for (const { length } of [b.positions, b.uvs, b.local, b.half]) n += fillFloats(new Float32Array(length));
    const normals = new Int16Array(b.normals.length);
    for (let i = 0; i < normals.length; i++) normals[i] = i;
    const tones = new Uint8Array(b.tones.length);
    for (let i = 0; i < tones.length; i++) tones[i] = i;
    const indices = new Uint32Array(b.indices.length);
    for (let i = 0; i < indices.length; i++) indices[i] = i;
    n += normals.length + tones.length + indices.length;
  }
  return n;
}

function fillFloats(array: Float32Array): number {
  for (let i = 0; i < array.length; i++) array[i] = i;
  return array.length;
}

export async function benchPieces(rows: Rows): Promise<void> {
  const mesh = wallMesh([rectangle(100_000, 100_000)]);
  const sheet = wallSheet(mesh);
  for (const [name, layout, joint, budget] of LAYOUTS.filter(([name]) => rows.wants(`pieces ${name}`))) {
    const spec = laidSpec({ layout, joint });
    const lay = () => dressPieces(sheet, arrangeOn(spec, sheet));
    const sample = lay();
    const { taken, base, ratio } = await compare(lay, () => fillLike(sample));
    rows.push({
      name: `lay, vary and dress 10,000 m² of ${name}`,
      value: taken,
      unit: 'ms',
      against: `fill of the same bytes, ${base.toFixed(0)} ms`,
      ratio,
      budget,
    });
  }
}

/** Cells clipped by a curved mesh against the bare clip loop over the same pairs. */
export async function benchCurved(rows: Rows): Promise<void> {
  const glb = await makeGlb([{ name: 'Barrel', triangles: barrel(100, 100) }]);
  const { mesh, surfaces } = prepareModel(await readModel(fileSetOf({ 'a.glb': glb })), { unitMm: 1000, upAxis: 'y' })
    .parts[0];
  const sheet = buildSheet(mesh, surfaces[0].faces, { kind: 'unroll' });
  const spec = laidSpec({
    layout: { kind: 'grid', widthMm: 98, heightMm: 98, shift: 0, diagonal: false, across: null, up: null },
    joint: 2,
  });
  const open = () => arrangeOn(spec, sheet);
  const opened = open();
  const faces = chartFaces(sheet, 0, opened.frame);
  // the pairs, gathered once
  const cells: number[] = [];
  const pairs: number[] = [];
  const bounds = areaOf(sheet.charts[0].outline.map((loop) => loopInLayout(opened.frame, loop))).bounds;
  const gather = new Cells((c) => {
    for (let n = 0; n < c.count; n++) {
      const [x, y, a, b] = [c.x[n], c.y[n], c.halfLength[n], c.halfWidth[n]];
      const at = cells.length / 8;
      cells.push(x - a, y - b, x + a, y - b, x + a, y + b, x - a, y + b);
      faces.near(x - a, y - b, x + a, y + b, (t) => pairs.push(at, t));
    }
  });
  opened.layout.fill(bounds, gather);
  const corners = Float64Array.from(cells);
  const list = Uint32Array.from(pairs);
  const clipper = new ConvexClipper();
  const lift = blankMeshMap();
  const bare = () => {
    let area = 0;
    for (let i = 0; i < list.length; i += 2) {
      const cell = list[i] * 8;
      const t = list[i + 1];
      const n = clipper.clip(corners.subarray(cell, cell + 8), 4, faces.corners, 3, t * 6);
      if (n) area += areaOfCorners(clipper.result, n);
    }
    return area;
  };
  if (!mapTriangle(sheet.mesh, faces, 0, lift)) throw new Error('the barrel has no area');
  const { taken, base, ratio } = await compare(() => dressPieces(sheet, open()), bare);
  rows.push({
    name: `cells clipped by a curved mesh of ${mesh.slots.length.toLocaleString('en')} triangles`,
    value: taken,
    unit: 'ms',
    against: `the bare clip loop over the same ${(list.length / 2).toLocaleString('en')} pairs, ${base.toFixed(0)} ms`,
    ratio,
    budget: 2.5,
  });
}

/** A barrel of sides × rings quads, 3 m across. */
function barrel(sides: number, rings: number): number[] {
  const one = cylinderTriangles(1.5, 6 / rings, sides);
  const out: number[] = [];
  // only the sides of each ring: a quad of six points first, then two caps of three each
  for (let r = 0; r < rings; r++) {
    for (let s = 0; s < sides; s++) {
      for (let k = 0; k < 18; k++) out.push(one[s * 36 + k] + (k % 3 === 1 ? (r * 6) / rings : 0));
    }
  }
  return out;
}

/** One field of a 60 m² surface changed: to new buffers, against laying and dressing it alone. */
export async function benchChange(rows: Rows): Promise<void> {
  const mesh = wallMesh([rectangle(10_000, 6000)]);
  const sheet = wallSheet(mesh);
  const layout: LayoutSpec = { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false };
  const lay = (sheetNow: typeof sheet, shuffle: number) =>
    dressPieces(sheetNow, arrangeOn(laidSpec({ layout, joint: 10, variation: { shuffle } }), sheetNow));
  let shuffle = 0;
  // what a change costs in the worker: the request as text, the sheet found again by its key, new buffers
  const held = new Map<string, typeof sheet>();
  const key = JSON.stringify([[0, 2], { kind: 'flat', direction: 'auto' }]);
  held.set(key, sheet);
  const change = () => {
    const request = JSON.parse(
      JSON.stringify({
        faces: [0, 2],
        mapping: { kind: 'flat', direction: 'auto' },
        spec: laidSpec({ layout, joint: 10, variation: { shuffle: ++shuffle } }),
        materials: { oak: oak() },
      }),
    ) as { faces: number[]; mapping: unknown };
    return lay(held.get(JSON.stringify([request.faces, request.mapping]))!, shuffle);
  };
  const { taken, base, ratio } = await compare(change, () => lay(sheet, ++shuffle), { runs: 21 });
  rows.push({
    name: 'one field changed on a 60 m² surface, to new buffers',
    value: taken,
    unit: 'ms',
    against: `laying and dressing it alone, ${base.toFixed(1)} ms`,
    ratio,
    budget: 2,
  });
}
