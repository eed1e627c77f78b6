import { areaInCommon } from '../geometry/booleans';
import type { Bounds2 } from '../geometry/bounds';
import { boundsOfLoops, type Loop } from '../geometry/loop';
import { traceOutline } from './outline';

/** Lying on one another by so little is a matter of rounding, mm. */
const SLACK = 0.5;
/** More facets are not looked at: what has so many is round, or cannot lie flat anyway. */
const MOST = 3000;

/** What lies on a sheet already, so that nothing is laid on top of it. */
export class Overlaps {
  private readonly laid: { outline: Loop[]; bounds: Bounds2 }[] = [];
  private last: { faces: readonly number[]; outline: Loop[] } | null = null;

  /** @param corners six numbers per face, sheet mm */
  constructor(private readonly corners: Float64Array) {}

  add(faces: readonly number[]): void {
    if (this.laid.length >= MOST) return;
    const outline = this.last?.faces === faces ? this.last.outline : traceOutline(this.corners, faces);
    if (outline.length) this.laid.push({ outline, bounds: boundsOfLoops(outline) });
  }

  /** Some faces would cover what lies there. */
  meets(faces: readonly number[]): boolean {
    if (this.laid.length >= MOST) return false;
    const outline = traceOutline(this.corners, faces);
    this.last = { faces, outline };
    if (!outline.length) return false;
    const b = boundsOfLoops(outline);
    return this.laid.some(({ outline: other, bounds: o }) => {
      const wide = Math.min(b.maxX, o.maxX) - Math.max(b.minX, o.minX);
      const high = Math.min(b.maxY, o.maxY) - Math.max(b.minY, o.minY);
      if (wide < SLACK || high < SLACK) return false;
      return areaInCommon(outline, other) > SLACK * Math.max(wide, high);
    });
  }
}
