import fc from 'fast-check';
import { sayFinding } from '../finding/finding';
import { facesOf, frustum, looseMesh, patch, sphereBand } from '../testing/shapes';
import {
  AroundAxis,
  type Axis,
  chordShortfall,
  Coverage,
  findBall,
  findBarrel,
  shortfallNote,
  turned,
  wrap,
} from './round';

const upright: Axis = { point: [0, 0, 0], along: [0, 1, 0], zero: [1, 0, 0], quarter: [0, 0, -1] };
const { PI } = Math;

test('angles: the same one between −π and π, and between 0 and 2π', () => {
  fc.assert(
    fc.property(fc.integer({ min: -50_000, max: 50_000 }), (n) => {
      const a = n / 1000;
      const [w, t] = [wrap(a), turned(a)];
      for (const same of [w, t]) {
        expect(Math.cos(same)).toBeCloseTo(Math.cos(a), 9);
        expect(Math.sin(same)).toBeCloseTo(Math.sin(a), 9);
      }
      expect(w > -PI && w <= PI).toBe(true);
      expect(t >= 0 && t < 2 * PI).toBe(true);
    }),
  );
  expect(wrap(-PI)).toBe(PI);
  expect(wrap(3 * PI)).toBe(PI);
  expect(turned(2 * PI - 1e-12)).toBe(0);
  expect(turned(-PI / 2)).toBeCloseTo(1.5 * PI, 12);
});

test('how far a chord falls short of its arc', () => {
  expect(chordShortfall(0)).toBe(0);
  // a half round: π/2 to 1
  expect(chordShortfall(PI)).toBeCloseTo(1 - 2 / PI, 12);
  expect(sayFinding(shortfallNote(PI / 4))).toContain('8 sides to a full round: the straight sides fall 2.55% short');
});

describe('round an axis', () => {
  // across the ray at ±π, and with a corner on the axis
  const mesh = looseMesh([-100, 0, 20, -100, 50, -20, -80, 10, 0, 0, 5, 0, 30, 5, -40, 0, 5, -50], [0, 0, 0]);
  const around = new AroundAxis(mesh, upright);
  const a = new Float64Array(3);

  test('the corners of a face have angles near each other', () => {
    around.face(0, a);
    expect(Math.max(...a) - Math.min(...a)).toBeLessThan(0.5);
    for (const v of a) expect(Math.abs(wrap(v - PI))).toBeLessThan(0.25);
    expect([...around.distances.slice(0, 2)].map(Math.round)).toEqual([102, 102]);
    expect([...around.heights.slice(0, 3)]).toEqual([0, 50, 10]);
  });

  test('a corner on the axis lies between the two others', () => {
    around.face(1, a);
    expect(a[0]).toBeCloseTo((a[1] + a[2]) / 2, 12);
    expect(a[1]).toBeCloseTo(Math.atan2(40, 30), 6);
    expect(a[2]).toBeCloseTo(PI / 2, 6);
  });
});

describe('what is covered', () => {
  const covering = (from: number, to: number, sides: number) => {
    const c = new Coverage();
    for (let i = 0; i < sides; i++) {
      const [p, q] = [from + ((to - from) * i) / sides, from + ((to - from) * (i + 1)) / sides];
      c.add(Float64Array.from([p, q, (p + q) / 2]));
    }
    return c;
  };

  test('a full round closes; its seam lies on the edge nearest to the wish', () => {
    const full = covering(0.1, 0.1 + 2 * PI, 12);
    expect(full.closed).toBe(true);
    expect(full.widest).toBeCloseTo(PI / 6, 12);
    expect(full.seam(null, 0)).toBeCloseTo(0.1, 9);
    expect(full.seam(95, 0)).toBeCloseTo(0.1 + PI / 2, 9);
    expect(full.nearestEdge(2 * PI - 0.01)).toBeCloseTo(0.1, 9);
  });

  test('an open one begins in its opening, or where it is told', () => {
    const half = covering(0, PI, 8);
    expect(half.closed).toBe(false);
    expect(half.opening).toBeCloseTo(1.5 * PI, 2);
    expect(half.seam(null, 0)).toBeCloseTo(1.5 * PI, 2);
    expect(half.seam(200, 0)).toBeCloseTo((200 * PI) / 180, 9);
    // the opening may lie across the start
    const back = covering(PI / 2, 1.5 * PI, 8);
    expect(Math.abs(wrap(back.opening))).toBeLessThan(0.01);
    // of two the wider
    const two = covering(0, PI / 2, 4);
    two.add(Float64Array.from([PI, 1.2 * PI, 1.1 * PI]));
    expect(two.opening).toBeCloseTo(1.6 * PI, 1);
  });
});

describe('round shapes found', () => {
  const barrelOf = (triangles: number[]) => {
    const mesh = looseMesh(triangles);
    return findBarrel(mesh, facesOf(mesh), null);
  };

  test('a column: axis, radius, how far round', () => {
    const found = barrelOf(frustum(230, 230, 3400, 48).map((v, i) => v + [4000, 0, -900][i % 3]))!;
    expect(found.radius).toBeCloseTo(230, 3);
    expect(Math.abs(found.axis.along[1])).toBeCloseTo(1, 9);
    expect([found.axis.point[0], found.axis.point[2]].map((v) => Math.round(v))).toEqual([4000, -900]);
    expect(found).toMatchObject({ ends: 0, agrees: 1, coversDeg: 360 });
    expect(found.slope).toBeCloseTo(0, 6);
    expect(barrelOf(frustum(230, 230, 3400, 24, PI / 2))!.coversDeg).toBeCloseTo(90, 0);
  });

  test('a cone: its slope by height', () => {
    const found = barrelOf(frustum(300, 150, 700, 64))!;
    expect(Math.abs(found.slope)).toBeCloseTo(150 / 700, 2);
    expect(found.agrees).toBeGreaterThan(0.95);
  });

  test('a ball: centre, radius; what is flat is none', () => {
    const mesh = looseMesh(sphereBand(180, -1.4, 1.4, 48, 24).map((v, i) => v + [1000, 200, -50][i % 3]));
    const found = findBall(mesh, facesOf(mesh))!;
    expect(found.radius).toBeCloseTo(180, 0);
    expect(found.centre.map(Math.round)).toEqual([1000, 200, -50]);
    expect(found.agrees).toBeGreaterThan(0.9);
    const flat = looseMesh(patch(6, 6, (u, v) => [u * 1000, v * 1000, 0]));
    expect(findBall(flat, facesOf(flat))).toBeNull();
    expect(findBall(looseMesh([0, 0, 0, 1, 0, 0, 0, 1, 0]), Uint32Array.of(0))).toBeNull();
    // a box has corners on a ball, and no face that lies on it
    const bent = looseMesh(frustum(200, 200, 400, 5));
    expect(findBall(bent, facesOf(bent))?.agrees ?? 0).toBeLessThan(0.5);
  });
});
