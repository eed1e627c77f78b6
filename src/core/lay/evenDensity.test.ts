import { FIRST_MAPPING } from '../mapping/schema';
import { buildSheet } from '../mapping/sheet';
import { cylinderTriangles } from '../testing/fixtures';
import { laidSpec, oak, rectangle, wallMesh, wallSheet } from '../testing/surfaces';
import { defaultSpec, followMaterial, repeatOf, type Spec } from '../specification/schema';
import type { PartMesh } from '../mesh/types';
import { largerBy, showAlike, sizeShown, touches } from './evenDensity';

const at = (mesh: PartMesh, origin: [number, number, number]): PartMesh => ({ ...mesh, origin });
const wall = wallSheet(wallMesh([rectangle(2000, 1000)]));
const material = oak();

test('a percentage follows the material, an own size does not', () => {
  const spec: Spec = { ...defaultSpec('oak'), repeat: followMaterial(defaultSpec('oak').repeat, 50) };
  expect(repeatOf(spec, material)).toEqual({ widthMm: 1140, heightMm: 570 });
  expect(repeatOf(spec, oak({ widthMm: 1000, heightMm: 300 }))).toEqual({ widthMm: 500, heightMm: 150 });
  const own = { ...spec, repeat: { ...spec.repeat, own: { widthMm: 700, heightMm: 70 } } };
  expect(repeatOf(own, oak({ widthMm: 1000 }))).toEqual({ widthMm: 700, heightMm: 70 });
  expect(followMaterial(own.repeat)).toEqual({ own: null, locked: true });
});

test.each<[string, Spec['repeat'], number]>([
  ['follows the material', { own: null, locked: true }, 0],
  ['a percentage of it', { own: null, locked: true, percent: 80 }, -0.2],
  ['a size of its own', { own: { widthMm: 2508, heightMm: 1254 }, locked: true }, 0.1],
  ['too little to see', { own: { widthMm: 2285, heightMm: 1142 }, locked: true }, 0],
])('how much larger it is shown: %s', (_name, repeat, by) => {
  const like = defaultSpec('oak');
  const own = { ...defaultSpec('oak'), repeat };
  expect(largerBy(sizeShown(own, material, wall), sizeShown(like, material, wall))).toBeCloseTo(by, 6);
});

const ball = (() => {
  const positions = Float32Array.from(cylinderTriangles(500, 1200, 32));
  const normals = positions.map((v, i) => (i % 3 === 1 ? 0 : v / 500));
  const count = positions.length / 3;
  const indices = Uint32Array.from({ length: count }, (_, i) => i);
  const slots = new Uint16Array(count / 3);
  return { origin: [0, 0, 0], positions, normals, uvs: [], indices, slots } as PartMesh;
})();

test('neighbours are set to one density within a hundredth, stretched sheets too', () => {
  const everyFace = [0, ball.indices.length / 3];
  const stretched = buildSheet(ball, everyFace, FIRST_MAPPING.sphere);
  expect(Math.abs(stretched.stretch.mean - 1)).toBeGreaterThan(0.02);
  for (const repeat of [
    { own: null, locked: true },
    { own: null, locked: true, percent: 60 },
    { own: { widthMm: 900, heightMm: 333 }, locked: false },
  ]) {
    const like = { ...defaultSpec('oak'), repeat };
    const shown = sizeShown(like, material, wall);
    const before = { ...laidSpec({ layout: { kind: 'asModelled' } }), mapping: FIRST_MAPPING.sphere };
    const made = showAlike(before, material, { spec: like, shown }, stretched);
    const after = sizeShown(made, material, stretched);
    expect(Math.abs(after.widthMm / shown.widthMm - 1)).toBeLessThan(0.01);
    expect(Math.abs(after.heightMm / shown.heightMm - 1)).toBeLessThan(0.01);
    // on a true sheet what follows goes on following
    const flat = showAlike(defaultSpec('oak'), material, { spec: like, shown }, wall);
    expect(flat.repeat.own === null).toBe(like.repeat.own === null);
    expect(repeatOf(flat, material)).toEqual(repeatOf(like, material));
  }
});

test('surfaces meet at an edge, in the middle of one, not beside each other', () => {
  const mesh = wallMesh([rectangle(1000, 1000)]);
  const sheetAt = (origin: [number, number, number]) => wallSheet(at(mesh, origin));
  expect(touches(wall, sheetAt([2000, 0, 0]), 5)).toBe(true);
  expect(touches(wall, sheetAt([2004, 0, 0]), 5)).toBe(true);
  expect(touches(wall, sheetAt([2006, 0, 0]), 5)).toBe(false);
  // a small one standing on the middle of a large one, and the other way round
  const small = wallSheet(at(wallMesh([rectangle(100, 100)]), [700, 300, 2]));
  expect([touches(wall, small, 5), touches(small, wall, 5)]).toEqual([true, true]);
  // the boxes meet, the surfaces do not
  const corner = wallSheet(
    wallMesh([
      [
        [0, 0],
        [2000, 0],
        [0, 1000],
      ],
    ]),
  );
  expect(touches(corner, wallSheet(at(wallMesh([rectangle(300, 300)]), [1600, 600, 0])), 5)).toBe(false);
});
