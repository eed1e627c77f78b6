import { GROUNDS, plainShot, takePhotograph } from '../picture/camera';
import { prepOf } from '../testing/prep';
import { describePrepCommand, runPrepCommands } from './commands';
import { mapsOf, MAP_PRESETS } from './maps';
import { runSteps } from './run';
import { type Derived, noMaps, takenOf } from './schema';
import { type Step, type StepKind, stepOf } from './steps/registry';

const shot = { ...plainShot, widthPx: 320, heightPx: 240, ruleMm: 0 };
const picture = takePhotograph(GROUNDS.plaster.ground, shot).raster;
const step = <K extends StepKind>(kind: K, change: object = {}): Step =>
  ({ id: kind, on: true, mask: null, ...stepOf({ kind }).first, ...change }) as unknown as Step;
const size = step('size', { by: { kind: 'typed', widthMm: 640, heightMm: 480 } });
const turn = step('turn', { turnDeg: 9 });
const crop = step('crop', { from: [0.1, 0.1], to: [0.8, 0.7] });
const colour = step('colour', { exposure: -1.2, gamma: 1.6 });
const dirt = step('dirt', { cover: 0.9, strength: 1, colour: '#000000', roughness: 1, counts: false });

const { roughness, height } = MAP_PRESETS[0].derived;
const occlusion = { radiusMm: 8, strength: 1 };
const derived: Derived = { ...noMaps, height, normal: { strength: 1 }, occlusion, roughness };
const made = (steps: Step[], d: Derived) => {
  const { stage, remarks } = runSteps(picture, null, steps, { heights: d.height, taken: takenOf(d) });
  return { stage, remarks, maps: mapsOf(stage, d) };
};

test('maps are taken after the step they name, and go through all that comes after it', () => {
  const steps = [size, colour, turn, crop];
  const plain = made([size, turn, crop], derived).maps;
  const dark = made(steps, derived).maps;
  expect(dark.roughness!.data).not.toEqual(plain.roughness!.data);
  const named = { ...derived, taken: { height: 'size', roughness: 'size' } };
  const { stage, maps } = made(steps, named);
  expect(maps).toEqual(plain);
  // what is seen is the darker picture, with or without what is kept for the maps
  const seen = runSteps(picture, null, steps).stage.raster;
  for (let i = 0; i < seen.width * seen.height; i++)
    for (let c = 0; c < 3; c++)
      if (stage.raster.data[i * stage.raster.channels + c] !== seen.data[i * 3 + c]) throw new Error(`pixel ${i}`);
});

test('each names its own: one before the colour step, one after', () => {
  const steps = [size, colour, turn];
  const { maps } = made(steps, { ...derived, taken: { height: 'size' } });
  const [plain, dark] = [made([size, turn], derived).maps, made(steps, derived).maps];
  expect(maps.height!.data).toEqual(plain.height!.data);
  expect(maps.normal!.data).toEqual(plain.normal!.data);
  expect(maps.occlusion!.data).toEqual(plain.occlusion!.data);
  // of the darker lightness, its joints by the heights before
  const { joints, ...curve } = roughness!;
  const free = { ...derived, roughness: { ...curve, joints: 0 } };
  expect(made(steps, { ...free, taken: { height: 'size' } }).maps.roughness!.data).toEqual(
    made(steps, free).maps.roughness!.data,
  );
  expect(joints).toBeGreaterThan(0);
  expect(maps.roughness!.data).not.toEqual(dark.roughness!.data);
  // by height, it goes by the one that is made
  const byHeight = { ...derived, roughness: { ...roughness!, of: 'height' as const } };
  const one = made(steps, { ...byHeight, taken: { height: 'size', roughness: 'colour' } }).maps.roughness!.data;
  const other = made([size, turn], byHeight).maps.roughness!.data;
  expect(Math.max(...one.map((v, i) => Math.abs(v - other[i])))).toBeLessThanOrEqual(1);
});

test('roughness named after dirt takes in its colour, and not its roughness once more', () => {
  const steps = [size, dirt];
  const mean = ({ data }: { data: ArrayLike<number> }) => Array.from(data).reduce((sum, v) => sum + v, 0) / data.length;
  const curve = {
    of: 'lightness' as const,
    points: [
      [0, 0.2],
      [1, 0.2],
    ] as [number, number][],
    joints: 0,
  };
  const flat = { ...noMaps, roughness: curve };
  expect(mean(made(steps, flat).maps.roughness!)).toBeGreaterThan(120);
  expect(mean(made(steps, { ...flat, taken: { roughness: 'size' } }).maps.roughness!)).toBeGreaterThan(120);
  expect(mean(made(steps, { ...flat, taken: { roughness: 'dirt' } }).maps.roughness!)).toBeCloseTo(51, 5);
  const lightness = {
    ...noMaps,
    roughness: {
      ...curve,
      points: [
        [0, 0],
        [1, 1],
      ] as [number, number][],
    },
  };
  const clean = mean(made([size], lightness).maps.roughness!);
  expect(mean(made(steps, { ...lightness, taken: { roughness: 'dirt' } }).maps.roughness!)).toBeLessThan(clean * 0.7);
});

test('a named step that is switched off is as the picture is there; opacity may be taken before the end', () => {
  const off = { ...colour, on: false };
  const named = { ...derived, taken: { height: 'colour', roughness: 'colour' } };
  expect(made([size, off, turn], named).maps).toEqual(made([size, turn], derived).maps);
  const opacity = { ...noMaps, opacity: { threshold: 0.5, soft: 0.2, invert: false } };
  expect(made([size, colour], { ...opacity, taken: { opacity: 'size' } }).maps).toEqual(made([size], opacity).maps);
});

test('colour by height goes by the heights of the step that the height map names', () => {
  const stops = [
    { at: 0, colour: '#000000' },
    { at: 1, colour: '#ffffff' },
  ];
  const over = step('heightColour', { stops, blend: 'mix', strength: 1 });
  const shown = (steps: Step[], taken: Derived['taken']) => {
    const { raster } = made(steps, { ...derived, taken }).stage;
    return Array.from({ length: raster.width * raster.height }, (_, i) => raster.data[i * raster.channels]);
  };
  expect(shown([size, colour, over], { height: 'size' })).toEqual(shown([size, over], {}));
  expect(shown([size, colour, over], {})).not.toEqual(shown([size, over], {}));
});

test('what is kept ends at boards, and says so; it does so on the smaller picture, too', () => {
  const corners = [
    [0.1, 0.1],
    [0.9, 0.1],
    [0.9, 0.4],
    [0.1, 0.4],
  ];
  const compose = step('compose', { boards: [{ corners, turns: 0, of: null }], lengthMm: 400, heightMm: 140 });
  const { stage, remarks } = made([size, compose], { ...derived, taken: { height: 'size' } });
  expect(stage.kept).toEqual([]);
  expect(remarks.map(({ text }) => text)).toContain(
    'Maps that name a step before this are taken from what is composed.',
  );
  const extend = step('extend', { widthMm: 900, heightMm: 600 });
  const taken = { height: 'size' };
  const large = runSteps(picture, null, [size, colour, extend], { small: picture, heights: height, taken }).stage;
  expect(large.raster).toEqual(
    runSteps(picture, null, [size, colour, extend], { heights: height, taken }).stage.raster,
  );
});

test('a step that is not there cannot be named, and one that goes is named no more', () => {
  const prep = prepOf({
    steps: [size, colour],
    derived: { ...derived, taken: { height: 'size', roughness: 'colour' } },
  });
  expect(() =>
    runPrepCommands(prep, [{ kind: 'setMaps', derived: { ...derived, taken: { height: 'gone' } } }]),
  ).toThrow('the step after which it is taken is no longer there');
  const less = runPrepCommands(prep, [{ kind: 'setSteps', steps: [size] }]);
  expect(less.derived.taken).toEqual({ height: 'size' });
  expect(runPrepCommands(less, [{ kind: 'setSteps', steps: [] }]).derived).not.toHaveProperty('taken');
  const said = (taken: Derived['taken']) =>
    describePrepCommand(less, { kind: 'setMaps', derived: { ...derived, taken } });
  expect(said({ height: 'size', roughness: 'size' })).toBe('Take roughness after Size');
  expect(said({})).toBe('Take height as usual');
  // one that no map is made for costs nothing
  expect(takenOf({ ...noMaps, taken: { metallic: 'size' } })).toEqual({});
});
