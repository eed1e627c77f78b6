import { blankRaster, type Raster, WHITE } from '../picture/raster';
import { MAP_PRESETS, mapsOf } from './maps';
import { runSteps, StepError } from './run';
import { type Step, type StepKind, stepOf } from './steps/registry';

const step = (kind: StepKind, rest: object = {}) =>
  ({ id: kind, on: true, mask: null, ...stepOf({ kind }).first, ...rest }) as unknown as Step;
/** Of some pattern, 16 bits deep, half seen through where it has four channels. */
function picture(width: number, height: number, channels: 3 | 4 = 3): Raster {
  const r = blankRaster(width, height, channels);
  for (let i = 0; i < r.data.length; i++) r.data[i] = channels === 4 && i % 4 === 3 ? WHITE / 2 : (i * 7919) % WHITE;
  return r;
}
const even = (width: number, height: number, value: number) => {
  const r = blankRaster(width, height, 3);
  r.data.fill(value);
  return r;
};
const image = 'a'.repeat(64);
const rust = { image, name: 'Rust', widthMm: 40, heightMm: 30, lies: 'darks', blurMm: 0, tint: 0.5 };
const run = (of: Raster, steps: Step[], other?: Raster, ppi: number | null = 254) =>
  runSteps(of, ppi, steps, {
    heights: MAP_PRESETS[1].derived.height,
    pictures: new Map(other ? [[image, other]] : []),
  });
const small = picture(60, 40);

test.each<[string, Raster, Step[], Raster | undefined, RegExp]>([
  ['dirt of a picture of one pixel', small, [step('dirt', { picture: rust })], picture(1, 1), /“Rust” is 1 × 1 pixels/],
  [
    'dirt of one that is a line',
    small,
    [step('dirt', { picture: rust })],
    picture(400, 2),
    /400 × 2 pixels.*Choose another/,
  ],
  ['dirt of one that is gone', small, [step('dirt', { picture: rust })], undefined, /no longer there; choose another/],
  [
    'an extension of three pixels',
    picture(3, 3),
    [step('extend', { widthMm: 9, heightMm: 9 })],
    undefined,
    /3 × 3 pixels; patches need 24/,
  ],
  [
    'four corners on a line',
    small,
    [
      step('corners', {
        corners: [
          [0, 0],
          [0.5, 0.5],
          [1, 1],
          [0, 1],
        ],
      }),
    ],
    undefined,
    /cross or lie on a line/,
  ],
  ['a crop to nothing', small, [step('crop', { from: [0.5, 0.5], to: [0.5, 0.9] })], undefined, /Crop: /],
])('%s: no, in a sentence', (_name, of, steps, other, said) => {
  expect(() => run(of, steps, other)).toThrow(StepError);
  expect(() => run(of, steps, other)).toThrow(said);
});

test.each<[string, Raster, Step[], Raster | undefined, RegExp]>([
  ['dirt of one tone', small, [step('dirt', { picture: rust })], even(20, 20, 30_000), /“Rust” is of one tone/],
  [
    'a scale whose colours lie at one height',
    small,
    [step('heightColour', { stops: Array(3).fill({ at: 0.4, colour: '#804020' }) })],
    undefined,
    /All its colours lie at 40 %/,
  ],
  ['a scale seen alone', small, [step('heightColour', { alone: true })], undefined, /loud colours/],
  ['nothing to compose', small, [step('compose')], undefined, /No boards are cut out yet/],
])('%s: done, and said', (_name, of, steps, other, said) => {
  expect(
    run(of, steps, other)
      .remarks.map((r) => r.text)
      .join(' '),
  ).toMatch(said);
});

describe('done without a word', () => {
  const all = [step('dirt', { picture: rust }), step('dirt', { place: 'edges' }), step('heightColour')];
  test.each<[string, Raster, Raster]>([
    ['a picture of 16 bits with opacity, under one that has some, too', picture(60, 40, 4), picture(50, 50, 4)],
    ['a picture of one tone', even(60, 40, 20_000), picture(50, 50)],
    ['one that is black', even(60, 40, 0), even(50, 50, 0)],
    ['a strip of two pixels', picture(200, 2), picture(50, 50)],
    ['one under dirt a thousand times as fine', picture(60, 40), picture(3000, 4)],
  ])('%s', (_name, of, other) => {
    const { stage } = run(of, all, other);
    expect(stage.raster).toMatchObject({ width: of.width, height: of.height, channels: of.channels });
    if (of.channels === 4)
      for (let i = 3; i < stage.raster.data.length; i += 4) expect(stage.raster.data[i]).toBe(of.data[i]);
    // whole numbers within their range hold no value that is not one
    for (const { data } of Object.values(mapsOf(stage, MAP_PRESETS[1].derived))) expect(data.length).toBeGreaterThan(0);
    expect(run(of, all, other).stage.raster.data).toEqual(stage.raster.data);
  });
});
