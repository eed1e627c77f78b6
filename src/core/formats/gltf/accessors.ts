import { type Accessor, type Primitive, type TextureInfo } from '@gltf-transform/core';
import { type Transform } from '@gltf-transform/extensions';
import { type Matrix4, transformPoint } from '../../geometry/matrix';
import type { Box3, Vec3 } from '../../geometry/vec';

/** An accessor's elements as floats, whatever they are kept as. */
export function floatsOf(accessor: Accessor): Float32Array {
  const array = accessor.getArray();
  if (array instanceof Float32Array) return array;
  const size = accessor.getElementSize();
  const out = new Float32Array(accessor.getCount() * size);
  const element: number[] = [];
  for (let v = 0; v < accessor.getCount(); v++) out.set(accessor.getElement(v, element), v * size);
  return out;
}

/**
 * Places points; `out` may be `source` itself.
 * @param box grows to hold them, relative to the origin
 * @returns whether every coordinate is finite; where one is not, the box is left as it was
 */
export function placePoints(source: Float32Array, m: Matrix4, origin: Vec3, out: Float32Array, box: Box3): boolean {
  // by index: numbers that were destructured stay boxed all through the loop, which then takes three times as long
  const m0 = m[0];
  const m1 = m[1];
  const m2 = m[2];
  const m4 = m[4];
  const m5 = m[5];
  const m6 = m[6];
  const m8 = m[8];
  const m9 = m[9];
  const m10 = m[10];
  // float64 until the origin is taken away
  const tx = m[12] - origin[0];
  const ty = m[13] - origin[1];
  const tz = m[14] - origin[2];
  let x0 = box.min[0];
  let y0 = box.min[1];
  let z0 = box.min[2];
  let x1 = box.max[0];
  let y1 = box.max[1];
  let z1 = box.max[2];
  let sum = 0;
  const end = out.length;
  for (let i = 0; i < end; i += 3) {
    const x = source[i];
    const y = source[i + 1];
    const z = source[i + 2];
    const px = m0 * x + m4 * y + m8 * z + tx;
    const py = m1 * x + m5 * y + m9 * z + ty;
    const pz = m2 * x + m6 * y + m10 * z + tz;
    out[i] = px;
    out[i + 1] = py;
    out[i + 2] = pz;
    if (px < x0) x0 = px;
    if (px > x1) x1 = px;
    if (py < y0) y0 = py;
    if (py > y1) y1 = py;
    if (pz < z0) z0 = pz;
    if (pz > z1) z1 = pz;
    sum += px + py + pz;
  }
  if (!Number.isFinite(sum)) return false;
  box.min = [x0, y0, z0];
  box.max = [x1, y1, z1];
  return true;
}

export const accessorsOf = (primitive: Primitive): Accessor[] => {
  const indices = primitive.getIndices();
  return indices ? [indices, ...primitive.listAttributes()] : primitive.listAttributes();
};

export function textureScale(info: TextureInfo | null): [number, number] | undefined {
  const transform = info?.getExtension<Transform>('KHR_texture_transform');
  if (!transform) return undefined;
  const [x, y] = transform.getScale();
  return [x, y];
}

/** A part's origin for its vertices: its first one, placed. Near enough to all others for float32 to be exact. */
export function firstPoint(primitive: Primitive, matrix: Matrix4): Vec3 {
  const first = transformPoint(matrix, primitive.getAttribute('POSITION')!.getElement(0, [0, 0, 0]) as Vec3);
  return first.every(Number.isFinite) ? first : [0, 0, 0];
}
