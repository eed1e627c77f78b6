import polygonClipping, { type MultiPolygon } from 'polygon-clipping';
import { type Loop, loopArea, nestLoops } from '../geometry/loop';

/** Polygons of a surface's outline. In a mirrored frame outer loops run clockwise; the largest is outer. */
export function polygonsInFrame(loops: Loop[]): MultiPolygon {
  const largest = loops.reduce((a, b) => (Math.abs(loopArea(b)) > Math.abs(loopArea(a)) ? b : a));
  return nestLoops(loops, Math.sign(loopArea(largest))) as MultiPolygon;
}

/**
 * The part of a region round a point, cut out once for each square: a wall with arches has hundreds of corners, of
 * which a brick meets a few.
 */
export function cropped(region: MultiPolygon, size: number, margin: number): (x: number, y: number) => MultiPolygon {
  if (region.flat(2).length < 40) return () => region;
  const known = new Map<string, MultiPolygon>();
  return (x, y) => {
    const [c, r] = [Math.floor(x / size), Math.floor(y / size)];
    const key = `${c},${r}`;
    let part = known.get(key);
    if (!part) {
      const [x0, y0] = [c * size - margin, r * size - margin];
      const [x1, y1] = [(c + 1) * size + margin, (r + 1) * size + margin];
      part = intersect(
        [
          [x0, y0],
          [x1, y0],
          [x1, y1],
          [x0, y1],
        ],
        region,
      );
      known.set(key, part);
    }
    return part;
  };
}

/** On a grid of a hundredth of a micrometre the library's sweep does not stumble over what is nearly in line. */
const tidy = (v: number) => Math.round(v * 1e5) / 1e5;
const tidied = (loop: Loop): Loop => loop.map(([x, y]) => [tidy(x), tidy(y)]);

export function intersect(piece: Loop, region: MultiPolygon): MultiPolygon {
  return polygonClipping.intersection(
    [tidied(piece)],
    region.map((p) => p.map((l) => tidied(l as Loop))),
  ) as MultiPolygon;
}

export const areaOf = (multi: MultiPolygon): number =>
  multi.reduce((sum, [outer, ...holes]) => sum + ringArea(outer) - holes.reduce((n, h) => n + ringArea(h), 0), 0);
const ringArea = (ring: [number, number][]) => Math.abs(loopArea(opened(ring)));

/** The library repeats the first point at the end. */
export const opened = (ring: [number, number][]): Loop => ring.slice(0, -1);
