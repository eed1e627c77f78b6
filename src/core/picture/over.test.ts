import { BLENDS, colourByHeight, coverWith, oneColour, scaleOf, tintedPicture } from './over';
import { blankPlane, blankRaster, WHITE } from './raster';

const rasterOf = (...pixels: [number, number, number][]) => {
  const r = blankRaster(pixels.length, 1, 3);
  pixels.flat().forEach((v, i) => (r.data[i] = Math.round(v * WHITE)));
  return r;
};
const heightsOf = (...values: number[]) => ({ ...blankPlane(values.length, 1), data: Float32Array.from(values) });
const shares = (data: Uint16Array) => [...data].map((v) => Math.round((v / WHITE) * 1000) / 1000);

test('blends, worked out by hand', () => {
  expect(BLENDS.multiply(0.5, 0.4)).toBeCloseTo(0.2, 12);
  expect(BLENDS.screen(0.5, 0.4)).toBeCloseTo(0.7, 12);
  expect(BLENDS.overlay(0.25, 0.4)).toBeCloseTo(0.2, 12);
  expect(BLENDS.overlay(0.75, 0.4)).toBeCloseTo(0.7, 12);
  expect(BLENDS.mix(0.9, 0.1)).toBe(0.1);
});

test('white multiplied and black screened leave everything as it is', () => {
  for (let k = 0; k <= 10; k++) {
    expect(BLENDS.multiply(k / 10, 1)).toBeCloseTo(k / 10, 12);
    expect(BLENDS.screen(k / 10, 0)).toBeCloseTo(k / 10, 12);
    expect(BLENDS.overlay(k / 10, 0.5)).toBeCloseTo(k / 10, 12);
  }
});

test('a scale is straight between its stops, even beyond them, whatever their order', () => {
  const scale = scaleOf([
    { at: 0.75, colour: '#ffffff' },
    { at: 0.25, colour: '#000000' },
  ]);
  const at = (t: number) => scale[Math.round(t * 1024) * 3];
  expect([0, 0.25, 0.5, 0.625, 0.75, 1].map(at)).toEqual([0, 0, 0.5, 0.75, 1, 1]);
});

test('stops at one place make a hard edge, the later from there on', () => {
  const scale = scaleOf([
    { at: 0.5, colour: '#000000' },
    { at: 0.5, colour: '#ffffff' },
  ]);
  expect([scale[511 * 3], scale[512 * 3], scale[1024 * 3]]).toEqual([0, 1, 1]);
});

test('a picture coloured by its height, at three places by hand', () => {
  const stops = [
    { at: 0, colour: '#000000' },
    { at: 1, colour: '#ffffff' },
  ];
  const r = rasterOf([0.8, 0.4, 0.2], [0.8, 0.4, 0.2], [0.8, 0.4, 0.2]);
  const { data } = colourByHeight(r, heightsOf(0, 0.5, 1), { stops, blend: 'multiply', strength: 0.5 });
  // half of it multiplied by 0, ½ and 1
  expect(shares(data)).toEqual([0.4, 0.2, 0.1, 0.6, 0.3, 0.15, 0.8, 0.4, 0.2]);
});

test('a cover lies as thick as is said, and opacity stays', () => {
  const r = blankRaster(2, 1, 4);
  r.data.set([WHITE, WHITE, WHITE, 1234, WHITE, WHITE, WHITE, 4321]);
  const { data } = coverWith(r, Uint8Array.from([0, 255]), oneColour('#ff0000'), 'multiply');
  expect([...data]).toEqual([WHITE, WHITE, WHITE, 1234, WHITE, 0, 0, 4321]);
});

test('another picture lies over in its own colours, or in one with its lightness, repeated', () => {
  const two = rasterOf([0.2, 0.4, 0.6], [0.6, 0.4, 0.2]);
  const at = (tint: number, x: number) => {
    const out = new Float64Array(3);
    tintedPicture(two, [10, 5], tint, '#ff0000')(x, 2, out);
    return [...out].map((v) => Math.round(v * 1000) / 1000);
  };
  expect([at(0, 2), at(0, 7), at(0, 12)]).toEqual([
    [0.2, 0.4, 0.6],
    [0.6, 0.4, 0.2],
    [0.2, 0.4, 0.6],
  ]);
  // the first is .3720 light, the second .4280: their mean is .4
  expect(at(1, 2)).toEqual([0.93, 0, 0]);
  expect(at(1, 7)).toEqual([1, 0, 0]);
});
