import fc from 'fast-check';
import { readDigits } from './digits';

test.each([
  ['1200', 1200],
  ['1.25', 1.25],
  ['1,25', 1.25],
  ['.5', 0.5],
  [',5', 0.5],
  ['0,125', 0.125],
  ['12,5', 12.5],
  ['1,2000', 1.2],
  ['1,234.5', 1234.5],
  ['1.234,5', 1234.5],
  ['1,234,567', 1234567],
  ['1.234.567', 1234567],
  ['1 200', 1200],
  ['12 345,6', 12345.6],
  ['1.200', 1.2],
])('%s can only be %d, for someone who has not said', (text, value) => {
  expect(readDigits(text, null)).toEqual({ value });
});

test('a comma before three digits is asked, or read as it was said', () => {
  expect(readDigits('1,200', null)).toEqual({ either: [1200, 1.2] });
  expect(readDigits('1,200', '.')).toEqual({ value: 1200 });
  expect(readDigits('1,200', ',')).toEqual({ value: 1.2 });
  expect(readDigits('1.200', ',')).toEqual({ value: 1200 });
  expect(readDigits('1.200', '.')).toEqual({ value: 1.2 });
});

test.each(['1,23,4', '1.2,3.4', '1,2.3,4', '12,34.5'])('%s is no number', (text) => {
  expect(readDigits(text, '.')).toEqual({ wrong: `“${text}” is no number` });
});

test.each(['.', ','] as const)('what is written with decimals by %s is read back', (sign) => {
  const other = sign === '.' ? ',' : '.';
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 9_999_999 }), fc.integer({ min: 0, max: 99 }), (whole, hundredths) => {
      const groups = String(whole).replace(/\B(?=(\d{3})+$)/g, other);
      const text = `${groups}${sign}${String(hundredths).padStart(2, '0')}`;
      const read = readDigits(text, sign);
      expect('value' in read && Math.abs(read.value - whole - hundredths / 100) < 1e-6).toBe(true);
      expect(readDigits(groups, sign)).toEqual({ value: whole });
    }),
  );
});
