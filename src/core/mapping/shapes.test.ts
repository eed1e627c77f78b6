import { areaOfTriangles } from '../mesh/area';
import { sayFinding } from '../finding/finding';
import { listPieces } from '../lay/pieces';
import fc from 'fast-check';
import type { LayoutSpec } from '../layout/schema';
import { type PartMesh } from '../mesh/types';
import { dressPieces } from '../dress/dressPieces';
import { FIRST_MAPPING, type MappingSpec } from './schema';
import { boxTriangles } from '../testing/fixtures';
import {
  archFace,
  archSoffit,
  facesOf,
  frustum,
  looseMesh,
  moulding,
  patch,
  plateFace,
  quarterTorus,
  sphereBand,
} from '../testing/shapes';
import { arrangeOn, laidSpec, polygon, rectangle } from '../testing/surfaces';
import { judgeCoordinates } from './own';
import { buildSheet, type Sheet } from './sheet';
import { suggestMapping } from './suggest';

/** Every shape here is known exactly; sheets must say the same within a thousandth, or state their stretch. */

const { cylinder, sphere, fan, unroll, box, own } = FIRST_MAPPING;
const lay = (mesh: PartMesh, mapping: MappingSpec) => buildSheet(mesh, [0, mesh.indices.length / 3], mapping);
const width = ({ bounds: b }: Sheet) => b.maxX - b.minX;
const height = ({ bounds: b }: Sheet) => b.maxY - b.minY;
const within = (value: number, exact: number, share = 1e-3) => expect(Math.abs(value / exact - 1)).toBeLessThan(share);

describe('cylinder', () => {
  test.each([
    ['about the origin', [0, 0, 0]],
    ['a kilometre away', [1_000_000, 200, -800_000]],
  ] as [string, [number, number, number]][])('is as long round as its true circumference, %s', (_, origin) => {
    const mesh = looseMesh(
      frustum(230, 230, 3400, 48).map((v, i) => v + origin[i % 3]),
      origin,
    );
    const sheet = lay(mesh, cylinder);
    within(width(sheet), 2 * Math.PI * 230);
    within(height(sheet), 3400, 1e-6);
    within(sheet.area, 2 * Math.PI * 230 * 3400);
    expect(sheet.ring).toBeCloseTo(2 * Math.PI * 230, 1);
    // y is the world's height, so that courses keep the levels around
    expect(sheet.bounds.minY).toBeCloseTo(origin[1], 1);
    expect(sayFinding(sheet.notes[0])).toMatch(/^48 sides .* 0\.07%/);
  });

  test('lies on its side, inside out, and half open all the same', () => {
    const lying = looseMesh(
      patch(48, 1, (u, v) => [v * 2000, 300 * Math.cos(u * 2 * Math.PI), -300 * Math.sin(u * 2 * Math.PI)]),
    );
    within(width(lay(lying, cylinder)), 2 * Math.PI * 300);
    within(height(lay(lying, cylinder)), 2000, 1e-6);
    const half = looseMesh(frustum(500, 500, 900, 32, Math.PI));
    const sheet = lay(half, cylinder);
    within(width(sheet), Math.PI * 500);
    expect(sheet.ring).toBeNull();
    expect(sheet.bounds.minX).toBeGreaterThan(0);
    const inside = looseMesh(archSoffit(1000, 400, 0.3, 2.8, 64));
    for (const s of [sheet, lay(inside, cylinder)]) {
      for (let i = 0; i < s.faces.length; i++) {
        const c = s.corners.subarray(i * 6, i * 6 + 6);
        expect((c[2] - c[0]) * (c[5] - c[1]) - (c[3] - c[1]) * (c[4] - c[0])).toBeGreaterThan(0);
      }
    }
  });

  test('the seam goes where it is put, on an edge, and moves nothing else', () => {
    const mesh = looseMesh(frustum(230, 230, 1000, 64));
    for (const seamDeg of [0, 90, 200]) {
      const sheet = lay(mesh, { ...cylinder, seamDeg });
      within(width(sheet), 2 * Math.PI * 230);
      expect(sheet.charts[0].outline).toHaveLength(1);
      expect(sheet.charts[0].outline[0].length).toBeGreaterThan(3);
    }
  });

  test('its ends lie flat beside it', () => {
    const cap = polygon(230, 48)
      .slice(1, -1)
      .flatMap((_, i, list) =>
        i
          ? [
              ...[0, i, i + 1].flatMap((k) => {
                const [x, z] = polygon(230, 48)[k];
                return [x, 1000, -z];
              }),
            ]
          : list.length
            ? []
            : [],
      );
    const sheet = lay(looseMesh([...frustum(230, 230, 1000, 48), ...cap]), cylinder);
    expect(sheet.charts).toHaveLength(2);
    expect(Math.abs(sheet.charts[1].area / sheet.charts[1].trueArea - 1)).toBeLessThan(1e-6);
  });
});

test('a cone is honest: the stretch it states is the one it has', () => {
  const [low, high, h] = [300, 200, 800];
  const mesh = looseMesh(frustum(low, high, h, 96, 2 * Math.PI, 8));
  const sheet = lay(mesh, cylinder);
  // heights run along the slope, widths are those of the mean radius
  within(height(sheet), Math.hypot(low - high, h));
  within(sheet.stretch.most, 250 / high, 0.01);
  within(sheet.stretch.least, 250 / low, 0.01);
  expect(sheet.notes.map((n) => sayFinding(n)).join()).toMatch(/tapers/);
  // unrolled it lies true
  const flatCone = lay(mesh, unroll);
  expect(flatCone.stretch.most).toBeCloseTo(1, 4);
  within(flatCone.area, Math.PI * (low + high) * Math.hypot(low - high, h));
});

test('a band of a ball states its stretch within a hundredth', () => {
  const [r, to] = [400, 0.6];
  const mesh = looseMesh(sphereBand(r, -to, to, 96, 24));
  const sheet = lay(mesh, sphere);
  within(height(sheet), 2 * to * r);
  // the parallel with as much area within as beyond: half the sine
  const true1 = Math.sqrt(1 - (Math.sin(to) / 2) ** 2);
  within(width(sheet), 2 * Math.PI * r * true1, 3e-3);
  within(sheet.stretch.most, true1 / Math.cos(to), 0.01);
  within(sheet.stretch.least, true1, 0.01);
  within(sheet.trueArea, 4 * Math.PI * r * r * Math.sin(to), 2e-3);
});

test('the face of an arch: lengths along the arc, depths from the centre', () => {
  const [inner, outer, from, to] = [1000, 1215, 0.4, 2.6];
  const mesh = looseMesh(archFace(inner, outer, from, to, 64).map((v, i) => v + [4000, 900, -70][i % 3]));
  for (const [reference, radius] of [
    ['inner', inner],
    ['middle', (inner + outer) / 2],
    ['outer', outer],
  ] as const) {
    const sheet = lay(mesh, { ...fan, reference });
    within(width(sheet), (to - from) * radius);
    within(height(sheet), outer - inner);
    expect(sheet.bounds.minY).toBeCloseTo(inner, 1);
    within(sheet.stretch.most, Math.max(1, radius / inner), 0.01);
    within(sheet.stretch.least, Math.min(1, radius / outer), 0.01);
  }
});

test('a ring triangulated anyhow closes, and its rim and reveal go on from it', () => {
  const face = plateFace([polygon(665, 64), [...polygon(450, 64)].reverse()]);
  const sheet = lay(looseMesh(face), fan);
  within(width(sheet), 2 * Math.PI * 450);
  within(height(sheet), 215);
  within(sheet.ring!, 2 * Math.PI * 450);
  within(sheet.stretch.least, 450 / 665, 0.01);
  // between rays of 5.6° sides meet the rays at up to 2.8° off square, which shears the faces there
  within(sheet.stretch.most, 1, 0.03);
  const reveal = patch(64, 1, (u, v) => {
    const a = u * 2 * Math.PI;
    return [450 * Math.cos(a), 450 * Math.sin(a), -300 * v];
  });
  const folded = lay(looseMesh([...face, ...reveal]), fan);
  within(height(folded), 215 + 300);
  within(width(folded), 2 * Math.PI * 450);
  expect(folded.charts).toHaveLength(1);
});

test('the underside of an arch lies straight, unrolled or round', () => {
  const mesh = looseMesh(archSoffit(1300, 300, 0.5, 2.6, 64));
  const arc = 2.1 * 1300;
  for (const mapping of [unroll, cylinder]) {
    const sheet = lay(mesh, mapping);
    const sides = [width(sheet), height(sheet)].sort((a, b) => a - b);
    within(sides[0], 300);
    within(sides[1], arc);
    within(sheet.area, arc * 300);
  }
});

test('a reveal of three sides and a folded box unroll to strips of their exact length', () => {
  // left jamb, sill and right jamb of a window, seen from within the opening
  const path = [
    [0, 1500],
    [0, 0],
    [1200, 0],
    [1200, 1500],
  ];
  const reveal = path.slice(1).flatMap(([x, y], i) => {
    const [px, py] = path[i];
    return patch(1, 1, (u, v) => [px + (x - px) * u, py + (y - py) * u, -220 * v]);
  });
  const sheet = lay(looseMesh(reveal), unroll);
  expect(sheet.breaks).toHaveLength(0);
  expect(sheet.charts).toHaveLength(1);
  within([width(sheet), height(sheet)].sort((a, b) => b - a)[0], 4200, 1e-6);
  const crate = looseMesh(boxTriangles([0, 0, 0], [900, 400, 600]));
  const net = lay(crate, unroll);
  within(net.area, 2 * (900 * 400 + 900 * 600 + 400 * 600), 1e-6);
  expect(net.stretch.most).toBeCloseTo(1, 5);
  expect(net.breaks.length).toBeGreaterThan(0);
  within(lay(crate, box).area, net.area, 1e-6);
});

test('a moulding along a path lies straight between its mitres', () => {
  const profile: [number, number][] = [
    [0, 0],
    [40, 0],
    [40, 60],
    [25, 80],
    [0, 80],
  ];
  const girth = 40 + 60 + 25 + 25;
  const straight = lay(
    looseMesh(
      moulding(profile, [
        [0, 0],
        [2400, 0],
      ]),
    ),
    unroll,
  );
  expect(straight.breaks).toHaveLength(0);
  within(straight.area, girth * 2400, 1e-5);
  const sides = [width(straight), height(straight)].sort((a, b) => b - a);
  within(sides[0], 2400, 1e-5);
  within(sides[1], girth, 1e-5);
  // round a corner the strip cannot go on in one piece: it is cut, and that is said
  const mitred = lay(
    looseMesh(
      moulding(profile, [
        [0, 0],
        [2400, 0],
        [2400, 1800],
      ]),
    ),
    unroll,
  );
  expect(mitred.stretch.most).toBeCloseTo(1, 4);
  expect(mitred.breaks.length).toBeGreaterThan(0);
});

test('what cannot lie flat keeps its size unrolled, and the cuts are listed', () => {
  const mesh = looseMesh(quarterTorus(600, 150, 48));
  const sheet = lay(mesh, unroll);
  within(sheet.area, (Math.PI / 2) * 600 * 2 * Math.PI * 150, 5e-3);
  expect(sheet.stretch.most).toBeCloseTo(1, 4);
  expect(sayFinding(sheet.breaks[0].finding)).toMatch(/cut along [\d,]+ mm/);
});

describe('unroll, as chosen', () => {
  const mesh = looseMesh(frustum(230, 230, 1000, 48));
  test('it starts where it is told', () => {
    const sheet = lay(mesh, { kind: 'unroll', from: 20 });
    // the face it starts from keeps its place upright: its lower edge lies level
    const c = sheet.corners.subarray(20 * 6, 20 * 6 + 6);
    expect(c[1]).toBeCloseTo(c[3], 3);
  });
  test('and is cut where it is told', () => {
    // the edge between the sides 10 and 11, given from either side, is where the strip begins and ends
    for (const cut of [10 * 6 + 1, (11 * 2 + 1) * 3 + 2]) {
      const sheet = lay(mesh, { kind: 'unroll', cuts: [cut] });
      const b = sheet.bounds;
      const at = (face: number) => sheet.corners.subarray(face * 6, face * 6 + 6);
      const ends = [...at(20), ...at(22)].filter((_, i) => i % 2 === 0);
      expect(ends.some((x) => Math.abs(x - b.maxX) < 0.1)).toBe(true);
      expect(ends.some((x) => Math.abs(x - b.minX) < 0.1)).toBe(true);
      within(width(sheet), 48 * 2 * 230 * Math.sin(Math.PI / 48), 1e-5);
    }
  });
});

describe('the model’s own coordinates', () => {
  const wall = (uv: (x: number, y: number) => [number, number]) => {
    const mesh = looseMesh(patch(8, 4, (u, v) => [u * 4000, v * 2000, 0]));
    const set = new Float32Array((mesh.positions.length / 3) * 2);
    for (let v = 0; v < set.length / 2; v++) set.set(uv(mesh.positions[v * 3], mesh.positions[v * 3 + 1]), v * 2);
    return { ...mesh, uvs: [set] };
  };
  test('are sized by measuring one unit, and corrected by typing', () => {
    const mesh = wall((x, y) => [x / 1250, y / 640]);
    expect(judgeCoordinates(mesh, facesOf(mesh), 0)).toMatchObject({
      usable: true,
      unit: { widthMm: 1250, heightMm: 640 },
    });
    const sheet = lay(mesh, own);
    within(width(sheet), 4000, 1e-5);
    expect(sheet.stretch.most).toBeCloseTo(1, 4);
    within(width(lay(mesh, { ...own, unit: { widthMm: 625, heightMm: 640 } })), 2000, 1e-5);
  });
  test.each([
    ['missing', 3, () => [0, 0], /no coordinate set 4/],
    ['empty', 0, () => [0.5, 0.5], /empty/],
    ['folded over', 0, (x: number, y: number) => [Math.abs(x - 2000) / 1000, y / 1000], /folded over/],
    ['wild', 0, (x: number, y: number) => [(x / 1000) ** 4, y / 1000], /wild/],
  ] as [string, number, (x: number, y: number) => [number, number], RegExp][])(
    '%s ones are named as such',
    (_, set, uv, words) => {
      const mesh = wall(uv);
      const verdict = judgeCoordinates(mesh, facesOf(mesh), set);
      expect(verdict.usable).toBe(false);
      expect(sayFinding(verdict.finding)).toMatch(words);
      // and the sheet says it again
      expect(
        lay(mesh, { ...own, set })
          .notes.map((n) => sayFinding(n))
          .join(),
      ).toMatch(words);
    },
  );
});

describe('what is suggested', () => {
  const ring = plateFace([polygon(665, 64), [...polygon(450, 64)].reverse()]);
  const wallWithWindow = plateFace([rectangle(6000, 3000), [...polygon(450, 64, 0, 2500, 1500)].reverse()]);
  const bent = patch(40, 1, (u, v) => [u * 3000, v * 900, 250 * Math.sin(u * 5)]);
  test.each<[string, number[], string, RegExp]>([
    ['a column', frustum(230, 230, 3400, 64), 'cylinder', /^round, radius 230 mm, 100% of faces agree$/],
    ['a cone', frustum(300, 150, 700, 48), 'unroll', /a cone/],
    ['a globe', sphereBand(180, -1.5, 1.5, 48, 24), 'sphere', /^a ball, radius 180 mm/],
    ['a round window’s ring', ring, 'fan', /radius 450 mm to 665 mm/],
    ['the face of an arch', archFace(1000, 1215, 0.4, 2.6, 32), 'fan', /a ring/],
    ['a wall with a round window', wallWithWindow, 'flat', /one plane/],
    ['a crate', boxTriangles([0, 0, 0], [900, 400, 600]), 'box', /square sides/],
    ['a hexagonal post', frustum(200, 200, 900, 6), 'unroll', /every size/],
    ['a waving wall', bent, 'unroll', /can lie flat/],
    [
      'a saddle',
      patch(20, 20, (u, v) => [u * 2000, 400 * (u - 0.5) ** 2 - 500 * (v - 0.5) ** 2, -v * 2000]),
      'box',
      /bends both ways/,
    ],
  ])('for %s', (_name, triangles, kind, reason) => {
    const mesh = looseMesh(triangles);
    const [first] = suggestMapping(mesh, facesOf(mesh));
    expect(first.mapping.kind).toBe(kind);
    expect(first.reason).toMatch(reason);
  });
});

describe('all layouts on all mappings', () => {
  const layouts: LayoutSpec[] = [
    { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
    { kind: 'flemish', stretcherMm: 215, headerMm: 102.5, heightMm: 65, closers: false },
    { kind: 'grid', widthMm: 147, heightMm: 147, shift: 0, diagonal: true, across: null, up: null },
    { kind: 'hexagon', acrossFlatsMm: 150, pointUp: true },
    { kind: 'herringbone', lengthMm: 350, widthMm: 70, strands: 1 },
    {
      kind: 'planks',
      lengths: { kind: 'range', fromMm: 500, toMm: 900 },
      widths: { kind: 'one', mm: 120 },
      stagger: { kind: 'random', leastApartMm: 100, leastEndMm: 100, carryOffcuts: false, layoutNumber: 3 },
    },
  ];
  const surfaces: [string, number[], MappingSpec][] = [
    ['a cylinder', frustum(230, 230, 1200, 48), cylinder],
    ['a cone', frustum(300, 200, 800, 48, 2 * Math.PI, 4), cylinder],
    ['a band of a ball', sphereBand(400, -0.5, 0.5, 48, 12), sphere],
    ['a ring', plateFace([polygon(665, 64), [...polygon(450, 64)].reverse()]), fan],
    ['an unrolled cone', frustum(400, 250, 700, 48), unroll],
  ];
  test.each(surfaces)(
    'on %s cells cover it, each piece once however many faces it crosses',
    (_name, triangles, mapping) => {
      const mesh = looseMesh(triangles);
      const sheet = lay(mesh, mapping);
      fc.assert(
        fc.property(fc.constantFrom(...layouts), fc.constantFrom(0, 30, 90), (layout, turnDeg) => {
          const spec = { ...laidSpec({ layout, joint: 4, turnDeg, start: [13, 7] }), mapping };
          const open = arrangeOn(spec, sheet);
          const pieces = listPieces(open);
          expect(new Set(pieces.map((p) => `${p.course},${p.index}`)).size).toBe(pieces.length);
          const cells = pieces.reduce((sum, p) => sum + p.cellArea, 0);
          // cells of which only joint lies on the surface are no pieces
          expect(cells / sheet.area).toBeGreaterThan(0.97);
          expect(cells / sheet.area).toBeLessThan(1 + 1e-6);
          const drawn = dressPieces(sheet, open).reduce((sum, b) => sum + areaOfTriangles(b), 0);
          expect(drawn / sheet.trueArea).toBeCloseTo(1, 4);
        }),
        { numRuns: 8 },
      );
    },
  );
});
