import { takePhotograph, GROUNDS, plainShot } from '../picture/camera';
import { blankRaster, WHITE } from '../picture/raster';
import { deriveMaps, MAP_PRESETS } from './maps';
import { runSteps, type StageCache, StepError } from './run';
import { shareAt } from './steps/mask';
import { type Step, type StepKind, stepOf } from './steps/registry';

const shot = { ...plainShot, widthPx: 320, heightPx: 240, ruleMm: 0 };
const { raster } = takePhotograph(GROUNDS.plaster.ground, shot);
let count = 0;
const step = <K extends StepKind>(kind: K, change: object = {}): Step =>
  ({ id: `s${count++}`, on: true, mask: null, ...stepOf({ kind }).first, ...change }) as unknown as Step;
const sizeOf = (steps: Step[], ppi: number | null = null) => {
  const { raster: r, mmPerPx } = runSteps(raster, ppi, steps).stage;
  return mmPerPx && [r.width * mmPerPx[0], r.height * mmPerPx[1]].map((mm) => Math.round(mm * 1e6) / 1e6);
};

test('a picture knows its size by a line, by pieces, typed, by its resolution or by four corners', () => {
  expect(sizeOf([])).toBeNull();
  expect(sizeOf([], 254)![0]).toBeCloseTo(32, 9);
  expect(sizeOf([step('size', { by: { kind: 'line', from: [0, 0.5], to: [0.5, 0.5], lengthMm: 400 } })])).toEqual([
    800, 600,
  ]);
  expect(
    sizeOf([step('size', { by: { kind: 'count', from: [0.5, 0], to: [0.5, 1], count: 8, pieceMm: 75 } })])![1],
  ).toBeCloseTo(600, 9);
  expect(sizeOf([step('size', { by: { kind: 'typed', widthMm: 900, heightMm: 500 } })])).toEqual([900, 500]);
  const [w, h] = sizeOf([step('corners', { corners: shot.corners, widthMm: 1000, heightMm: 750 })])!;
  expect([Math.round(w), Math.round(h)]).toEqual([1000, 750]);
  const odd = runSteps(raster, null, [step('size', { by: { kind: 'typed', widthMm: 900, heightMm: 500 } })]).remarks;
  expect(odd[0].text).toContain('stretched');
});

test('the true size stays through crop, seam and resize', () => {
  const steps = [
    step('size', { by: { kind: 'line', from: [0, 0], to: [1, 0], lengthMm: 640 } }),
    step('crop', { from: [0, 0], to: [0.5, 1] }),
    step('seamless', { overlap: 0.25 }),
    step('resize', { to: { kind: 'density', pxPerMm: 0.4 } }),
  ];
  const { stage, remarks } = runSteps(raster, null, steps);
  expect(stage.raster.width).toBe(48 * 2);
  expect(stage.raster.width * stage.mmPerPx![0]).toBeCloseTo(240, 6);
  expect(stage.closes).toEqual({ across: true, down: true });
  expect(remarks).toEqual([]);
  const enlarged = runSteps(raster, null, [steps[0], step('resize', { to: { kind: 'density', pxPerMm: 2 } })]);
  expect(enlarged.remarks[0].text).toContain('beyond the picture’s own detail');
});

test('a step switched off in the middle is as if it were not there, and all after it follow', () => {
  const [size, crop, even, colour] = [step('size'), step('crop'), step('even'), step('colour', { exposure: 0.3 })];
  const off = runSteps(raster, null, [size, { ...crop, on: false }, even, colour]).stage.raster;
  const without = runSteps(raster, null, [size, even, colour]).stage.raster;
  expect(off.data).toEqual(without.data);
  expect(off.width).not.toBe(runSteps(raster, null, [size, crop, even, colour]).stage.raster.width);
});

test('a mask limits a step; what a cache remembers is what would be computed', () => {
  const mask = { kind: 'gradient' as const, from: [0, 0.5] as [number, number], to: [1, 0.5] as [number, number] };
  expect([shareAt(mask, -0.5, 0), shareAt(mask, 0.5, 0.2), shareAt(mask, 1.2, 0)]).toEqual([1, 0.5, 0]);
  const dark = step('colour', { exposure: -3, mask });
  const cache: StageCache = new Map();
  const { raster: r } = runSteps(raster, null, [dark], { cache }).stage;
  expect(r.data[0]).toBeLessThan(raster.data[0] * 0.6);
  expect(r.data[319 * 3]).toBeGreaterThan(raster.data[319 * 3] * 0.97);
  expect(runSteps(raster, null, [dark], { cache }).stage.raster).toBe(r);
  expect(runSteps(raster, null, [{ ...dark, id: 'other' }]).stage.raster.data).toEqual(r.data);
});

test('what cannot be done names its step and says what would be right', () => {
  const crossed = step('corners', {
    corners: [
      [0, 0],
      [1, 1],
      [1, 0],
      [0, 1],
    ],
  });
  expect(() => runSteps(raster, null, [crossed])).toThrow(StepError);
  expect(() => runSteps(raster, null, [crossed])).toThrow(/clockwise from the upper left/);
  expect(() => runSteps(raster, null, [step('resize', { to: { kind: 'density', pxPerMm: 1 } })])).toThrow(
    /measure it first/,
  );
  expect(() =>
    runSteps(raster, null, [step('size', { by: { kind: 'line', from: [0.5, 0.5], to: [0.5, 0.5], lengthMm: 10 } })]),
  ).toThrow(/too short/);
});

test('maps: normals have the true slope in millimetres, whatever the pixels', () => {
  const ramp = blankRaster(64, 64, 3);
  for (let i = 0; i < 64 * 64; i++) {
    const x = i % 64;
    ramp.data.fill(Math.round(((x < 32 ? x : 64 - x) / 32) * WHITE), i * 3, i * 3 + 3);
  }
  const derived = {
    ...MAP_PRESETS[0].derived,
    height: { ...MAP_PRESETS[0].derived.height!, low: 0, high: 1, reliefMm: 16 },
  };
  // 32 px of 0.5 mm rise 16 mm: 45°
  const { normal, height, occlusion, roughness } = deriveMaps(ramp, [0.5, 0.5], derived);
  const at = (32 * 64 + 16) * 3;
  expect(normal!.data[at] / 127.5 - 1).toBeCloseTo(-Math.SQRT1_2, 1);
  expect(normal!.data[at + 2] / 127.5 - 1).toBeCloseTo(Math.SQRT1_2, 1);
  expect(height!.data).toBeInstanceOf(Uint16Array);
  expect([occlusion!.channels, roughness!.channels]).toEqual([1, 1]);
});

test('maps made band by band are those made at once, noise and all', () => {
  const picture = takePhotograph(GROUNDS.brick.ground, { ...shot, widthPx: 160, heightPx: 230 }).raster;
  for (const { derived } of MAP_PRESETS) {
    const height = { ...derived.height!, noise: 0.1 };
    const d = { ...derived, height, opacity: { threshold: 0.5, soft: 0.1, invert: false } };
    const whole = deriveMaps(picture, [2, 2], d);
    const banded = deriveMaps(picture, [2, 2], d, { atATime: 160 * 100 });
    expect(Object.keys(banded)).toEqual(Object.keys(whole));
    for (const role of Object.keys(whole) as (keyof typeof whole)[]) {
      const [a, b] = [whole[role]!.data, banded[role]!.data];
      const most = a instanceof Uint16Array ? 65535 : 255;
      let worst = 0;
      for (let i = 0; i < a.length; i++) worst = Math.max(worst, Math.abs(a[i] - b[i]));
      expect(a.length).toBe(b.length);
      expect(worst / most).toBeLessThan(1.01 / 255);
    }
  }
});
