import fc from 'fast-check';
import { formatLength, parseAngle, parseLength, parseNumber, parseSize, type LengthUnit } from './length';

const mm = (text: string, unit: LengthUnit = 'mm') => {
  const parsed = parseLength(text, unit);
  if (!parsed.ok) throw new Error(parsed.error);
  return parsed.value;
};

describe('parseLength', () => {
  test.each([
    ['600', 600],
    ['1.2 m', 1200],
    ['1,2m', 1200],
    ['60cm', 600],
    ["2'", 609.6],
    [`7'6"`, 2286],
    [`7' 6`, 2286],
    [`3 1/2"`, 88.9],
    [`5 ft 3 in`, 1600.2],
    ['3*75+10', 235],
    ['(3*75 + 10) mm', 235],
    ['1 m - 2*150', 700],
    ['-40', -40],
    ['12.4 m / 8', 1550],
    ['2 × 3', 6],
  ])('%s is %p mm', (text, value) => expect(mm(text)).toBeCloseTo(value, 9));

  test('bare numbers take the unit of the project', () => {
    expect(mm('2', 'm')).toBe(2000);
    expect(mm('2', 'ft-in')).toBeCloseTo(50.8, 9);
    expect(mm('1.2 m + 30', 'cm')).toBe(1500);
  });

  test.each([
    ['', 'missing'],
    ['12 parsecs', 'not a unit'],
    ['3*', 'ends too early'],
    ['3/0', 'zero'],
    ['2 m * 3 m', 'two lengths'],
    ['(2', 'bracket'],
    ['5 5', 'not expected'],
    ['3 in 4 ft', 'cannot follow'],
    ['#', 'not understood'],
  ])('%p is refused with a reason', (text, reason) => {
    const parsed = parseLength(text, 'mm');
    expect(parsed).toEqual({ ok: false, error: expect.stringContaining(reason) });
  });
});

test('sizes, numbers and angles', () => {
  expect(parseSize('1200 x 190', 'mm')).toEqual({ ok: true, value: [1200, 190] });
  expect(parseSize(`2' by 1'`, 'mm')).toEqual({ ok: true, value: [609.6, 304.8] });
  expect(parseSize('1200', 'mm').ok).toBe(false);
  expect(parseNumber('3*4')).toEqual({ ok: true, value: 12 });
  expect(parseNumber('3 mm').ok).toBe(false);
  expect(parseAngle('22.5°')).toEqual({ ok: true, value: 22.5 });
});

test('what is written is read back', () => {
  const units: LengthUnit[] = ['mm', 'cm', 'm', 'in', 'ft-in'];
  fc.assert(
    fc.property(fc.double({ min: -1e6, max: 1e6, noNaN: true }), fc.constantFrom(...units), (value, unit) => {
      expect(Math.abs(mm(formatLength(value, unit), unit) - value)).toBeLessThan(0.06);
    }),
  );
});

test('feet and inches are written as trades write them', () => {
  expect(formatLength(2286, 'ft-in')).toBe(`7' 6"`);
  expect(formatLength(88.9, 'ft-in')).toBe(`3 1/2"`);
  expect(formatLength(609.6, 'ft-in')).toBe(`2'`);
  expect(formatLength(0, 'ft-in')).toBe(`0"`);
});
