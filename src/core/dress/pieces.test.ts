import { areaOfTriangles } from '../mesh/area';
import { listPieces } from '../lay/pieces';
import { validateBytes } from 'gltf-validator';
import { WebIO } from '@gltf-transform/core';
import { KHRMaterialsEmissiveStrength, KHRTextureTransform } from '@gltf-transform/extensions';
import { readModel } from '../formats/readModel';
import { fileSetOf } from '../formats/fileSet';
import type { ExportScene } from '../formats/exportScene';
import { EXPORT_FORMATS, writeScene } from '../formats/exportFormats';
import type { LayoutSpec } from '../layout/schema';
import { buildSheet, type Sheet } from '../mapping/sheet';
import type { PartMesh } from '../mesh/types';
import type { Spec } from '../specification/schema';
import type { MappingSpec } from '../mapping/schema';
import { boxTriangles, cylinderTriangles, preparedFrom, prismWalls } from '../testing/fixtures';
import {} from '../testing/shapes';
import { arrangeOn, laidSpec, oak, polygon, rectangle, wallMesh, wallSheet } from '../testing/surfaces';
import { dressPieces } from './dressPieces';
import { exportPieces } from './exportPieces';
import { finishOn } from '../specification/finish';

const brick: LayoutSpec = { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false };
const tile: LayoutSpec = { kind: 'grid', widthMm: 97, heightMm: 97, shift: 0, diagonal: false, across: null, up: null };
const UNROLL: MappingSpec = { kind: 'unroll' };

/** Every triangle seen from the front as its normals say. */
function facesFront(
  { positions: p, normals, indices }: { positions: Float32Array; normals: ArrayLike<number>; indices: Uint32Array },
  stride: number,
) {
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((n) => p[indices[i + k] * 3 + n]));
    const [u, v] = [b.map((x, n) => x - a[n]), c.map((x, n) => x - a[n])];
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    const m = [0, 1, 2].map((k) => normals[indices[i] * stride + k]);
    if (n[0] * m[0] + n[1] * m[1] + n[2] * m[2] < 0) return false;
  }
  return true;
}

/** A rounded counter front, a cylinder, a box: what is not flat. */
async function surface(triangles: number[], mapping: MappingSpec, pick = 0): Promise<{ mesh: PartMesh; sheet: Sheet }> {
  const model = await preparedFrom([{ name: 'Part', triangles }]);
  const { mesh, surfaces } = model.parts[0];
  const sorted = [...surfaces].sort((a, b) => b.area - a.area);
  return { mesh, sheet: buildSheet(mesh, sorted[pick].faces, mapping) };
}

const open = (spec: Spec, { sheet }: { sheet: Sheet }) => arrangeOn(spec, sheet);

describe('buffers for drawing', () => {
  const walls = {
    plain: [rectangle(3000, 2000)],
    'with a round hole': [rectangle(3000, 2000), [...polygon(400, 32, 0, 1400, 900)].reverse()],
  };

  test.each(Object.entries(walls))('cover a flat wall that is %s exactly, at any turn, mirrored or not', (_, loops) => {
    const mesh = wallMesh(loops);
    const sheet = wallSheet(mesh);
    for (const turnDeg of [0, 30, 90]) {
      for (const mirrorX of [false, true]) {
        const spec = laidSpec({ layout: brick, joint: 10, turnDeg, start: [37, -12] });
        spec.direction.mirrorX = mirrorX;
        const [buffers] = dressPieces(sheet, open(spec, { sheet }));
        expect(areaOfTriangles(buffers) / sheet.area).toBeCloseTo(1, 5);
        expect(facesFront(buffers, 4)).toBe(true);
        expect(buffers.positions.length / 3).toBe(buffers.uvs.length / 2);
      }
    }
  });

  test('texture coordinates keep true size within every triangle', () => {
    const mesh = wallMesh([rectangle(2000, 1500)]);
    const sheet = wallSheet(mesh);
    const [b] = dressPieces(sheet, open(laidSpec({ layout: brick, joint: 10, turnDeg: 20 }), { sheet }));
    for (let i = 0; i < b.indices.length; i += 3) {
      const [p, q] = [b.indices[i], b.indices[i + 1]];
      const mm = Math.hypot(...[0, 1, 2].map((n) => b.positions[p * 3 + n] - b.positions[q * 3 + n]));
      const du = (b.uvs[p * 2] - b.uvs[q * 2]) * 2280;
      const dv = (b.uvs[p * 2 + 1] - b.uvs[q * 2 + 1]) * 1140;
      expect(Math.abs(Math.hypot(du, dv) - mm)).toBeLessThan(0.05);
    }
  });
});

describe('surfaces that bend', () => {
  test('a cylinder unrolls to its girth by its height, every face true, cut once', async () => {
    const { sheet } = await surface(cylinderTriangles(0.23, 3, 64), UNROLL);
    const girth = 64 * 2 * 230 * Math.sin(Math.PI / 64);
    expect(sheet.bounds.maxX - sheet.bounds.minX).toBeCloseTo(girth, 0);
    expect(sheet.bounds.maxY - sheet.bounds.minY).toBeCloseTo(3000, 1);
    expect(sheet.area / sheet.trueArea).toBeCloseTo(1, 5);
    expect([sheet.stretch.least, sheet.stretch.most].map((s) => Math.round(s * 1e3))).toEqual([1000, 1000]);
    expect(sheet.breaks).toHaveLength(1);
    expect(sheet.breaks[0].length).toBeCloseTo(3000, 0);
    expect(sheet.charts[0].outline).toHaveLength(1);
  });

  test('a wall that turns a rounded corner lies in one strip', async () => {
    const arc = Array.from({ length: 25 }, (_, i): [number, number] => [
      1 + 0.35 * Math.sin((i / 24) * (Math.PI / 2)),
      -0.35 + 0.35 * Math.cos((i / 24) * (Math.PI / 2)),
    ]);
    const plan: [number, number][] = [[0, 0], ...arc, [1.35, -2]];
    // an open wall: the closing side is left out
    const walls = prismWalls(plan, 1).slice(0, -18);
    const { sheet } = await surface(walls, UNROLL);
    const length = plan.slice(1).reduce((n, p, i) => n + Math.hypot(p[0] - plan[i][0], p[1] - plan[i][1]), 0) * 1000;
    expect(sheet.bounds.maxX - sheet.bounds.minX).toBeCloseTo(length, 0);
    expect(sheet.breaks).toEqual([]);
  });

  test('pieces round a cylinder cover it, each counted once however many facets it crosses', async () => {
    const made = await surface(cylinderTriangles(0.23, 3, 64), UNROLL);
    const spec = { ...laidSpec({ layout: tile, joint: 3 }), mapping: UNROLL };
    const opened = open(spec, made);
    const [buffers] = dressPieces(made.sheet, opened);
    expect(areaOfTriangles(buffers) / made.sheet.trueArea).toBeCloseTo(1, 4);
    expect(facesFront(buffers, 4)).toBe(true);
    const pieces = listPieces(opened);
    const girth = made.sheet.bounds.maxX - made.sheet.bounds.minX;
    expect(pieces).toHaveLength(Math.ceil(girth / 100) * 30);
    expect(new Set(pieces.map((p) => `${p.course},${p.index}`)).size).toBe(pieces.length);
  });

  test('a box mapped as a box is covered on all its charts', async () => {
    const model = await preparedFrom([{ name: 'Box', triangles: boxTriangles([0, 0, 0], [1.2, 0.8, 0.6]) }]);
    const { mesh } = model.parts[0];
    const sheet = buildSheet(mesh, [0, mesh.slots.length], { kind: 'box', axes: 'surface' });
    const spec: Spec = { ...laidSpec({ layout: brick, joint: 10 }), mapping: { kind: 'box', axes: 'surface' } };
    const buffers = dressPieces(sheet, open(spec, { sheet }));
    expect(areaOfTriangles(buffers[0]) / sheet.trueArea).toBeCloseTo(1, 4);
  });
});

describe('as modelled', () => {
  test('every body is a piece with a print of its own, its faces untouched', async () => {
    // a deck of boards that are boxes of their own, all tops one surface
    const boards = Array.from({ length: 14 }, (_, i) =>
      boxTriangles([0, 0, i * 0.1], [1.8, 0.02, i * 0.1 + 0.095]),
    ).flat();
    const model = await preparedFrom([{ name: 'Deck', triangles: boards }]);
    const { mesh, surfaces } = model.parts[0];
    const tops = surfaces.filter((s) => s.normal[1] > 0.9).flatMap((s) => s.faces);
    const sheet = buildSheet(mesh, tops, { kind: 'flat', direction: 'auto' });
    const opened = open(laidSpec({ layout: { kind: 'asModelled' } }), { sheet });
    const pieces = listPieces(opened);
    expect(pieces).toHaveLength(14);
    for (const p of pieces) {
      expect(p.area).toBeCloseTo(1800 * 95, -1);
      expect([Math.round(p.length), Math.round(p.width)]).toEqual([1800, 95]);
      expect(Math.abs(p.axis[0])).toBe(1);
    }
    const prints = pieces.map((p) => opened.dealer.printOf(p.course, p.index));
    for (let i = 1; i < prints.length; i++) expect(prints[i]).not.toBe(prints[i - 1]);
    const [buffers] = dressPieces(sheet, opened);
    expect(buffers.indices.length / 3).toBe(28);
    expect(areaOfTriangles(buffers) / sheet.trueArea).toBeCloseTo(1, 5);
  });
});

describe('handed over', () => {
  const PIXEL = Uint8Array.from(
    atob('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg=='),
    (c) => c.charCodeAt(0),
  );
  const picture = (key: string) => ({ key, bytes: PIXEL, mime: 'image/png' as const });

  async function scene(): Promise<{ scene: ExportScene; sheet: Sheet }> {
    const made = await surface(cylinderTriangles(0.23, 1, 32), UNROLL);
    const spec = { ...laidSpec({ layout: tile, joint: 3, variation: { tiltDeg: 0.5 } }), mapping: UNROLL };
    const {
      pieces,
      joints: [joints],
    } = exportPieces(open(spec, made), { tangents: true });
    expect(areaOfTriangles(pieces[0].dressed) + areaOfTriangles(joints.dressed)).toBeCloseTo(made.sheet.trueArea, -2);
    expect(facesFront(pieces[0].dressed, 3)).toBe(true);
    const material = oak();
    return {
      sheet: made.sheet,
      scene: {
        name: 'Test',
        materials: [
          {
            material,
            look: finishOn(spec.finish, material),
            widthMm: 2280,
            heightMm: 1140,
            brightened: 1.06,
            pictures: { baseColour: picture('k1234567'), normal: picture('n1234567') },
          },
        ],
        parts: [
          {
            name: 'Column',
            path: ['Hall'],
            origin: made.mesh.origin,
            pivot: [0, 0, 0],
            surfaces: [
              { name: 'Barrel', dressed: pieces[0].dressed, material: 0 },
              { name: 'Barrel, joints', dressed: joints.dressed, material: '#cfc9bb' },
            ],
          },
        ],
      },
    };
  }

  test('a GLB of pieces has coordinates, tones and tangents, and the validator is content', async () => {
    const glb = (await writeScene(EXPORT_FORMATS[0], (await scene()).scene, 'test'))['test.glb'];
    const { issues } = await validateBytes(glb);
    expect([issues.numErrors, issues.numWarnings]).toEqual([0, 0]);
    const document = await new WebIO()
      .registerExtensions([KHRTextureTransform, KHRMaterialsEmissiveStrength])
      .readBinary(glb);
    const primitives = document.getRoot().listMeshes()[0].listPrimitives();
    expect(primitives.map((p) => p.listSemantics().sort())).toEqual([
      ['COLOR_0', 'NORMAL', 'POSITION', 'TANGENT', 'TEXCOORD_0'],
      ['NORMAL', 'POSITION'],
    ]);
    const tangents = primitives[0].getAttribute('TANGENT')!.getArray()!;
    const normals = primitives[0].getAttribute('NORMAL')!.getArray()!;
    for (let v = 0; v < normals.length / 3; v += 11) {
      expect(Math.hypot(tangents[v * 4], tangents[v * 4 + 1], tangents[v * 4 + 2])).toBeCloseTo(1, 4);
      const along = [0, 1, 2].reduce((n, c) => n + tangents[v * 4 + c] * normals[v * 3 + c], 0);
      expect(Math.abs(along)).toBeLessThan(1e-3);
    }
  });

  test('an OBJ of pieces comes back at its size, with its slots and pictures', async () => {
    const { scene: made } = await scene();
    const files = await writeScene(EXPORT_FORMATS[2], made, 'column');
    const raw = await readModel(fileSetOf(files));
    expect(raw.slots.map((s) => s.name)).toEqual(['Oak', 'plain_cfc9bb']);
    expect(raw.missingPictures).toEqual([]);
    expect(Object.keys(raw.slots[0].pictures).sort()).toEqual(['baseColour', 'normal']);
    const [part] = raw.parts;
    let [low, high] = [Infinity, -Infinity];
    for (let i = 1; i < part.positions.length; i += 3) {
      low = Math.min(low, part.positions[i] + part.origin[1]);
      high = Math.max(high, part.positions[i] + part.origin[1]);
    }
    expect(high - low).toBeCloseTo(1, 5);
  });
});

test('maps that stay put take the surface’s own coordinates, in the file as well', async () => {
  const mesh = wallMesh([rectangle(2000, 1000)]);
  const sheet = wallSheet(mesh);
  const spec = laidSpec({ layout: brick, joint: 10, variation: { maps: ['baseColour'] } });
  const { pieces } = exportPieces(open(spec, { sheet }), { tangents: false });
  const { dressed } = pieces[0];
  for (let v = 0; v < dressed.positions.length / 3; v += 17) {
    // the start is the wall's lower left corner: the layout's frame is the wall
    expect(dressed.placesMm![v * 2]).toBeCloseTo(dressed.positions[v * 3], 2);
    expect(dressed.placesMm![v * 2 + 1]).toBeCloseTo(dressed.positions[v * 3 + 1], 2);
  }
});
