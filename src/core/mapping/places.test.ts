import Ajv from 'ajv';
import fc from 'fast-check';
import type { Vec3 } from '../geometry/vec';
import { boxTriangles } from '../testing/fixtures';
import { facesOf, frustum, looseMesh, patch, plateFace } from '../testing/shapes';
import { polygon, rectangle } from '../testing/surfaces';
import { noCorrection } from './correctionSchema';
import { traceOutline } from './outline';
import { CutMesh } from './refine';
import { mappingOf } from './registry';
import { findBall } from './round';
import { FIRST_MAPPING, MappingSpec } from './schema';
import { buildSheet, cornerStretch, pointOnSheet } from './sheet';

const lay = (triangles: number[], mapping: MappingSpec, origin: Vec3 = [0, 0, 0]) => {
  const mesh = looseMesh(triangles, origin);
  return buildSheet(mesh, [0, mesh.indices.length / 3], mapping);
};
const { flat, box, own, cylinder, unroll } = FIRST_MAPPING;

describe('between space and sheet', () => {
  test('a point of a face lies where its corners say, wherever the mesh has its origin', () => {
    const sheet = lay(
      frustum(230, 230, 900, 24).map((v, i) => v + [5000, 40, -7000][i % 3]),
      cylinder,
      [5000, 0, -7000],
    );
    const { positions: p, indices, origin } = sheet.mesh;
    fc.assert(
      fc.property(
        fc.nat(47),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (face, a, b) => {
          const shares = a + b > 1 ? [1 - a, 1 - b, a + b - 1] : [a, b, 1 - a - b];
          const mix = (at: (k: number, c: number) => number, c: number) =>
            shares.reduce((sum, share, k) => sum + share * at(k, c), 0);
          const world = [0, 1, 2].map((c) =>
            mix((k) => p[indices[sheet.faces[face] * 3 + k] * 3 + c] + origin[c], c),
          ) as Vec3;
          const [x, y] = pointOnSheet(sheet, face, world);
          expect(x).toBeCloseTo(
            mix((k) => sheet.corners[face * 6 + k * 2], 0),
            2,
          );
          expect(y).toBeCloseTo(
            mix((k) => sheet.corners[face * 6 + k * 2 + 1], 1),
            2,
          );
        },
      ),
    );
  });

  test('a corner’s stretch is the mean of its faces’, each by the worse of its two', () => {
    const sheet = { faces: [0, 1], faceStretch: Float32Array.of(0.5, 1.2, 0.9, 1.5) } as never;
    // two faces that share corners 1 and 2; corner 4 has none
    const found = cornerStretch(sheet, Uint32Array.of(0, 1, 2, 2, 1, 3), 5);
    expect([...found].map((v) => Math.round(v * 1e4) / 1e4)).toEqual([0.5, 1, 1, 1.5, 1]);
  });
});

describe('where a box breaks', () => {
  const sheet = lay(boxTriangles([0, 0, 0], [900, 400, 600]), box);
  const of = (kind: string) => sheet.breaks.filter((b) => b.kind === kind);

  test('the loop of its sides closes once, by its whole length', () => {
    expect(of('loop')).toHaveLength(1);
    expect(of('loop')[0]).toMatchObject({ length: 400, finding: { code: 'loopCloses', values: { runMm: 3000 } } });
  });

  test('top and underside go on from one side each, and the pattern turns at their other three', () => {
    expect(of('turn')).toHaveLength(6);
    for (const b of of('turn')) {
      expect(b.finding).toEqual({ code: 'patternTurns', values: { lengthMm: b.length } });
      expect(b.shift).toBe(0);
      expect(b.charts).toHaveLength(2);
    }
    const lengths = of('turn')
      .map((b) => Math.round(b.length))
      .sort((a, b) => a - b);
    expect(lengths).toEqual([600, 600, 600, 600, 900, 900]);
  });
});

describe('the model’s own coordinates', () => {
  const wall = (uv: (x: number, y: number, face: number) => [number, number]) => {
    const mesh = looseMesh(patch(4, 2, (u, v) => [u * 4000, v * 2000, 0]));
    const set = new Float32Array((mesh.positions.length / 3) * 2);
    for (let v = 0; v < set.length / 2; v++)
      set.set(uv(mesh.positions[v * 3], mesh.positions[v * 3 + 1], Math.floor(v / 3)), v * 2);
    return { ...mesh, uvs: [set] };
  };
  const sheetOf = (mesh: ReturnType<typeof wall>) => buildSheet(mesh, [0, mesh.indices.length / 3], own);

  test('lie at their place in the picture, both ways, in one chart without breaks', () => {
    const sheet = sheetOf(wall((x, y) => [x / 1250 + 2, y / 640 - 3]));
    expect(sheet.charts).toHaveLength(1);
    expect(sheet.breaks).toEqual([]);
    expect(sheet.bounds.minX).toBeCloseTo(2500, 0);
    expect(sheet.bounds.minY).toBeCloseTo(-3 * 640, 0);
    expect(sheet.bounds.maxY).toBeCloseTo(2000 - 3 * 640, 0);
    expect(sheet.notes.map((n) => n.code)).toEqual(['coordinatesMeasured']);
  });

  test('part where the picture does: across, or up', () => {
    const right = sheetOf(wall((x, y, f) => [x / 1000 + (f < 8 ? 0 : 7), y / 1000]));
    const up = sheetOf(wall((x, y, f) => [x / 1000, y / 1000 + (f < 8 ? 0 : 7)]));
    expect([right.charts.length, up.charts.length]).toEqual([2, 2]);
  });

  test('those that will not do say so, and that another mapping serves better', () => {
    const folded = sheetOf(wall((x, y) => [Math.abs(x - 2000) / 1000, y / 1000]));
    expect(folded.notes.map((n) => n.code)).toEqual(['coordinatesFolded', 'otherMappingBetter']);
  });

  test('sets are offered by number, with those that will not do marked', () => {
    const field = mappingOf(own).fields.find((f) => f.label === 'Coordinate set')!;
    const sets = [{ usable: true }, { usable: false }];
    const options = field.kind === 'choice' ? field.optionsFor!(own, { closed: false, own: sets } as never) : [];
    expect(options).toEqual([
      ['0', '1'],
      ['1', '2, not usable'],
    ]);
  });
});

test('nothing has no outline', () => {
  expect(traceOutline(new Float64Array(0), [])).toEqual([]);
});

test('normals of what is cut have length one', () => {
  const mesh = looseMesh([0, 0, 0, 100, 0, 0, 0, 100, 0]);
  mesh.normals.set([0, 0, 1, 0, 0.8, 0.6, 0.6, 0, 0.8]);
  const cut = new CutMesh(mesh);
  cut.add(0, [
    [0.5, 0.5, 0],
    [0.2, 0.3, 0.5],
    [0.1, 0.1, 0.8],
  ]);
  const made = cut.finish();
  for (let v = 0; v < made.normals.length; v += 3) {
    expect(Math.hypot(...made.normals.slice(v, v + 3))).toBeCloseTo(1, 6);
  }
});

test('a column’s ends lie beside it with frames of their own; its side has none across', () => {
  const end = (y: number, up: boolean) =>
    polygon(230, 24).flatMap(([x, z], i, all) => {
      const [nx, nz] = all[(i + 1) % all.length];
      return up ? [0, y, 0, nx, y, nz, x, y, z] : [0, y, 0, x, y, z, nx, y, nz];
    });
  const sheet = lay([...frustum(230, 230, 900, 24), ...end(900, true), ...end(0, false)], cylinder);
  expect(sheet.charts).toHaveLength(3);
  const frames = sheet.charts.map((c) => c.frame.x.map((v) => Math.abs(v)).reduce((a, b) => a + b));
  expect(frames.filter((v) => v === 0)).toHaveLength(1);
});

test('what is nearly flat is no ball, however well one fits', () => {
  const at = (radius: number) =>
    looseMesh(
      patch(10, 10, (u, v) => {
        const [x, z] = [(u - 0.5) * 1000, (v - 0.5) * 1000];
        return [x, Math.sqrt(radius * radius - x * x - z * z) - radius, -z];
      }),
    );
  const small = at(2000);
  expect(findBall(small, facesOf(small))!.radius).toBeCloseTo(2000, -1);
  const huge = at(60_000);
  expect(findBall(huge, facesOf(huge))).toBeNull();
});

describe('corrections', () => {
  const corrected = { ...flat, correction: { ...noCorrection(), shearDeg: 5 } };

  test('say that they were made, once and after what else is said', () => {
    const sheet = lay(plateFace([rectangle(2000, 1000)]), corrected);
    expect(sheet.notes.map((n) => n.code)).toEqual(['correctedByHand']);
    const ball = lay(frustum(300, 200, 700, 24), { ...cylinder, correction: corrected.correction });
    expect(ball.notes.map((n) => n.code)).toEqual(['sidesOfRound', 'tapers', 'correctedByHand']);
  });

  test('a taper may close to almost a point, or open fivefold', () => {
    const valid = new Ajv({ strict: false }).compile(MappingSpec);
    const taper = (taperPercent: number) => valid({ ...unroll, correction: { ...noCorrection(), taperPercent } });
    expect([-96, -95, -50, 0, 400, 401].map(taper)).toEqual([false, true, true, true, true, false]);
  });

  test('a point is pulled about its own place, as far as it reaches and no further', () => {
    const pull = { kind: 'point' as const, xMm: 500, yMm: 500, rightMm: 0, upMm: 40, reachMm: 200 };
    const sheet = lay(plateFace([rectangle(2000, 1000)]), {
      ...flat,
      correction: { ...noCorrection(), pulls: [pull] },
    });
    const [minX, minY] = [sheet.bounds.minX, sheet.bounds.minY];
    const source = lay(plateFace([rectangle(2000, 1000)]), flat);
    expect(sheet.faces.length).toBeGreaterThan(source.faces.length);
    // columns are cut from one end of the reach to the other
    const xs = new Set<number>();
    for (let i = 0; i < sheet.corners.length; i += 2) xs.add(Math.round(sheet.corners[i] - minX));
    const inner = [...xs].filter((x) => x > 0 && x < 2000);
    for (const x of [300, 500, 700]) expect(inner).toContain(x);
    expect(minY).toBeCloseTo(source.bounds.minY, 6);
  });
});
