import { BatchedMesh, BufferAttribute, BufferGeometry, type Material, Mesh, MeshBasicMaterial, Vector3 } from 'three';
import { Batches } from './Batches';
import type { Entry } from './entry';

/** A strip of so many squares of 1000 mm beside each other, the first corner at x metres. */
function strip(x: number, material: Material, squares = 1): Entry {
  const geometry = new BufferGeometry();
  const positions: number[] = [];
  const indices: number[] = [];
  for (let n = 0; n < squares; n++) {
    const at = positions.length / 3;
    positions.push(n * 1000, 0, 0, (n + 1) * 1000, 0, 0, (n + 1) * 1000, 1000, 0, n * 1000, 1000, 0);
    indices.push(at, at + 1, at + 2, at, at + 2, at + 3);
  }
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(positions), 3));
  geometry.setAttribute('normal', new BufferAttribute(new Float32Array(positions.length).fill(0.5), 3));
  geometry.setAttribute('uv', new BufferAttribute(new Float32Array((positions.length / 3) * 2), 2));
  geometry.setIndex(new BufferAttribute(Uint32Array.from(indices), 1));
  const mesh = new Mesh(geometry, material);
  mesh.scale.setScalar(0.001);
  mesh.position.x = x;
  mesh.updateMatrix();
  return { mesh } as unknown as Entry;
}
const batchesOf = ({ group }: Batches) => group.children.filter((c) => c instanceof BatchedMesh);
/** Where the squares drawn begin, metres, in the order of the buffer. */
function begins(batch: BatchedMesh): number[] {
  const out: number[] = [];
  const corner = new Vector3();
  const position = batch.geometry.getAttribute('position') as BufferAttribute;
  for (let i = 0; i < batch.maxInstanceCount; i++) {
    let range;
    try {
      range = batch.getGeometryRangeAt(batch.getGeometryIdAt(i))!;
    } catch {
      continue;
    }
    out.push(corner.fromBufferAttribute(position, range.vertexStart).x);
  }
  return out.sort((a, b) => a - b);
}

const [oak, tile] = [new MeshBasicMaterial(), new MeshBasicMaterial()];

test('surfaces of one material are one batch, where they stand in metres', () => {
  const batches = new Batches();
  for (const x of [3, 1, 2]) batches.show(strip(x, oak));
  batches.show(strip(7, tile));
  expect(batchesOf(batches)).toHaveLength(2);
  expect(begins(batchesOf(batches)[0])).toEqual([1, 2, 3]);
  expect(begins(batchesOf(batches)[1])).toEqual([7]);
});

test('another material is another batch, and an empty batch goes', () => {
  const batches = new Batches();
  const [a, b] = [strip(1, oak), strip(2, oak)];
  batches.show(a);
  batches.show(b);
  a.mesh.material = tile;
  batches.show(a);
  expect(batchesOf(batches).map(begins)).toEqual([[2], [1]]);
  b.mesh.material = tile;
  batches.show(b);
  expect(batchesOf(batches).map(begins)).toEqual([[1, 2]]);
});

test('what is hidden, or has a material that draws nothing, is not drawn', () => {
  const batches = new Batches();
  const one = strip(1, oak);
  batches.show(one);
  one.mesh.visible = false;
  batches.show(one);
  expect(batches.group.children).toEqual([]);
  one.mesh.visible = true;
  one.mesh.material = new MeshBasicMaterial({ visible: false });
  batches.show(one);
  expect(batches.group.children).toEqual([]);
});

test('new coordinates are copied; the same are not copied again', () => {
  const batches = new Batches();
  const one = strip(1, oak);
  batches.show(one);
  const [batch] = batchesOf(batches);
  const added = jest.spyOn(batch, 'addGeometry');
  batches.show(one);
  expect(added).not.toHaveBeenCalled();
  one.mesh.geometry.setAttribute('uv', new BufferAttribute(new Float32Array(8).fill(0.25), 2));
  batches.show(one);
  const [now] = batchesOf(batches);
  const id = now.getGeometryIdAt(0);
  const { vertexStart } = now.getGeometryRangeAt(id)!;
  expect(now.geometry.getAttribute('uv').getX(vertexStart)).toBe(0.25);
});

test('a large surface is drawn by itself', () => {
  const batches = new Batches();
  const large = strip(0, oak, 1100);
  batches.show(large);
  expect(batches.group.children).toEqual([large.mesh]);
  batches.remove(large);
  expect(batches.group.children).toEqual([]);
});

test('a batch grows, and uses again what was let go', () => {
  const batches = new Batches();
  const all = Array.from({ length: 300 }, (_, n) => strip(n, oak, 40));
  for (const one of all) batches.show(one);
  const drawn = () =>
    batchesOf(batches)
      .flatMap(begins)
      .sort((a, b) => a - b);
  const room = () => batchesOf(batches).reduce((sum, b) => sum + b.geometry.getAttribute('position').count, 0);
  expect(drawn()).toEqual(all.map((_, n) => n));
  // taking one out looks through its batch: none holds them all
  expect(batchesOf(batches)).toHaveLength(2);
  const size = room();
  // half of them go and come again, many times over
  for (let round = 0; round < 6; round++) {
    for (const [n, one] of all.entries()) if (n % 2) batches.remove(one);
    for (const [n, one] of all.entries()) if (n % 2) batches.show(one);
  }
  expect(drawn()).toEqual(all.map((_, n) => n));
  expect(batchesOf(batches)).toHaveLength(2);
  expect(room()).toBeLessThanOrEqual(size * 2 + 200);
});

test('a measure’s colours go along where the material shows them', () => {
  const batches = new Batches();
  const measured = new MeshBasicMaterial({ vertexColors: true });
  const one = strip(1, measured);
  one.mesh.geometry.setAttribute('color', new BufferAttribute(new Float32Array(12).fill(0.5), 3));
  batches.show(one);
  expect(batchesOf(batches)[0].geometry.getAttribute('color').getX(0)).toBe(0.5);
  // and not where they are left over
  one.mesh.material = oak;
  batches.show(one);
  expect(batchesOf(batches)[0].geometry.getAttribute('color')).toBeUndefined();
});
