import fc from 'fast-check';
import {
  formatArea,
  formatLength,
  namesIn,
  parseAngle,
  parseLength,
  parseNumber,
  parseQuantity,
  parseSize,
  sidesOf,
  trimNumber,
  type LengthUnit,
} from './length';

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

  test('what can be read in two ways is given both ways, unless the sign was said', () => {
    expect(parseLength('1,200', 'mm', null)).toEqual({
      ok: false,
      error: '“1,200” can be 1200 or 1.2',
      either: [1200, 1.2],
    });
    expect(parseLength('2 * 1,200 mm + 5', 'mm', null)).toMatchObject({ either: [2405, 7.4] });
    expect(mm('1,200')).toBe(1200);
    expect(parseLength('1.200,5', 'mm', ',')).toEqual({ ok: true, value: 1200.5 });
    expect(mm('1 200')).toBe(1200);
    expect(mm('3 100/128"')).toBeCloseTo(96.04375, 9);
  });

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
  expect(parseSize('25', 'cm')).toEqual({ ok: true, value: [250, 250] });
  expect(parseSize('1 x 2 x 3', 'mm').ok).toBe(false);
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

describe('sums of lengths and numbers', () => {
  test.each([
    // numbers as people write them
    ['.5 m', 500],
    [',25 m', 250],
    ['.125', 0.125],
    ['1e3', 1000],
    ['1.5e+2', 150],
    ['25e-1', 2.5],
    ['1e12 mm', 1e12],
    ['  5  ', 5],
    ['5 MM', 5],
    ['2 Feet', 609.6],
    ['10 ÷ 4', 2.5],
    ['9 − 4', 5],
    // signs before numbers
    ['+5', 5],
    ['3 * +2', 6],
    ['4 - -3', 7],
    // brackets, with a unit behind them or without
    ['(1 + 2) m', 3000],
    ['(1 m + 2 m)', 3000],
    ['2 * (3 + 4)', 14],
    ['(2) * (3)', 6],
    // what is a length after a product or a quotient
    ['2 * 3 m', 6000],
    ['3 m * 2', 6000],
    ['3 m / 2 m', 1.5],
    ['6 m / 3', 2000],
    ['10 / 4', 2.5],
    // fractions after whole numbers
    [`2 3/4 in`, 69.85],
    [`1 ft 2 1/2 in`, 368.3],
    [`1' 6 1/2`, 469.9],
    ['3 / 2', 1.5],
  ])('%s is %p mm', (text, value) => expect(mm(text)).toBeCloseTo(value, 9));

  test('a plain number in a sum takes the unit of the project, a product’s factor does not', () => {
    expect(mm('2 * 3', 'm')).toBe(6000);
    expect(mm('2 * 3 cm', 'm')).toBe(60);
    expect(mm('1 + 3 cm', 'm')).toBe(1030);
    expect(mm('3 m / 2 m', 'cm')).toBe(15);
    expect(mm('(1 + 2) cm', 'm')).toBe(30);
  });

  test.each([
    ['5 # 7', '“# 7” is not understood'],
    ['5 # 7  ', '“# 7” is not understood'],
    ['5 ft 3 ft', '“ft” cannot follow here'],
    ['1 m 5', 'a sign is missing between two numbers'],
    ['1 m * 2 m', 'two lengths cannot be multiplied here'],
    ['3 / 2 m', 'a number cannot be divided by a length here'],
    ['1e999', 'the result is not a finite number'],
    ['1e308*10', 'the result is not a finite number'],
    ['(3', 'a closing bracket is missing'],
    ['3 )', '“)” is not expected here'],
    ['* 3', 'a number is expected before “*”'],
    ['3 *', 'the sum ends too early'],
    ['   ', 'a length is missing'],
    ['3 miles', '“miles” is not a unit; use mm, cm, m, in, ft, \' or "'],
    ['3 constructor', '“constructor” is not a unit; use mm, cm, m, in, ft, \' or "'],
  ])('%p: %s', (text, error) => expect(parseLength(text, 'mm')).toEqual({ ok: false, error }));
});

test('numbers alone: lengths are refused, with the reason', () => {
  expect(parseNumber('(2 + 3) / 4')).toEqual({ ok: true, value: 1.25 });
  expect(parseNumber('3 mm / 2 mm')).toEqual({ ok: true, value: 1.5 });
  expect(parseNumber('3 mm')).toEqual({ ok: false, error: 'a number without a unit is expected' });
  expect(parseNumber('3 mm + 2')).toEqual({
    ok: false,
    error: 'a length cannot be added to a plain number here',
  });
  expect(parseNumber(' ')).toEqual({ ok: false, error: 'a number is missing' });
});

test('sizes: both sides, each with its own fault', () => {
  expect(parseSize('60x30', 'cm')).toEqual({ ok: true, value: [600, 300] });
  expect(parseSize('60 cm  ×  1 ft', 'mm')).toEqual({ ok: true, value: [600, 304.8] });
  expect(parseSize('2 by 3', 'm')).toEqual({ ok: true, value: [2000, 3000] });
  expect(parseSize(' x 30', 'mm')).toEqual({ ok: false, error: 'a length is missing' });
  expect(parseSize('30 x', 'mm')).toEqual({ ok: false, error: 'a length is missing' });
  expect(parseSize('30 x 2 ells', 'mm')).toMatchObject({ ok: false, error: expect.stringContaining('ells') });
  expect(parseSize('1 x 2 x 3', 'mm')).toEqual({
    ok: false,
    error: 'two lengths are expected, such as 1200 x 190',
  });
});

test('angles, with their sign or without', () => {
  for (const text of ['30', '30°', '30 °', '30deg', '30 degrees', '30 DEG ', '60/2°'])
    expect(parseAngle(text)).toEqual({ ok: true, value: 30 });
  expect(parseAngle('30° 5').ok).toBe(false);
});

test('numbers are written without what says nothing', () => {
  expect([2, 2.5, 2.504, 200, 0.001, -0.001, 1000].map((v) => trimNumber(v, 2))).toEqual([
    '2',
    '2.5',
    '2.5',
    '200',
    '0',
    '0',
    '1000',
  ]);
  expect([100, 1050, -0.4, -20].map((v) => trimNumber(v, 0))).toEqual(['100', '1050', '0', '-20']);
});

test('lengths are written in the unit asked for, with it or without', () => {
  expect(formatLength(1234.5678, 'mm')).toBe('1234.57 mm');
  expect(formatLength(1234.5678, 'cm')).toBe('123.457 cm');
  expect(formatLength(1234.5678, 'm')).toBe('1.2346 m');
  expect(formatLength(25.4, 'in')).toBe('1 in');
  expect(formatLength(1234.5678, 'mm', { withUnit: false })).toBe('1234.57');
  expect(formatLength(1234.5678, 'mm', { decimals: 0 })).toBe('1235 mm');
  expect(formatLength(1234.5678, 'mm', { withUnit: true, decimals: 1 })).toBe('1234.6 mm');
  expect(formatLength(NaN, 'mm')).toBe('–');
  expect(formatLength(Infinity, 'ft-in')).toBe('–');
});

test('feet and inches: halves to sixteenths as fractions, all else in decimals', () => {
  const inches = (n: number) => formatLength(n * 25.4, 'ft-in');
  expect([0.5, 0.25, 0.0625, 1.5, 12, 12.5, 13, 30.125].map(inches)).toEqual([
    '1/2"',
    '1/4"',
    '1/16"',
    '1 1/2"',
    `1'`,
    `1' 1/2"`,
    `1' 1"`,
    `2' 6 1/8"`,
  ]);
  expect(inches(1.3)).toBe('1.3"');
  expect(inches(14.3)).toBe(`1' 2.3"`);
  expect(inches(-14.3)).toBe(`-1' 2.3"`);
  expect(inches(-1.5)).toBe('-1 1/2"');
  expect(inches(-30)).toBe(`-2' 6"`);
  // a thousandth of an inch is where fractions end
  expect(inches(0.5 + 0.0009)).toBe('1/2"');
  expect(inches(0.5 + 0.0011)).toBe('0.501"');
});

test('areas: square metres, and square feet for those who think in inches', () => {
  expect(formatArea(12_345_678, 'mm')).toBe('12.35 m²');
  expect(formatArea(1e6, 'cm')).toBe('1 m²');
  expect(formatArea(2e6, 'm')).toBe('2 m²');
  expect(formatArea(304.8 ** 2 * 3, 'in')).toBe('3 sq ft');
  expect(formatArea(304.8 ** 2 * 2.5, 'ft-in')).toBe('2.5 sq ft');
});

describe('names in sums', () => {
  const names = new Map([
    ['module', { value: 600, isLength: true }],
    ['rows', { value: 4, isLength: false }],
    ['box', { value: 50, isLength: true }],
  ]);

  test('stand for what they are, with units and signs round them', () => {
    expect(parseLength('module/4 - 3', 'mm', '.', names)).toEqual({ ok: true, value: 147 });
    expect(parseLength('2 * (module + 1 cm) / rows', 'm', '.', names)).toEqual({ ok: true, value: 305 });
    expect(parseNumber('rows * 2', '.', names)).toEqual({ ok: true, value: 8 });
    expect(parseNumber('module', '.', names).ok).toBe(false);
  });

  test('an x within a word parts no size', () => {
    expect(sidesOf('box x 65')).toEqual(['box', '65']);
    expect(parseSize('box * 2 × module/4', 'mm', '.', names)).toEqual({ ok: true, value: [100, 150] });
    expect(parseSize('1200x190', 'mm')).toEqual({ ok: true, value: [1200, 190] });
  });

  test('what is no name is said', () => {
    expect(parseLength('modul', 'mm', '.', names)).toMatchObject({ ok: false });
    expect(namesIn('module/4 mm - joint_2 + 3"')).toEqual(['module', 'joint_2']);
    expect(parseQuantity('rows + 1', 'mm', '.', names)).toEqual({ ok: true, of: { value: 5, isLength: false } });
    expect(parseQuantity('', 'mm', '.', names)).toMatchObject({ ok: false });
  });
});
