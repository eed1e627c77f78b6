import { sharedBy } from './sharedValue';
import { MIXED } from './ValueField';

test('what all share, or mixed', () => {
  const list = [
    { a: 1, b: [1, 2], c: { d: 1, e: 2 } },
    { a: 1, b: [1, 2], c: { e: 2, d: 1 } },
  ];
  expect(sharedBy(list, (l) => l.a)).toBe(1);
  expect(sharedBy(list, (l) => l.b)).toEqual([1, 2]);
  expect(sharedBy(list, (l) => l.c)).toEqual({ d: 1, e: 2 });
  expect(sharedBy([...list, { a: 2, b: [], c: { d: 1, e: 2 } }], (l) => l.a)).toBe(MIXED);
});

test('of nothing nothing is read', () => {
  const read = jest.fn();
  expect(sharedBy([], read)).toBeUndefined();
  expect(read).not.toHaveBeenCalled();
});

test('the first that differs ends it', () => {
  const read = jest.fn((n: number) => n);
  expect(sharedBy([1, 2, 3, 4], read)).toBe(MIXED);
  expect(read).toHaveBeenCalledTimes(2);
});
