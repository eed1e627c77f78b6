import fc from 'fast-check';
import { buildSheet } from '../mapping/sheet';
import { defaultFinish, type Material } from '../material/schema';
import { defaultSpec, type Spec } from '../specification/schema';
import { floorTriangles, preparedFrom } from '../testing/fixtures';
import { dressSurface, shapeSurface } from '../dress/dressSurface';
import { pictureFrame } from './handles';
import { countsAcross, datumOf, placeSpec, repeatMatrix } from './placement';
import { turnOf } from '../geometry/turn';

const material: Material = {
  id: 'm',
  version: 1,
  name: 'M',
  kind: 'test',
  tags: [],
  widthMm: 600,
  heightMm: 300,
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

async function floor(width = 5.4, depth = 4.2, at: [number, number, number] = [0, 0, 0]) {
  const { parts } = await preparedFrom([
    { name: 'Floor', triangles: floorTriangles(width, depth), node: { translation: at } },
  ]);
  const [part] = parts;
  return { part, sheet: buildSheet(part.mesh, part.surfaces[0].faces, { kind: 'flat', direction: 'auto' }) };
}

test('datums: corner, centre, part and world', async () => {
  const { part, sheet } = await floor(5.4, 4.2, [2, 0, -1]);
  const datum = (kind: Spec['start']['datum']) =>
    datumOf({ ...defaultSpec('m'), start: { datum: kind, xMm: 0, yMm: 0 } }, sheet, part.pivot).map(Math.round);
  // the floor runs from x 2000 to 7400 and from z −1000 to 3200; sheet y is −z
  expect(datum('corner')).toEqual([2000, -3200]);
  expect(datum('centre')).toEqual([4700, -1100]);
  expect(datum('part')).toEqual([2000, 1000]);
  expect(datum('world').map((v) => v + 0)).toEqual([0, 0]);
});

test('locked to the world, the pattern stays where the world has it when the floor grows or moves', async () => {
  const spec: Spec = { ...defaultSpec('m'), start: { datum: 'world', xMm: 30, yMm: 40 } };
  const uvAt = async (width: number, at: [number, number, number], x: number, z: number) => {
    const { part, sheet } = await floor(width, 4.2, at);
    const p = placeSpec(spec, material, sheet, part.pivot);
    const [a, b, c, d] = repeatMatrix(p);
    const [dx, dy] = [x - p.at[0], -z - p.at[1]];
    return [a * dx + b * dy, c * dx + d * dy].map((v) => v - Math.floor(v));
  };
  const before = await uvAt(5.4, [0, 0, 0], 1234, 567);
  for (const [w, at] of [
    [6.3, [0, 0, 0]],
    [5.4, [0.9, 0, 0.4]],
  ] as const) {
    (await uvAt(w, at as [number, number, number], 1234, 567)).forEach((v, i) => expect(v).toBeCloseTo(before[i], 6));
  }
});

test('on the centre: a joint, or the middle of a picture; of one that is laid once always its middle', async () => {
  const { sheet } = await floor();
  const [cx, cy] = [(sheet.bounds.minX + sheet.bounds.maxX) / 2, (sheet.bounds.minY + sheet.bounds.maxY) / 2];
  const base = defaultSpec('m');
  const start = { datum: 'centre' as const, xMm: 0, yMm: 0 };
  const once = { fitted: false, rest: { kind: 'bare' as const } };
  const specs: Spec[] = [
    { ...base, start: { ...start, middle: 'piece' } },
    { ...base, start, repeat: { ...base.repeat, once } },
  ];
  for (const spec of specs)
    for (const turnDeg of [0, 30, 90, -145])
      for (const mirrorX of [false, true]) {
        const placed = placeSpec(
          { ...spec, direction: { turnDeg, mirrorX, mirrorY: false } },
          material,
          sheet,
          [0, 0, 0],
        );
        const corners = pictureFrame(placed);
        expect(corners.reduce((sum, p) => sum + p[0], 0) / 4).toBeCloseTo(cx, 6);
        expect(corners.reduce((sum, p) => sum + p[1], 0) / 4).toBeCloseTo(cy, 6);
      }
  const joint = placeSpec({ ...base, start }, material, sheet, [0, 0, 0]);
  expect(joint.at).toEqual([cx, cy]);
});

test('counts across follow quarter turns', async () => {
  const { sheet } = await floor();
  const counts = (deg: number) => countsAcross(sheet, material, deg).map((v) => Math.round(v * 1000) / 1000);
  expect(counts(0)).toEqual([9, 14]);
  expect(counts(90)).toEqual([7, 18]);
  expect(counts(180)).toEqual([9, 14]);
});

test('quarter turns are exact, others are on the unit circle', () => {
  expect([0, 90, 180, 270, -90, 360, 450].map(turnOf)).toEqual([
    [1, 0],
    [0, 1],
    [-1, 0],
    [0, -1],
    [0, -1],
    [1, 0],
    [0, 1],
  ]);
  fc.assert(
    fc.property(fc.double({ min: -720, max: 720, noNaN: true }), (deg) => {
      const [c, s] = turnOf(deg);
      expect(c * c + s * s).toBeCloseTo(1, 12);
    }),
  );
});

test('the picture keeps its area whatever is turned and mirrored', () => {
  const arb = fc.record({
    turnDeg: fc.double({ min: -180, max: 180, noNaN: true }),
    mirrorX: fc.boolean(),
    mirrorY: fc.boolean(),
  });
  fc.assert(
    fc.property(arb, (values) => {
      const [a, b, c, d] = repeatMatrix({ widthMm: 600, heightMm: 300, ...values });
      expect(Math.abs(a * d - b * c)).toBeCloseTo(1 / (600 * 300), 12);
      expect(Math.sign(a * d - b * c)).toBe(values.mirrorX !== values.mirrorY ? -1 : 1);
    }),
  );
});

test('coordinates stay small wherever the datum lies, and differ from the exact ones by whole repeats', async () => {
  const { part, sheet } = await floor(5.4, 4.2, [900, 0, 900]);
  const spec: Spec = {
    ...defaultSpec('m'),
    start: { datum: 'world', xMm: 0, yMm: 0 },
    direction: { turnDeg: 17, mirrorX: false, mirrorY: false },
  };
  const placement = placeSpec(spec, material, sheet, part.pivot);
  const { corner } = shapeSurface(sheet);
  const { uvs } = dressSurface(sheet, placement);
  const [a, b, c, d] = repeatMatrix(placement);
  corner.forEach((k, n) => {
    const [x, y] = [sheet.corners[k * 2] - placement.at[0], sheet.corners[k * 2 + 1] - placement.at[1]];
    [a * x + b * y, c * x + d * y].forEach((exact, i) => {
      expect(Math.abs(uvs[n * 2 + i])).toBeLessThan(20);
      const off = exact - uvs[n * 2 + i];
      expect(Math.abs(off - Math.round(off))).toBeLessThan(1e-4);
    });
  });
});

test('a bare surface has no coordinates and keeps its shape', async () => {
  const { sheet } = await floor();
  const bare = dressSurface(sheet, null);
  expect(bare.uvs).toHaveLength(0);
  expect(bare.indices).toHaveLength(6);
  expect(bare.positions).toHaveLength(bare.normals.length);
});
