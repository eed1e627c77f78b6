import polygonClipping, { type MultiPolygon } from 'polygon-clipping';
import { loopArea } from '../geometry/loop';
import { areaOfTriangles } from '../mesh/area';
import { rectangle, wallMesh, wallSheet } from '../testing/surfaces';
import { cutSheet, cutStrips } from './cutSheet';
import { borderStrips, zonePolygons } from './outlines';

const mesh = wallMesh([rectangle(3000, 2000)]);
const wall = wallSheet(mesh);
const { minX, minY } = wall.bounds;
const box = (x: number, y: number, w: number, h: number): MultiPolygon => [
  [rectangle(w, h).map(([u, v]): [number, number] => [u + x + minX, v + y + minY])],
];
const outlined = (s: typeof wall) => s.charts.flatMap((c) => c.outline).reduce((n, l) => n + loopArea(l), 0);

describe('a part of a sheet', () => {
  test('inside and outside make up the whole, in faces and in outlines', () => {
    const region = box(400, 300, 900, 700);
    const [inside, outside] = [cutSheet(wall, region, 'inside'), cutSheet(wall, region, 'outside')];
    expect(inside.area).toBeCloseTo(630_000, 1);
    expect(outside.area).toBeCloseTo(6_000_000 - 630_000, 1);
    expect(areaOfTriangles(inside.mesh)).toBeCloseTo(630_000, -1);
    expect(outlined(inside)).toBeCloseTo(630_000, 1);
    expect(outlined(outside)).toBeCloseTo(5_370_000, 1);
    expect(outside.charts[0].outline).toHaveLength(2);
  });

  test('what is left keeps the whole’s bounds; what is cut out has its own', () => {
    const region = box(0, 0, 3000, 500);
    expect(cutSheet(wall, region, 'outside').bounds).toEqual(wall.bounds);
    const { bounds } = cutSheet(wall, region, 'inside');
    expect(bounds).toEqual({ minX, minY, maxX: minX + 3000, maxY: minY + 500 });
  });

  test('a region that touches nothing leaves everything, and cuts out nothing', () => {
    const region = box(9000, 9000, 10, 10);
    const outside = cutSheet(wall, region, 'outside');
    expect(outside.area).toBeCloseTo(wall.area, 3);
    expect(outside.faces).toHaveLength(wall.faces.length);
    const inside = cutSheet(wall, region, 'inside');
    expect([inside.area, inside.faces.length]).toEqual([0, 0]);
  });

  test('a region over all of it takes all of it, uncut', () => {
    const inside = cutSheet(wall, box(-10, -10, 4000, 3000), 'inside');
    expect(inside.faces).toHaveLength(wall.faces.length);
    expect(inside.area).toBeCloseTo(wall.area, 3);
    expect(cutSheet(wall, box(-10, -10, 4000, 3000), 'outside').faces).toHaveLength(0);
  });

  test('a region with a hole, and one of several parts', () => {
    const ring = polygonClipping.difference(box(500, 500, 1000, 1000), box(700, 700, 500, 500));
    expect(cutSheet(wall, ring, 'inside').area).toBeCloseTo(750_000, 1);
    expect(cutSheet(wall, ring, 'outside').area).toBeCloseTo(5_250_000, 1);
    const two = polygonClipping.union(box(100, 100, 300, 300), box(2000, 900, 200, 400));
    const inside = cutSheet(wall, two, 'inside');
    expect(inside.area).toBeCloseTo(170_000, 1);
    expect(inside.charts[0].outline).toHaveLength(2);
  });

  test('faces look the way the model’s do, and know which they are cut from', () => {
    for (const keep of ['inside', 'outside'] as const) {
      const s = cutSheet(wall, box(400, 300, 900, 700), keep);
      const p = s.mesh.positions;
      for (let f = 0; f < s.faces.length; f++) {
        const [a, b, c] = [0, 1, 2].map((k) => s.mesh.indices[f * 3 + k] * 3);
        const turn = (p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[b + 1] - p[a + 1]) * (p[c] - p[a]);
        expect(turn).toBeGreaterThan(0);
        // the sheet’s corners lie where the mesh’s do
        const corner = s.corners.subarray(f * 6, f * 6 + 6);
        const det =
          (corner[2] - corner[0]) * (corner[5] - corner[1]) - (corner[3] - corner[1]) * (corner[4] - corner[0]);
        expect(det).toBeCloseTo(turn, 0);
        expect(s.source[f]).toBeLessThan(mesh.indices.length / 3);
      }
    }
  });
});

describe('bands laid straight', () => {
  const border = { kind: 'border', widthMm: 200, courses: null, edges: null, corners: 'mitred' } as const;
  const strips = borderStrips(border, wall);
  const laid = cutStrips(wall, strips);

  test('lie one after the other along x, the outline at y = 0', () => {
    expect(laid.bounds.minX).toBeCloseTo(0, 6);
    expect(laid.bounds.minY).toBeCloseTo(0, 6);
    expect(laid.bounds.maxX).toBeCloseTo(2 * (3000 + 2000), 6);
    expect(laid.bounds.maxY).toBeCloseTo(200, 6);
    expect(laid.charts).toHaveLength(4);
  });

  test('are as large as on the wall', () => {
    expect(laid.area).toBeCloseTo(3000 * 2000 - 2600 * 1600, 0);
    expect(outlined(laid)).toBeCloseTo(laid.area, 0);
    expect(areaOfTriangles(laid.mesh)).toBeCloseTo(laid.area, -1);
    const covered = zonePolygons(border, wall);
    expect(cutSheet(wall, covered, 'inside').area).toBeCloseTo(laid.area, 0);
  });

  test('know where in the world they are: a chart’s frame leads from a point to its place', () => {
    for (let f = 0; f < laid.faces.length; f++) {
      const { x, y, offset } = laid.charts[laid.chartOf[f]].frame;
      for (let k = 0; k < 3; k++) {
        const v = laid.mesh.indices[f * 3 + k] * 3;
        const p = [0, 1, 2].map((c) => laid.mesh.positions[v + c] + laid.mesh.origin[c]);
        const at = [x, y].map((axis, n) => axis[0] * p[0] + axis[1] * p[1] + axis[2] * p[2] + offset[n]);
        expect(at[0]).toBeCloseTo(laid.corners[f * 6 + k * 2], 2);
        expect(at[1]).toBeCloseTo(laid.corners[f * 6 + k * 2 + 1], 2);
      }
    }
  });
});
