import { fileSetOf } from '../fileSet';
import { readModel } from '../readModel';
import { parseMtl } from './mtl';

const text = (s: string) => new TextEncoder().encode(s);
const read = (obj: string, more: Record<string, Uint8Array> = {}) =>
  readModel(fileSetOf({ 'house.obj': text(obj), ...more }));

function area(part: { positions: Float32Array; indices: Uint32Array }): number {
  let sum = 0;
  const p = part.positions;
  for (let i = 0; i < part.indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => part.indices[i + k] * 3);
    sum += ((p[b] - p[a]) * (p[c + 1] - p[a + 1]) - (p[b + 1] - p[a + 1]) * (p[c] - p[a])) / 2;
  }
  return sum;
}

test('concave polygons, negative indices, joined lines', async () => {
  const { parts } = await read('v 0 0 0\nv 4 0 0\nv 4 4 0\nv 2 1 0\nv 0 4 0\nf -5 -4 \\\n -3 -2 -1\n');
  // the arrow-like polygon: 16 less the notch of 6
  expect(area(parts[0])).toBeCloseTo(10);
});

test('objects, groups and slots', async () => {
  const obj =
    'mtllib m.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nv 1 1 0\no Wall\nusemtl ' +
    'Brick\nf 1 2 3\nusemtl Lime\nf 2 4 3\no Sill\nf 1 2 4\nl 1 2\n';
  const model = await read(obj);
  expect(model.parts.map((p) => p.name)).toEqual(['Wall', 'Sill']);
  expect(model.slots.map((s) => s.name)).toEqual(['Brick', 'Lime']);
  expect([...model.parts[0].slots]).toEqual([0, 1]);
  expect(model.remarks.map((r) => r.text).join()).toMatch(/m\.mtl.*did not come/);
  expect(model.remarks).toContainEqual({ kind: 'left out', text: '1 line' });
  const grouped = await read('v 0 0 0\nv 1 0 0\nv 0 1 0\ng a\nf 1 2 3\ng b\nf 1 3 2\n');
  expect(grouped.parts.map((p) => p.name)).toEqual(['a', 'b']);
});

test('MTL with pictures, options and missing ones', async () => {
  const mtl = 'newmtl Brick\nKd 0.5 0.25 0.1\nd 0.5\nmap_Kd -s 2 2 2 brick face.png\nmap_Bump -bm 0.4 bump.png\n';
  const model = await read('mtllib m.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nusemtl Brick\nf 1 2 3\n', {
    'm.mtl': text(mtl),
    'maps/Brick Face.png': new Uint8Array(100),
  });
  expect(model.slots[0]).toMatchObject({ colour: [0.5, 0.25, 0.1, 0.5], textureScale: [2, 2] });
  expect(model.slots[0].pictures).toMatchObject({ baseColour: 'brick face.png', height: 'bump.png' });
  expect(model.pictures).toHaveLength(1);
  expect(model.missingPictures).toEqual(['bump.png']);
  expect(parseMtl('map_Kd x.png').size).toBe(0);
});

test.each([
  ['', 'empty'],
  ['hello there', 'not an OBJ'],
  ['v 0 0 0\nv 1 0 0\nv 0 1 0\n', 'no faces'],
  ['v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 8\n', 'line 4: vertex 8 does not exist'],
  ['v 0 0 nan\n', 'line 1'],
  ['v 0 0 0\nf 0 1 2\n', 'vertex 0'],
  ['v 0 0\u0000', 'binary'],
])('%p is refused: %s', async (obj, reason) => {
  await expect(read(obj)).rejects.toThrow(reason);
});

test('the drop must hold a model', async () => {
  await expect(readModel(fileSetOf({ 'a.txt': text('x') }))).rejects.toThrow(/not a model/);
});
