/** @jest-environment node */
import { Box3, Ray, Vector3 } from 'three';
import { EYE, type Feel, walk } from './walk';

/** A floor of 10 × 10 m, a wall across at z = −3, a stair of three steps of 180 mm at x = 3, and a table's edge. */
const boxes = [
  new Box3(new Vector3(-5, -1, -5), new Vector3(5, 0, 5)),
  new Box3(new Vector3(-5, 0, -3.2), new Vector3(5, 3, -3)),
  new Box3(new Vector3(3, 0, -1), new Vector3(5, 0.18, 1)),
  new Box3(new Vector3(3.3, 0, -1), new Vector3(5, 0.36, 1)),
  new Box3(new Vector3(3.6, 0, -1), new Vector3(5, 0.54, 1)),
  new Box3(new Vector3(-4, 0.7, 1), new Vector3(-3, 0.75, 4)),
];
const feel: Feel = (from, direction) => {
  let best: { distance: number; normal: Vector3 } | null = null;
  for (const box of boxes) {
    const hit = new Ray(from, direction).intersectBox(box, new Vector3());
    const distance = hit?.distanceTo(from) ?? 0;
    if (!hit || distance < 1e-9 || (best && best.distance <= distance)) continue;
    const normal = new Vector3();
    for (const axis of ['x', 'y', 'z'] as const)
      if (Math.abs(hit[axis] - box.max[axis]) < 1e-9) normal[axis] = 1;
      else if (Math.abs(hit[axis] - box.min[axis]) < 1e-9) normal[axis] = -1;
    best = { distance, normal: normal.normalize() };
  }
  return best;
};
const go = (from: Vector3, by: Vector3, steps: number) => {
  let eye = from;
  for (let n = 0; n < steps; n++) eye = walk(eye, by, feel);
  return eye;
};

describe('walking', () => {
  const start = new Vector3(0, EYE, 0);

  it('goes where it is free, at the height of the eyes', () => {
    const eye = go(start, new Vector3(0, 0, 0.1), 10);
    expect(eye.z).toBeCloseTo(1);
    expect(eye.y).toBeCloseTo(EYE);
  });

  it('stops before a wall, and goes along it', () => {
    const stopped = go(start, new Vector3(0, 0, -0.1), 60);
    expect(stopped.z).toBeGreaterThan(-2.8);
    expect(stopped.z).toBeLessThan(-2.5);
    const along = go(start, new Vector3(0.05, 0, -0.1), 50);
    expect(along.z).toBeGreaterThan(-2.8);
    expect(along.x).toBeGreaterThan(2);
  });

  it('goes up a stair and down again', () => {
    const up = go(start, new Vector3(0.1, 0, 0), 42);
    expect(up.x).toBeGreaterThan(4);
    expect(up.y).toBeCloseTo(0.54 + EYE);
    const down = go(up, new Vector3(-0.1, 0, 0), 42);
    expect(down.y).toBeCloseTo(EYE);
  });

  it('gets onto no table, and off the edge stays at its height', () => {
    const beside = go(new Vector3(-3.5, EYE, 0), new Vector3(0, 0, 0.1), 40);
    expect(beside.z).toBeLessThan(1.01);
    expect(beside.y).toBeCloseTo(EYE);
    const off = go(new Vector3(0, EYE, 4.8), new Vector3(0, 0, 0.1), 10);
    expect(off.z).toBeGreaterThan(5.5);
    expect(off.y).toBeCloseTo(EYE);
  });
});
