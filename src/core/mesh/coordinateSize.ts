import type { PartMesh } from './types';

/** Sizes are gathered by their logarithm in steps of half a percent, so that a million faces take no more room. */
const STEP = 0.005;
const LOW = Math.log(1e-3);
const STEPS = Math.ceil((Math.log(1e9) - LOW) / STEP);

/**
 * The real size of one unit of the first coordinate set, for each slot: how many millimetres lie under one picture of
 * the file. For each direction the area-weighted median of all faces: half of the area shows the picture smaller, half
 * larger, and a sliver whose coordinates run wild moves nothing.
 *
 * @returns [width, height] in mm to the nearest millimetre, or null where a slot has no usable coordinates
 */
export function measureSlotCoordinates(parts: PartMesh[], slotCount: number): ([number, number] | null)[] {
  const areas = Array.from({ length: slotCount }, () => null as Record<'u' | 'v', Histogram> | null);
  for (const { positions: p, indices, uvs, slots } of parts) {
    const uv = uvs[0];
    if (!uv) continue;
    for (let f = 0; f < slots.length; f++) {
      const [i, j, k] = [indices[f * 3], indices[f * 3 + 1], indices[f * 3 + 2]];
      const du1 = uv[j * 2] - uv[i * 2];
      const dv1 = uv[j * 2 + 1] - uv[i * 2 + 1];
      const du2 = uv[k * 2] - uv[i * 2];
      const dv2 = uv[k * 2 + 1] - uv[i * 2 + 1];
      const det = du1 * dv2 - du2 * dv1;
      if (Math.abs(det) < 1e-12) continue;
      let uu = 0;
      let vv = 0;
      const e: number[] = [];
      for (let c = 0; c < 3; c++) {
        const e1 = p[j * 3 + c] - p[i * 3 + c];
        const e2 = p[k * 3 + c] - p[i * 3 + c];
        uu += ((dv2 * e1 - dv1 * e2) / det) ** 2;
        vv += ((du1 * e2 - du2 * e1) / det) ** 2;
        e.push(e1, e2);
      }
      const area = Math.hypot(e[2] * e[5] - e[4] * e[3], e[4] * e[1] - e[0] * e[5], e[0] * e[3] - e[2] * e[1]) / 2;
      if (!(area > 0)) continue;
      const slot = (areas[slots[f]] ??= { u: new Histogram(), v: new Histogram() });
      slot.u.add(Math.sqrt(uu), area);
      slot.v.add(Math.sqrt(vv), area);
    }
  }
  return areas.map((slot) => {
    if (!slot) return null;
    const size: [number, number] = [Math.round(slot.u.median()), Math.round(slot.v.median())];
    return size.every((s) => s >= 1 && s < 1e6) ? size : null;
  });
}

/** Areas by size; of each step the mean size is kept, so that one size comes out as it went in. */
class Histogram {
  private readonly area = new Float64Array(STEPS);
  private readonly sized = new Float64Array(STEPS);
  private total = 0;

  add(size: number, area: number): void {
    const at = Math.max(0, Math.min(STEPS - 1, Math.floor((Math.log(size) - LOW) / STEP)));
    this.area[at] += area;
    this.sized[at] += area * size;
    this.total += area;
  }

  median(): number {
    let below = 0;
    let at = 0;
    while (at < STEPS - 1 && below + this.area[at] < this.total / 2) below += this.area[at++];
    // sizes that are one but for rounding lie in two steps
    const near = [at - 1, at, at + 1].filter((k) => this.area[k] > 0);
    const sum = (of: Float64Array) => near.reduce((n, k) => n + of[k], 0);
    return sum(this.sized) / sum(this.area);
  }
}
