import { hashUnit, tileFractal } from '../../noise/tiles';
import { laidGround } from '../../testing/grounds';
import { plainShot, takePhotograph } from '../camera';
import { blankRaster, type Raster, WHITE } from '../raster';
import { resize } from '../resize';
import { keptOf } from './cut';
import type { Extended, Extending, Mark } from './extending';
import { featuresOf } from './features';
import { paintExtension } from './paint';
import { planExtension } from './plan';

const [WIDTH, HEIGHT] = [96, 64];

/** A cloudy grey with a dark knot. */
function cloudy(knot: { x: number; y: number; radius: number } | null = null): Raster {
  const made = blankRaster(WIDTH, HEIGHT, 3);
  for (let i = 0; i < WIDTH * HEIGHT; i++) {
    const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)];
    const dark = knot && Math.hypot(x - knot.x, y - knot.y) < knot.radius ? 0.35 : 0;
    const v = 0.6 - dark + 0.02 * tileFractal(x / 9, y / 9, 4096, 4096, 71, 3) + 0.03 * (hashUnit(x, y, 72) - 0.5);
    made.data.fill(v * WHITE, i * 3, i * 3 + 3);
  }
  return made;
}

const O: Extending = {
  width: 260,
  height: 180,
  at: [80, 60],
  side: 26,
  period: [null, null],
  seed: 4,
  marks: [],
};

/** Where in the sample lies what is shown at a pixel. */
function sourceAt({ patches, labels }: Extended, o: Extending, x: number, y: number): [number, number] {
  const label = labels[y * o.width + x];
  const { to, from } = label ? patches[label - 1] : { to: o.at, from: [0, 0] };
  return [from[0] + x - to[0], from[1] + y - to[1]];
}
function timesShown(plan: Extended, o: Extending, within: (x: number, y: number) => boolean): number {
  let sum = 0;
  for (let y = 0; y < o.height; y++) for (let x = 0; x < o.width; x++) if (within(...sourceAt(plan, o, x, y))) sum++;
  let area = 0;
  for (let y = 0; y < HEIGHT; y++) for (let x = 0; x < WIDTH; x++) if (within(x, y)) area++;
  return sum / area;
}

test('every pixel is one of the sample; the sample lies where it was put, whole but for its rim', () => {
  const sample = cloudy();
  const plan = planExtension(sample, O, []);
  let outside = 0;
  for (let y = 0; y < O.height; y++)
    for (let x = 0; x < O.width; x++) {
      const [u, v] = sourceAt(plan, O, x, y);
      if (u < 0 || v < 0 || u >= WIDTH || v >= HEIGHT) outside++;
    }
  expect(outside).toBe(0);
  let own = 0;
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) if (!plan.labels[(y + O.at[1]) * O.width + x + O.at[0]]) own++;
  expect(own / (WIDTH * HEIGHT)).toBeGreaterThan(0.6);
  const made = paintExtension(sample, plan, O, [1, 1], [O.width, O.height]);
  const at = ((O.at[1] + 32) * O.width + O.at[0] + 48) * 3;
  expect(made.data[at]).toBe(sample.data[(32 * WIDTH + 48) * 3]);
});

test('the same comes out each time, and another from another number', () => {
  const sample = cloudy();
  const plan = planExtension(sample, O, []);
  expect(planExtension(sample, O, [])).toEqual(plan);
  expect(planExtension(sample, { ...O, seed: 5 }, []).patches).not.toEqual(plan.patches);
});

test('no patch goes on where its neighbour left off: nothing larger than a patch is shown twice in one piece', () => {
  const plan = planExtension(cloudy(), O, []);
  const moves = new Map<string, number>();
  let longest = 0;
  for (let y = 0; y < O.height; y++) {
    let [run, last] = [0, ''];
    for (let x = 0; x < O.width; x++) {
      const [u, v] = sourceAt(plan, O, x, y);
      const key = `${x - u} ${y - v}`;
      run = key === last ? run + 1 : 1;
      last = key;
      if (plan.labels[y * O.width + x]) longest = Math.max(longest, run);
      moves.set(key, (moves.get(key) ?? 0) + 1);
    }
  }
  expect(longest).toBeLessThanOrEqual(O.side * 1.5);
  expect(moves.size).toBeGreaterThan(40);
});

test('what stands out comes no more often for its area than in the sample', () => {
  const knot = { x: 48, y: 32, radius: 4 };
  const sample = cloudy(knot);
  const features = featuresOf(sample, O.side);
  expect(features).toHaveLength(1);
  const plan = planExtension(sample, O, features);
  const shown = timesShown(plan, O, (x, y) => Math.hypot(x - knot.x, y - knot.y) < knot.radius);
  const share = (O.width * O.height) / (WIDTH * HEIGHT);
  expect(shown).toBeLessThan(share * 1.15);
  expect(shown).toBeGreaterThan(share * 0.4);
});

test('what reaches to the edge is no feature: it goes on', () => {
  const sample = cloudy({ x: 1, y: 30, radius: 5 });
  expect(featuresOf(sample, O.side)).toEqual([]);
  expect(featuresOf(cloudy(), O.side)).toEqual([]);
});

const mark = (shown: Mark['shown']): Mark => ({ centre: [48, 32], radius: [7, 7], shown });
const inMark = (x: number, y: number) => Math.hypot(x + 0.5 - 48, y + 0.5 - 32) < 6;

test('what is marked is shown once, where it is, or not at all', () => {
  const sample = cloudy({ x: 48, y: 32, radius: 5 });
  const once = { ...O, marks: [mark('once')] };
  expect(timesShown(planExtension(sample, once, []), once, inMark)).toBeCloseTo(1, 1);
  const never = { ...O, marks: [mark('never')] };
  expect(timesShown(planExtension(sample, never, []), never, inMark)).toBe(0);
  const all: Mark = { centre: [48, 32], radius: [60, 40], shown: 'once' };
  expect(() => planExtension(sample, { ...O, marks: [all] }, [])).toThrow('leaves no place in the sample');
});

test('what is laid grows by whole periods', () => {
  const ground = laidGround({
    lengthMm: 40,
    heightMm: 16,
    bedMm: 4,
    endMm: 4,
    shift: 0.5,
    atMm: [6, 5],
    piece: [0.5, 0.3, 0.2],
    joint: [0.8, 0.78, 0.7],
    spread: 0.2,
    seed: 3,
  });
  const corners = [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ] as typeof plainShot.corners;
  const plain = {
    ...plainShot,
    corners,
    turnDeg: 0,
    fallRight: 0,
    fallUp: 0,
    vignette: 0,
    spot: 0,
    warmth: 0,
    drift: 0,
  };
  const sample = takePhotograph(ground, { ...plain, seenMm: 144, widthPx: 144, heightPx: 96, ruleMm: 0 }).raster;
  const o: Extending = { ...O, width: 300, height: 220, side: 44, period: [44, 40] };
  const { patches } = planExtension(sample, o, []);
  expect(patches.length).toBeGreaterThan(20);
  for (const { to, from } of patches)
    for (const axis of [0, 1] as const) {
      const periods = (to[axis] - from[axis] - o.at[axis]) / o.period[axis]!;
      // squares at the sample's edge are moved back into it
      const atEdge = from[axis] === 0 || from[axis] + o.side === [144, 96][axis];
      if (!atEdge) expect(Math.abs(periods - Math.round(periods))).toBeLessThan(1e-6);
    }
});

test('painted twice as large it is the same picture', () => {
  const sample = cloudy();
  const plan = planExtension(sample, O, []);
  const small = paintExtension(sample, plan, O, [1, 1], [O.width, O.height]);
  const large = resize(sample, WIDTH * 2, HEIGHT * 2, false);
  const double = paintExtension(large, plan, O, [2, 2], [O.width * 2, O.height * 2]);
  const again = resize(double, O.width, O.height, false);
  let off = 0;
  small.data.forEach((v, i) => (off += Math.abs(v - again.data[i]) / WHITE));
  expect(off / small.data.length).toBeLessThan(1 / 255);
});

test('a cut runs where the two differ least', () => {
  const side = 9;
  const lies = (k: number) => k % side < 6;
  // a line down the middle, and away from the rim, which stays
  const quiet = (x: number, y: number) => x === 3 || (x > 3 && (y < 2 || y > side - 3));
  const apart = Float32Array.from({ length: side * side }, (_, k) =>
    quiet(k % side, Math.floor(k / side)) ? 0.01 : 1,
  );
  const expected = [1, 1, 1, null, 0, 0, 0, 0, 0];
  const kept = keptOf({ side, lies }, apart, null);
  for (let y = 2; y < side - 2; y++)
    expect([...kept.subarray(y * side, (y + 1) * side)].map((v, x) => (x === 3 ? null : v))).toEqual(expected);
});
