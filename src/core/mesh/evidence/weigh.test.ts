import { fileSetOf } from '../../formats/fileSet';
import { readModel } from '../../formats/readModel';
import { boxTriangles, rawFrom } from '../../testing/fixtures';
import { MADE_MODELS, objText } from '../../testing/models';
import { weighSizes } from './weigh';

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

/** A model of the made ones as a GLB whose numbers are written in some unit. */
async function glb(name: string, perMetre: number) {
  const parts = MADE_MODELS.find(([n]) => n === name)![1]();
  return weighSizes(await rawFrom(parts.map((p) => ({ ...p, triangles: p.triangles.map((v) => v * perMetre) }))));
}

test('overwhelming evidence wins over a standard: an office of 42 km in a GLB is not in metres', async () => {
  const { guesses, certain } = await glb('office', 1000);
  expect(guesses[0].unit).toBe('mm');
  expect(guesses.find((g) => g.unit === 'm')!.evidence.join()).toMatch(/42000\.00 m \(not likely\)/);
  expect(certain && guesses[0].unit === 'm').toBe(false);
});

test.each(['office', 'chair', 'viaduct', 'machine part'])('a GLB of a %s in metres stays in metres', async (name) => {
  const { guesses, certain } = await glb(name, 1);
  expect(guesses[0].unit).toBe('m');
  expect(certain).toBe(true);
});

test('a GLB whose numbers are centimetres is not called certain to be metres', async () => {
  for (const name of ['house', 'chair', 'bathroom']) {
    const { guesses, certain } = await glb(name, 100);
    expect([name, guesses[0].unit === 'm' && certain]).toEqual([name, false]);
  }
});

test('what a file says of its unit and up-axis is believed', async () => {
  const lump = objText([{ name: 'Lump', triangles: boxTriangles([0, 0, 0], [0.31, 0.27, 0.29]) }], 1, 'y');
  const read = async (notes: string) =>
    weighSizes(await readModel(fileSetOf({ 'lump.obj': new TextEncoder().encode(`# ${notes}\n${lump}`) })));
  const silent = await read('made by hand');
  expect(silent.certain).toBe(false);
  const told = await read('File units = feet, z up');
  expect(told.guesses[0]).toMatchObject({ unit: 'ft' });
  expect(told.guesses[0].evidence).toContain('the file says so');
  expect(told.up).toMatchObject({ axis: 'z', certain: true });
});

test('shares of all units add up to one or less, and a box tells nothing for certain', async () => {
  const { guesses, certain, up } = weighSizes(
    await readModel(
      fileSetOf({
        'a.obj': new TextEncoder().encode(
          objText([{ name: 'a', triangles: boxTriangles([0, 0, 0], [1, 1, 1]) }], 37, 'y', false),
        ),
      }),
    ),
  );
  expect(guesses.reduce((n, g) => n + g.confidence, 0)).toBeLessThanOrEqual(1 + 1e-9);
  expect(certain).toBe(false);
  expect(up.certain).toBe(false);
});
