import type { Vec2 } from '../geometry/vec';
import { UNSEEN } from '../testing/grounds';
import { blur } from './blur';
import { GROUNDS, paintTruth, plainShot, type Shot, takePhotograph } from './camera';
import { findGrain } from './direction';
import { evenOut } from './even';
import { measureWrap } from './judge';
import { hashUnit } from '../noise/tiles';
import { findPeriod } from './period';
import { blankPlane, LINEAR, lightnessOf, type Plane, type Raster } from './raster';
import { makeSeamless } from './seamless';
import { cornersOf, findHomography, project, straighten, turnAndShear } from './straighten';

/** Twenty photographs: five grounds that come with the application, five that no step was tuned on, each seen twice. */
const SHOTS: Partial<Shot>[] = [
  { turnDeg: 4.3, fallRight: 0.35, fallUp: 0.1, vignette: 0.25, spot: 0.2, warmth: 0.12, drift: 0.08, seed: 5 },
  {
    turnDeg: -7.7,
    corners: [
      [0.08, 0.02],
      [0.93, 0.08],
      [0.96, 0.97],
      [0.02, 0.9],
    ],
    fallRight: -0.25,
    fallUp: 0.3,
    vignette: 0.1,
    spot: 0.1,
    warmth: -0.08,
    drift: -0.05,
    seed: 9,
  },
];
const CASES = Object.entries({ ...GROUNDS, ...UNSEEN }).flatMap(([name, g]) =>
  SHOTS.map((shot, i) => ({
    name: `${name} ${i + 1}`,
    ...g,
    shot: { ...plainShot, widthPx: 640, heightPx: 480, ruleMm: 400, ...shot } as Shot,
  })),
);

const SIZE: Vec2 = [600, 450];
const takes = new Map<string, ReturnType<typeof take>>();
function take(c: (typeof CASES)[number]) {
  const photo = takePhotograph(c.ground, c.shot);
  const pixels = c.shot.corners.map(([x, y]): Vec2 => [x * c.shot.widthPx, y * c.shot.heightPx]);
  // set by hand: each off by up to 3 px
  const byHand = pixels.map(([x, y], i): Vec2 => [
    x + hashUnit(i, 1, c.shot.seed) * 4.2 - 2.1,
    y + hashUnit(i, 2, c.shot.seed) * 4.2 - 2.1,
  ]);
  const [w, h] = SIZE;
  const flat = straighten(photo.raster, findHomography(cornersOf(w, h), pixels)!, w, h);
  return { photo, pixels, byHand, flat, truth: paintTruth(c.ground, { ...c.shot, ruleMm: 0 }, w, h) };
}
const of = (c: (typeof CASES)[number]) => {
  if (!takes.has(c.name)) takes.set(c.name, take(c));
  return takes.get(c.name)!;
};

/** What goes into the seamless step: the rule and the frame cropped away and the grain turned true, as people do. */
function sourceOf(c: (typeof CASES)[number]): Raster {
  if (c.kind === 'laid')
    return takePhotograph(c.ground, {
      ...c.shot,
      turnDeg: 0,
      corners: [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ],
      ruleMm: 0,
    }).raster;
  const { flat } = of(c);
  const cropped: Raster = { ...flat, height: 380, data: flat.data.slice(0, 380 * flat.width * 3) };
  if (c.kind === 'even') return cropped;
  const { h, width, height } = turnAndShear(cropped, -findGrain(cropped).deg, 0, 0);
  return straighten(cropped, h, width, height);
}

/** Linear light of one channel less the rule's rows, which are not the material. */
function channel(r: Raster, c: number): Plane {
  const h = Math.floor(r.height * 0.86);
  const out = blankPlane(r.width, h);
  for (let i = 0; i < out.data.length; i++) out.data[i] = LINEAR[r.data[i * r.channels + c]];
  return out;
}
const energy = (p: Plane, low: Plane) => p.data.reduce((sum, v, i) => sum + (v - low.data[i]) ** 2, 0) / p.data.length;
const smoothed = (p: Plane) => blur({ ...p, data: p.data.slice() }, p.width / 8 / 2.5, false);

/** Fine detail along the upright seam against what the side that shows had there: 1 where it is the same. */
function detailKept(source: Raster, made: ReturnType<typeof makeSeamless>): number {
  const fine = (r: Raster) => {
    const { data: d, width: w } = lightnessOf(r);
    return (x: number, y: number) => {
      const i = y * w + x;
      return (d[i] - (d[i - 1] + d[i + 1] + d[i - w] + d[i + w]) / 4) ** 2 || 0;
    };
  };
  const even = evenOut(source, { radius: Math.max(source.width, source.height) / 6, lightness: 1, colour: 1 });
  const [after, before] = [fine(made.raster), fine(even)];
  const overlap = { x: source.width - made.raster.width, y: source.height - made.raster.height };
  let [out, own] = [0, 0];
  const { width, height } = made.raster;
  for (let y = overlap.y; y < height; y++) {
    const line = (y - made.begin.y + height) % height;
    const seam = (made.upright![line] + made.begin.x) % width;
    for (let x = Math.max(2, seam - 12); x < Math.min(overlap.x - 2, seam + 12); x++) {
      out += after((x - made.begin.x + width) % width, line);
      own += x < seam ? before(x + made.raster.width, y) : before(x, y);
    }
  }
  return out / own;
}

describe.each(CASES)('$name', (c) => {
  test('a line measured on the straightened picture gives its size within 0.5%', () => {
    const { photo, byHand, pixels } = of(c);
    const h = findHomography(pixels, cornersOf(...SIZE))!;
    const ends = photo.rule!.map(([u, v], i) =>
      project(h, u * c.shot.widthPx + hashUnit(i, 5, c.shot.seed) - 0.5, v * c.shot.heightPx),
    );
    const measured = c.shot.ruleMm / Math.hypot(ends[1][0] - ends[0][0], ends[1][1] - ends[0][1]);
    expect(Math.abs(measured / (photo.widthMm / SIZE[0]) - 1)).toBeLessThan(0.005);
    expect(byHand).toHaveLength(4);
  });

  test('corners off by up to 3 px: everything lands within 3 px of the truth', () => {
    const { byHand, pixels } = of(c);
    const [hand, true_] = [byHand, pixels].map((corners) => findHomography(cornersOf(...SIZE), corners)!);
    for (let i = 0; i <= 10; i++) {
      for (let j = 0; j <= 10; j++) {
        const at: Vec2 = [(SIZE[0] * i) / 10, (SIZE[1] * j) / 10];
        const [[u, v], [x, y]] = [project(hand, ...at), project(true_, ...at)];
        expect(Math.hypot(u - x, v - y)).toBeLessThan(3);
      }
    }
  });

  if (c.kind === 'grain') {
    test('the grain’s angle is found within half a degree', () => {
      const { deg, confidence } = findGrain(of(c).flat);
      // the camera turned one way sees the ground turned the other
      expect(Math.abs(deg + c.shot.turnDeg)).toBeLessThan(0.5);
      expect(confidence).toBeGreaterThan(0.2);
    });
  }

  test('evened, its light is that of the truth, and its detail is kept', () => {
    const { flat, truth } = of(c);
    const even = evenOut(flat, { radius: SIZE[0] / 8, lightness: 1, colour: 1 });
    for (let k = 0; k < 3; k++) {
      const [e, t, f] = [even, truth, flat].map((r) => channel(r, k));
      const [le, lt] = [smoothed(e), smoothed(t)];
      const mean = (p: Plane) => p.data.reduce((a, b) => a + b, 0) / p.data.length;
      const [me, mt] = [mean(le), mean(lt)];
      let off = 0;
      for (let i = 0; i < le.data.length; i++) off += (le.data[i] / me - lt.data[i] / mt) ** 2;
      expect(Math.sqrt(off / le.data.length)).toBeLessThan(0.1);
      // contrast of what is fine, each measured against its own light
      const relative = (p: Plane) => {
        const low = smoothed(p);
        const flatMean = mean(low);
        return (
          energy(
            { ...p, data: p.data.map((v, i) => (v / low.data[i]) * flatMean) },
            { ...p, data: p.data.map(() => flatMean) },
          ) /
          flatMean ** 2
        );
      };
      expect(Math.abs(relative(e) / relative(f) - 1)).toBeLessThan(0.05);
    }
  });

  test('seamless: neither wrap nor seam stands out, and nothing is blurred there', () => {
    const source = sourceOf(c);
    const made = makeSeamless(source, {
      mode: c.kind === 'laid' ? 'period' : 'blend',
      overlap: 0.2,
      evened: true,
      across: true,
      down: true,
    });
    const wrap = measureWrap(made.raster);
    expect(wrap.across.percentile).toBeLessThanOrEqual(0.95);
    expect(wrap.down.percentile).toBeLessThanOrEqual(0.95);
    expect(made.figure!.percentile).toBeLessThanOrEqual(0.95);
    expect(Math.abs(detailKept(source, made) - 1)).toBeLessThan(0.1);
  });

  if (c.periodMm) {
    test('the period of what is laid is found', () => {
      const square: Shot = {
        ...c.shot,
        turnDeg: 0,
        corners: [
          [0, 0],
          [1, 0],
          [1, 1],
          [0, 1],
        ],
        ruleMm: 0,
      };
      const { raster } = takePhotograph(c.ground, square);
      const found = findPeriod(raster);
      const mmPerPx = square.seenMm / square.widthPx;
      for (const [axis, i] of [
        ['x', 0],
        ['y', 1],
      ] as const) {
        const mm = found[axis]!.pixels * mmPerPx;
        expect(Math.abs(mm / c.periodMm![i] - 1)).toBeLessThan(0.01);
      }
    });
  }
});

test.each(['boards', 'larch'])(
  'a seam through the grain of %s is not to be found in a large photograph either',
  (name) => {
    const { ground } = { ...GROUNDS, ...UNSEEN }[name];
    const { raster, heightMm } = takePhotograph(ground, {
      ...plainShot,
      widthPx: 1700,
      heightPx: 1275,
      ruleMm: 0,
      seed: 2,
    });
    const [w, h] = [1500, Math.round(1.5 * heightMm)];
    const corners = plainShot.corners.map(([x, y]): [number, number] => [x * raster.width, y * raster.height]);
    const source = straighten(
      raster,
      findHomography(
        [
          [0, 0],
          [w, 0],
          [w, h],
          [0, h],
        ],
        corners,
      )!,
      w,
      h,
    );
    const made = makeSeamless(source, { mode: 'blend', overlap: 0.2, evened: true, across: true, down: true });
    expect(made.figure!.percentile).toBeLessThanOrEqual(0.95);
    expect(Math.abs(detailKept(source, made) - 1)).toBeLessThan(0.1);
  },
);
