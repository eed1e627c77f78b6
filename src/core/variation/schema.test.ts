import Ajv from 'ajv';
import { ROLES } from '../material/schema';
import { plainVariation, stillMaps, VariationSpec } from './schema';

const valid = new Ajv({ strict: false }).compile(VariationSpec);
const ok = (rest: object) => valid({ ...plainVariation(), ...rest });

test('what a new surface starts with is valid, and plain', () => {
  const plain = plainVariation();
  expect(ok({})).toBe(true);
  expect(plain).toMatchObject({ on: true, shuffle: 1, turnStepDeg: 0, tiltDeg: 0, pins: [], deals: [], maps: null });
  expect(plain.sizePercent).toEqual({ from: 100, to: 100 });
  const { lightness, warmth, saturation } = plain.tone;
  expect([lightness, warmth, saturation]).toEqual([
    { from: -6, to: 6 },
    { from: -2, to: 2 },
    { from: 0, to: 0 },
  ]);
});

test.each<[string, object]>([
  ['a shuffle number below nothing', { shuffle: -1 }],
  ['one beyond 32 bits', { shuffle: 2 ** 31 }],
  ['a slide without its step', { slideAlong: { fromMm: 0, toMm: 5 } }],
  ['a slide beyond reason', { slideAcross: { fromMm: -100_001, toMm: 5, stepMm: 0 } }],
  ['a turn beyond half a round', { turnStepDeg: 181 }],
  ['a picture of a twentieth', { sizePercent: { from: 5, to: 100 } }],
  ['a picture eleven times as large', { sizePercent: { from: 100, to: 1100 } }],
  ['a leaf beyond the last there can be', { leaf: { column: 600, row: 0 } }],
  ['an overlap that leaves nothing', { overlapShare: 0.95 }],
  ['a tone beyond black', { tone: { ...plainVariation().tone, lightness: { from: -101, to: 0 } } }],
  ['a lean of eleven degrees', { tiltDeg: 11 }],
  ['maps that are none', { maps: ['gloss'] }],
  ['a pin without its piece', { pins: [{ print: 0, seed: 1 }] }],
  ['a pin of a print below nothing', { pins: [{ course: 0, index: 0, print: -1, seed: 1 }] }],
  ['a pin of a seed beyond 32 bits', { pins: [{ course: 0, index: 0, print: 0, seed: 2 ** 32 }] }],
  ['half a course', { deals: [{ course: 0.5, index: 0, deal: 1 }] }],
  ['dealt no times', { deals: [{ course: 0, index: 0, deal: 0 }] }],
])('%s is refused', (_what, rest) => expect(ok(rest)).toBe(false));

test.each<[string, object]>([
  ['slides', { slideAlong: { fromMm: -100_000, toMm: 100_000, stepMm: 5 }, slideAcross: null }],
  ['sizes', { sizePercent: { from: 10, to: 1000 } }],
  ['a leaf', { leaf: { column: 63, row: 63 } }],
  [
    'pins and deals',
    {
      pins: [{ course: -3, index: 2, print: 0, seed: 2 ** 32 - 1 }],
      deals: [{ course: -3, index: 2, deal: 1_000_000 }],
    },
  ],
  ['maps', { maps: [...ROLES] }],
])('%s at their limits are taken', (_what, rest) => expect(ok(rest)).toBe(true));

test('maps that do not move with the piece lie on the surface as a whole', () => {
  expect(stillMaps({ maps: null })).toEqual([]);
  expect(stillMaps({ maps: ['baseColour', 'normal'] })).toEqual(
    ROLES.filter((r) => r !== 'baseColour' && r !== 'normal'),
  );
  expect(stillMaps({ maps: [...ROLES] })).toEqual([]);
});
