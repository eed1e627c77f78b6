import { GROUNDS, plainShot, takePhotograph } from '../../picture/camera';
import { shows, worstOf, measureWrap } from '../../picture/judge';
import { type Raster, WHITE } from '../../picture/raster';
import { resize } from '../../picture/resize';
import { judgeCopies } from '../judge';
import { runSteps, StepError } from '../run';
import type { extend } from './extend';
import { type Step, stepOf } from './registry';
import { WORKING_SIDE } from './step';

type Extend = Parameters<(typeof extend)['run']>[1];

const corners = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
] as typeof plainShot.corners;
const even = { turnDeg: 0, fallRight: 0, fallUp: 0, vignette: 0, spot: 0, warmth: 0, drift: 0, ruleMm: 0, corners };
const photograph = (ground: string, widthPx: number, seenMm: number): Raster =>
  takePhotograph(GROUNDS[ground].ground, { ...plainShot, ...even, widthPx, heightPx: (widthPx * 2) / 3, seenMm })
    .raster;

const sized = (widthMm: number): Step =>
  ({
    ...stepOf({ kind: 'size' }).first,
    id: 'size',
    on: true,
    mask: null,
    by: { kind: 'typed', widthMm, heightMm: (widthMm * 2) / 3 },
  }) as Step;
const extended = (change: Partial<Extend>): Step =>
  ({ ...stepOf({ kind: 'extend' }).first, id: 'extend', on: true, mask: null, ...change }) as Step;
const plaster = photograph('plaster', 90, 300);

test('it becomes as large as was typed, and the sample lies where it was put', () => {
  for (const at of [
    [0, 0],
    [1, 0.5],
  ] as const) {
    const { stage } = runSteps(plaster, null, [sized(300), extended({ widthMm: 720.5, heightMm: 500, at: [...at] })]);
    const { raster, mmPerPx } = stage;
    expect(raster.width * mmPerPx![0]).toBeCloseTo(720.5, 6);
    expect(raster.height * mmPerPx![1]).toBeCloseTo(500, 6);
    const [x, y] = [Math.round((raster.width - 90) * at[0]), Math.round((raster.height - 60) * at[1])];
    const middle = ((y + 30) * raster.width + x + 45) * 3;
    expect([...raster.data.subarray(middle, middle + 3)]).toEqual([
      ...plaster.data.subarray((30 * 90 + 45) * 3, (30 * 90 + 45) * 3 + 3),
    ]);
    expect(judgeCopies(stage)).toMatchObject({ own: expect.any(Number) });
  }
  expect(judgeCopies(runSteps(plaster, null, [sized(300)]).stage)).toBeNull();
});

test('asked to close, it does, at the same size', () => {
  const { stage } = runSteps(plaster, null, [sized(300), extended({ widthMm: 700, heightMm: 450, closes: true })]);
  expect(stage.raster.width * stage.mmPerPx![0]).toBeCloseTo(700, 6);
  expect(stage.raster.height * stage.mmPerPx![1]).toBeCloseTo(450, 6);
  expect(stage.closes).toEqual({ across: true, down: true });
  const wrap = measureWrap(stage.raster);
  expect(shows(worstOf([wrap.across, wrap.down]))).toBe(false);
});

test('what is laid closes on whole periods, and says so', () => {
  const brick = photograph('brick', 300, 900);
  const steps = [sized(900), extended({ widthMm: 1700, heightMm: 1000, closes: true, patch: 0.5 })];
  const { stage, remarks } = runSteps(brick, null, steps);
  const [width, height] = [stage.raster.width * stage.mmPerPx![0], stage.raster.height * stage.mmPerPx![1]];
  expect(Math.abs(width / 225 - 8)).toBeLessThan(0.05);
  expect(Math.abs(height / 150 - 7)).toBeLessThan(0.05);
  expect(remarks.map((r) => r.text).join(' ')).toContain('Whole periods alone close');
  expect(remarks[0].text).toMatch(/in half bond, again after 22[456] × 1(49|50|51) mm/);
  const freely = [sized(900), extended({ widthMm: 1700, heightMm: 1000, grows: 'freely' })];
  expect(runSteps(brick, null, freely).remarks).toEqual([]);
});

test('a smaller picture that stands for the original shows what the full size becomes', () => {
  const full = photograph('granite', 1536, 300);
  // as the browser has it: 8 bits
  const working = resize(full, WORKING_SIDE, (WORKING_SIDE * 2) / 3, false);
  working.data.forEach((v, i) => (working.data[i] = Math.round(v / 257) * 257));
  const steps = [sized(300), extended({ widthMm: 420, heightMm: 260, seed: 3 })];
  const made = runSteps(full, null, steps, { small: working }).stage;
  const shown = runSteps(working, null, steps, { scale: working.width / full.width, side: WORKING_SIDE }).stage;
  expect([made.raster.width, made.raster.height]).toEqual([2150, 1331]);
  expect(shown.raster.width).toBeLessThanOrEqual(WORKING_SIDE);
  expect(shown.scale).toBeCloseTo(shown.raster.width / made.raster.width, 3);
  const again = resize(made.raster, shown.raster.width, shown.raster.height, false);
  const offFrom = ({ raster: { data } }: typeof shown): number =>
    again.data.reduce((sum, v, i) => sum + Math.abs(v - data[i]) / WHITE, 0) / data.length;
  const other = extended({ widthMm: 420, heightMm: 260, seed: 4 });
  const elsewhere = runSteps(working, null, [steps[0], other], { scale: shown.scale, side: WORKING_SIDE }).stage;
  // the sample itself lies in both where it was put, and its grain is finer than half a pixel of what is shown
  expect(offFrom(shown)).toBeLessThan(0.5 * offFrom(elsewhere));
});

test.each<[string, Raster, Step[], RegExp]>([
  ['a picture of no size', plaster, [extended({})], /its size is not known; measure it first/],
  [
    'one that would become smaller',
    plaster,
    [sized(300), extended({ widthMm: 400, heightMm: 150 })],
    /the sample is 300 mm × 200 mm already: type no less than that, or crop it/,
  ],
  [
    'one that would become too large',
    plaster,
    [sized(300), extended({ widthMm: 60_000, heightMm: 40_000 })],
    /would come to 18000 × 12000 pixels; at most 8192 × 8192 are made/,
  ],
  [
    'a sample smaller than a patch',
    photograph('granite', 30, 20),
    [sized(20), extended({ widthMm: 200, heightMm: 200 })],
    /the sample is 30 × 20 pixels; patches need 24 at least each way/,
  ],
  [
    'patches too many to count',
    plaster,
    [sized(300), extended({ widthMm: 24_000, heightMm: 16_000, patch: 0.1 })],
    /patches, and 30000 are laid: make them larger/,
  ],
  [
    'marks that leave nothing',
    plaster,
    [
      sized(300),
      extended({ widthMm: 400, heightMm: 400, marks: [{ centre: [0.5, 0.5], radius: [0.6, 0.6], shown: 'never' }] }),
    ],
    /what is marked leaves no place in the sample/,
  ],
])('%s is refused with a clear sentence', (_name, picture, steps, sentence) => {
  expect(() => runSteps(picture, null, steps)).toThrow(StepError);
  expect(() => runSteps(picture, null, steps)).toThrow(sentence);
});

test('a mark moves and grows by its handles, the sample by its middle', () => {
  const step = extended({
    widthMm: 900,
    heightMm: 600,
    at: [0, 1],
    marks: [{ centre: [0.2, 0.3], radius: [0.1, 0.1], shown: 'once' }],
  }) as Extend;
  const { places, placesAfter } = stepOf<Extend>(step);
  const [mark] = places!(step);
  expect(mark.points.map((p) => p.label)).toEqual(['Middle of mark 1', 'Width of mark 1', 'Height of mark 1']);
  expect(mark.points[0].moved([0.5, 0.6]).marks[0]).toMatchObject({ centre: [0.5, 0.6], radius: [0.1, 0.1] });
  const context = { aspect: 2 / 3, sizeBefore: [300, 200] as [number, number] };
  const lies = placesAfter!(step, context)!;
  expect(lies.through[0]).toEqual([0, 1 - 1 / 3]);
  expect(lies.points[0].moved([0.5, 0.5]).at.map((v) => Math.round(v * 1e9) / 1e9)).toEqual([0.5, 0.5]);
  expect(lies.points[0].moved([-1, 3]).at).toEqual([0, 1]);
  expect(placesAfter!({ ...step, closes: true }, context)).toBeNull();
});
