import type { Vec3 } from '../geometry/vec';
import { RayGrid } from './RayGrid';

test('nothing beyond what is asked for is found, and nothing at all where nothing stands', () => {
  const wall = {
    origin: [0, 0, 1000] as Vec3,
    positions: Float32Array.of(-500, -500, 0, 500, -500, 0, 0, 500, 0),
    indices: Uint32Array.of(0, 1, 2),
  };
  const grid = new RayGrid([wall]);
  expect(grid.nearest([0, 0, 0], [0, 0, 1])).toBeCloseTo(1000, 6);
  expect(grid.nearest([0, 0, 2000], [0, 0, -1])).toBeCloseTo(1000, 6);
  expect(grid.nearest([0, 0, 0], [0, 0, 1], 999)).toBe(Infinity);
  expect(grid.nearest([0, 0, 0], [0, 0, -1])).toBe(Infinity);
  expect(new RayGrid([]).nearest([0, 0, 0], [0, 0, 1])).toBe(Infinity);
});
