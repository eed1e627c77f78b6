import { FIRST_MAPPING } from '../mapping/schema';
import { facesOf, looseMesh, patch } from '../testing/shapes';
import { laidSpec, oak } from '../testing/surfaces';
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

const region = (mapping: Region['mapping']): Region => ({
  id: 'corner',
  patches: [{ faces: [0, facesOf(north).length] }, { faces: [0, facesOf(east).length] }],
  mapping,
  cuts: [],
  origin: [0, 0, 0],
  spec: laidSpec({ layout: { kind: 'stretcher', lengthMm: 290, heightMm: 90, lap: 0.5, raking: false }, joint: 10 }),
  colour: null,
});

describe('a region of several patches', () => {
  const laid = lay(region(FIRST_MAPPING.box), [north, east], { oak: oak() });

  test('lies on one sheet, side by side, every chart of one patch', () => {
    const { sheet } = laid;
    expect(sheet.area).toBeCloseTo((3000 + 2000) * 2400, 0);
    expect(sheet.bounds.maxX - sheet.bounds.minX).toBeCloseTo(5000, 1);
    expect(new Set(sheet.charts.map((c) => c.patch))).toEqual(new Set([0, 1]));
    for (const chart of sheet.charts) {
      const width = chart.bounds.maxX - chart.bounds.minX;
      expect(width).toBeCloseTo(chart.patch === 0 ? 3000 : 2000, 1);
    }
    // faces lead back to those of their own part
    sheet.source.forEach((face, i) => {
      const own = sheet.charts[sheet.chartOf[i]].patch === 0 ? north : east;
      expect(face).toBeLessThan(facesOf(own).length);
    });
  });

  test('pieces go round the corner: counted once, none cut there', () => {
    const { sheet, pieces } = laid;
    const corner = sheet.charts.find((c) => c.patch === 0)!.bounds;
    const other = sheet.charts.find((c) => c.patch === 1)!.bounds;
    const at = Math.abs(corner.maxX - other.minX) < 1 ? corner.maxX : corner.minX;
    const over = pieces.filter((p) => Math.abs(p.middle[0] - at) < p.length / 2 - 20);
    expect(over.length).toBeGreaterThan(10);
    for (const p of over) {
      expect(p.outline).toHaveLength(2);
      expect(p.whole || p.middle[1] > sheet.bounds.maxY - 90).toBe(true);
    }
    expect(new Set(pieces.map((p) => `${p.course},${p.index}`)).size).toBe(pieces.length);
  });

  test('faces lead back to their own, and coordinates come along', () => {
    const { sheet } = laid;
    for (const patch of [0, 1]) {
      const own = [...sheet.source].filter((_, i) => sheet.charts[sheet.chartOf[i]].patch === patch);
      expect(own.sort((a, b) => a - b)).toEqual([0, 1, 2, 3]);
    }
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
    expect(sheet.charts.map((c) => c.patch)).toEqual([0]);
    expect(sheet.mesh).toBe(north);
  });
});
