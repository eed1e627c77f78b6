import { boxTriangles, preparedFrom, rawFrom } from '../testing/fixtures';
import { joinsOf } from './joins';
import { prepareModel } from './prepare';

const lengthOf = (edges: Float32Array) => {
  let sum = 0;
  for (let i = 0; i < edges.length; i += 6)
    sum += Math.hypot(edges[i + 3] - edges[i], edges[i + 4] - edges[i + 1], edges[i + 5] - edges[i + 2]);
  return sum;
};

test('a closed box has twelve arrises and no open edge', async () => {
  const { parts } = await preparedFrom([{ name: 'Box', triangles: boxTriangles([0, 0, 0], [1, 2, 3]) }]);
  const { open, arrises } = joinsOf(parts[0].mesh, parts[0].surfaces);
  expect(open).toHaveLength(0);
  expect(lengthOf(arrises)).toBeCloseTo(4 * (1000 + 2000 + 3000), 0);
});

test('with a smoothing angle beyond a right angle the box is one surface', async () => {
  const raw = await rawFrom([{ name: 'Box', triangles: boxTriangles([0, 0, 0], [1, 2, 3]) }]);
  const { parts } = prepareModel(raw, { unitMm: 1000, upAxis: 'y', creaseDeg: 120 });
  expect(parts[0].surfaces).toHaveLength(1);
  expect(joinsOf(parts[0].mesh, parts[0].surfaces).arrises).toHaveLength(0);
});

/** Two squares of a metre side by side, with a gap of so many mm between them. */
const squares = (gap: number) => {
  const x = 1 + gap / 1000;
  return [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 0, 0, 1, 1, 0, 0, 1, 0, x, 0, 0, x + 1, 0, 0, x + 1, 1, 0].concat([
    x,
    0,
    0,
    x + 1,
    1,
    0,
    x,
    1,
    0,
  ]);
};

test.each([
  [0.3, undefined, 8000, 2],
  [0.3, 0.5, 6000, 1],
  [5, 0.5, 8000, 2],
  [5, 8, 6000, 1],
])('a gap of %s mm, welded at %s mm: %s mm of open edges, %s surfaces', async (gap, weldMm, length, surfaces) => {
  const raw = await rawFrom([{ name: 'Squares', triangles: squares(gap) }]);
  const { parts } = prepareModel(raw, { unitMm: 1000, upAxis: 'y', weldMm });
  expect(parts[0].surfaces).toHaveLength(surfaces);
  expect(Math.abs(lengthOf(joinsOf(parts[0].mesh, parts[0].surfaces).open) - length)).toBeLessThan(40);
  expect(parts[0].corners).toEqual([surfaces === 1 ? 6 : 8, 12]);
});
