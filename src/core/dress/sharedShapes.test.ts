import { validateBytes } from 'gltf-validator';
import { EXPORT_FORMATS, writeScene } from '../formats/exportFormats';
import type { ExportScene } from '../formats/exportScene';
import { fileSetOf } from '../formats/fileSet';
import { readModel } from '../formats/readModel';
import { areaOfTriangles } from '../mesh/area';
import type { Spec } from '../specification/schema';
import { arrangeOn, laidSpec, oak, rectangle, wallMesh, wallSheet } from '../testing/surfaces';
import { type ExportedMesh, type ExportedPieces, exportPieces } from './exportPieces';

const door = rectangle(900, 2000).map(([x, y]) => [x + 1400, y + 3] as [number, number]);
const mesh = wallMesh([rectangle(4000, 2500), [...door].reverse()]);
const sheet = wallSheet(mesh);
const brick = { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false } as const;
const made = (spec: Spec, share: boolean): ExportedPieces =>
  exportPieces(arrangeOn(spec, sheet), { tangents: true, ...(share ? { share: { joints: true } } : {}) });

/** Every vertex as it is seen in the end: where it lies, its normal and print, its tone; copies set up. */
function seen(meshes: ExportedMesh[]): string[] {
  const out: string[] = [];
  for (const { dressed, stands = [0, 0, 0] } of meshes) {
    const { positions: p, normals, tangents, uvs, tones = [], indices } = dressed;
    const list = (of: ArrayLike<number>, v: number, width: number, shift: number[] = []) =>
      of.length ? Array.from({ length: width }, (_, c) => of[v * width + c] + (shift[c] ?? 0)) : [];
    for (let at = 0; at < stands.length; at += 3)
      for (const v of indices) {
        const place = list(p, v, 3, [stands[at], stands[at + 1], stands[at + 2]]).map((x) => Math.round(x * 2) / 2);
        const [turn, tone] = [[...list(normals, v, 3), ...list(tangents, v, 4)], list(tones, v, 3)];
        // prints repeat: half a repeat is told from none, and a hair below one from none is not
        const print = list(uvs, v, 2).map((u) => Math.round(10 * Math.cos(2 * Math.PI * u)));
        out.push(
          [...place, ...(tones.length ? print : []), ...[...turn, ...tone].map((x) => Math.round(x * 50))]
            .map((x) => x + 0)
            .join(' '),
        );
      }
  }
  return out.sort();
}

const shapesOf = (meshes: ExportedMesh[]) => meshes.filter((m) => m.stands);
const standing = (meshes: ExportedMesh[]) => shapesOf(meshes).map((m) => m.stands!.length / 3);
const numbersIn = ({ pieces, joints }: ExportedPieces) =>
  [...pieces, ...joints].reduce((n, { dressed, stands }) => n + dressed.positions.length + (stands?.length ?? 0), 0);

test.each<[string, Spec]>([
  ['bricks alike', laidSpec({ layout: brick, joint: 10 })],
  ['bricks that lean and turn', laidSpec({ layout: brick, joint: 10, variation: { tiltDeg: 1, turnStepDeg: 180 } })],
  ['herringbone', laidSpec({ layout: { kind: 'herringbone', lengthMm: 490, widthMm: 70, strands: 1 }, joint: 4 })],
  [
    'hexagons, turned',
    laidSpec({ layout: { kind: 'hexagon', acrossFlatsMm: 150, pointUp: true }, joint: 3, turnDeg: 20 }),
  ],
])('%s: shared or not, the same is handed over', (_name, spec) => {
  const [apart, shared] = [made(spec, false), made(spec, true)];
  expect(standing(apart.pieces).concat(standing(apart.joints))).toEqual([]);
  expect(standing(shared.joints).length).toBeGreaterThan(0);
  expect(seen(shared.pieces)).toEqual(seen(apart.pieces));
  expect(seen(shared.joints)).toEqual(seen(apart.joints));
});

test('joints’ rings are shared whatever the prints; a wall of bricks needs far fewer numbers', () => {
  // the print of every brick is another
  const spec = laidSpec({ layout: brick, joint: 10, variation: { turnStepDeg: 1 } });
  const [apart, shared] = [made(spec, false), made(spec, true)];
  expect(standing(shared.pieces)).toEqual([]);
  // one shape: every whole brick's
  expect(shapesOf(shared.joints)).toHaveLength(1);
  expect(standing(shared.joints)[0]).toBeGreaterThan(300);
  // what is left are the pieces themselves, and what is cut
  expect(numbersIn(shared)).toBeLessThan(numbersIn(apart) * 0.6);
});

test('pieces are shared where print and tone are equal', () => {
  // four bricks and four courses to a repeat
  const material = oak({ widthMm: 900, heightMm: 300 });
  const spec = laidSpec({ layout: brick, joint: 10, variation: { on: false } });
  const arrangement = arrangeOn(spec, sheet, { oak: material });
  const { pieces } = exportPieces(arrangement, { tangents: false, share: { joints: false } });
  expect(shapesOf(pieces).length).toBeGreaterThan(0);
  expect(Math.min(...standing(pieces))).toBeGreaterThanOrEqual(8);
});

test('maps that lie still on the surface make every piece another; joints with a material are not shared', () => {
  const spec = laidSpec({ layout: brick, joint: 10, variation: { maps: ['baseColour'] } });
  const out = exportPieces(arrangeOn(spec, sheet), { tangents: false, share: { joints: false } });
  expect(standing(out.pieces).concat(standing(out.joints))).toEqual([]);
});

describe('as glTF', () => {
  const { pieces, joints } = made(laidSpec({ layout: brick, joint: 10 }), true);
  const scene: ExportScene = {
    name: 'Wall',
    materials: [],
    parts: [
      {
        name: 'Wall',
        path: ['House'],
        origin: [5000, 0, 0],
        pivot: [1000, 0, 0],
        surfaces: [...pieces, ...joints].map(({ dressed, stands }) => ({
          name: 'Wall west',
          dressed,
          stands,
          material: '#804030',
        })),
      },
    ],
  };

  test.each(EXPORT_FORMATS.filter((f) => 'shares' in f))(
    '$label is valid, says that it needs the extension, and comes in as it was',
    async (format) => {
      const files = await writeScene(format, scene, 'wall');
      const [[name, bytes]] = Object.entries(files).filter(([of]) => of.endsWith(format.checked));
      const { issues } = await validateBytes(bytes, {
        externalResourceFunction: (uri) => Promise.resolve(files[decodeURIComponent(uri)]),
      });
      expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
      const text = new TextDecoder().decode(bytes);
      expect(text).toMatch(/"extensionsRequired":\s*\[\s*"EXT_mesh_gpu_instancing"\s*\]/);

      const read = await readModel(fileSetOf(files));
      expect(name).toContain('wall');
      const area = read.parts.reduce((sum, p) => sum + areaOfTriangles(p), 0);
      // a file in metres
      expect(area).toBeCloseTo(sheet.trueArea / 1e6, 3);
      const far = (c: number, pick: (...v: number[]) => number) =>
        read.parts.reduce((m, p) => {
          for (let v = c; v < p.positions.length; v += 3) m = pick(m, p.positions[v] + p.origin[c]);
          return m;
        }, NaN);
      const max = (a: number, b: number) => (a > b ? a : b);
      const min = (a: number, b: number) => (a < b ? a : b);
      expect([far(0, min), far(0, max), far(1, min), far(1, max)].map((v) => Math.round(v * 1000) + 0)).toEqual([
        5000, 9000, 0, 2500,
      ]);
    },
  );
});
