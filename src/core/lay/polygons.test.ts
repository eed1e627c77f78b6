import { exportPieces } from '../dress/exportPieces';
import { readMeshes, writeMeshes } from '../formats/meshFile';
import { fileSetOf } from '../formats/fileSet';
import { readModel } from '../formats/readModel';
import { areaOfTriangles } from '../mesh/area';
import { prepareModel } from '../mesh/prepare';
import type { PartMesh } from '../mesh/types';
import { cutSheet } from '../zones/cutSheet';
import { arrangeOn, laidSpec, listOn, wallSheet } from '../testing/surfaces';
import { openSheet } from './region';

/** A floor of quads, six-sided ones and one triangle, welded and level: as a file with polygons has it. */
const FLOOR = `o Floor
v 0 0 0\nv 1 0 0\nv 2 0 0\nv 3 0 0
v 0 0 -1\nv 1 0 -1\nv 2 0 -1\nv 3 0 -1
v 0 0 -2\nv 1 0 -2\nv 2 0 -2.4\nv 3 0 -2
f 1 2 6 5
f 2 3 7 6
f 3 4 8
f 3 8 7
f 5 6 7 11 10 9
f 7 8 12 11
`;
/** Square metres of each, in that order; the two triangles of the third square are two polygons. */
const AREAS = [1, 1, 0.5, 0.5, 2.2, 1.2];

const read = async (text: string): Promise<PartMesh> => {
  const raw = await readModel(fileSetOf({ 'floor.obj': new TextEncoder().encode(text) }));
  const [{ mesh }] = prepareModel(raw, { unitMm: 1000, upAxis: 'y' }).parts;
  // as it is stored and read again
  return readMeshes(Buffer.concat(writeMeshes([mesh])))[0];
};
const asPolygons = laidSpec({ layout: { kind: 'asModelled', each: 'polygon' } });
const areasOf = (spec: typeof asPolygons, sheet: Parameters<typeof listOn>[1]) =>
  listOn(spec, sheet)
    .map((p) => Math.round(p.area / 1e3) / 1e3)
    .sort();

test('every polygon of the file is a piece, level ones too; without that the floor is one', async () => {
  const sheet = wallSheet(await read(FLOOR));
  expect(areasOf(asPolygons, sheet)).toEqual([...AREAS].sort());
  expect(listOn(laidSpec({ layout: { kind: 'asModelled' } }), sheet)).toHaveLength(1);
  const made = exportPieces(arrangeOn(asPolygons, sheet), { tangents: false });
  expect(made.pieces.reduce((sum, p) => sum + areaOfTriangles(p.dressed), 0)).toBeCloseTo(6.4e6, 0);
});

test('they stay what they are where a zone cuts through them', async () => {
  const sheet = wallSheet(await read(FLOOR));
  const { minX, minY } = sheet.bounds;
  const square = [
    [minX + 500, minY + 250],
    [minX + 1500, minY + 250],
    [minX + 1500, minY + 750],
    [minX + 500, minY + 750],
  ] as [number, number][];
  const region = [[[...square, square[0]]]];
  expect(areasOf(asPolygons, cutSheet(sheet, region, 'inside'))).toEqual([0.25, 0.25]);
  expect(listOn(asPolygons, cutSheet(sheet, region, 'outside'))).toHaveLength(6);
});

test('of surfaces set out together each keeps its own', async () => {
  const mesh = await read(FLOOR);
  const faces = [0, mesh.indices.length / 3];
  const moved: PartMesh = { ...mesh, origin: [mesh.origin[0] + 3000, mesh.origin[1], mesh.origin[2]] };
  const sheet = openSheet([mesh, moved], {
    patches: [{ faces }, { faces }],
    mapping: { kind: 'flat', direction: 'auto' },
    cuts: [],
    origin: [0, 0, 0],
  });
  expect(areasOf(asPolygons, sheet)).toEqual([...AREAS, ...AREAS].sort());
});

test('a file of triangles alone says so, and each flat face is a piece', async () => {
  const sheet = wallSheet(await read('o A\nv 0 0 0\nv 1 0 0\nv 1 0 -1\nv 0 0 -1\nf 1 2 3\nf 1 3 4\n'));
  expect(listOn(asPolygons, sheet)).toHaveLength(1);
  expect(arrangeOn(asPolygons, sheet).layout.findings!().map((f) => f.code)).toEqual(['noPolygons']);
});
