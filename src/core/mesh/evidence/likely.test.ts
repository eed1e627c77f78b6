import fc from 'fast-check';
import { logLikely, sharesOf, type SizeRange } from './likely';
import { heard } from './said';
import { thingNamed } from './things';

const DOOR: SizeRange[] = [[1950, 2450, 0.85]];

test('a density: it sums up to one over everything a number may come to', () => {
  let sum = 0;
  const step = 0.001;
  for (let at = Math.log(0.1); at < Math.log(1e8); at += step) sum += Math.exp(logLikely(Math.exp(at), DOOR)) * step;
  expect(sum).toBeCloseTo(1, 2);
});

test('the usual is likelier than the odd, and nothing is impossible', () => {
  expect(logLikely(2100, DOOR)).toBeGreaterThan(logLikely(3000, DOOR));
  expect(logLikely(3000, DOOR)).toBeGreaterThan(logLikely(51, DOOR));
  expect(Number.isFinite(logLikely(1e-3, DOOR))).toBe(true);
});

test('shares keep the order of what speaks for them', () => {
  fc.assert(
    fc.property(fc.array(fc.double({ min: -50, max: 50, noNaN: true }), { minLength: 1, maxLength: 6 }), (logs) => {
      const shares = sharesOf(logs);
      expect(shares.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
      for (let i = 1; i < logs.length; i++)
        expect(Math.sign(shares[i] - shares[0]) * Math.sign(logs[i] - logs[0])).not.toBe(-1);
    }),
  );
});

test.each([
  ['Boat door 02', 'door'],
  ['Holzstuhl', 'chair'],
  ['kitchen_table.003', 'table'],
  ['door handle', undefined],
  ['chair_leg_L', undefined],
  ['machine part', 'gear'],
  ['FrontDoor', 'door'],
  ['Mesh.017', undefined],
  ['', undefined],
])('“%s” speaks of: %s', (name, word) => {
  expect(thingNamed(name)?.words[0]).toBe(word);
});

test.each([
  ['units: mm', 'mm'],
  ['File units = meters', 'm'],
  ['Unit of measure: 1 inch', 'in'],
  ['All measures in centimetres', 'cm'],
  ['a unit cube', null],
  ['', null],
])('comment “%s” names %s', (notes, unit) => {
  expect(heard(notes).unit).toBe(unit);
});

test('who wrote it is a hint, not its word', () => {
  expect(heard('Exported by Some CAD 4')).toMatchObject({ unit: null, usual: { unit: 'mm' } });
});
