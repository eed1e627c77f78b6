import fc from 'fast-check';
import { boxTriangles, preparedFrom } from '../testing/fixtures';
import { measureSurface } from './measureSurface';
import { pushFaces, PushError } from './push';

const wall = () => preparedFrom([{ name: 'Wall', triangles: boxTriangles([0, 0, 0], [4, 2.6, 0.24]) }]);

async function east() {
  const { parts } = await wall();
  const [part] = parts;
  return { part, end: part.surfaces.find((s) => s.normal[0] > 0.9)! };
}

test('a wall whose end is pushed by 40 is 40 longer, and its sides with it', async () => {
  const { part, end } = await east();
  const { mesh, along } = pushFaces(part.mesh, end.faces, 40);
  expect(along.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([1, 0, 0]);
  const sizes = part.surfaces.map((s) => measureSurface(mesh, s.faces));
  const grown = part.surfaces.map((s, i) => Math.round(sizes[i].area - s.area));
  const byFacing = new Map(part.surfaces.map((s, i) => [s.normal.map(Math.round).join(), grown[i]]));
  expect(byFacing.get('1,0,0')).toBe(0);
  expect(byFacing.get('-1,0,0')).toBe(0);
  expect(byFacing.get('0,0,1')).toBe(40 * 2600);
  expect(byFacing.get('0,1,0')).toBe(40 * 240);
});

test('nothing opens: pushed there and back it is as it was, whatever the length', async () => {
  const { part, end } = await east();
  fc.assert(
    fc.property(fc.double({ min: -3000, max: 5000, noNaN: true }), (by) => {
      const there = pushFaces(part.mesh, end.faces, by).mesh;
      const back = pushFaces(there, end.faces, -by).mesh;
      back.positions.forEach((v, i) => expect(Math.abs(v - part.mesh.positions[i])).toBeLessThan(0.01));
      expect([...there.indices]).toEqual([...part.mesh.indices]);
    }),
    { numRuns: 30 },
  );
});

test('faces of two sides are refused', async () => {
  const { part } = await east();
  const all = [0, part.mesh.indices.length / 3];
  expect(() => pushFaces(part.mesh, all, 10)).toThrow(PushError);
  expect(() => pushFaces(part.mesh, [], 10)).toThrow('there are no faces to push');
});
