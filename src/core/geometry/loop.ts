import type { Bounds2 } from './bounds';
import type { Vec2 } from './vec';

/** A closed line without its last point repeated; counter-clockwise outside, clockwise round a hole. */
export type Loop = Vec2[];

/**
 * Signed area in the square of the loop's unit, positive counter-clockwise.
 * @example loopArea([[0, 0], [30, 0], [30, 20], [0, 20]]) // 600
 */
export function loopArea(loop: Loop): number {
  let sum = 0;
  for (let i = 0; i < loop.length; i++) {
    const [a, b] = [loop[i], loop[(i + 1) % loop.length]];
    sum += a[0] * b[1] - b[0] * a[1];
  }
  return sum / 2;
}

/** The rectangle round some loops; its sides are infinite the wrong way round where there are none. */
export function boundsOfLoops(loops: Loop[]): Bounds2 {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const loop of loops) {
    for (const [x, y] of loop) {
      minX = Math.min(minX, x);
      minY = Math.min(minY, y);
      maxX = Math.max(maxX, x);
      maxY = Math.max(maxY, y);
    }
  }
  return { minX, minY, maxX, maxY };
}

/**
 * A point lies inside when an odd number of edges, of all loops, lies to its right.
 * @example holdsPoint([[[0, 0], [9, 0], [9, 9], [0, 9]], [[3, 3], [3, 6], [6, 6], [6, 3]]], [4, 4]) // false
 */
export function holdsPoint(loops: Loop[], [x, y]: readonly [number, number]): boolean {
  let inside = false;
  for (const loop of loops) {
    for (let i = 0, j = loop.length - 1; i < loop.length; j = i++) {
      const [ax, ay] = loop[i];
      const [bx, by] = loop[j];
      if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
    }
  }
  return inside;
}

/** A point in a convex polygon of either sense, its corners two numbers each; on its border it lies inside. */
export function convexHolds(corners: ArrayLike<number>, [x, y]: readonly [number, number]): boolean {
  let left = 0;
  let right = 0;
  for (let i = 0; i < corners.length; i += 2) {
    const j = (i + 2) % corners.length;
    const side =
      (corners[j] - corners[i]) * (y - corners[i + 1]) - (corners[j + 1] - corners[i + 1]) * (x - corners[i]);
    if (side > 0) left++;
    else if (side < 0) right++;
  }
  return !left || !right;
}

/** How far a point lies outside a convex polygon of either sense, mm; below zero inside. */
export function outsideConvex(corners: ArrayLike<number>, [x, y]: readonly [number, number]): number {
  let [most, least] = [-Infinity, Infinity];
  for (let i = 0; i < corners.length; i += 2) {
    const j = (i + 2) % corners.length;
    const [dx, dy] = [corners[j] - corners[i], corners[j + 1] - corners[i + 1]];
    const long = Math.hypot(dx, dy);
    if (!long) continue;
    const right = (dy * (x - corners[i]) - dx * (y - corners[i + 1])) / long;
    most = Math.max(most, right);
    least = Math.min(least, right);
  }
  return Math.min(most, -least);
}

/**
 * Loops as polygons: each outer loop with the holes that lie straight in it. Islands within holes are polygons again,
 * however deep it goes.
 * @param sense 1 where outer loops run counter-clockwise, −1 where they run clockwise
 */
export function nestLoops(loops: Loop[], sense = 1): Loop[][] {
  const outer = loops
    .filter((loop) => loopArea(loop) * sense > 0)
    .map((loop) => ({ loop, area: Math.abs(loopArea(loop)), polygon: [loop] }))
    .sort((a, b) => a.area - b.area);
  for (const hole of loops.filter((loop) => loopArea(loop) * sense < 0)) {
    const area = Math.abs(loopArea(hole));
    // the smallest that holds it is the one it lies straight in
    outer.find((o) => o.area > area && mostlyHolds(o.loop, hole))?.polygon.push(hole);
  }
  return outer.map(({ polygon }) => polygon);
}

/** A loop may touch the one it lies in: more of its corners and of the middles of its sides lie inside than outside. */
function mostlyHolds(outer: Loop, inner: Loop): boolean {
  let inside = 0;
  inner.forEach(([x, y], i) => {
    const [u, v] = inner[(i + 1) % inner.length];
    if (holdsPoint([outer], [x, y])) inside++;
    if (holdsPoint([outer], [(x + u) / 2, (y + v) / 2])) inside++;
  });
  return inside > inner.length;
}
