import polygonClipping, { type MultiPolygon, type Polygon } from 'polygon-clipping';
import { Cells } from '../layout/cells';
import type { PieceRole } from '../layout/schema';
import { SHAPES } from '../layout/shapes';
import { type Loop, loopArea } from '../geometry/loop';
import type { SheetSummary } from '../mapping/sheet';
import type { Bodies } from './bodies';
import { type LayoutFrame, toSheet } from '../setout/layoutFrame';
import { INSIDE, openMask, OUTSIDE } from './mask';
import { blankAppearance, showPiece, type Appearance } from '../variation/appearance';
import { loopInLayout, type OpenPieces } from './openPieces';

/** A piece as it lies on the surface: whole, or sawn to fit. */
export interface CutPiece {
  course: number;
  index: number;
  role: PieceRole;
  /** Index into the surface's materials. */
  material: number;
  /** Loops on the sheet, mm; more than one where an opening goes through the piece or cuts it in two. */
  outline: Loop[];
  /** Nothing of it is sawn off. */
  whole: boolean;
  /** Of what lies on the surface, mm². */
  area: number;
  /** Of its share of the surface with half of each joint round it, mm². */
  cellArea: number;
  look: Appearance;
  /** Middle of the piece before it is cut and which way its length runs, on the sheet. */
  middle: [number, number];
  axis: [number, number];
  /** Which way its width runs; the other way round from the axis when the layout is mirrored. */
  across: [number, number];
  /** Before cutting, mm. */
  length: number;
  width: number;
}

/** A piece that lacks no more than this share of itself is whole: a hundredth of a millimetre off a brick. */
const WHOLE = 5e-5;
/** Less than this of a piece is dust, mm². */
const LEAST_AREA = 0.5;

/** Every piece of a surface with its true outline, in the order in which they are laid. */
export function cutPieces(open: OpenPieces, sheet: SheetSummary): CutPiece[] {
  const { layout, frame } = open;
  if (open.bodies) return modelledPieces(open, open.bodies);
  const shape = SHAPES[layout.shape];
  const [insetAlong, insetAcross] = layout.inset;
  const byKey = new Map<string, CutPiece>();
  for (const chart of sheet.charts) {
    const loops = chart.outline.map((loop) => loopInLayout(frame, loop));
    if (!loops.length) continue;
    const bounds = boundsOfLoops(loops);
    const mask = openMask(loops, bounds, Math.min(...layout.largest) / 2);
    const regionNear = cropped(polygonsOf(loops), 6 * Math.max(...layout.largest), Math.max(...layout.largest) * 1.5);
    const cells = new Cells((c) => {
      for (let n = 0; n < c.count; n++) {
        const [x, y, a, b] = [c.x[n], c.y[n], c.halfLength[n], c.halfWidth[n]];
        const [ax, ay] = layout.axes[c.axis[n]];
        const rx = Math.abs(a * ax) + Math.abs(b * ay);
        const ry = Math.abs(a * ay) + Math.abs(b * ax);
        const where = mask.classify(x - rx, y - ry, x + rx, y + ry);
        if (where === OUTSIDE) continue;
        const corners = (l: number, w: number): Loop =>
          pairs(shape.corners).map(([u, v]) => [x + u * l * ax - v * w * ay, y + u * l * ay + v * w * ax]);
        const pieceCorners = corners(a - insetAlong, b - insetAcross);
        const full = loopArea(pieceCorners);
        const cellFull = loopArea(corners(a, b));
        let outline: Loop[] = [pieceCorners];
        let area = full;
        let cellArea = cellFull;
        if (where !== INSIDE) {
          const region = regionNear(x, y);
          cellArea = areaOf(intersect(corners(a, b), region));
          if (cellArea < LEAST_AREA) continue;
          const cut = intersect(pieceCorners, region);
          area = areaOf(cut);
          // a border that only runs along the edge leaves the piece as it is
          outline = full - area < full * WHOLE ? [pieceCorners] : cut.flat().map(opened);
          if (area < LEAST_AREA) [area, outline] = [0, []];
        }
        const course = c.course[n];
        const index = c.index[n];
        const key = `${course},${index}`;
        const known = byKey.get(key);
        const onSheet = outline.map((loop) => loop.map(([u, v]) => toSheet(frame, u, v)));
        if (known) {
          known.outline.push(...onSheet);
          known.area += area;
          known.cellArea += cellArea;
          known.whole = !c.sawn[n] && full - known.area < full * WHOLE;
          continue;
        }
        const look = showPiece(open, course, index, x, y, [ax, ay], blankAppearance());
        byKey.set(key, {
          course,
          index,
          role: layout.roleOf(course, index),
          material: look.material,
          outline: onSheet,
          whole: !c.sawn[n] && full - area < full * WHOLE,
          area,
          cellArea,
          look,
          middle: toSheet(frame, x, y),
          axis: directionOnSheet(frame, ax, ay),
          across: directionOnSheet(frame, -ay, ax),
          length: 2 * (a - insetAlong),
          width: 2 * (b - insetAcross),
        });
      }
    });
    layout.fill(bounds, cells);
  }
  // what only joints cover is no piece
  return [...byKey.values()].filter((p) => p.area > 0);
}

/** Bodies of the mesh are as they are: all whole. */
function modelledPieces(open: OpenPieces, bodies: Bodies): CutPiece[] {
  const { layout, frame } = open;
  const out: CutPiece[] = [];
  const cells = new Cells((c) => {
    for (let n = 0; n < c.count; n++) {
      const axis = layout.axes[c.axis[n]];
      const outline = bodies.outline(c.index[n]);
      const area = outline.reduce((sum, loop) => sum + loopArea(loop), 0);
      const look = showPiece(open, 0, c.index[n], c.x[n], c.y[n], axis, blankAppearance());
      out.push({
        course: 0,
        index: c.index[n],
        role: 'body',
        material: look.material,
        outline,
        whole: true,
        area,
        cellArea: area,
        look,
        middle: toSheet(frame, c.x[n], c.y[n]),
        axis: directionOnSheet(frame, axis[0], axis[1]),
        across: directionOnSheet(frame, -axis[1], axis[0]),
        length: 2 * c.halfLength[n],
        width: 2 * c.halfWidth[n],
      });
    }
  });
  layout.fill({ minX: -Infinity, minY: -Infinity, maxX: Infinity, maxY: Infinity }, cells);
  return out;
}

function directionOnSheet(frame: LayoutFrame, ax: number, ay: number): [number, number] {
  const { m } = frame;
  return [m[0] * ax + m[2] * ay, m[1] * ax + m[3] * ay];
}

function pairs(flat: readonly number[]): [number, number][] {
  return Array.from({ length: flat.length / 2 }, (_, i) => [flat[i * 2], flat[i * 2 + 1]]);
}

export function boundsOfLoops(loops: Loop[]) {
  const xs = loops.flat();
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x, y] of xs) {
    minX = Math.min(minX, x);
    minY = Math.min(minY, y);
    maxX = Math.max(maxX, x);
    maxY = Math.max(maxY, y);
  }
  return { minX, minY, maxX, maxY };
}

/** Outer loops with the holes that lie in them. In a mirrored frame outer loops run clockwise; the largest is outer. */
function polygonsOf(loops: Loop[]): MultiPolygon {
  const sense = Math.sign(loopArea(loops.reduce((a, b) => (Math.abs(loopArea(b)) > Math.abs(loopArea(a)) ? b : a))));
  const outer = loops.filter((l) => loopArea(l) * sense > 0).map((l): Polygon => [l]);
  for (const hole of loops.filter((l) => loopArea(l) * sense < 0)) {
    (outer.find(([o]) => holds(o as Loop, hole[0])) ?? outer[0]).push(hole);
  }
  return outer;
}

/**
 * The part of a region round a point, cut out once for each square: a wall with arches has hundreds of corners, of
 * which a brick meets a few.
 */
function cropped(region: MultiPolygon, size: number, margin: number): (x: number, y: number) => MultiPolygon {
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

function holds(loop: Loop, [x, y]: readonly [number, number]): boolean {
  let inside = false;
  for (let i = 0, j = loop.length - 1; i < loop.length; j = i++) {
    const [ax, ay] = loop[i];
    const [bx, by] = loop[j];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}

/** On a grid of a hundredth of a micrometre the library's sweep does not stumble over what is nearly in line. */
const tidy = (v: number) => Math.round(v * 1e5) / 1e5;
const tidied = (loop: Loop): Loop => loop.map(([x, y]) => [tidy(x), tidy(y)]);

function intersect(piece: Loop, region: MultiPolygon): MultiPolygon {
  return polygonClipping.intersection(
    [tidied(piece)],
    region.map((p) => p.map((l) => tidied(l as Loop))),
  ) as MultiPolygon;
}

const areaOf = (multi: MultiPolygon): number =>
  multi.reduce((sum, [outer, ...holes]) => sum + ringArea(outer) - holes.reduce((n, h) => n + ringArea(h), 0), 0);
const ringArea = (ring: [number, number][]) => Math.abs(loopArea(opened(ring)));

/** The library repeats the first point at the end. */
const opened = (ring: [number, number][]): Loop => ring.slice(0, -1);
