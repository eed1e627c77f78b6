/** @jest-environment node */
import { Vector3 } from 'three';
import { cutOf } from './section';

const local = ([x, y, z]: readonly number[]) => new Vector3((x - 5000) / 1000, y / 1000, z / 1000);

test.each([
  [{ axis: 'x', atMm: 6000, other: false } as const, 5999, 6001],
  [{ axis: 'x', atMm: 6000, other: true } as const, 6001, 5999],
])('what lies on one side of %j stays', (section, kept, cut) => {
  const plane = cutOf(section, local);
  expect(plane.distanceToPoint(local([kept, 300, -20]))).toBeCloseTo(0.001, 6);
  expect(plane.distanceToPoint(local([cut, -9000, 7]))).toBeCloseTo(-0.001, 6);
});
