import { fileSetOf } from '../formats/fileSet';
import { readModel } from '../formats/readModel';
import { boxTriangles, cylinderTriangles, floorTriangles, preparedFrom, rawFrom } from '../testing/fixtures';
import { nameSurfaces } from './naming';
import { prepareModel } from './prepare';
import { splitByCrease } from './split';
import { faceCount, listFaces, packFaces } from './types';

const said = (model: { remarks: { text: string }[] }, words: string) =>
  model.remarks.some((r) => r.text.includes(words));

test('a box gives six surfaces with true areas and names by where they face', async () => {
  const { parts } = await preparedFrom([{ name: 'Room', triangles: boxTriangles([0, 0, 0], [4, 3, 5]) }]);
  const { surfaces } = parts[0];
  expect(surfaces).toHaveLength(6);
  const names = nameSurfaces(surfaces, 0);
  const area = Object.fromEntries(surfaces.map((s, i) => [names[i], s.area / 1e6]));
  expect(area).toEqual({
    Floor: 20,
    Ceiling: 20,
    'Wall south': 12,
    'Wall north': 12,
    'Wall east': 15,
    'Wall west': 15,
  });
  // every face belongs to exactly one surface
  const all = surfaces.flatMap((s) => [...listFaces(s.faces)]).sort((a, b) => a - b);
  expect(all).toEqual(Array.from({ length: 12 }, (_, i) => i));
  expect(nameSurfaces(surfaces, 90)).toContain('Wall north');
});

test.each([12, 16, 48])('a cylinder of %i sides gives its barrel and two caps', async (sides) => {
  const { parts } = await preparedFrom([{ name: 'Column', triangles: cylinderTriangles(0.23, 3, sides) }]);
  expect(parts[0].surfaces).toHaveLength(3);
  const counts = parts[0].surfaces.map((s) => faceCount(s.faces)).sort((a, b) => b - a);
  expect(counts).toEqual([sides * 2, sides, sides]);
});

test('uneven and mirroring scale shows true millimetres, faces outward', async () => {
  const triangles = boxTriangles([0, 0, 0], [1, 1, 1]);
  const { parts } = await preparedFrom([{ name: 'Bar', triangles, node: { scale: [-2, 1, 0.5] } }]);
  const size = parts[0].bounds.max.map((v, i) => v - parts[0].bounds.min[i]);
  expect(size.map(Math.round)).toEqual([2000, 1000, 500]);
  const top = parts[0].surfaces.find((s) => s.normal[1] > 0.9)!;
  expect(top.area).toBeCloseTo(2000 * 500, 3);
  // the top is the one that lies high: nothing was turned inside-out
  expect(top.bounds.min[1]).toBeCloseTo(1000, 3);
});

test('faults are repaired and reported', async () => {
  const floor = floorTriangles(4, 3);
  const zero = [0, 0, 0, 1, 0, 0, 2, 0, 0];
  const model = await preparedFrom([{ name: 'Floor', triangles: [...floor, ...zero, ...floor.slice(0, 9)] }]);
  expect(model.triangles).toBe(2);
  expect(said(model, 'zero area')).toBe(true);
  expect(said(model, 'duplicate')).toBe(true);
});

test('only zero-area faces are refused with the file’s name', async () => {
  const raw = await rawFrom([{ name: 'Nothing', triangles: [0, 0, 0, 1, 0, 0, 2, 0, 0] }]);
  expect(() => prepareModel(raw, { unitMm: 1000, upAxis: 'y' })).toThrow(/test.*zero area/);
});

test('a floor cut up with T-junctions is one surface', async () => {
  // a long triangle pair beside two squares: their corner lies on the middle of the long edge
  const quad = (x0: number, z0: number, x1: number, z1: number) => [
    x0,
    0,
    z1,
    x1,
    0,
    z1,
    x1,
    0,
    z0,
    x0,
    0,
    z1,
    x1,
    0,
    z0,
    x0,
    0,
    z0,
  ];
  const triangles = [...quad(0, 0, 4, 1), ...quad(0, 1, 1.5, 2), ...quad(1.5, 1, 4, 2)];
  const model = await preparedFrom([{ name: 'Cut floor', triangles }]);
  expect(model.parts[0].surfaces).toHaveLength(1);
  expect(model.parts[0].surfaces[0].area).toBeCloseTo(8e6, 0);
  expect(said(model, 'T-junction')).toBe(true);
});

test('edges of three faces, overlaps and far places are reported', async () => {
  const fin = [0, 0, 0, 1, 0, 0, 0.5, 1, 0];
  const keel = [0, 0, 0, 0.5, -1, 0, 1, 0, 0];
  const triangles = [...floorTriangles(1, 1), ...fin, ...keel, 0.2, 0, 0.8, 0.8, 0, 0.8, 0.8, 0, 0.4];
  const model = await preparedFrom([{ name: 'Odd', triangles, node: { translation: [5000, 0, 7000] } }]);
  expect(said(model, 'three or more faces')).toBe(true);
  expect(said(model, 'overlap')).toBe(true);
  expect(said(model, 'km from its origin')).toBe(true);
  // a hundredth of a millimetre is kept seven kilometres out
  const [part] = model.parts;
  expect(Math.abs(part.bounds.max[0] - part.bounds.min[0] - 1000)).toBeLessThan(0.01);
});

test('far from zero a baked position still loses no more than the file did', async () => {
  const far = boxTriangles([3000, 0, 3000], [3001, 1, 3001]);
  const { parts } = await preparedFrom([{ name: 'Far', triangles: far }]);
  expect(parts[0].bounds.max[0] - parts[0].bounds.min[0]).toBeCloseTo(1000, 2);
});

test('thousands of loose boards of one slot stay one surface', async () => {
  const triangles = Array.from({ length: 250 }, (_, i) =>
    boxTriangles([i * 0.2, 0, 0], [i * 0.2 + 0.19, 0.02, 2]),
  ).flat();
  const model = await preparedFrom([{ name: 'Boards', triangles }]);
  expect(model.parts[0].surfaces).toHaveLength(1);
  expect(said(model, 'kept together')).toBe(true);
  expect(splitByCrease(model.parts[0].mesh, model.parts[0].surfaces[0].faces, 35)).toHaveLength(1500);
});

test('splitting a merged box by crease gives its sides back', async () => {
  const { parts } = await preparedFrom([{ name: 'Box', triangles: boxTriangles([0, 0, 0], [1, 1, 1]) }]);
  const all = packFaces(parts[0].surfaces.flatMap((s) => [...listFaces(s.faces)]));
  expect(splitByCrease(parts[0].mesh, all, 35)).toHaveLength(6);
  expect(splitByCrease(parts[0].mesh, all, 95)).toHaveLength(1);
});

test('normals without direction, as some files have them, are made from the faces; all others stay', async () => {
  const obj = [
    'v 0 0 0',
    'v 1 0 0',
    'v 1 1 0',
    'v 0 1 0',
    'vn 0 0 0',
    'vn 0 0.6 0.8',
    'f 1//1 2//1 3//2',
    'f 1//1 3//2 4//1',
  ].join('\n');
  const raw = await readModel(fileSetOf({ 'a.obj': new TextEncoder().encode(obj) }));
  const [{ mesh }] = prepareModel(raw, { unitMm: 1000, upAxis: 'y' }).parts;
  const normals = Array.from({ length: mesh.normals.length / 3 }, (_, v) => [...mesh.normals.slice(v * 3, v * 3 + 3)]);
  for (const n of normals) expect(Math.hypot(...n)).toBeCloseTo(1, 5);
  expect(normals.some((n) => Math.abs(n[1] - 0.6) < 1e-5)).toBe(true);
  expect(normals.filter((n) => Math.abs(n[2] - 1) < 1e-5).length).toBeGreaterThanOrEqual(3);
});
