import polygonClipping, { type MultiPolygon, type Polygon } from 'polygon-clipping';
import type { Vec2 } from '../geometry/vec';
import { type Loop, nestLoops } from '../geometry/loop';
import { sheetPoint, type SheetSummary } from '../mapping/sheet';
import { keepsLevels } from '../setout/placement';
import type { BorderShape, HeightShape, ZoneShape } from './schema';

/** A straight edge of a sheet's outline; the surface lies to its left. */
export interface Edge {
  from: Vec2;
  to: Vec2;
  /** Numbers of the edges before and after it in its loop. */
  before: number;
  after: number;
}

/** A band along one edge, and how it is laid straight: turned by −angle about `from`, its start put at `along`. */
export interface Strip {
  region: MultiPolygon;
  from: Vec2;
  /** [cos, sin] of the edge. */
  direction: Vec2;
  /** Distance from the first strip's start, mm. */
  along: number;
}

/** Edges that turn by less than this go on straight, radians. */
const STRAIGHT = (1 * Math.PI) / 180;
const CIRCLE_SIDES = 96;
/** On this grid, mm, the library's sweep does not stumble over what is nearly in line. */
const GRID = 1e5;

export const tidied = (loop: readonly (readonly number[])[]): Vec2[] =>
  loop.map(([x, y]) => [Math.round(x * GRID) / GRID, Math.round(y * GRID) / GRID]);

/** The straight edges of a sheet, numbered through all its outlines. */
export function listEdges(sheet: SheetSummary): Edge[] {
  const edges: Edge[] = [];
  for (const loop of sheet.charts.flatMap((c) => c.outline)) {
    const corners = loop.filter((p, i) => {
      const [a, b] = [loop[(i + loop.length - 1) % loop.length], loop[(i + 1) % loop.length]];
      const turn = Math.atan2(
        (p[0] - a[0]) * (b[1] - p[1]) - (p[1] - a[1]) * (b[0] - p[0]),
        (p[0] - a[0]) * (b[0] - p[0]) + (p[1] - a[1]) * (b[1] - p[1]),
      );
      return Math.abs(turn) > STRAIGHT;
    });
    const n = corners.length;
    if (n < 3) continue;
    const first = edges.length;
    corners.forEach((from, i) =>
      edges.push({ from, to: corners[(i + 1) % n], before: first + ((i + n - 1) % n), after: first + ((i + 1) % n) }),
    );
  }
  return edges;
}

/** Outer loops less the holes in them, with what lies in those again. */
export function polygonsOf(outline: Loop[]): MultiPolygon {
  const polygons = nestLoops(outline.map(tidied)) as Polygon[];
  return polygons.some((p) => p.length > 1) ? polygonClipping.union(polygons) : polygons;
}

/**
 * Outer loops counter-clockwise, holes clockwise, as the library leaves them; it repeats the first point at the end.
 */
export const loopsOf = (region: MultiPolygon): Loop[] =>
  region.flatMap((polygon) => polygon.map((ring) => ring.slice(0, -1)));

const outlineOf = (sheet: SheetSummary): MultiPolygon => sheet.charts.flatMap(({ outline }) => polygonsOf(outline));

/**
 * The part of a sheet that a zone covers, in the sheet's own mm. Zones are drawn from the sheet's lower left corner.
 */
export function zonePolygons(shape: ZoneShape, sheet: SheetSummary): MultiPolygon {
  const { minX, minY } = sheet.bounds;
  const placed = (points: readonly (readonly number[])[]): MultiPolygon => [
    [tidied(points.map(([x, y]) => [x + minX, y + minY]))],
  ];
  switch (shape.kind) {
    case 'rectangle': {
      const { xMm: x, yMm: y, widthMm: w, heightMm: h } = shape;
      return placed([
        [x, y],
        [x + w, y],
        [x + w, y + h],
        [x, y + h],
      ]);
    }
    case 'circle':
      return placed(
        Array.from({ length: CIRCLE_SIDES }, (_, i) => {
          const a = (i / CIRCLE_SIDES) * 2 * Math.PI;
          return [shape.xMm + shape.radiusMm * Math.cos(a), shape.yMm + shape.radiusMm * Math.sin(a)];
        }),
      );
    case 'polygon':
      // a line that crosses itself encloses what it goes round an odd number of times
      return polygonClipping.union(placed(shape.points));
    case 'inset': {
      const bands = borderStrips(
        { kind: 'border', widthMm: shape.byMm, courses: null, edges: null, corners: 'mitred' },
        sheet,
      );
      const outline = outlineOf(sheet);
      return bands.length ? polygonClipping.difference(outline, ...bands.map((b) => b.region)) : outline;
    }
    case 'height':
      return besideHeight(shape, sheet);
    case 'border':
      return polygonClipping.union([], ...borderStrips(shape, sheet).map((b) => b.region));
  }
}

/**
 * What of a sheet lies below or above a height; nothing where a height of the world has no line on it, because it does
 * not stand upright.
 */
function besideHeight(
  { heightMm, from, levelMm, side, bandMm = Infinity }: HeightShape,
  sheet: SheetSummary,
): MultiPolygon {
  const { minX, minY, maxX, maxY } = sheet.bounds;
  if (from === 'level' && !keepsLevels(sheet)) return [];
  const y = from === 'foot' ? minY + heightMm : sheetPoint(sheet, [0, levelMm + heightMm, 0])[1];
  const [low, high] =
    side === 'below'
      ? [Math.max(minY, y - bandMm), Math.min(y, maxY)]
      : [Math.max(y, minY), Math.min(maxY, y + bandMm)];
  if (!(high > low)) return [];
  return [
    [
      [
        [minX, low],
        [maxX, low],
        [maxX, high],
        [minX, high],
      ],
    ],
  ];
}

/** Corners between these are square enough to be butted; others are always mitred, cosine of the turn. */
const SQUARE = 0.18;

/** The bands of a border, one for each edge, none over another. */
export function borderStrips({ widthMm: w, edges: chosen, corners }: BorderShape, sheet: SheetSummary): Strip[] {
  const edges = listEdges(sheet);
  const outline = outlineOf(sheet);
  const picked = new Set(chosen ?? edges.map((_, i) => i));
  const directionOf = ({ from, to }: Edge): Vec2 => {
    const l = Math.hypot(to[0] - from[0], to[1] - from[1]);
    return [(to[0] - from[0]) / l, (to[1] - from[1]) / l];
  };
  const lengthOf = ({ from, to }: Edge) => Math.hypot(to[0] - from[0], to[1] - from[1]);
  /** How an edge's band ends where it meets another: the offsets along the edge at its outer and inner line. */
  const ends = (n: number, other: number, atStart: boolean): [number, number] => {
    const [d, e] = [directionOf(edges[n]), directionOf(edges[other])];
    const turn = atStart ? e[0] * d[1] - e[1] * d[0] : d[0] * e[1] - d[1] * e[0];
    const straightness = d[0] * e[0] + d[1] * e[1];
    const outer = turn > 0;
    // alone at a corner, a band runs on to the outline, or stops square where the surface goes round it
    if (!picked.has(other)) return outer ? [w * 4, w * 4] : [0, 0];
    const through =
      lengthOf(edges[n]) > lengthOf(edges[other]) + 1e-6 ||
      (Math.abs(lengthOf(edges[n]) - lengthOf(edges[other])) <= 1e-6 && n % 2 === 0);
    if (corners === 'butted' && Math.abs(straightness) < SQUARE) {
      if (outer) return through ? [0, 0] : [-w, -w];
      return through ? [w, w] : [0, 0];
    }
    // the mitre: the inner line ends where both inner lines meet
    const back = w * Math.tan(Math.acos(Math.min(1, Math.max(-1, straightness))) / 2);
    return [0, outer ? -back : back];
  };
  let along = 0;
  const strips: Strip[] = [];
  edges.forEach((edge, n) => {
    if (!picked.has(n)) return;
    const d = directionOf(edge);
    const normal: Vec2 = [-d[1], d[0]];
    const l = lengthOf(edge);
    const [s0, s1] = ends(n, edge.before, true);
    const [e0, e1] = ends(n, edge.after, false);
    const at = (t: number, off: number): Vec2 => [
      edge.from[0] + d[0] * t + normal[0] * off,
      edge.from[1] + d[1] * t + normal[1] * off,
    ];
    const band = tidied([at(-s0, 0), at(l + e0, 0), at(l + e1, w), at(-s1, w)]);
    const region = polygonClipping.intersection([band], outline);
    if (region.length) strips.push({ region, from: edge.from, direction: d, along });
    along += l;
  });
  // in a narrow place bands of opposite edges would lie over each other: the earlier keeps it
  return strips.flatMap((strip, i) => {
    const earlier = strips.slice(0, i).map((s) => s.region);
    const region = earlier.length ? polygonClipping.difference(strip.region, ...earlier) : strip.region;
    return region.length ? [{ ...strip, region }] : [];
  });
}
