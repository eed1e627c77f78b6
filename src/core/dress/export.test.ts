import { type Document, WebIO } from '@gltf-transform/core';
import { KHRMaterialsEmissiveStrength, KHRTextureTransform, type Transform } from '@gltf-transform/extensions';
import { validateBytes } from 'gltf-validator';
import type { Vec3 } from '../geometry/vec';
import type { ExportScene } from '../formats/exportScene';
import { EXPORT_FORMATS, writeScene } from '../formats/exportFormats';
import { fileSetOf } from '../formats/fileSet';
import { readModel } from '../formats/readModel';
import { buildSheet } from '../mapping/sheet';
import { defaultFinish, type Material } from '../material/schema';
import { prepareModel } from '../mesh/prepare';
import { type Spec, defaultSpec, repeatOf } from '../specification/schema';
import { floorTriangles, makeGlb, type NodeOptions } from '../testing/fixtures';
import { dressSurface } from './dressSurface';
import { finishOn } from '../specification/finish';
import { placeSpec } from '../setout/placement';

const PIXEL = Uint8Array.from(
  atob('iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg=='),
  (c) => c.charCodeAt(0),
);

const material: Material = {
  id: 'm',
  version: 1,
  name: 'Test',
  kind: 'test',
  tags: [],
  widthMm: 600,
  heightMm: 600,
  maps: {},
  colour: '#808080',
  grain: 'none',
  seamless: true,
  twoSided: false,
  sampling: 'soft',
  finish: defaultFinish(),
  source: '',
  licence: '',
  credit: '',
  repetition: null,
  builtIn: false,
};

/** Import, dress, export, read back: the way a file really takes. */
async function roundTrip(triangles: number[], spec: Spec, node?: NodeOptions) {
  const raw = await readModel(fileSetOf({ 'a.glb': await makeGlb([{ name: 'Part', triangles, node }]) }));
  const model = prepareModel(raw, { unitMm: 1000, upAxis: 'y' });
  const look = finishOn(spec.finish, material, repeatOf(spec, material).widthMm);
  const scene: ExportScene = {
    name: 'Test',
    materials: [
      {
        material,
        look,
        ...repeatOf(spec, material),
        pictures: {
          baseColour: { key: 'k1234567', bytes: PIXEL, mime: 'image/png' },
          normal: { key: 'n1234567', bytes: PIXEL, mime: 'image/png' },
        },
      },
    ],
    parts: model.parts.map((p) => ({
      name: p.name,
      path: p.path,
      origin: p.mesh.origin,
      pivot: p.pivot,
      surfaces: p.surfaces.map((s, i) => {
        const sheet = buildSheet(p.mesh, s.faces, spec.mapping);
        return {
          name: `S${i}`,
          dressed: dressSurface(sheet, placeSpec(spec, material, sheet, p.mesh.origin), { tangents: true }),
          material: 0,
        };
      }),
    })),
  };
  const glb = (await writeScene(EXPORT_FORMATS[0], scene, 'test'))['test.glb'];
  const document = await new WebIO()
    .registerExtensions([KHRTextureTransform, KHRMaterialsEmissiveStrength])
    .readBinary(glb);
  return { glb, document };
}

/** World positions (mm) and final texture coordinates of every vertex, glTF's own way. */
function vertices(document: Document): { p: Vec3; uv: [number, number] }[] {
  const out: { p: Vec3; uv: [number, number] }[] = [];
  for (const node of document.getRoot().listNodes()) {
    const [tx, ty, tz] = node.getWorldTranslation();
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      const position = primitive.getAttribute('POSITION')!;
      const uv = primitive.getAttribute('TEXCOORD_0')!;
      const transform = primitive
        .getMaterial()!
        .getBaseColorTextureInfo()!
        .getExtension<Transform>('KHR_texture_transform')!;
      const [sx, sy] = transform.getScale();
      const [ox, oy] = transform.getOffset();
      const r = transform.getRotation();
      for (let i = 0; i < position.getCount(); i++) {
        const [x, y, z] = position.getElement(i, [0, 0, 0]);
        const [u, v] = uv.getElement(i, [0, 0]);
        // translation · rotation · scale, as KHR_texture_transform defines it
        const [su, sv] = [u * sx, v * sy];
        out.push({
          p: [(x + tx) * 1000, (y + ty) * 1000, (z + tz) * 1000],
          uv: [Math.cos(r) * su + Math.sin(r) * sv + ox, -Math.sin(r) * su + Math.cos(r) * sv + oy],
        });
      }
    }
  }
  return out;
}

const span = (values: number[]) => Math.max(...values) - Math.min(...values);
const plain: Spec = { ...defaultSpec('m'), repeat: { own: { widthMm: 600, heightMm: 600 }, locked: true } };

test('600 × 600 on a floor of 5.4 × 4.2 m repeats exactly 9 and 7 times', async () => {
  const v = vertices((await roundTrip(floorTriangles(5.4, 4.2), plain)).document);
  expect(span(v.map((x) => x.uv[0]))).toBeCloseTo(9, 4);
  expect(span(v.map((x) => x.uv[1]))).toBeCloseTo(7, 4);
});

test('scaled 2 × 1 × 0.5 by its node it follows the new true size', async () => {
  const v = vertices((await roundTrip(floorTriangles(5.4, 4.2), plain, { scale: [2, 1, 0.5] })).document);
  expect(span(v.map((x) => x.uv[0]))).toBeCloseTo(18, 4);
  expect(span(v.map((x) => x.uv[1]))).toBeCloseTo(3.5, 4);
});

const wall = [0, 0, 0, 5.4, 0, 0, 5.4, 4.2, 0, 0, 0, 0, 5.4, 4.2, 0, 0, 4.2, 0];

test('on a wall, and on a wall turned out of all axes', async () => {
  const half = (25 * Math.PI) / 360;
  for (const node of [{}, { rotation: [0, Math.sin(half), 0, Math.cos(half)] as [number, number, number, number] }]) {
    const v = vertices((await roundTrip(wall, plain, node)).document);
    expect(span(v.map((x) => x.uv[0]))).toBeCloseTo(9, 4);
    expect(span(v.map((x) => x.uv[1]))).toBeCloseTo(7, 4);
  }
});

test.each([
  [false, false],
  [true, false],
  [false, true],
  [true, true],
])('1200 × 190 turned 30°, mirrored %p %p: Δuv = diag(1/w, 1/h) · M · R(−30°) · Δp', async (mirrorX, mirrorY) => {
  const spec: Spec = {
    ...plain,
    repeat: { own: { widthMm: 1200, heightMm: 190 }, locked: false },
    start: { datum: 'centre', xMm: 37, yMm: -12 },
    direction: { turnDeg: 30, mirrorX, mirrorY },
  };
  const v = vertices((await roundTrip(wall, spec)).document);
  const c = Math.cos(Math.PI / 6);
  const s = Math.sin(Math.PI / 6);
  for (const a of v) {
    for (const b of v) {
      const [dx, dy] = [b.p[0] - a.p[0], b.p[1] - a.p[1]];
      const x = (c * dx + s * dy) * (mirrorX ? -1 : 1);
      const y = (-s * dx + c * dy) * (mirrorY ? -1 : 1);
      expect(Math.abs(b.uv[0] - a.uv[0] - x / 1200)).toBeLessThan(1e-4);
      // glTF counts v downwards
      expect(Math.abs(b.uv[1] - a.uv[1] + y / 190)).toBeLessThan(1e-4);
    }
  }
});

test('the standard body’s validator finds no errors and no warnings; tangents follow the picture', async () => {
  const spec: Spec = { ...plain, direction: { turnDeg: 90, mirrorX: true, mirrorY: false } };
  const { glb, document } = await roundTrip(wall, spec);
  const { issues } = await validateBytes(glb);
  expect([issues.numErrors, issues.numWarnings, issues.messages.filter((m) => m.severity < 2)]).toEqual([0, 0, []]);
  const tangent = document.getRoot().listMeshes()[0].listPrimitives()[0].getAttribute('TANGENT')!.getElement(0, []);
  // turned a quarter left the picture's x points up; mirrored, down, and the handedness flips
  expect(tangent.map((x) => Math.round(x))).toEqual([0, -1, 0, -1]);
});

test('read back, the model is as large as it was', async () => {
  const { glb } = await roundTrip(wall, plain, { translation: [3, 1, -2] });
  const again = prepareModel(await readModel(fileSetOf({ 'b.glb': glb })), { unitMm: 1000, upAxis: 'y' });
  const { min, max } = again.bounds;
  expect(max.map((m, i) => Math.round(m - min[i]))).toEqual([5400, 4200, 0]);
  expect(min.map(Math.round)).toEqual([3000, 1000, -2000]);
  expect(again.parts[0].name).toBe('Part');
  // the node stands where it stood
  expect(again.parts[0].pivot.map(Math.round)).toEqual([3000, 1000, -2000]);
});

test(
  'a part kilometres from its own node is written ' + 'around its vertices, to the hundredth of a millimetre',
  async () => {
    const far = wall.map((v, i) => (i % 3 === 0 ? v + 4000 : v));
    const { document } = await roundTrip(far, plain);
    const [node] = document
      .getRoot()
      .listNodes()
      .filter((n) => n.getMesh());
    expect(node.getTranslation()[0]).toBeGreaterThan(3999);
    const xs = vertices(document).map((v) => v.p[0]);
    expect(Math.abs(Math.max(...xs) - Math.min(...xs) - 5400)).toBeLessThan(0.5);
  },
);

test('slopes flatten when the picture is laid larger, and steepen with relief', () => {
  const deep: Material = { ...material, finish: { ...defaultFinish(), reliefMm: 2 } };
  expect(finishOn(plain.finish, deep).normalScale).toBe(1);
  const larger: Spec = { ...plain, repeat: { own: { widthMm: 1200, heightMm: 1200 }, locked: true } };
  expect(finishOn(larger.finish, deep, larger.repeat.own!.widthMm).normalScale).toBe(0.5);
  expect(finishOn({ reliefMm: 4 }, deep).normalScale).toBe(2);
});
