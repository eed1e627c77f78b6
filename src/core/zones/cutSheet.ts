import earcut from 'earcut';
import polygonClipping, { type MultiPolygon } from 'polygon-clipping';
import type { Vec2, Vec3 } from '../geometry/vec';
import { CutMesh, type Shares, WHOLE_FACE } from '../mapping/refine';
import { measureSheet, type Sheet } from '../mapping/sheet';
import type { Frame } from '../mapping/types';
import { loopsOf, polygonsOf, type Strip, tidied } from './outlines';

/**
 * The part of a sheet inside or outside a region, as a sheet of its own. The model's mesh is not cut: faces on the
 * region's edge are cut in a copy.
 */
export function cutSheet(sheet: Sheet, region: MultiPolygon, keep: 'inside' | 'outside'): Sheet {
  const cutter = new Cutter(sheet);
  cutter.take(region, keep, null);
  const made = cutter.finish();
  // what is left of a surface keeps the whole one's bounds: drawing a zone on it must not move its pattern
  return keep === 'outside'
    ? { ...made, bounds: sheet.bounds, ring: sheet.ring, notes: sheet.notes, breaks: sheet.breaks }
    : made;
}

/** Bands along edges laid straight, one after the other along their outline. */
export function cutStrips(sheet: Sheet, strips: Strip[]): Sheet {
  const cutter = new Cutter(sheet);
  for (const strip of strips) cutter.take(strip.region, 'inside', strip);
  return cutter.finish();
}

class Cutter {
  private readonly made: CutMesh;
  private readonly corners: number[] = [];
  private readonly chartOf: number[] = [];
  private readonly frames: Frame[] = [];
  private readonly outlines: Vec2[][][] = [];

  constructor(private readonly sheet: Sheet) {
    this.made = new CutMesh(sheet.mesh);
  }

  /** Adds the faces of one region, each chart of the sheet giving a chart; `laid` turns and moves them. */
  take(region: MultiPolygon, keep: 'inside' | 'outside', laid: Strip | null): void {
    const { sheet } = this;
    const edges = edgesOf(region);
    const charts = new Map<number, number>();
    const move = laid ? straighten(laid) : null;
    for (let i = 0; i < sheet.faces.length; i++) {
      const c = sheet.corners.subarray(i * 6, i * 6 + 6);
      const polygons = this.partsOf(c, region, edges, keep);
      if (!polygons.length) continue;
      let chart = charts.get(sheet.chartOf[i]);
      if (chart === undefined) {
        chart = this.frames.length;
        charts.set(sheet.chartOf[i], chart);
        const { frame, outline } = sheet.charts[sheet.chartOf[i]];
        this.frames.push(move ? move.frame(frame) : frame);
        const whole = polygonsOf(outline);
        const left =
          keep === 'inside' ? polygonClipping.intersection(whole, region) : polygonClipping.difference(whole, region);
        this.outlines.push(loopsOf(left).map((loop) => (move ? loop.map(move.point) : loop)));
      }
      for (const polygon of polygons) {
        const faces = this.made.add(sheet.faces[i], polygon, (s) => {
          const at: Vec2 = [s[0] * c[0] + s[1] * c[2] + s[2] * c[4], s[0] * c[1] + s[1] * c[3] + s[2] * c[5]];
          this.corners.push(...(move ? move.point(at) : at));
        });
        for (let k = 0; k < faces; k++) this.chartOf.push(chart);
      }
    }
  }

  /** Convex parts of a triangle, as shares of its corners, in its own sense. */
  private partsOf(c: Float64Array, region: MultiPolygon, edges: Float64Array, keep: 'inside' | 'outside'): Shares[][] {
    const [minX, maxX] = [Math.min(c[0], c[2], c[4]), Math.max(c[0], c[2], c[4])];
    const [minY, maxY] = [Math.min(c[1], c[3], c[5]), Math.max(c[1], c[3], c[5])];
    let touched = false;
    for (let e = 0; e < edges.length && !touched; e += 4) {
      touched =
        Math.min(edges[e], edges[e + 2]) < maxX &&
        Math.max(edges[e], edges[e + 2]) > minX &&
        Math.min(edges[e + 1], edges[e + 3]) < maxY &&
        Math.max(edges[e + 1], edges[e + 3]) > minY;
    }
    if (!touched)
      return holds(edges, (c[0] + c[2] + c[4]) / 3, (c[1] + c[3] + c[5]) / 3) === (keep === 'inside')
        ? [WHOLE_FACE]
        : [];
    const det = (c[2] - c[0]) * (c[5] - c[1]) - (c[3] - c[1]) * (c[4] - c[0]);
    if (Math.abs(det) < 1e-9) return keep === 'outside' ? [WHOLE_FACE] : [];
    const triangle = [
      tidied([
        [c[0], c[1]],
        [c[2], c[3]],
        [c[4], c[5]],
      ]),
    ];
    const parts =
      keep === 'inside' ? polygonClipping.intersection(triangle, region) : polygonClipping.difference(triangle, region);
    const sharesOf = (p: readonly number[]): Shares => {
      const [x, y] = [p[0] - c[0], p[1] - c[1]];
      const b = (x * (c[5] - c[1]) - y * (c[4] - c[0])) / det;
      const g = (y * (c[2] - c[0]) - x * (c[3] - c[1])) / det;
      return [1 - b - g, b, g];
    };
    const out: Shares[][] = [];
    for (const polygon of parts) {
      const points = polygon.flatMap((ring) => ring.slice(0, -1));
      const holes: number[] = [];
      let n = 0;
      for (const ring of polygon.slice(0, -1)) holes.push((n += ring.length - 1));
      const found = earcut(points.flat(), holes);
      for (let f = 0; f < found.length; f += 3) {
        const t = [points[found[f]], points[found[f + 1]], points[found[f + 2]]];
        const turn = (t[1][0] - t[0][0]) * (t[2][1] - t[0][1]) - (t[1][1] - t[0][1]) * (t[2][0] - t[0][0]);
        const shares = t.map(sharesOf);
        // the triangle's own sense, whichever way the library goes round
        out.push(turn * det > 0 ? shares : [shares[0], shares[2], shares[1]]);
      }
    }
    return out;
  }

  finish(): Sheet {
    const mesh = this.made.finish();
    const source = Uint32Array.from(this.made.source, (face) => this.sourceOf(face));
    const faces = Uint32Array.from({ length: mesh.indices.length / 3 }, (_, i) => i);
    const frames = this.frames.length ? this.frames : [this.sheet.charts[0].frame];
    return measureSheet(mesh, source, faces, {
      corners: Float64Array.from(this.corners),
      chartOf: Uint32Array.from(this.chartOf),
      frames,
      groupOf: frames.map(() => 0),
      breaks: [],
      outlines: this.outlines,
    });
  }

  private places: Map<number, number> | null = null;

  /** The part's face that a face of the sheet's mesh is, or is cut from. */
  private sourceOf(face: number): number {
    this.places ??= new Map(Array.from(this.sheet.faces, (f, i) => [f, this.sheet.source[i]]));
    return this.places.get(face)!;
  }
}

function straighten({ from, direction: [c, s], along }: Strip) {
  const point = ([x, y]: Vec2): Vec2 => {
    const [dx, dy] = [x - from[0], y - from[1]];
    return [along + c * dx + s * dy, -s * dx + c * dy];
  };
  const mix = (a: Vec3, k: number, b: Vec3, l: number): Vec3 => [
    a[0] * k + b[0] * l,
    a[1] * k + b[1] * l,
    a[2] * k + b[2] * l,
  ];
  return {
    point,
    frame: ({ x, y, offset }: Frame): Frame => ({ x: mix(x, c, y, s), y: mix(x, -s, y, c), offset: point(offset) }),
  };
}

function edgesOf(region: MultiPolygon): Float64Array {
  const out: number[] = [];
  for (const polygon of region) {
    for (const ring of polygon) {
      for (let i = 0; i < ring.length; i++) {
        const [a, b] = [ring[i], ring[(i + 1) % ring.length]];
        if (a[0] !== b[0] || a[1] !== b[1]) out.push(a[0], a[1], b[0], b[1]);
      }
    }
  }
  return Float64Array.from(out);
}

/** A point is inside when an odd number of edges lies to its right. */
function holds(edges: Float64Array, x: number, y: number): boolean {
  let inside = false;
  for (let e = 0; e < edges.length; e += 4) {
    const [ax, ay, bx, by] = [edges[e], edges[e + 1], edges[e + 2], edges[e + 3]];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}
