import { FIRST_MAPPING } from '../mapping/schema';
import { facesOf, looseMesh, patch } from '../testing/shapes';
import { laidSpec, oak } from '../testing/surfaces';
import { patchFace } from './joinPatches';
import { lay } from './lay';
import type { Region } from './region';

/** Two walls of a room's corner, each of a part with an origin of its own. */
const north = looseMesh(
  patch(2, 1, (u, v) => [u * 3000, v * 2400, 0]),
  [500, 0, 0],
);
const east = looseMesh(
  patch(2, 1, (u, v) => [3000, v * 2400, u * 2000]),
  [3000, 1200, 900],
);

const patches = [{ faces: [0, facesOf(north).length] }, { faces: [0, facesOf(east).length] }];

const region = (mapping: Region['mapping']): Region => ({
  id: 'corner',
  patches,
  mapping,
  cuts: [],
  origin: [0, 0, 0],
  spec: laidSpec({ layout: { kind: 'stretcher', lengthMm: 290, heightMm: 90, lap: 0.5, raking: false }, joint: 10 }),
  colour: null,
});

describe('a region of several patches', () => {
  const laid = lay(region(FIRST_MAPPING.box), [north, east], { oak: oak() });

  test('lies on one sheet, side by side', () => {
    const { sheet } = laid;
    expect(sheet.area).toBeCloseTo((3000 + 2000) * 2400, 0);
    expect(sheet.bounds.maxX - sheet.bounds.minX).toBeCloseTo(5000, 1);
    for (const patch of [0, 1]) {
      const xs = [...sheet.source].flatMap((face, i) =>
        patchFace(patches, face).patch === patch ? [0, 2, 4].map((k) => sheet.corners[i * 6 + k]) : [],
      );
      expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(patch === 0 ? 3000 : 2000, 1);
    }
  });

  test('pieces go round the corner: counted once, none cut there', () => {
    const { sheet, pieces } = laid;
    const xs = [...sheet.corners].filter((_, i) => i % 2 === 0);
    const { minX, maxX } = sheet.bounds;
    // walls are of 3 and 2 m
    const at = xs.some((x) => Math.abs(x - minX - 3000) < 1) ? minX + 3000 : maxX - 3000;
    const over = pieces.filter((p) => Math.abs(p.middle[0] - at) < p.length / 2 - 20);
    expect(over.length).toBeGreaterThan(10);
    for (const p of over) {
      expect(p.area).toBeLessThanOrEqual(p.length * p.width + 1);
      expect(p.whole || p.middle[1] > sheet.bounds.maxY - 90).toBe(true);
    }
    expect(new Set(pieces.map((p) => `${p.course},${p.index}`)).size).toBe(pieces.length);
  });

  test('faces lead back to their own, and coordinates come along', () => {
    const { sheet } = laid;
    const found = [...sheet.source].map((face) => patchFace(patches, face));
    for (const patch of [0, 1]) {
      const own = found.filter((f) => f.patch === patch).map((f) => f.face);
      expect(own.sort((a, b) => a - b)).toEqual([0, 1, 2, 3]);
    }
    expect(() => patchFace(patches, 8)).toThrow('no face 8');
    const withUvs = (mesh: typeof north, at: number) => ({
      ...mesh,
      uvs: [new Float32Array((mesh.positions.length / 3) * 2).fill(at), new Float32Array(2)].slice(0, at),
    });
    const joined = lay(region(FIRST_MAPPING.box), [withUvs(north, 1), withUvs(east, 2)], { oak: oak() }).sheet.mesh;
    // as many sets as all of them have
    expect(joined.uvs).toHaveLength(1);
    const vertices = north.positions.length / 3;
    expect([...new Set(joined.uvs[0].subarray(0, vertices * 2))]).toEqual([1]);
    expect([...new Set(joined.uvs[0].subarray(vertices * 2))]).toEqual([2]);
  });

  test('one patch alone is what it always was', () => {
    const alone = { ...region(FIRST_MAPPING.flat), patches: [{ faces: [0, facesOf(north).length] }] };
    const { sheet } = lay(alone, [north], { oak: oak() });
    expect(patchFace(alone.patches, 3)).toEqual({ patch: 0, face: 3 });
    expect(sheet.mesh).toBe(north);
  });
});
