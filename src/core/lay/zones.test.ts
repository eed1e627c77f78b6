import { areaOfTriangles } from '../mesh/area';
import { slidAway } from '../setout/once';
import fc from 'fast-check';
import type { Vec2 } from '../geometry/vec';
import { loopArea } from '../geometry/loop';
import { buildSheet, type Sheet } from '../mapping/sheet';
import type { PartMesh } from '../mesh/types';
import { type Project, type Surface, emptyProject } from '../project/schema';
import { allRegions, regionsOf } from '../project/regions';
import { defaultSpec } from '../specification/schema';
import { FIRST_MAPPING, type MappingSpec } from '../mapping/schema';
import { facesOf, frustum, looseMesh, plateFace } from '../testing/shapes';
import { laidSpec, oak, listOn, polygon, rectangle } from '../testing/surfaces';
import { cutSheet } from '../zones/cutSheet';
import { borderStrips, listEdges, zonePolygons } from '../zones/outlines';
import { openSheet } from './region';
import type { SheetSource } from './region';
import type { ZoneShape } from '../zones/schema';
import { placeSpec } from '../setout/placement';

const lay = (mesh: PartMesh, mapping: MappingSpec = FIRST_MAPPING.flat) =>
  buildSheet(mesh, [0, mesh.indices.length / 3], mapping);

const hall: Vec2[] = [
  [0, 0],
  [9600, 0],
  [9600, 2200],
  [12400, 2200],
  [12400, 7200],
  [0, 7200],
];
const surfaces: Record<string, { mesh: PartMesh; mapping: MappingSpec }> = {
  'a wall': { mesh: looseMesh(plateFace([rectangle(4800, 2600)])), mapping: FIRST_MAPPING.flat },
  'a floor with a corner cut out and round columns': {
    mesh: looseMesh(
      plateFace([hall, [...polygon(230, 64, 0, 4200, 3900)].reverse(), [...polygon(230, 64, 0, 8200, 3900)].reverse()]),
    ),
    mapping: FIRST_MAPPING.flat,
  },
  'a column': { mesh: looseMesh(frustum(230, 230, 3400, 64)), mapping: FIRST_MAPPING.cylinder },
};

const shapes: fc.Arbitrary<ZoneShape> = fc.oneof(
  fc.record({
    kind: fc.constant('rectangle' as const),
    xMm: fc.integer({ min: -200, max: 1200 }),
    yMm: fc.integer({ min: -200, max: 2000 }),
    widthMm: fc.integer({ min: 10, max: 2500 }),
    heightMm: fc.integer({ min: 10, max: 3000 }),
  }),
  fc.record({
    kind: fc.constant('circle' as const),
    xMm: fc.integer({ min: 0, max: 1400 }),
    yMm: fc.integer({ min: 0, max: 2500 }),
    radiusMm: fc.integer({ min: 20, max: 1500 }),
  }),
  fc
    .array(fc.tuple(fc.integer({ min: 0, max: 1400 }), fc.integer({ min: 0, max: 2600 })), {
      minLength: 3,
      maxLength: 7,
    })
    .map((points) => ({ kind: 'polygon' as const, points })),
  fc.integer({ min: 5, max: 700 }).map((byMm) => ({ kind: 'inset' as const, byMm })),
  fc.record({
    kind: fc.constant('border' as const),
    widthMm: fc.integer({ min: 5, max: 700 }),
    courses: fc.constant(null),
    edges: fc.constantFrom<number[] | null>(null, [0], [0, 1], [1, 3]),
    corners: fc.constantFrom('mitred' as const, 'butted' as const),
  }),
);

const sourceOf = (mesh: PartMesh, mapping: MappingSpec): SheetSource => ({
  patches: [{ faces: [0, facesOf(mesh).length] }],
  mapping,
  cuts: [],
  origin: [0, 0, 0],
});

describe.each(Object.entries(surfaces))('on %s', (_name, { mesh, mapping }) => {
  const whole = lay(mesh, mapping);
  test('what is inside a zone and what is left make up the whole, on the sheet and in space', () => {
    fc.assert(
      fc.property(shapes, (shape) => {
        const source = sourceOf(mesh, mapping);
        const inside = openSheet([mesh], { ...source, cuts: [{ kind: 'zone', shape, keep: 'inside' }] });
        const outside = openSheet([mesh], { ...source, cuts: [{ kind: 'zone', shape, keep: 'outside' }] });
        expect((inside.area + outside.area) / whole.area).toBeCloseTo(1, 5);
        expect((areaOfTriangles(inside.mesh) + areaOfTriangles(outside.mesh)) / whole.trueArea).toBeCloseTo(1, 5);
        // what is left keeps the bounds: its pattern does not move when a zone is drawn on it
        expect(outside.bounds).toEqual(whole.bounds);
        // every face knows where it comes from, and looks the way that one does
        for (const s of [inside, outside]) {
          expect(s.source.length).toBe(s.faces.length);
          for (const f of s.source) expect(f).toBeLessThan(facesOf(mesh).length);
        }
        // outlines say the same as faces, but for points nearer to each other than 0.02 mm, which are one
        for (const s of [inside, outside]) {
          const loops = s.charts.flatMap((c) => c.outline);
          const outlined = loops.reduce((n, l) => n + loopArea(l), 0);
          const round = loops.reduce(
            (n, l) =>
              n +
              l.reduce(
                (m, p, i) => m + Math.hypot(l[(i + 1) % l.length][0] - p[0], l[(i + 1) % l.length][1] - p[1]),
                0,
              ),
            0,
          );
          expect(Math.abs(outlined - s.area)).toBeLessThan(1 + round * 0.02);
        }
      }),
      { numRuns: 40 },
    );
  });

  test('pieces of a zone and of what is left keep their place', () => {
    const shape: ZoneShape = { kind: 'rectangle', xMm: 300, yMm: 500, widthMm: 620, heightMm: 810 };
    const cuts = [{ kind: 'zone', shape, keep: 'outside' }] as const;
    const left = openSheet([mesh], { ...sourceOf(mesh, mapping), cuts: [...cuts] });
    const spec = {
      ...laidSpec({ layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false }, joint: 10 }),
      mapping,
    };
    const of = (sheet: Sheet) => new Map(listOn(spec, sheet).map((p) => [`${p.course},${p.index}`, p]));
    const [before, after] = [of(whole), of(left)];
    expect(after.size).toBeLessThanOrEqual(before.size);
    for (const [key, p] of after) {
      expect(before.get(key)!.middle).toEqual(p.middle);
      expect(before.get(key)!.appearance.print).toBe(p.appearance.print);
    }
  });
});

describe('borders', () => {
  const floor = lay(surfaces['a floor with a corner cut out and round columns'].mesh);
  test.each(['mitred', 'butted'] as const)(
    '%s: bands do not lie over each other, and with the field they fill the outline',
    (corners) => {
      const room = lay(looseMesh(plateFace([hall])));
      for (const widthMm of [60, 190, 700]) {
        const border = { kind: 'border' as const, widthMm, courses: null, edges: null, corners };
        const strips = borderStrips(border, room).map((s) => cutSheet(room, s.region, 'inside').area);
        const together = cutSheet(room, zonePolygons(border, room), 'inside').area;
        expect(strips.reduce((a, b) => a + b, 0) / together).toBeCloseTo(1, 5);
        const field = cutSheet(room, zonePolygons({ kind: 'inset', byMm: widthMm }, room), 'inside').area;
        expect((field + together) / room.area).toBeCloseTo(1, 5);
      }
    },
  );

  test('laid straight they are as long as the edges, and as wide as the border', () => {
    const room = looseMesh(plateFace([hall]));
    const shape: ZoneShape = { kind: 'border', widthMm: 190, courses: null, edges: null, corners: 'mitred' };
    const sheet = openSheet([room], {
      ...sourceOf(room, FIRST_MAPPING.flat),
      cuts: [{ kind: 'zone', shape, keep: 'inside' }],
    });
    expect(sheet.bounds.maxX - sheet.bounds.minX).toBeCloseTo(2 * (12400 + 7200), 1);
    expect(sheet.bounds.minY).toBeCloseTo(0, 2);
    expect(sheet.bounds.maxY).toBeCloseTo(190, 2);
    expect(sheet.stretch.most).toBeCloseTo(1, 5);
    expect(sheet.charts).toHaveLength(6);
  });

  test('along chosen edges only; round holes are edges too', () => {
    expect(
      listEdges(floor)
        .slice(0, 6)
        .map((e) => Math.round(Math.hypot(e.to[0] - e.from[0], e.to[1] - e.from[1])))
        .sort(),
    ).toEqual([12400, 2200, 2800, 5000, 7200, 9600].sort());
    const south = listEdges(floor).findIndex(
      (e) => Math.abs(e.from[1] - e.to[1]) < 1 && Math.abs(Math.abs(e.from[0] - e.to[0]) - 12400) < 1,
    );
    const strip = cutSheet(
      floor,
      zonePolygons({ kind: 'border', widthMm: 300, courses: null, edges: [south], corners: 'butted' }, floor),
      'inside',
    );
    expect(strip.area).toBeCloseTo(300 * 12400, -1);
  });
});

describe('regions of a project', () => {
  const zone = (id: string, rank: number, shape: ZoneShape): Surface => ({
    ...wall,
    id,
    name: id,
    faces: [],
    zone: { of: 'wall', rank, shape },
    spec: null,
  });
  const wall: Surface = {
    id: 'wall',
    part: 'p',
    name: 'Wall',
    faces: [0, 2],
    slot: 0,
    areaMm2: 4800 * 2600,
    normal: [0, 0, 1],
    hidden: false,
    leftBare: false,
    spec: null,
  };
  const mesh = surfaces['a wall'].mesh;
  const project = (surfacesOf: Surface[]): Project => ({
    ...emptyProject('x', 'X'),
    parts: {
      p: {
        id: 'p',
        model: 'm',
        name: 'P',
        path: [],
        mesh: 0,
        origin: [0, 0, 0],
        min: [0, 0, 0],
        max: [4800, 2600, 0],
        locked: false,
      },
    },
    surfaces: Object.fromEntries(surfacesOf.map((s) => [s.id, s])),
    materials: { oak: oak(), lime: oak({ id: 'lime', name: 'Lime' }) },
  });
  const areas = (p: Project) =>
    Object.fromEntries(allRegions(p).map((r) => [r.id, Math.round(openSheet([mesh], r).area)]));

  test('zones lie over their surface, later ones over earlier ones, and nothing is laid twice', () => {
    const a = zone('a', 1, { kind: 'rectangle', xMm: 0, yMm: 0, widthMm: 2000, heightMm: 1000 });
    const b = zone('b', 2, { kind: 'rectangle', xMm: 1000, yMm: 0, widthMm: 2000, heightMm: 1000 });
    const found = areas(project([wall, b, a]));
    expect(found).toEqual({ wall: 4800 * 2600 - 3_000_000, a: 1_000_000, b: 2_000_000 });
  });

  test('a picture laid once covers its own size and no more; the rest is another material, a colour, or bare', () => {
    const spec = { ...defaultSpec('oak'), start: { datum: 'corner' as const, xMm: 200, yMm: 300 } };
    const rest = { kind: 'material' as const, material: 'lime' };
    const laid = project([
      {
        ...wall,
        spec: {
          ...spec,
          repeat: { own: { widthMm: 640, heightMm: 840 }, locked: true, once: { fitted: false, rest } },
        },
      },
    ]);
    expect(areas(laid)).toEqual({ wall: 640 * 840, 'wall#beside': 4800 * 2600 - 640 * 840 });
    expect(regionsOf(laid, laid.surfaces.wall)[1].spec!.material).toBe('lime');
    const sheet = openSheet([mesh], regionsOf(laid, laid.surfaces.wall)[0]);
    const placement = placeSpec(laid.surfaces.wall.spec!, oak(), sheet, [0, 0, 0]);
    expect(placement.at).toEqual([200, 300]);
    expect(slidAway(placement, sheet)).toBe(false);
    expect(slidAway({ ...placement, at: [-700, 300] }, sheet)).toBe(true);
    // fitted: as large as the wall allows, keeping its shape, in the middle
    const fitted = {
      ...laid.surfaces.wall.spec!,
      repeat: { own: { widthMm: 640, heightMm: 840 }, locked: true, once: { fitted: true, rest } },
    };
    const large = placeSpec(fitted, oak(), sheet, [0, 0, 0]);
    expect(large.heightMm).toBeCloseTo(2600, 6);
    expect(large.widthMm / large.heightMm).toBeCloseTo(640 / 840, 6);
    expect(large.at[0] + large.widthMm / 2).toBeCloseTo(2400, 6);
  });

  test('a border of two courses is as wide as two courses and their joints', () => {
    const border = zone('b', 1, { kind: 'border', widthMm: 5, courses: 2, edges: [0], corners: 'butted' });
    const spec = laidSpec({
      layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
      joint: 10,
    });
    const found = areas(project([wall, { ...border, spec }]));
    const edge = listEdges(lay(mesh))[0];
    expect(found.b).toBe(Math.round(150 * Math.hypot(edge.to[0] - edge.from[0], edge.to[1] - edge.from[1])));
  });
});
