import fc from 'fast-check';
import { boxTriangles, cylinderTriangles, preparedFrom } from '../testing/fixtures';
import { findNeighbours, labelGroups } from './adjacency';
import { borderEdges } from './borderEdges';
import { measureSlotCoordinates } from './coordinateSize';
import { faceNormals, groupByCrease } from './creases';
import { facingOf } from './naming';
import { countOverlaps } from './overlaps';
import { findTJunctions } from './tjunctions';
import { faceCount, listFaces, packFaces, type PartMesh } from './types';
import { weldPositions } from './weld';

const welded = (triangles: number[]) => {
  const positions = Float32Array.from(triangles);
  return { positions, indices: weldPositions(positions, 1e-4) };
};

describe('weldPositions', () => {
  test('points within the tolerance become one, others never do', () => {
    const point = fc.tuple(
      fc.integer({ min: -50, max: 50 }),
      fc.integer({ min: -50, max: 50 }),
      fc.integer({ min: -50, max: 50 }),
    );
    const shake = fc.double({ min: -0.0009, max: 0.0009, noNaN: true });
    fc.assert(
      fc.property(fc.array(fc.tuple(point, shake), { minLength: 1, maxLength: 60 }), (list) => {
        // whole grid points, each shaken by less than half the tolerance
        const positions = Float32Array.from(list.flatMap(([p, s]) => p.map((v) => v + s / 2)));
        const to = weldPositions(positions, 0.002);
        list.forEach(([p], i) =>
          list.forEach(([q], j) => expect(to[i] === to[j]).toBe(p[0] === q[0] && p[1] === q[1] && p[2] === q[2])),
        );
        // what a point is welded to stands for itself
        to.forEach((t) => expect(to[t]).toBe(t));
      }),
    );
  });
});

describe('neighbours', () => {
  test('a closed box has a face across every edge, none crowded or inside-out', () => {
    const { positions, indices } = welded(boxTriangles([0, 0, 0], [1, 2, 3]));
    const { across, crowded, disagreeing } = findNeighbours(indices, positions.length / 3);
    expect([...across].every((f) => f >= 0)).toBe(true);
    expect([crowded, disagreeing]).toEqual([0, 0]);
    // being across is mutual
    across.forEach((f, e) => expect([0, 1, 2].some((k) => across[f * 3 + k] === Math.floor(e / 3))).toBe(true));
  });

  test('a fin makes a crowded edge; a turned face disagrees', () => {
    const fin = welded([0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 0, 0, 0, 0, 0, 0, -1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]);
    expect(findNeighbours(fin.indices, 9).crowded).toBe(1);
    const turned = welded([0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, -1, 0]);
    expect(findNeighbours(turned.indices, 6).disagreeing).toBe(1);
  });

  test('bodies are told apart', () => {
    const { positions, indices } = welded([
      ...boxTriangles([0, 0, 0], [1, 1, 1]),
      ...boxTriangles([3, 0, 0], [4, 1, 1]),
    ]);
    const adjacency = findNeighbours(indices, positions.length / 3);
    expect(labelGroups(adjacency, 24, () => true).count).toBe(2);
  });
});

test('crease angle: an edge of exactly the limit is an arris', () => {
  const { positions, indices } = welded(cylinderTriangles(1, 2, 12));
  const adjacency = findNeighbours(indices, positions.length / 3);
  const { normals, areas } = faceNormals(positions, indices);
  expect(areas.reduce((a, b) => a + b)).toBeCloseTo(2 * 3 + 12 * 2 * Math.sin(Math.PI / 12) * 2, 4);
  const slots = new Uint16Array(indices.length / 3);
  const groups = (deg: number) => groupByCrease(adjacency, normals, slots, deg).count;
  expect([groups(35), groups(30.01), groups(29.9)]).toEqual([3, 3, 14]);
});

test('T-junctions are found on long edges, not on shared ones', () => {
  const { positions, indices } = welded([0, 0, 0, 10, 0, 0, 10, 1, 0, 0, 0, 0, 4, 0, 0, 4, -1, 0]);
  const found = findTJunctions(positions, indices, findNeighbours(indices, 6), 1e-3);
  expect(found.count).toBe(1);
  expect([...new Set(found.pairs)].sort()).toEqual([0, 1]);
  const box = welded(boxTriangles([0, 0, 0], [1, 1, 1]));
  expect(findTJunctions(box.positions, box.indices, findNeighbours(box.indices, 36), 1e-3).count).toBe(0);
});

test('overlaps count faces in the same plane and sense only', () => {
  const low = [0, 0, 0, 4, 0, 0, 0, 4, 0];
  const small = [0.5, 0.5, 0, 1, 0.5, 0, 0.5, 1, 0];
  const raised = small.map((v, i) => (i % 3 === 2 ? 5 : v));
  const turned = [0.5, 0.5, 0, 0.5, 1, 0, 1, 0.5, 0];
  const count = (triangles: number[]) => {
    const positions = Float32Array.from(triangles);
    const indices = Uint32Array.from({ length: triangles.length / 3 }, (_, i) => i);
    return countOverlaps(positions, indices, faceNormals(positions, indices).normals);
  };
  expect([count([...low, ...small]), count([...low, ...raised]), count([...low, ...turned])]).toEqual([1, 0, 0]);
});

test('face runs: packed and listed back', () => {
  fc.assert(
    fc.property(fc.uniqueArray(fc.nat(300)), (faces) => {
      const runs = packFaces(faces);
      expect([...listFaces(runs)]).toEqual([...faces].sort((a, b) => a - b));
      expect(faceCount(runs)).toBe(faces.length);
      // runs never touch: they could not be fewer
      for (let i = 2; i < runs.length; i += 2) expect(runs[i]).toBeGreaterThan(runs[i - 2] + runs[i - 1]);
    }),
  );
});

test('the outline of a surface is its border and its arrises', async () => {
  const { parts } = await preparedFrom([{ name: 'Box', triangles: boxTriangles([0, 0, 0], [1, 1, 1]) }]);
  const { positions, indices } = parts[0].mesh;
  const whole = borderEdges(positions, indices);
  // twelve arrises, no diagonals
  expect(whole.length / 6).toBe(12);
  const top = parts[0].surfaces.find((s) => s.normal[1] > 0.9)!;
  const own = indices.slice(top.faces[0] * 3, (top.faces[0] + top.faces[1]) * 3);
  expect(borderEdges(positions, own).length / 6).toBe(4);
});

test.each<[string, [number, number, number], number, string]>([
  ['up', [0, 1, 0], 0, 'up'],
  ['down', [0, -0.98, 0.1], 0, 'down'],
  ['along −z', [0, 0, -1], 0, 'north'],
  ['along x', [1, 0, 0], 0, 'east'],
  ['along x with north turned a quarter', [1, 0, 0], 90, 'north'],
  ['along −x with north at 10', [-1, 0, 0], 10, 'west'],
  ['all round', [0.1, 0.2, 0], 0, 'round'],
])('facing %s', (_name, normal, north, facing) => expect(facingOf(normal, north)).toBe(facing));

test('the real size of one picture is read off a file’s own coordinates', () => {
  // 2 m by 1 m, coordinates 0..4 by 0..0.5: one picture is 500 by 2000
  const mesh: PartMesh = {
    origin: [0, 0, 0],
    positions: new Float32Array([0, 0, 0, 2000, 0, 0, 2000, 1000, 0, 0, 1000, 0]),
    normals: new Float32Array(12),
    uvs: [new Float32Array([0, 0, 4, 0, 4, 0.5, 0, 0.5])],
    indices: new Uint32Array([0, 1, 2, 0, 2, 3]),
    slots: new Uint16Array([1, 1]),
  };
  expect(measureSlotCoordinates([mesh], 2)).toEqual([null, [500, 2000]]);
  expect(measureSlotCoordinates([{ ...mesh, uvs: [new Float32Array(8)] }], 2)).toEqual([null, null]);
});
