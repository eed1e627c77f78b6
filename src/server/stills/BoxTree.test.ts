import fc from 'fast-check';
import { normalise, type Vec3 } from '@/core/geometry/vec';
import { RayGrid } from '@/core/mesh/RayGrid';
import { BoxTree } from './BoxTree';

const place = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -900, max: 900, noNaN: true }))) as fc.Arbitrary<Vec3>;
const triangles = fc.array(fc.tuple(place, place, place), { minLength: 1, maxLength: 60 });

test('meets the face a grid of cubes meets, at the same place of it', () => {
  fc.assert(
    fc.property(triangles, place, place, fc.boolean(), (faces, from, to, far) => {
      const direction = normalise([to[0] - from[0] || 1, to[1] - from[1], to[2] - from[2]]);
      // what lies far from the origin keeps its place
      const origin: Vec3 = far ? [4e6, 0, -3e6] : [0, 0, 0];
      const half = Math.ceil(faces.length / 2);
      const surfaces = [faces.slice(0, half), faces.slice(half)].map((some) => ({
        origin,
        positions: Float32Array.from(some.flat(2)),
        indices: Uint32Array.from({ length: some.length * 3 }, (_, n) => n),
      }));
      const start = from.map((v, c) => v + origin[c]) as Vec3;
      const one = new BoxTree(surfaces).meet(start, direction);
      const other = new RayGrid(surfaces).meet(start, direction);
      // on a face's very edge both are right
      const onEdge = other && Math.min(other.u, other.v, 1 - other.u - other.v) < 1e-4;
      fc.pre(!onEdge && !(one && Math.min(one.u, one.v, 1 - one.u - one.v) < 1e-4));
      expect(one === null).toBe(other === null);
      if (!one || !other) return;
      expect(one.distance).toBeCloseTo(other.distance, 1);
      if (one.face !== other.face) return expect(Math.abs(one.distance - other.distance)).toBeLessThan(0.05);
      expect(one.u).toBeCloseTo(other.u, 2);
      expect(one.v).toBeCloseTo(other.v, 2);
    }),
    { numRuns: 300, seed: 11 },
  );
});
