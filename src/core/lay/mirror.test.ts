import { cylinderTriangles } from '../testing/fixtures';
import { laidSpec, oak, rectangle, wallMesh } from '../testing/surfaces';
import { exportLaid, type HandedOver } from '../dress/exportLaid';
import { type Plane, planeThrough, reflectDirection, reflectPoint } from '../geometry/plane';
import { cross, dot, length, normalise, subtract, type Vec3 } from '../geometry/vec';
import { FIRST_MAPPING, type MappingSpec } from '../mapping/schema';
import { mirrorMesh } from '../mesh/mirror';
import { cornerOf, middleOfFace } from '../mesh/nearestFace';
import type { PartMesh } from '../mesh/types';
import type { Spec } from '../specification/schema';
import { evaluateAt } from './evaluate';
import { findMirrors, mirrorShape, mirrorThrough } from './findMirrors';
import { type Laid, lay } from './lay';
import { mirrorMapping, mirrorSpec, offImage } from './mirrorSpec';
import { pointOnSheet } from '../mapping/sheet';

const wall = wallMesh([rectangle(2300, 1210), rectangle(600, 500).map(([x, y]) => [x + 900, y + 300])]);
const WALL = { ...wall, origin: [400, 0, -250] as Vec3 };
const WAYS: [string, Plane][] = [
  ['square to it', planeThrough([4000, 0, 0], [1, 0, 0])],
  ['along it', planeThrough([0, 0, 1500], [0, 0, 1])],
  ['aslant', planeThrough([1000, 200, 2000], [0.5, 0, 0.8])],
  ['leaning', planeThrough([1000, 200, 2000], [0.5, 0.3, 0.8])],
  ['lying', planeThrough([0, -700, 0], [0, 1, 0])],
];
const brick = { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false } as const;

/** The mesh with its faces in another order, each beginning at another corner. */
function otherwiseWritten(mesh: PartMesh): PartMesh {
  const count = mesh.indices.length / 3;
  const indices = new Uint32Array(mesh.indices.length);
  for (let f = 0; f < count; f++) {
    const from = (f * 7 + 3) % count;
    for (let k = 0; k < 3; k++) indices[f * 3 + k] = mesh.indices[from * 3 + ((k + 1) % 3)];
  }
  return { ...mesh, indices };
}

const everyFace = (mesh: PartMesh) => [0, mesh.indices.length / 3];
const layOn = (id: string, mesh: PartMesh, spec: Spec): Laid =>
  lay(
    {
      id,
      patches: [{ faces: everyFace(mesh) }],
      mapping: spec.mapping,
      cuts: [],
      origin: [0, 0, 0],
      spec,
      colour: null,
    },
    [mesh],
    { oak: oak() },
  );

/** What is laid on a mesh, and on its image in a mirror. */
function both(mesh: PartMesh, spec: Spec, plane: Plane, prints: 'mirrored' | 'upright' = 'mirrored', otherwise = true) {
  const image = otherwise ? otherwiseWritten(mirrorMesh(mesh, plane)) : mirrorMesh(mesh, plane);
  const own = layOn('own', mesh, spec);
  const mapping = mirrorMapping(
    spec.mapping,
    { ...plane, prints, of: 'own' },
    { mesh, faces: everyFace(mesh) },
    { mesh: image, faces: everyFace(image) },
  );
  return { own, image: layOn('image', image, mirrorSpec(spec, mapping, own.sheet, [0, 0, 0])) };
}

const spec = (rest: Partial<Spec> = {}): Spec => ({
  ...laidSpec({
    layout: brick,
    joint: 10,
    turnDeg: 12,
    start: [37, 11],
    variation: { turnStepDeg: 180, tiltDeg: 0.4 },
  }),
  ...rest,
});

/** Points all over a mesh, in the world. */
function pointsOn(mesh: PartMesh): { face: number; p: Vec3 }[] {
  const out: { face: number; p: Vec3 }[] = [];
  const weights = [
    [0.2, 0.3, 0.5],
    [0.61, 0.25, 0.14],
    [0.08, 0.77, 0.15],
    [0.4, 0.05, 0.55],
  ];
  for (let face = 0; face < mesh.indices.length / 3; face++) {
    for (const w of weights) {
      const p: Vec3 = [0, 0, 0];
      for (let k = 0; k < 3; k++) cornerOf(mesh, face, k).forEach((v, c) => (p[c] += v * w[k]));
      out.push({ face, p });
    }
  }
  return out;
}

const faceOf = ({ sheet }: Laid, p: Vec3) => {
  let best = [-1, Infinity];
  sheet.faces.forEach((face, i) => {
    const [a, b, c] = [0, 1, 2].map((k) => cornerOf(sheet.mesh, face, k));
    const n = normalise(cross(subtract(b, a), subtract(c, a)));
    const inside = [
      [a, b],
      [b, c],
      [c, a],
    ].map(([u, v]) => dot(cross(subtract(v, u), subtract(p, u)), n));
    const off = Math.abs(dot(n, subtract(p, a))) - Math.min(0, ...inside);
    if (off < best[1]) best = [i, off];
  });
  return best[0];
};

const at = (laid: Laid, p: Vec3) => evaluateAt(laid.arrangement!, pointOnSheet(laid.sheet, faceOf(laid, p), p));

function same(own: Laid, image: Laid, plane: Plane) {
  let seen = 0;
  for (const { p } of pointsOn(own.sheet.mesh)) {
    const [here, there] = [at(own, p), at(image, reflectPoint(plane, p))];
    if (!here || here.share < 1) continue;
    seen++;
    expect(there).not.toBeNull();
    expect([there!.course, there!.index, there!.print, there!.seed]).toEqual([
      here.course,
      here.index,
      here.print,
      here.seed,
    ]);
    expect(there!.u).toBeCloseTo(here.u, 4);
    expect(there!.v).toBeCloseTo(here.v, 4);
    expect(there!.gain).toEqual(here.gain);
  }
  return seen;
}

test.each(WAYS)('reflected points have the same piece, print and tone: a mirror %s', (_name, plane) => {
  const { own, image } = both(WALL, spec(), plane);
  expect(offImage(own.sheet, image.sheet, plane)).toBeLessThan(0.01);
  expect(same(own, image, plane)).toBeGreaterThan(15);
});

const barrel = (() => {
  const p = cylinderTriangles(400, 900, 24);
  // the barrel alone: caps are the third and fourth triangle of each side
  const sides = Array.from({ length: 24 }, (_, i) => p.slice(i * 36, i * 36 + 18)).flat();
  const positions = Float32Array.from(sides);
  const normals = new Float32Array(positions.length);
  for (let i = 0; i < positions.length; i += 3) {
    normals[i] = positions[i] / 400;
    normals[i + 2] = positions[i + 2] / 400;
  }
  const count = positions.length / 3;
  return {
    origin: [1000, 200, 300],
    positions,
    normals,
    uvs: [],
    indices: Uint32Array.from({ length: count }, (_, i) => i),
    slots: new Uint16Array(count / 3),
  } as PartMesh;
})();

test.each<[string, MappingSpec, number]>([
  ['cylinder', { ...FIRST_MAPPING.cylinder, around: 11 }, 2],
  ['unroll, from a face and cut', { kind: 'unroll', from: 6, cuts: [0 * 3 + 1] }, 2],
  ['box', FIRST_MAPPING.box, 0],
])('a barrel, mapped %s', (_name, mapping, way) => {
  const plane = WAYS[way][1];
  const own = spec({ mapping, direction: { turnDeg: 0, mirrorX: false, mirrorY: false } });
  // where a mapping goes from face to face, these come in one order; otherwise that is found, and said
  const { own: one, image } = both(barrel, own, plane, 'mirrored', mapping.kind === 'cylinder');
  expect(offImage(one.sheet, image.sheet, plane)).toBeLessThan(0.01);
  expect(same(one, image, plane)).toBeGreaterThan(60);
});

test('what starts from a place of the world starts from its image', () => {
  const plane = WAYS[2][1];
  const start = { datum: 'world' as const, xMm: 120, yMm: 33 };
  const { own, image } = both(WALL, spec({ start }), plane);
  expect(image.region.spec!.start.datum).toBe('corner');
  expect(same(own, image, plane)).toBeGreaterThan(15);
});

interface Corner {
  p: Vec3;
  n: Vec3;
  t: Vec3;
  w: number;
  uv: [number, number];
}
const trianglesOf = (list: HandedOver[]): Corner[][] =>
  list
    .filter((h) => h.dressed.uvs.length)
    .flatMap(({ dressed: d }) =>
      Array.from({ length: d.indices.length / 3 }, (_, t) =>
        [0, 1, 2].map((k): Corner => {
          const v = d.indices[t * 3 + k];
          const three = (from: Float32Array, width = 3): Vec3 => [0, 1, 2].map((c) => from[v * width + c]) as Vec3;
          const t4 = d.tangents.length ? three(d.tangents, 4) : ([0, 0, 0] as Vec3);
          return {
            p: three(d.positions),
            n: three(d.normals),
            t: t4,
            w: d.tangents[v * 4 + 3] ?? 0,
            uv: [d.uvs[v * 2], d.uvs[v * 2 + 1]],
          };
        }),
      ),
    );

/** A triangle looks the way its normals do, and its tangents lead where its picture does. */
function isWellMade(triangle: Corner[]): void {
  const [a, b, c] = triangle;
  const [e, f] = [subtract(b.p, a.p), subtract(c.p, a.p)];
  const face = cross(e, f);
  if (length(face) < 1) return;
  expect(dot(normalise(face), a.n)).toBeGreaterThan(0.97);
  const [du1, dv1, du2, dv2] = [b.uv[0] - a.uv[0], b.uv[1] - a.uv[1], c.uv[0] - a.uv[0], c.uv[1] - a.uv[1]];
  const det = du1 * dv2 - du2 * dv1;
  if (Math.abs(det) < 1e-7 || !a.w) return;
  const alongU = normalise([0, 1, 2].map((k) => (e[k] * dv2 - f[k] * dv1) / det) as Vec3);
  const alongV = normalise([0, 1, 2].map((k) => (f[k] * du1 - e[k] * du2) / det) as Vec3);
  expect(dot(alongU, a.t)).toBeGreaterThan(0.97);
  expect(dot(cross(a.n, a.t), alongV) * a.w).toBeGreaterThan(0.97);
}

test.each(WAYS)('what is handed over is the mirror image, the right way round: a mirror %s', (_name, plane) => {
  const withNormals = oak({ maps: { normal: { hash: 'a'.repeat(64) } as never } });
  for (const whole of [false, true]) {
    const { pieces: _pieces, ...plain } = spec();
    const laid = (mirrored: boolean) => {
      const base = whole ? (plain as Spec) : spec();
      const mesh = mirrored ? mirrorMesh(WALL, plane) : WALL;
      const mapping = mirrored
        ? { ...base.mapping, mirror: { ...plane, prints: 'mirrored' as const, of: 'own' } }
        : base.mapping;
      const region = { id: 'w', patches: [{ faces: everyFace(mesh) }], mapping, cuts: [], origin: [0, 0, 0] as Vec3 };
      return exportLaid(lay({ ...region, spec: { ...base, mapping }, colour: null }, [mesh], { oak: withNormals }));
    };
    const [own, image] = [trianglesOf(laid(false)), trianglesOf(laid(true))];
    expect(image).toHaveLength(own.length);
    expect(own.length).toBeGreaterThan(whole ? 5 : 150);
    image.forEach(isWellMade);
    // the same corners, reflected, in any order
    const key = ({ p, uv }: Corner) => [...p, ...uv].map((v) => Math.round(v * 20)).join();
    const known = new Set(own.flat().map((c) => key({ ...c, p: reflectDirection(plane, c.p) })));
    const near = image.flat().filter((c) => known.has(key(c))).length;
    expect(near / (image.length * 3)).toBeGreaterThan(0.9);
    for (const corners of own.slice(0, 40)) {
      const image0 = image.flat().find((c) => length(subtract(c.p, reflectDirection(plane, corners[0].p))) < 0.01)!;
      expect(dot(image0.n, reflectDirection(plane, corners[0].n))).toBeGreaterThan(0.999);
    }
  }
});

test('where lettering must read, the layout is mirrored and pictures are not', () => {
  const plane = WAYS[0][1];
  const { own, image } = both(WALL, spec(), plane, 'upright');
  let seen = 0;
  for (const { p } of pointsOn(WALL)) {
    const [here, there] = [at(own, p), at(image, reflectPoint(plane, p))];
    if (!here || here.share < 1) continue;
    seen++;
    expect([there!.course, there!.index, there!.print]).toEqual([here.course, here.index, here.print]);
  }
  expect(seen).toBeGreaterThan(15);
  // seen from its front a picture's u and v turn the same way on both: neither is mirrored
  const turns = (laid: Laid) => {
    const [t] = trianglesOf(exportLaid(laid)).filter(
      ([a, b, c]) => length(cross(subtract(b.p, a.p), subtract(c.p, a.p))) > 500,
    );
    const [a, b, c] = t;
    return Math.sign((b.uv[0] - a.uv[0]) * (c.uv[1] - a.uv[1]) - (c.uv[0] - a.uv[0]) * (b.uv[1] - a.uv[1]));
  };
  expect(turns(image)).toBe(turns(own));
  expect(turns(both(WALL, spec(), plane).image)).toBe(-turns(own));
});

test('a whole picture that reads covers the same rectangles', () => {
  const plane = WAYS[0][1];
  const { pieces: _pieces, ...plain } = spec();
  const { own, image } = both(WALL, plain as Spec, plane, 'upright');
  const { placement: p } = own;
  const q = image.placement!;
  expect([q.mirrorX, q.turnDeg]).toEqual([!p!.mirrorX, p!.turnDeg]);
  const moved = Math.hypot(q.at[0] - p!.at[0], q.at[1] - p!.at[1]);
  expect(moved).toBeCloseTo(p!.widthMm, 6);
});

test('coordinates of the model are no image of each other, and that is found', () => {
  const uvs = [Float32Array.from(WALL.positions.filter((_, i) => i % 3 < 2).map((v) => v / 1000))];
  const plane = WAYS[0][1];
  const mesh = { ...WALL, uvs };
  const moved = { ...mirrorMesh(mesh, plane), uvs: [uvs[0].map((v, i) => (i % 2 ? v : 3 - v))] };
  const mapping: MappingSpec = { ...FIRST_MAPPING.own, unit: { widthMm: 1000, heightMm: 1000 } };
  const own = layOn('own', mesh, spec({ mapping }));
  const image = layOn(
    'image',
    moved,
    spec({ mapping: { ...mapping, mirror: { ...plane, prints: 'mirrored', of: 'own' } } }),
  );
  expect(offImage(own.sheet, image.sheet, plane)).toBeGreaterThan(100);
});

describe('finding the half that matches', () => {
  const plane = planeThrough([3000, 0, 0], [0.6, 0, 0.8]);
  const shape = (id: string, mesh: PartMesh) => mirrorShape(id, [mesh], [{ faces: everyFace(mesh) }], 2);
  const low = { ...wallMesh([rectangle(1500, 700)]), origin: [-900, 0, 400] as Vec3 };
  const own = [shape('wall', WALL), shape('low', low)];
  const images = [shape('wall’', otherwiseWritten(mirrorMesh(WALL, plane))), shape('low’', mirrorMesh(low, plane))];
  // as large, in the image's place, but without the opening where it is
  const decoy = shape('decoy', wallMesh([rectangle(1500, 700)]));

  test('the plane with most pairs comes first', () => {
    const [best] = findMirrors(own, [...own, decoy, ...images], 2);
    expect(Math.abs(dot(best.plane.normal, plane.normal))).toBeCloseTo(1, 6);
    expect(best.pairs).toEqual([
      ['wall', 'wall’'],
      ['low', 'low’'],
    ]);
    expect([best.alone, best.astride]).toEqual([[], []]);
  });

  test('what has no image is named, and what lies across the plane is its own', () => {
    const across = shape('across', wallMesh([rectangle(1000, 300)]));
    const middle = planeThrough([500, 0, 0], [1, 0, 0]);
    expect(mirrorThrough(middle, [across, own[0]], [across, ...own], 2)).toEqual({
      plane: middle,
      pairs: [],
      astride: ['across'],
      alone: ['wall'],
    });
  });

  test('a vertex farther off than allowed is no image', () => {
    const far = mirrorMesh(low, plane);
    const bent = { ...far, positions: far.positions.map((v, i) => (i === 0 ? v + 3 : v)) };
    const more = (within: number) =>
      mirrorThrough(plane, [own[1]], [mirrorShape('b', [bent], [{ faces: everyFace(bent) }], within)], within);
    expect(more(2).pairs).toHaveLength(0);
    expect(more(6).pairs).toHaveLength(1);
  });
});

test('the middle of a face is its corners’ mean', () => {
  const [x, y, z] = middleOfFace(WALL, 0);
  const corners = [0, 1, 2].map((k) => cornerOf(WALL, 0, k));
  expect(x).toBeCloseTo(corners.reduce((s, c) => s + c[0], 0) / 3, 6);
  expect([y > 0, z]).toEqual([true, -250]);
});
