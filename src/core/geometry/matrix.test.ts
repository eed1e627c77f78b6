import { compose, determinant3, IDENTITY, multiply, normalMatrix, transformPoint } from './matrix';

test('translation, rotation and scale in glTF’s order', () => {
  const quarter = Math.SQRT1_2;
  const m = compose([1, 2, 3], [0, quarter, 0, quarter], [2, 1, 1]);
  expect(transformPoint(m, [1, 0, 0]).map((v) => Math.round(v * 1e6) / 1e6)).toEqual([1, 2, 1]);
  expect(multiply(m, IDENTITY)).toEqual(m);
  expect(determinant3(m)).toBeCloseTo(2);
  expect(determinant3(compose([0, 0, 0], [0, 0, 0, 1], [-1, 1, 1]))).toBeCloseTo(-1);
});

test('normals stay square to their face under uneven, mirroring scale', () => {
  const m = compose([0, 0, 0], [0, 0, 0, 1], [-2, 1, 0.5]);
  const n = normalMatrix(m);
  const turn = (v: number[]) => [0, 1, 2].map((r) => n[r] * v[0] + n[r + 3] * v[1] + n[r + 6] * v[2]);
  // the plane x + y = 0 with normal (1, 1, 0); an edge in it is (1, −1, 0)
  const [normal, edge] = [turn([1, 1, 0]), transformPoint(m, [1, -1, 0])];
  expect(normal[0] * edge[0] + normal[1] * edge[1] + normal[2] * edge[2]).toBeCloseTo(0);
});
