import { blankRaster, WHITE } from '../picture/raster';
import { mapsOf, MAP_PRESETS } from './maps';
import { picturesOf, runSteps } from './run';
import { type Step, type StepKind, type StepOf, stepOf } from './steps/registry';

/** A plate of 120 × 80 mm: light faces, a dark joint every 40 mm; one pixel for each millimetre. */
const picture = blankRaster(120, 80, 3);
for (let i = 0; i < 120 * 80; i++) picture.data.fill((i % 120) % 40 < 6 ? 9000 : 48_000, i * 3, i * 3 + 3);
const ppi = 25.4;
const step = (kind: StepKind, rest: object = {}, id: string = kind) =>
  ({ id, on: true, mask: null, ...stepOf({ kind }).first, ...rest }) as unknown as Step;
const derived = MAP_PRESETS[1].derived;
const run = (steps: Step[], heights = derived.height) => runSteps(picture, ppi, steps, { heights });
const plain = () => mapsOf(run([]).stage, derived);

test('height, normal and roughness are taken before dirt, unless told otherwise', () => {
  const over = run([step('dirt', { cover: 1, strength: 1, colour: '#000000' })]).stage;
  expect(over.raster.data).not.toEqual(picture.data);
  const maps = mapsOf({ ...over, coats: [] }, derived);
  for (const role of ['height', 'normal', 'roughness'] as const) expect(maps[role]!.data).toEqual(plain()[role]!.data);
  const told = mapsOf(run([step('dirt', { cover: 1, strength: 1, colour: '#000000', counts: true })]).stage, derived);
  expect(told.height!.data).not.toEqual(plain().height!.data);
});

test('dirt is as rough as is said where it lies, and nowhere else', () => {
  const [bare, made] = [
    plain().roughness!.data,
    mapsOf(run([step('dirt', { cover: 1, strength: 1, roughness: 1, place: 'joints' })]).stage, derived).roughness!
      .data,
  ];
  const at = 40 * 120;
  expect(made[at + 42]).toBe(255);
  expect(made[at + 60]).toBe(bare[at + 60]);
});

test('metal lies where its curve says, less of it in joints, none under dirt', () => {
  const metallic = {
    of: 'lightness',
    points: [
      [0, 0],
      [0.5, 0],
      [1, 1],
    ],
    joints: 0,
  } as const;
  const face = 40 * 120 + 60;
  const joint = 40 * 120 + 42;
  const at = (d: object, stage = run([]).stage) => mapsOf(stage, { ...derived, ...d }).metallic!.data;
  // 48,000 of 65,535 lies at 0.7324: by the upper half of the curve 0.4649 of metal
  expect(at({ metallic })[face]).toBe(Math.round(255 * ((48_000 / WHITE - 0.5) * 2)));
  expect(at({ metallic })[joint]).toBe(0);
  const even = {
    ...metallic,
    of: 'height',
    points: [
      [0, 1],
      [1, 1],
    ],
  };
  expect([at({ metallic: even })[face], at({ metallic: even })[joint]]).toEqual([255, 255]);
  const lost = at({ metallic: { ...even, joints: 1 } });
  expect([lost[face], lost[joint]]).toEqual([255, 0]);
  const dirty = run([step('dirt', { cover: 1, strength: 1, place: 'joints' })]).stage;
  expect([at({ metallic: even }, dirty)[face], at({ metallic: even }, dirty)[joint]]).toEqual([255, 0]);
  expect(mapsOf(run([]).stage, derived).metallic).toBeUndefined();
});

test('the picture gets its colour by the height, a later step by the same height', () => {
  const black = [
    { at: 0.2, colour: '#ff0000' },
    { at: 0.8, colour: '#ffffff' },
  ];
  const twice = [
    step('heightColour', { stops: black, blend: 'mix', strength: 1 }, 'one'),
    step('heightColour', { stops: black, blend: 'mix', strength: 1 }, 'two'),
  ];
  const once = run(twice.slice(0, 1)).stage.raster;
  expect([...once.data.slice((40 * 120 + 42) * 3, (40 * 120 + 42) * 3 + 3)]).toEqual([WHITE, 0, 0]);
  // were the second to read the red joint as high it would be another picture
  expect(run(twice).stage.raster.data).toEqual(once.data);
});

test('a mask limits both, and switched off nothing lies there', () => {
  const mask = { kind: 'gradient', from: [0.3, 0.5], to: [0.4, 0.5] };
  for (const kind of ['dirt', 'heightColour'] as const) {
    const made = run([step(kind, { mask, cover: 1, strength: 1 })]).stage.raster;
    const right = (40 * 120 + 100) * 3;
    expect(made.data[right]).toBe(picture.data[right]);
    expect(made.data).not.toEqual(picture.data);
    expect(run([step(kind, { on: false })]).stage.raster).toBe(picture);
  }
});

test('heights read otherwise change what goes by them, remembered or not', () => {
  const cache = new Map();
  const steps = [step('heightColour', { strength: 1 })];
  const one = runSteps(picture, ppi, steps, { heights: derived.height, cache }).stage.raster;
  const inverted = { ...derived.height!, invert: true };
  const other = runSteps(picture, ppi, steps, { heights: inverted, cache }).stage.raster;
  expect(other.data).not.toEqual(one.data);
});

test('a step of another size after dirt says that the maps take the dirt in', () => {
  const { stage, remarks } = run([step('dirt'), step('crop')]);
  expect(stage.ground).toBeNull();
  expect(remarks.map((r) => r.text).join(' ')).toMatch(/Move those behind it/);
});

test('dirt needs a size, and says so', () => {
  expect(() => runSteps(picture, null, [step('dirt')])).toThrow(/Dirt: its size is not known/);
});

test('loud and alone the scale hides the picture, and that is said', () => {
  const { stage, remarks } = run([step('heightColour', { alone: true })]);
  expect(remarks[0].text).toMatch(/seen alone/);
  expect(stage.raster.data[(40 * 120 + 42) * 3 + 2]).toBeGreaterThan(0.9 * WHITE);
});

describe('dirt of another picture', () => {
  const hash = 'd'.repeat(64);
  /** 20 × 10 px: black on its left half, rust on its right. */
  const other = blankRaster(20, 10, 3);
  for (let i = 0; i < 200; i++) other.data.set(i % 20 < 10 ? [0, 0, 0] : [52_000, 26_000, 13_000], i * 3);
  const from = (rest: object = {}): StepOf<'dirt'> =>
    step('dirt', {
      cover: 0.5,
      softness: 0,
      strength: 1,
      blend: 'mix',
      picture: { image: hash, name: 'Rust', widthMm: 40, heightMm: 20, lies: 'darks', blurMm: 0, tint: 0, ...rest },
    }) as StepOf<'dirt'>;
  const made = (rest: object = {}) =>
    runSteps(picture, ppi, [from(rest)], { pictures: new Map([[hash, other]]) }).stage;
  const at = (data: Uint16Array, x: number) => [...data.subarray((40 * 120 + x) * 3, (40 * 120 + x) * 3 + 3)];

  test('lies at its own size, where it is dark or where it is light', () => {
    const darks = made().raster.data;
    // one millimetre a pixel: dark for 20, then seen through
    expect([at(darks, 10), at(darks, 50), at(darks, 90)]).toEqual(Array(3).fill([0, 0, 0]));
    expect(at(darks, 30)).toEqual(at(picture.data, 30));
    const lights = made({ lies: 'lights' }).raster.data;
    expect(at(lights, 30)).toEqual([52_000, 26_000, 13_000]);
    expect(at(lights, 10)).toEqual(at(picture.data, 10));
  });

  test('tinted, as rough as is said, and half as large where that is typed', () => {
    const tinted = step('dirt', { ...from(), cover: 1, colour: '#00ff00' });
    const { raster } = runSteps(picture, ppi, [{ ...tinted, picture: { ...from().picture, tint: 1 } }] as Step[], {
      pictures: new Map([[hash, other]]),
    }).stage;
    expect(at(raster.data, 30).map((v) => v > 0)).toEqual([false, true, false]);
    expect(made().coats).toHaveLength(1);
    const half = made({ widthMm: 20, heightMm: 10 }).raster.data;
    expect(at(half, 5)).toEqual([0, 0, 0]);
    expect(at(half, 15)).toEqual(at(picture.data, 15));
  });

  test('one that is not at hand is said; one switched off is not asked for', () => {
    expect(() => runSteps(picture, ppi, [from()])).toThrow('Dirt: its picture is no longer there; choose another.');
    expect(picturesOf([from(), from()])).toEqual([hash]);
    expect(picturesOf([{ ...from(), on: false }, step('dirt')])).toEqual([]);
  });

  test('larger than a picture that closes, it says that it breaks off', () => {
    const closed = step('seamless', { overlap: 0.2 });
    const said = (widthMm: number) =>
      runSteps(picture, ppi, [closed, from({ widthMm, heightMm: 20 })], {
        pictures: new Map([[hash, other]]),
      }).remarks.map((r) => r.text);
    expect(said(300)).toContain('Rust is larger than this picture: it breaks off where this one closes.');
    expect(said(40).filter((t) => t.includes('breaks off'))).toEqual([]);
  });
});
