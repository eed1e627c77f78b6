import fc from 'fast-check';
import { boxTriangles, preparedFrom } from '../testing/fixtures';
import { rectangle, wallMesh } from '../testing/surfaces';
import { areaOfTriangles } from './area';
import { borderEdges } from './borderEdges';
import { flipFaces } from './flip';
import { measureSurface } from './measureSurface';
import { splitByCrease } from './split';
import { faceCount, listFaces, packFaces, type PartMesh } from './types';

/** A box of 3 × 2 × 1 m as an import prepares it: six surfaces of two faces, mm. */
const box = async (): Promise<PartMesh> =>
  (await preparedFrom([{ name: 'Box', triangles: boxTriangles([0, 0, 0], [3, 2, 1]) }])).parts[0].mesh;
const every = ({ indices }: PartMesh) => [0, indices.length / 3];

describe('runs of faces', () => {
  test('hold the very faces they were packed of, in order, in as few runs as can be', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.nat(200), { maxLength: 80 }), (faces) => {
        const runs = packFaces(faces);
        expect([...listFaces(runs)]).toEqual([...faces].sort((a, b) => a - b));
        expect(faceCount(runs)).toBe(faces.length);
        for (let i = 2; i < runs.length; i += 2) expect(runs[i]).toBeGreaterThan(runs[i - 2] + runs[i - 1]);
      }),
    );
    expect(packFaces([])).toEqual([]);
    expect(packFaces([7, 3, 4, 5])).toEqual([3, 3, 7, 1]);
  });
});

describe('measured', () => {
  test('area, mean normal and bounds of one side, and of all', async () => {
    const mesh = await box();
    const all = measureSurface(mesh, every(mesh));
    expect(all.area).toBeCloseTo(2 * (6 + 3 + 2) * 1e6, -1);
    expect(Math.hypot(...all.normal)).toBeLessThan(1e-6);
    expect(all.bounds.max.map((v, c) => Math.round(v - all.bounds.min[c]))).toEqual([3000, 2000, 1000]);
    const sides = splitByCrease(mesh, every(mesh), 30).map((f) => measureSurface(mesh, f));
    expect(sides.map((s) => Math.round(s.area / 1e6)).sort()).toEqual([2, 2, 3, 3, 6, 6]);
    for (const s of sides) expect(Math.hypot(...s.normal)).toBeCloseTo(1, 6);
    expect(areaOfTriangles(mesh)).toBeCloseTo(all.area, 0);
  });

  test('faces without area have no normal', () => {
    const flat = { ...wallMesh([rectangle(10, 10)]), indices: Uint32Array.from([0, 0, 0]) };
    expect(measureSurface(flat, [0, 1])).toMatchObject({ area: 0, normal: [0, 0, 0] });
  });
});

describe('split at creases', () => {
  test('a box comes apart into its sides; with a limit beyond a right angle it stays whole', async () => {
    const mesh = await box();
    const sides = splitByCrease(mesh, every(mesh), 30);
    expect(sides).toHaveLength(6);
    expect(sides.flatMap((f) => [...listFaces(f)]).sort((a, b) => a - b)).toEqual([...Array(12).keys()]);
    expect(splitByCrease(mesh, every(mesh), 120)).toHaveLength(1);
    // two sides alone, and the larger comes first
    const two = packFaces([...listFaces(sides[0]), ...listFaces(sides[5]), listFaces(sides[1])[0]]);
    expect(splitByCrease(mesh, two, 30).map((f) => faceCount(f))).toEqual([2, 2, 1]);
  });
});

describe('turned round', () => {
  test('the faces named look the other way, all others stay', async () => {
    const mesh = await box();
    const [side, other] = splitByCrease(mesh, every(mesh), 30);
    const turned = flipFaces(mesh, side);
    const [before, after] = [measureSurface(mesh, side), measureSurface(turned, side)];
    after.normal.forEach((v, c) => expect(v).toBeCloseTo(-before.normal[c], 9));
    expect(after.area).toBeCloseTo(before.area, 6);
    expect(measureSurface(turned, other)).toEqual(measureSurface(mesh, other));
    // corners of their own, whose normals are turned as well
    expect(turned.positions.length).toBe(mesh.positions.length + 2 * 9);
    for (const f of listFaces(side)) {
      for (let k = 0; k < 3; k++) {
        const v = turned.indices[f * 3 + k] * 3;
        const dot = [0, 1, 2].reduce((sum, c) => sum + turned.normals[v + c] * after.normal[c], 0);
        expect(dot).toBeGreaterThan(0.99);
      }
    }
    const back = flipFaces(turned, side);
    expect(measureSurface(back, side).normal).toEqual(before.normal);
    // a face that is not there is let be
    expect(flipFaces(mesh, [500, 2]).positions).toEqual(mesh.positions);
  });
});

test('what outlines a surface: its border, and its sharp arrises', async () => {
  const wall = wallMesh([rectangle(100, 50)]);
  // four sides, not the diagonal
  expect(borderEdges(wall.positions, wall.indices)).toHaveLength(4 * 6);
  const mesh = await box();
  expect(borderEdges(mesh.positions, mesh.indices)).toHaveLength(12 * 6);
  expect(borderEdges(mesh.positions, mesh.indices, 100)).toHaveLength(0);
});
