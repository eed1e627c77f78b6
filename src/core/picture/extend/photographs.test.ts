import { hashUnit, tileCells, tileFractal, tileNoise } from '../../noise/tiles';
import { UNSEEN } from '../../testing/grounds';
import { blur } from '../blur';
import { type Ground, GROUNDS, plainShot, takePhotograph } from '../camera';
import { measureCopies } from '../copies';
import { compareStep, linesOf, type SeamFigure, worstOf } from '../judge';
import { cutOut, lightnessOf, type Raster } from '../raster';
import type { Extended, Extending } from './extending';
import { featuresOf } from './features';
import { paintExtension } from './paint';
import { planExtension } from './plan';

const FAR = 4096;
const grey =
  (of: (x: number, y: number) => number, warm = 1): Ground =>
  (x, y, out) => {
    const v = Math.max(0.02, Math.min(1, of(x, y)));
    [out[0], out[1], out[2]] = [v * warm, v, v / warm];
  };

/** Five materials by generators that nothing else is made of. */
const PROCEDURAL: Record<string, Ground> = {
  veined: grey((x, y) => {
    const bend = tileNoise(x / 40, y / 40, FAR, FAR, 201) * 3 + tileNoise(x / 12, y / 12, FAR, FAR, 202);
    return 0.72 - 0.3 * Math.abs(Math.sin((x + y) / 55 + bend)) ** 6;
  }),
  hide: grey((x, y) => {
    const { near, second } = tileCells(x / 9, y / 9, FAR, FAR, 203, { near: 0, second: 0, id: 0 });
    return 0.25 + 0.5 * Math.min(1, (second - near) * 2);
  }, 1.15),
  rust: grey((x, y) => 0.4 + 0.3 * Math.tanh(4 * tileFractal(x / 50, y / 50, FAR, FAR, 204, 5)), 1.3),
  ripples: grey((x, y) => 0.6 + 0.12 * Math.sin(y / 5 + 2.5 * tileNoise(x / 60, y / 60, FAR, FAR, 205)), 1.08),
  felt: grey((x, y) => {
    let v = 0.5;
    for (let k = 0; k < 4; k++) v += 0.09 * tileNoise((x * (k + 1)) / 14, (y * (5 - k)) / 14, FAR, FAR, 206 + k);
    return v + 0.08 * (hashUnit(Math.floor(x * 2), Math.floor(y * 2), 210) - 0.5);
  }),
};
const known = (name: string) => ({ ...GROUNDS, ...UNSEEN })[name].ground;

/** Widths that are seen, mm; stems of 7 mm want some pixels each. */
const [SEEN, FINER] = [
  [300, 260, 220],
  [150, 130, 110],
];

const CASES: [string, Ground, number, number][] = [
  ...['plaster', 'granite', 'cork', 'terrazzo', 'rush'].flatMap((name): [string, Ground, number, number][] =>
    (name === 'rush' ? FINER : SEEN).map((seenMm, n) => [`${name}, ${seenMm} mm`, known(name), seenMm, n * 1.1]),
  ),
  ...Object.entries(PROCEDURAL).map(([name, ground]): [string, Ground, number, number] => [name, ground, 280, 0]),
];

const [WIDTH, HEIGHT, SIDE] = [120, 80, 29];
const O: Extending = {
  width: 360,
  height: 320,
  at: [120, 120],
  side: SIDE,
  period: [null, null],
  seed: 3,
  marks: [],
};

function sampleOf(ground: Ground, seenMm: number, turnDeg: number): Raster {
  const even = { fallRight: 0, fallUp: 0, vignette: 0, spot: 0, warmth: 0, drift: 0, turnDeg };
  const corners = [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ] as typeof plainShot.corners;
  return takePhotograph(ground, { ...plainShot, ...even, corners, seenMm, widthPx: WIDTH, heightPx: HEIGHT, ruleMm: 0 })
    .raster;
}

/** How much lightness varies in bands of an octave each, and in all that is larger. */
function bandsOf(r: Raster): { fine: number[]; low: number } {
  const p = lightnessOf(r);
  const smooth = [0, 1, 2, 4].map((s) => (s ? blur({ ...p, data: p.data.slice() }, s, false).data : p.data));
  const rms = (of: (i: number) => number) =>
    Math.sqrt(p.data.reduce((sum, _, i) => sum + of(i) ** 2, 0) / p.data.length);
  const mean = p.data.reduce((sum, v) => sum + v, 0) / p.data.length;
  return {
    fine: smooth.slice(1).map((of, k) => rms((i) => smooth[k][i] - of[i])),
    low: rms((i) => smooth[3][i] - mean),
  };
}

/** The step over joins of patches that neither had there, beside the steps over lines within the sample. */
function joinsOf(sample: Raster, { labels, patches }: Extended): SeamFigure {
  const { data } = lightnessOf(sample);
  const { width, height } = O;
  const shown = (label: number, i: number): number | null => {
    const { to, from } = label ? patches[label - 1] : { to: O.at, from: [0, 0] };
    const [x, y] = [from[0] + (i % width) - to[0], from[1] + Math.floor(i / width) - to[1]];
    return x < 0 || y < 0 || x >= WIDTH || y >= HEIGHT ? null : data[y * WIDTH + x];
  };
  const shares = [1, O.width].map((ahead) => {
    let [sum, n] = [0, 0];
    for (let i = 0; i + ahead < labels.length; i++) {
      const [x, y] = [i % width, Math.floor(i / width)];
      if (labels[i] === labels[i + ahead] || (ahead === 1 ? x + 1 === width : y + 1 === height)) continue;
      for (const [own, other] of [
        [i, i + ahead],
        [i + ahead, i],
      ]) {
        const beside = shown(labels[other], own);
        if (beside === null) continue;
        sum += Math.abs(shown(labels[own], own)! - beside);
        n++;
      }
    }
    return compareStep(sum / n, linesOf(sample, ahead !== 1), 1);
  });
  return worstOf(shares);
}

test.each(CASES)('%s: three times and four as large, it is of the same stuff', (name, ground, seenMm, turnDeg) => {
  const sample = sampleOf(ground, seenMm, turnDeg);
  const plan = planExtension(sample, O, featuresOf(sample, SIDE));
  const made = paintExtension(sample, plan, O, [1, 1], [O.width, O.height]);
  const own = bandsOf(sample);
  const parts = [0, 120, 240].flatMap((x) => [0, 80, 160, 240].map((y) => bandsOf(cutOut(made, x, y, WIDTH, HEIGHT))));
  const rms = (of: (p: (typeof parts)[number]) => number) =>
    Math.sqrt(parts.reduce((sum, p) => sum + of(p) ** 2, 0) / parts.length);
  const ratios = own.fine.map((v, k) => rms((p) => p.fine[k]) / v);
  const low = rms((p) => p.low) / own.low;
  const copies = measureCopies(made, HEIGHT / 4).strongest / measureCopies(sample, HEIGHT / 4).strongest;
  for (const ratio of ratios) expect(Math.abs(ratio - 1)).toBeLessThan(0.18);
  expect(Math.abs(low - 1)).toBeLessThan(0.18);
  expect(copies).toBeLessThan(1.4);
  const joins = joinsOf(sample, plan);
  // stems of rush go on for ever and change so little along themselves that each join is a step there
  expect(joins.step / joins.usual).toBeLessThan(name.startsWith('rush') ? 2 : 1.2);
});
