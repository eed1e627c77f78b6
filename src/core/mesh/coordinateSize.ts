import type { PartMesh } from './types';

/**
 * The real size of one unit of the first coordinate set, for each slot: how many millimetres lie under one picture of
 * the file. The mean over all faces, weighed by area, of the lengths of the map's two columns.
 *
 * @returns [width, height] in mm to the nearest millimetre, or null where a slot has no usable coordinates
 */
export function measureSlotCoordinates(parts: PartMesh[], slotCount: number): ([number, number] | null)[] {
  const sums = Array.from({ length: slotCount }, () => ({ u: 0, v: 0, area: 0 }));
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
      const sum = sums[slots[f]];
      sum.u += Math.sqrt(uu) * area;
      sum.v += Math.sqrt(vv) * area;
      sum.area += area;
    }
  }
  return sums.map(({ u, v, area }) => {
    if (!(area > 0)) return null;
    const size: [number, number] = [Math.round(u / area), Math.round(v / area)];
    return size.every((s) => s >= 1 && s < 1e6) ? size : null;
  });
}
