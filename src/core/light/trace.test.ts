import type { Vec3 } from '../geometry/vec';
import { cardIn, type Harmonics } from './harmonics';
import { planProbes, PROBE_NUMBERS, probeAt, probeLight, traceProbes } from './probes';
import { luminance, type Rgb } from './sky';
import { aboutNormal, type Hit, lightAlong, type Lights, type LitScene, straightLight } from './trace';

const WHITE_SKY: Lights = {
  daylight: { sun: { towards: [0, 1, 0], light: [0, 0, 0] }, around: () => [1, 1, 1], harmonics: [], card: [1, 1, 1] },
  lamps: [],
};
const sunny = (light: Rgb): Lights => ({
  ...WHITE_SKY,
  daylight: { ...WHITE_SKY.daylight, around: () => [0, 0, 0], sun: { towards: [0, 1, 0], light } },
});

/** The inside of a box, met by plain sums; `open` leaves its lid out. */
function boxScene(min: Vec3, max: Vec3, albedo: Rgb, { open = false, glow = [0, 0, 0] as Rgb } = {}): LitScene {
  const cast = (o: Readonly<Vec3>, d: Readonly<Vec3>): Hit | null => {
    let best: Hit | null = null;
    for (let axis = 0; axis < 3; axis++)
      for (const far of [false, true]) {
        if (open && axis === 1 && far) continue;
        const distance = ((far ? max : min)[axis] - o[axis]) / d[axis];
        if (!(distance > 1e-9) || (best && best.distance <= distance)) continue;
        const point = [0, 1, 2].map((c) => o[c] + d[c] * distance) as Vec3;
        if ([0, 1, 2].some((c) => c !== axis && (point[c] < min[c] || point[c] > max[c]))) continue;
        const inwards = [0, 0, 0] as Vec3;
        inwards[axis] = far ? -1 : 1;
        const back = inwards[axis] * d[axis] > 0;
        const normal = back ? (inwards.map((v) => -v) as Vec3) : inwards;
        best = { distance, point, normal, albedo, glow, back };
      }
    return best;
  };
  return { cast, blocked: (o, d, most) => (cast(o, d)?.distance ?? Infinity) < most };
}
const NOTHING: LitScene = { cast: () => null, blocked: () => false };
const harmonicsAt = (numbers: Float32Array, n: number): Harmonics =>
  Array.from(
    { length: 9 },
    (_, i) => [...numbers.slice(n * PROBE_NUMBERS + i * 3, n * PROBE_NUMBERS + i * 3 + 3)] as Rgb,
  );

describe('straight light', () => {
  it('falls by the cosine, and not where something stands between', () => {
    const lights = sunny([Math.PI, Math.PI, Math.PI]);
    expect(straightLight(NOTHING, lights, [0, 0, 0], [0, 1, 0])[0]).toBeCloseTo(1);
    expect(straightLight(NOTHING, lights, [0, 0, 0], [Math.SQRT1_2, Math.SQRT1_2, 0])[0]).toBeCloseTo(Math.SQRT1_2);
    expect(straightLight(NOTHING, lights, [0, 0, 0], [0, -1, 0])).toEqual([0, 0, 0]);
    const lid = boxScene([-1, -1, -1], [1, 1, 1], [0, 0, 0]);
    expect(straightLight(lid, lights, [0, -1, 0], [0, 1, 0])).toEqual([0, 0, 0]);
  });

  it('of a lamp falls with the square of the distance', () => {
    const lights = { ...sunny([0, 0, 0]), lamps: [{ at: [0, 5, 0] as Vec3, light: [Math.PI, 0, 0] as Rgb }] };
    const near = straightLight(NOTHING, lights, [0, 4, 0], [0, 1, 0])[0];
    const far = straightLight(NOTHING, lights, [0, 1, 0], [0, 1, 0])[0];
    expect(near / far).toBeCloseTo(16, 0);
    expect(near).toBeCloseTo(1, 1);
  });
});

describe('paths', () => {
  it('find the sky where nothing is', () => {
    expect(lightAlong(NOTHING, WHITE_SKY, [0, 0, 0], [0, 0, 1], 3, 1)).toEqual({ light: [1, 1, 1], first: null });
  });

  it('add up in a closed box that glows: glow × (1 + albedo + albedo² + …)', () => {
    const scene = boxScene([-1, -1, -1], [1, 1, 1], [0.5, 0.5, 0.5], { glow: [1, 1, 1] });
    for (const [bounces, sum] of [
      [0, 1],
      [1, 1.5],
      [3, 1.875],
    ]) {
      const { light } = lightAlong(scene, sunny([0, 0, 0]), [0, 0, 0], [0, 0, 1], bounces, 9);
      expect(light[0]).toBeCloseTo(sum, 9);
    }
  });

  it('are the same for the same seed, and others for another', () => {
    const scene = boxScene([-1, -1, -1], [1, 1, 1], [0.7, 0.5, 0.3], { open: true });
    const go = (seed: number) => lightAlong(scene, WHITE_SKY, [0, 0, 0], [0, -1, 0], 3, seed).light;
    expect(go(4)).toEqual(go(4));
    expect(Array.from({ length: 9 }, (_, n) => go(n)).some((l) => l[0] !== go(4)[0])).toBe(true);
  });

  it('spread about a normal by its cosine', () => {
    const n: Vec3 = [0.6, 0, 0.8];
    let [sum, least] = [0, 1];
    for (let i = 0; i < 64; i++)
      for (let j = 0; j < 64; j++) {
        const d = aboutNormal(n, (i + 0.5) / 64, (j + 0.5) / 64);
        expect(Math.hypot(...d)).toBeCloseTo(1, 9);
        const cos = d[0] * n[0] + d[1] * n[1] + d[2] * n[2];
        sum += cos;
        least = Math.min(least, cos);
      }
    expect(least).toBeGreaterThanOrEqual(0);
    // of directions as likely as their cosine, the mean cosine is 2/3
    expect(sum / 4096).toBeCloseTo(2 / 3, 2);
  });
});

describe('places in a room', () => {
  it('lie in the middles of their cells, about as far apart as asked', () => {
    const grid = planProbes({ min: [0, 0, 0], max: [6, 3, 4] });
    expect(grid.counts).toEqual([6, 3, 4]);
    expect(probeAt(grid, [0, 0, 0])).toEqual([0.5, 0.5, 0.5]);
    expect(probeAt(grid, [5, 2, 3])).toEqual([5.5, 2.5, 3.5]);
    const large = planProbes({ min: [0, 0, 0], max: [90, 12, 60] });
    expect(large.counts.reduce((a, b) => a * b)).toBeLessThanOrEqual(480);
  });

  it('see the whole sky where nothing is', () => {
    const { harmonics, inWall } = probeLight(NOTHING, WHITE_SKY, [0, 0, 0], 256, 1);
    expect(inWall).toBe(false);
    for (const normal of [
      [0, 1, 0],
      [1, 0, 0],
      [0, 0, -1],
    ] as Vec3[])
      expect(luminance(cardIn(harmonics, normal))).toBeCloseTo(1, 1);
  });

  it('get less in a box without a lid, from above, and less farther down', async () => {
    const scene = boxScene([0, 0, 0], [4, 3, 4], [0.6, 0.6, 0.6], { open: true });
    const grid = planProbes({ min: [0, 0, 0], max: [4, 3, 4] });
    const numbers = await traceProbes(scene, WHITE_SKY, grid, 128);
    const [nx, ny] = grid.counts;
    const level = (j: number, normal: Vec3) => luminance(cardIn(harmonicsAt(numbers, (1 * ny + j) * nx + 1), normal));
    expect(level(0, [0, 1, 0])).toBeLessThan(0.9);
    expect(level(2, [0, 1, 0])).toBeGreaterThan(level(0, [0, 1, 0]));
    expect(level(0, [0, 1, 0])).toBeGreaterThan(level(0, [0, -1, 0]) * 1.2);
  });

  it('that lie in a wall take over from their neighbours', async () => {
    const scene = boxScene([0, 0, 0], [2, 2, 2], [0.5, 0.5, 0.5], { glow: [1, 0, 0] });
    // half of the grid lies behind the box's wall, where faces are seen from behind
    const grid = { box: { min: [0, 0, 0] as Vec3, max: [4, 2, 2] as Vec3 }, counts: [4, 2, 2] as Vec3 };
    const numbers = await traceProbes(
      { ...scene, cast: (o, d) => (o[0] > 2 ? behind(o, d) : scene.cast(o, d)) },
      WHITE_SKY,
      grid,
      64,
    );
    const red = (n: number) => numbers[n * PROBE_NUMBERS];
    expect(red(0)).toBeGreaterThan(1);
    expect(red(3)).toBeCloseTo(red(1), 0);
  });
});

const behind = (point: Readonly<Vec3>, d: Readonly<Vec3>): Hit => ({
  distance: 1,
  point: [...point],
  normal: d.map((v) => -v) as Vec3,
  albedo: [0, 0, 0],
  glow: [0, 0, 0],
  back: true,
});
