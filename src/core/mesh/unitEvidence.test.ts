import { fileSetOf } from '../formats/fileSet';
import { readModel } from '../formats/readModel';
import { boxTriangles, rawFrom } from '../testing/fixtures';
import { weighSizes } from './unitEvidence';

/** A room with a door as OBJ, `k` file units to the metre, z or y up. */
async function room(k: number, up: 'y' | 'z') {
  const lines: string[] = [];
  let n = 0;
  const add = (name: string, triangles: number[]) => {
    lines.push(`o ${name}`);
    for (let i = 0; i < triangles.length; i += 3) {
      const [x, y, z] = [triangles[i] * k, triangles[i + 1] * k, triangles[i + 2] * k];
      lines.push(up === 'y' ? `v ${x} ${y} ${z}` : `v ${x} ${-z} ${y}`);
    }
    for (let i = 0; i < triangles.length / 9; i++) lines.push(`f ${n + i * 3 + 1} ${n + i * 3 + 2} ${n + i * 3 + 3}`);
    n += triangles.length / 3;
  };
  add('Hall floor', boxTriangles([0, -0.1, 0], [12.4, 0, 7.2]));
  add('Hall ceiling', boxTriangles([0, 3.4, 0], [12.4, 3.6, 7.2]));
  add('Boat door', boxTriangles([2, 0, 0], [4.6, 2.4, 0.05]));
  return readModel(fileSetOf({ 'room.obj': new TextEncoder().encode(lines.join('\n')) }));
}

test.each([
  ['mm', 1000],
  ['cm', 100],
  ['m', 1],
  ['in', 1000 / 25.4],
  ['ft', 1000 / 304.8],
])('an OBJ in %s is recognised by door, storey and overall size', async (unit, k) => {
  const { guesses } = weighSizes(await room(k, 'y'));
  expect(guesses[0].unit).toBe(unit);
  expect(guesses[0].evidence.join()).toMatch(/door height 2\.40 m/);
});

test.each(['y', 'z'] as const)('up is %s', async (up) => {
  const { up: found, size } = weighSizes(await room(1000, up));
  expect(found.axis).toBe(up);
  expect(size[1]).toBeCloseTo(3700, 3);
});

test('glTF is metres with y up by its standard', async () => {
  const { guesses, up } = weighSizes(
    await rawFrom([{ name: 'Pin', triangles: boxTriangles([0, 0, 0], [0.01, 0.01, 0.01]) }]),
  );
  expect(guesses[0].unit).toBe('m');
  expect(up.axis).toBe('y');
});
