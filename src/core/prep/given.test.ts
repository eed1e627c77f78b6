import { GROUNDS, plainShot, takePhotograph } from '../picture/camera';
import { blankRaster, type Raster, WHITE } from '../picture/raster';
import { channelsOf, givenChannels, type GivenRole, noGiven, ownOf, planeOf, reliefOf, withGiven } from './given';
import { mapsOf, MAP_PRESETS } from './maps';
import { runSteps } from './run';
import { noMaps } from './schema';
import { type Step, type StepKind, stepOf } from './steps/registry';

const shot = { ...plainShot, widthPx: 320, heightPx: 240, ruleMm: 0 };
const picture = takePhotograph(GROUNDS.plaster.ground, shot).raster;
let count = 0;
const step = <K extends StepKind>(kind: K, change: object = {}): Step =>
  ({ id: `s${count++}`, on: true, mask: null, ...stepOf({ kind }).first, ...change }) as unknown as Step;
const size = () => step('size', { by: { kind: 'typed', widthMm: 640, heightMm: 480 } });

/** One channel of a picture as a map of its own. */
function channelOf(r: Raster, c: number): Raster {
  const out = blankRaster(r.width, r.height, 3);
  for (let i = 0; i < out.data.length; i++) out.data[i] = r.data[Math.floor(i / 3) * r.channels + c];
  return out;
}
const plain = (value: number): Raster => {
  const out = blankRaster(7, 5, 3);
  out.data.fill(value);
  return out;
};
const along = (maps: Partial<Record<GivenRole, Raster>>) => {
  const given = channelsOf(Object.keys(maps) as GivenRole[]);
  return withGiven(picture, given, (role) => Promise.resolve(maps[role]!)).then((raster) => ({ raster, given }));
};

// red goes along as roughness and green as height: wherever a step takes colours, it must take these
const AS_COLOURS: [string, Step[]][] = [
  ['four corners', [step('corners', { corners: shot.corners, widthMm: 900, heightMm: 700 })]],
  ['turned and sheared', [size(), step('turn', { turnDeg: 7, leanDeg: 3, slopeDeg: -2 })]],
  ['cropped', [size(), step('crop', { from: [0.1, 0.2], to: [0.8, 0.9] })]],
  ['blended seam', [size(), step('seamless', { mode: 'blend', overlap: 0.25, evened: false })]],
  ['mirrored', [size(), step('seamless', { mode: 'mirror' })]],
  ['made smaller', [size(), step('resize', { to: { kind: 'density', pxPerMm: 0.3 } })]],
  ['made larger by patches', [size(), step('extend', { widthMm: 1000, heightMm: 700, seed: 3 })]],
  [
    'copied from elsewhere',
    [
      size(),
      step('heal', {
        strokes: [{ kind: 'copy', points: [[0.5, 0.5]], radius: 0.1, hardness: 0.5, opacity: 1, offset: [0.2, 0.1] }],
      }),
    ],
  ],
];
test.each(AS_COLOURS)('maps go along with the picture: %s', async (_name, steps) => {
  const { raster, given } = await along({ roughness: channelOf(picture, 0), height: channelOf(picture, 1) });
  const { stage } = runSteps(raster, null, steps, { given });
  const alone = runSteps(picture, null, steps).stage.raster;
  expect(ownOf(stage.raster)).toEqual(alone);
  expect(stage.given).toEqual(given);
  const worst = { roughness: 0, height: 0 };
  for (const { role, at } of given)
    for (let i = 0; i < stage.raster.data.length; i += stage.raster.channels) {
      const off = Math.abs(stage.raster.data[i + at] - stage.raster.data[i + (role === 'roughness' ? 0 : 1)]);
      worst[role as 'height'] = Math.max(worst[role as 'height'], off);
    }
  expect(worst).toEqual({ roughness: 0, height: 0 });
});

test('steps that change colours alone leave the maps as they came', async () => {
  const { raster, given } = await along({ roughness: channelOf(picture, 2), occlusion: plain(WHITE / 2) });
  const steps = [
    size(),
    step('even', { lightness: 1 }),
    step('colour', { exposure: 0.5, saturation: 0.2 }),
    step('dirt', { cover: 1, strength: 1, counts: false }),
    step('heightColour'),
  ];
  const { stage } = runSteps(raster, null, steps, { given });
  for (const { at } of given) expect(planeOf(stage.raster, at)).toEqual(planeOf(raster, at));
  // a brush of colour paints no roughness
  const paint = { kind: 'paint', points: [[0.5, 0.5]], radius: 0.2, hardness: 1, opacity: 1, colour: '#ff0000' };
  const painted = runSteps(raster, null, [size(), step('heal', { strokes: [paint] })], { given }).stage.raster;
  expect(planeOf(painted, given[0].at)).toEqual(planeOf(raster, given[0].at));
  expect(ownOf(painted)).not.toEqual(ownOf(raster));
});

describe('the maps that come out', () => {
  const half = Math.round(WHITE / 2);

  test('are those that came, but where one is derived', async () => {
    const normal = blankRaster(4, 4, 3);
    for (let i = 0; i < normal.data.length; i += 3) normal.data.set([half, half, WHITE], i);
    const { raster, given } = await along({ normal, roughness: plain(0.25 * WHITE), metallic: plain(WHITE) });
    const { stage } = runSteps(raster, null, [size()], { given });
    const maps = mapsOf(stage, noMaps);
    expect(Object.keys(maps).sort()).toEqual(['metallic', 'normal', 'roughness']);
    expect(new Set(maps.roughness!.data)).toEqual(new Set([64]));
    expect([...maps.normal!.data.subarray(0, 3)]).toEqual([128, 128, 255]);
    const { roughness, height } = MAP_PRESETS[0].derived;
    expect(mapsOf(stage, { ...noMaps, height, roughness }).roughness!.data).toEqual(
      mapsOf({ ...stage, given: [] }, { ...noMaps, height, roughness }).roughness!.data,
    );
  });

  test('dirt makes a given roughness rougher and a given metal none', async () => {
    const { raster, given } = await along({ roughness: plain(0.2 * WHITE), metallic: plain(WHITE) });
    const dirt = step('dirt', { place: 'everywhere', cover: 1, strength: 1, roughness: 0.9, counts: false });
    const { stage } = runSteps(raster, null, [size(), dirt], { given });
    const { roughness, metallic } = mapsOf(stage, noMaps);
    expect(Math.max(...roughness!.data)).toBeGreaterThan(200);
    expect(Math.min(...metallic!.data)).toBeLessThan(40);
  });

  test('slopes and occlusion are derived from a given height, as deep as it is said to be', async () => {
    // a roof: up to the middle and down again, 2 mm for each pixel
    const ramp = blankRaster(320, 240, 3);
    for (let i = 0; i < ramp.data.length; i++) {
      const x = Math.floor(i / 3) % 320;
      ramp.data[i] = (Math.min(x, 319 - x) / 160) * WHITE;
    }
    const { raster, given } = await along({ height: ramp });
    const { stage } = runSteps(raster, null, [size()], { given });
    const maps = mapsOf(stage, { ...noMaps, normal: { strength: 1 } }, 160);
    // 160 mm over 160 pixels of 2 mm: a slope of one half, so x is −0.447
    expect(maps.normal!.data[(100 * 320 + 80) * 3] / 127.5 - 1).toBeCloseTo(-0.447, 2);
    expect(maps.height!.data).toBeInstanceOf(Uint16Array);
    expect(maps.height!.data[100 * 320 + 80] / WHITE).toBeCloseTo(0.5, 3);
  });

  test('dirt lies in the hollows of a given height', async () => {
    const steps = [size(), step('dirt', { place: 'joints', cover: 0.5, strength: 1, colour: '#000000' })];
    const sunk = blankRaster(320, 240, 3);
    for (let i = 0; i < sunk.data.length; i++) sunk.data[i] = Math.floor(i / 3) % 320 < 160 ? 0 : WHITE;
    const { raster, given } = await along({ height: sunk });
    const { stage } = runSteps(raster, null, steps, { given });
    const [{ amount }] = stage.coats.length ? stage.coats : [{ amount: new Uint8Array(0) }];
    const mean = (from: number) => {
      let sum = 0;
      for (let y = 0; y < 240; y++) for (let x = from; x < from + 120; x++) sum += amount[y * 320 + x];
      return sum / (240 * 120);
    };
    expect(mean(20)).toBeGreaterThan(4 * mean(180));
  });
});

test('boards take no maps along, and say so', async () => {
  const { raster, given } = await along({ roughness: plain(WHITE) });
  const board = {
    corners: [
      [0.1, 0.1],
      [0.9, 0.1],
      [0.9, 0.4],
      [0.1, 0.4],
    ],
    turns: 0,
    of: null,
  };
  const composing = step('compose', { boards: [board], lengthMm: 400, heightMm: 140, columns: 1 });
  const { stage, remarks } = runSteps(raster, null, [size(), composing], { given });
  expect(stage.given).toEqual([]);
  expect(remarks.map(({ text }) => text).join(' ')).toContain(
    'The maps that came with the picture do not go into boards',
  );
  expect(mapsOf(stage, noMaps)).toEqual({});
});

test('a picture with many maps may have fewer pixels, and says how many', async () => {
  const { raster, given } = await along({ normal: plain(WHITE), roughness: plain(WHITE) });
  const larger = step('resize', { to: { kind: 'density', pxPerMm: 12 } });
  expect(() => runSteps(raster, null, [size(), larger], { given })).toThrow(
    /7680 × 5760 pixels; 8 × 8 to at most 4579 × 4579 with the maps that go along are made/,
  );
  expect(() => runSteps(picture, null, [size(), step('crop')])).not.toThrow();
});

test('where maps stand, what they are called and how deep a height goes', () => {
  expect(channelsOf(['roughness', 'normal'])).toEqual([
    { role: 'normal', at: 4, count: 3 },
    { role: 'roughness', at: 7, count: 1 },
  ]);
  expect(givenChannels(noGiven)).toEqual([]);
  const map = { image: 'b'.repeat(64), widthPx: 8, heightPx: 8, file: 'x_height.png' };
  expect(reliefOf(noMaps, { maps: {}, reliefMm: 3 })).toBe(0);
  expect(reliefOf(noMaps, { maps: { height: map }, reliefMm: 3 })).toBe(3);
  expect(reliefOf(MAP_PRESETS[1].derived, { maps: { height: map }, reliefMm: 3 })).toBe(4);
});
