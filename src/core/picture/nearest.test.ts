import { hashUnit } from '../noise/tiles';
import { Nearest } from './nearest';

const SIZE = 7;

/** Points in clumps, some of them twice, as windows of what is laid are. */
function points(count: number, seed: number): Float32Array {
  const out = new Float32Array(count * SIZE);
  for (let p = 0; p < count; p++) {
    const clump = Math.floor(hashUnit(p, seed, 1) * 9);
    for (let k = 0; k < SIZE; k++)
      out[p * SIZE + k] = hashUnit(clump, k, seed) + (p % 5 ? 0.2 * hashUnit(p, k, seed + 1) : 0);
  }
  return out;
}

const squared = (numbers: Float32Array, p: number, own: Float32Array): number => {
  let sum = 0;
  for (let k = 0; k < SIZE; k++) sum += (own[k] - numbers[p * SIZE + k]) ** 2;
  return sum;
};

test.each([1, 12, 13, 40, 700, 2500])('of %d points the nearest is what comparing all finds', (count) => {
  for (let seed = 1; seed < 5; seed++) {
    const numbers = points(count, seed);
    const tree = new Nearest(numbers, SIZE);
    for (let q = 0; q < 60; q++) {
      const own = Float32Array.from({ length: SIZE }, (_, k) => 1.2 * hashUnit(q, k, seed + 9));
      const counts = (p: number) => p % 3 !== q % 3;
      let least = Infinity;
      for (let p = 0; p < count; p++) if (counts(p)) least = Math.min(least, squared(numbers, p, own));
      expect(tree.distance(own, counts)).toBeCloseTo(least, 6);
    }
  }
});

test('where one near enough will do, it is told whether there is one; where there is none, the nearest', () => {
  const numbers = points(900, 2);
  const tree = new Nearest(numbers, SIZE);
  for (let q = 0; q < 300; q++) {
    const own = Float32Array.from({ length: SIZE }, (_, k) => 1.2 * hashUnit(q, k, 11));
    const counts = (p: number) => p % 3 !== q % 3;
    const exact = tree.distance(own, counts);
    for (const enough of [0, exact * 0.99, exact, exact * 1.01, 3]) {
      const found = tree.distance(own, counts, enough);
      if (exact > enough) expect(found).toBe(exact);
      else expect(found).toBeLessThanOrEqual(enough);
    }
  }
});

test('a point finds itself, and only what is asked for', () => {
  const numbers = points(300, 3);
  const tree = new Nearest(numbers, SIZE);
  for (let p = 0; p < 300; p++)
    expect(tree.distance(numbers.subarray(p * SIZE, (p + 1) * SIZE), (found) => found === p)).toBe(0);
  expect(tree.distance(numbers.subarray(0, SIZE), () => false)).toBe(Infinity);
});

test('points that all lie in one place end too', () => {
  const tree = new Nearest(new Float32Array(500 * SIZE).fill(0.5), SIZE);
  expect(tree.distance(new Float32Array(SIZE).fill(0.5), () => true)).toBe(0);
});
