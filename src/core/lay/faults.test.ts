import fc from 'fast-check';
import { dressPieces } from '../dress/dressPieces';
import { exportLaid } from '../dress/exportLaid';
import type { Loop } from '../geometry/loop';
import { FIRST_MAPPING } from '../mapping/schema';
import { areaOfTriangles } from '../mesh/area';
import type { PartMesh } from '../mesh/types';
import { regionsOf } from '../project/regions';
import { emptyProject, type Project, type Surface } from '../project/schema';
import type { Spec } from '../specification/schema';
import { boxTriangles } from '../testing/fixtures';
import { facesOf, frustum, looseMesh } from '../testing/shapes';
import { laidSpec, listOn, oak, rectangle, wallMesh, wallSheet } from '../testing/surfaces';
import type { Sizes } from '../schema/sizes';
import type { ZoneShape } from '../zones/schema';
import { lay } from './lay';
import type { Piece } from './pieces';

/** Faults that were found; each test here failed before its cure. */

const surface = (id: string, mesh: PartMesh, spec: Spec | null, rest: Partial<Surface> = {}): Surface => ({
  id,
  part: 'part',
  name: id,
  faces: [0, facesOf(mesh).length],
  slot: 0,
  areaMm2: 1,
  normal: [0, 0, 1],
  hidden: false,
  leftBare: false,
  spec,
  ...rest,
});

function projectOf(surfaces: Surface[]): Project {
  const part = {
    id: 'part',
    model: 'model',
    name: 'Part',
    path: [],
    mesh: 0,
    origin: [0, 0, 0] as [number, number, number],
    min: [0, 0, 0] as [number, number, number],
    max: [1, 1, 1] as [number, number, number],
    locked: false,
  };
  const byId = Object.fromEntries(surfaces.map((s) => [s.id, s]));
  return { ...emptyProject('p', 'P'), parts: { part }, surfaces: byId, materials: { oak: oak() } };
}

const layAll = (project: Project, mesh: PartMesh) =>
  Object.values(project.surfaces).flatMap((s) =>
    regionsOf(project, s).map((region) => lay(region, [mesh], project.materials)),
  );

const sum = (list: number[]) => list.reduce((a, b) => a + b, 0);
const cellArea = (pieces: Piece[]) => sum(pieces.map((p) => p.cellArea));

describe('what zones leave', () => {
  const hole: Loop = [
    [2000, 1500],
    [2000, 2500],
    [3000, 2500],
    [3000, 1500],
  ];
  const mesh = wallMesh([rectangle(5000, 4000), hole]);
  const spec = laidSpec({ layout: { kind: 'herringbone', lengthMm: 490, widthMm: 70, strands: 1 }, joint: 2 });
  const zone = (id: string, rank: number, shape: ZoneShape) =>
    surface(id, mesh, spec, { faces: [], zone: { of: 'floor', rank, shape } });

  test.each([
    ['an inset and a border', [{ kind: 'inset', byMm: 300 }, border(150)]],
    ['nested insets', [{ kind: 'inset', byMm: 300 }, { kind: 'inset', byMm: 600 }, border(150)]],
  ] as [string, ZoneShape[]][])('keeps its islands: %s', (_name, shapes) => {
    const project = projectOf([surface('floor', mesh, spec), ...shapes.map((s, i) => zone(`z${i}`, i, s))]);
    for (const laid of layAll(project, mesh)) {
      const { sheet, pieces, arrangement } = laid;
      if (!sheet.faces.length) continue;
      // cells of which only joints lie on the surface are no pieces
      expect(cellArea(pieces) / sheet.area).toBeGreaterThan(0.998);
      const drawn = sum(dressPieces(sheet, arrangement!).map((b) => areaOfTriangles(b)));
      expect(drawn / sheet.trueArea).toBeCloseTo(1, 5);
    }
  });
});

function border(widthMm: number): ZoneShape {
  return { kind: 'border', widthMm, courses: null, edges: null, corners: 'mitred' };
}

test('faces seen edge-on are handed over, bare, and it is said', () => {
  const mesh = looseMesh(boxTriangles([0, 0, 0], [1200, 40, 800]));
  const spec = {
    ...laidSpec({ layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false }, joint: 10 }),
    mapping: { ...FIRST_MAPPING.flat, direction: 'up' as const },
  };
  const [laid] = layAll(projectOf([surface('slab', mesh, spec)]), mesh);
  const area = sum(exportLaid(laid).map(({ dressed }) => areaOfTriangles(dressed)));
  expect(area / laid.sheet.trueArea).toBeCloseTo(1, 4);
  expect(laid.findings).toContainEqual(
    expect.objectContaining({ code: 'facesEdgeOn', values: { areaMm2: expect.closeTo(2 * 40 * (1200 + 800), 0) } }),
  );
  // each of the eight triangles on the edges of the slab as it is seen from above
  const { bounds } = laid.sheet;
  const { where } = laid.findings.find((f) => f.code === 'facesEdgeOn')!;
  expect(where).toHaveLength(8);
  for (const [x, y] of where!) {
    const off = [x - bounds.minX, bounds.maxX - x, y - bounds.minY, bounds.maxY - y];
    expect(Math.min(...off.map(Math.abs))).toBeLessThan(0.01);
  }
});

describe('end joints apart', () => {
  const rowsOf = (pieces: Piece[]) => {
    const rows = new Map<number, number[]>();
    for (const p of pieces) {
      const list = rows.get(p.course) ?? [];
      list.push(p.middle[0] - p.length / 2, p.middle[0] + p.length / 2);
      rows.set(p.course, list);
    }
    // middles of the joints, the two ends of the row left out
    return new Map(
      [...rows].map(([course, ends]) => {
        ends.sort((a, b) => a - b);
        const joints: number[] = [];
        for (let i = 1; i + 1 < ends.length; i += 2) joints.push((ends[i] + ends[i + 1]) / 2);
        return [course, joints];
      }),
    );
  };
  const leastApart = (pieces: Piece[]) => {
    const rows = rowsOf(pieces);
    let least = Infinity;
    for (const [course, joints] of rows) {
      for (const a of joints) for (const b of rows.get(course + 1) ?? []) least = Math.min(least, Math.abs(a - b));
    }
    return least;
  };

  test('are kept apart in every pair of rows where that can be done', () => {
    const lengths = fc.oneof(
      fc.record({
        kind: fc.constant('range' as const),
        fromMm: fc.constant(800),
        toMm: fc.integer({ min: 1000, max: 2000 }),
      }),
      fc.constant<Sizes>({ kind: 'one', mm: 1200 }),
      fc.constant<Sizes>({
        kind: 'list',
        items: [
          { mm: 800, share: 1 },
          { mm: 1100, share: 2 },
          { mm: 1400, share: 1 },
        ],
      }),
    );
    fc.assert(
      fc.property(
        lengths,
        fc.integer({ min: 2800, max: 9000 }),
        fc.integer({ min: 0, max: 400 }),
        fc.integer({ min: 1, max: 1000 }),
        fc.boolean(),
        (sizes, width, apart, layoutNumber, carryOffcuts) => {
          const stagger = { kind: 'random' as const, leastApartMm: apart, leastEndMm: 300, carryOffcuts, layoutNumber };
          const layout = {
            kind: 'planks' as const,
            lengths: sizes,
            widths: { kind: 'one' as const, mm: 120 },
            stagger,
          };
          const pieces = listOn(
            laidSpec({ layout, joint: 2, start: [0, 500] }),
            wallSheet(wallMesh([rectangle(width, 1500)])),
          );
          expect(leastApart(pieces)).toBeGreaterThanOrEqual(apart - 0.01);
          for (const p of pieces) expect(p.length).toBeGreaterThanOrEqual(300 - 0.01);
        },
      ),
      { numRuns: 60 },
    );
  });

  test('where they cannot be, the pairs are a finding', () => {
    const stagger = {
      kind: 'random' as const,
      leastApartMm: 700,
      leastEndMm: 300,
      carryOffcuts: false,
      layoutNumber: 1,
    };
    const layout = {
      kind: 'planks' as const,
      lengths: { kind: 'one' as const, mm: 1200 },
      widths: { kind: 'one' as const, mm: 200 },
      stagger,
    };
    const mesh = wallMesh([rectangle(5000, 1000)]);
    const [laid] = layAll(projectOf([surface('floor', mesh, laidSpec({ layout, joint: 2 }))]), mesh);
    const found = laid.findings.filter((f) => f.code === 'endJointsTooNear');
    expect(found).toHaveLength(1);
    expect(found[0].values).toMatchObject({ pairs: expect.any(Number), leastMm: expect.any(Number), wantedMm: 700 });
    // between two rows each, on the sheet, and beside an end joint of the row below and one of the row above
    const ends = laid.pieces.map((p) => ({ row: p.course, x: p.middle[0] + p.length / 2 + 1 }));
    expect(found[0].where!.length).toBeGreaterThan(0);
    for (const [x, y] of found[0].where!) {
      const below = Math.round((y + 1) / 202) - 1;
      const near = (row: number) => Math.min(...ends.filter((e) => e.row === row).map((e) => Math.abs(e.x - x)));
      expect(near(below)).toBeLessThan(350);
      expect(near(below + 1)).toBeLessThan(350);
    }
  });

  test('a board that the layout itself shortened is not whole', () => {
    const stagger = { kind: 'random' as const, leastApartMm: 0, leastEndMm: 300, carryOffcuts: true, layoutNumber: 2 };
    const layout = {
      kind: 'planks' as const,
      lengths: { kind: 'one' as const, mm: 1000 },
      widths: { kind: 'one' as const, mm: 200 },
      stagger,
    };
    for (let width = 3000; width < 4000; width += 90) {
      for (const p of listOn(laidSpec({ layout, joint: 0 }), wallSheet(wallMesh([rectangle(width, 1200)])))) {
        expect([p.length, p.whole]).toEqual([p.length, p.length > 1000 - 0.02]);
      }
    }
  });
});

test('boards that are surfaces of their own do not all show the same print and tone', () => {
  const mesh = looseMesh(
    [0, 1, 2, 3].flatMap((i) => boxTriangles([i * 200, 0, 0], [i * 200 + 190, 20, 1200]).slice(0, 18)),
  );
  const spec = laidSpec({ layout: { kind: 'asModelled' }, joint: 0 });
  const boards = [0, 1, 2, 3].map((i) => surface(`board-${i}`, mesh, spec, { faces: [i * 2, 2] }));
  const laid = layAll(projectOf(boards), mesh);
  expect(laid.map((l) => l.pieces.length)).toEqual([1, 1, 1, 1]);
  const shown = laid.map(({ pieces: [p] }) => [p.appearance.print, ...p.appearance.gain].join());
  expect(new Set(shown).size).toBe(4);
});

test('regular planks close round a column, with a joint where they meet', () => {
  const mesh = looseMesh(frustum(300, 300, 1200, 48));
  const layout = {
    kind: 'planks' as const,
    lengths: { kind: 'one' as const, mm: 400 },
    widths: { kind: 'one' as const, mm: 100 },
    stagger: { kind: 'share' as const, share: 0.5 },
  };
  for (const [turnDeg, count] of [
    [0, 5],
    [90, 18],
  ]) {
    const spec = { ...laidSpec({ layout, joint: 4, turnDeg }), mapping: { ...FIRST_MAPPING.cylinder, around: count } };
    const [laid] = layAll(projectOf([surface('column', mesh, spec)]), mesh);
    const whole = laid.pieces.filter((p) => Math.abs(p.middle[1] - 600) < 150);
    expect(whole.every((p) => p.whole)).toBe(true);
    const side = turnDeg ? laid.pieces[0].width : laid.pieces[0].length;
    expect((side + 4) * count).toBeCloseTo(laid.sheet.ring!, 2);
  }
});

test('random planks meet at the seam of a column with a joint between them', () => {
  const mesh = looseMesh(frustum(900, 900, 600, 64));
  const stagger = { kind: 'random' as const, leastApartMm: 150, leastEndMm: 200, carryOffcuts: false, layoutNumber: 3 };
  const layout = {
    kind: 'planks' as const,
    lengths: { kind: 'range' as const, fromMm: 500, toMm: 900 },
    widths: { kind: 'one' as const, mm: 150 },
    stagger,
  };
  const spec = { ...laidSpec({ layout, joint: 6 }), mapping: FIRST_MAPPING.cylinder };
  const [{ sheet, pieces }] = layAll(projectOf([surface('drum', mesh, spec)]), mesh);
  const ends = (side: 'low' | 'high') =>
    pieces.map((p) => (side === 'low' ? p.middle[0] - p.length / 2 : p.middle[0] + p.length / 2));
  expect(Math.min(...ends('low')) - sheet.bounds.minX).toBeCloseTo(3, 3);
  expect(sheet.bounds.maxX - Math.max(...ends('high'))).toBeCloseTo(3, 3);
});

test('Flemish bond on narrow walls: none overlap, closers stand inside headers', () => {
  const layout = { kind: 'flemish' as const, stretcherMm: 215, headerMm: 102.5, heightMm: 65, closers: true };
  for (let width = 300; width <= 1200; width += 6.5) {
    const pieces = listOn(laidSpec({ layout, joint: 10 }), wallSheet(wallMesh([rectangle(width, 300)])));
    expect(cellArea(pieces) / (width * 300)).toBeGreaterThan(0.9);
    for (const course of [0, 1, 2, 3]) {
      const row = pieces.filter((p) => p.course === course).sort((a, b) => a.middle[0] - b.middle[0]);
      const spans = row.map((p) => {
        const xs = p.outline.flat().map(([x]) => x);
        return { from: Math.min(...xs), to: Math.max(...xs), role: p.role };
      });
      spans.forEach((s, i) => {
        if (i) expect(s.from).toBeGreaterThan(spans[i - 1].to + 9.99);
        if (s.role === 'closer') expect([spans[i - 1]?.role, spans[i + 1]?.role]).toContain('header');
      });
      // from one brick and a half on, a wall never ends in the remainder beside a header
      if (width >= 337.5) {
        const ends = [spans[0], spans[spans.length - 1]];
        for (const end of ends) expect(end.role === 'closer' && end.to - end.from < 60).toBe(false);
      }
    }
  }
});

test('faces lean no more than their limit', () => {
  const layout = {
    kind: 'grid' as const,
    widthMm: 50,
    heightMm: 50,
    shift: 0,
    diagonal: false,
    across: null,
    up: null,
  };
  const pieces = listOn(laidSpec({ layout, variation: { tiltDeg: 2 } }), wallSheet(wallMesh([rectangle(2000, 1500)])));
  const leans = pieces.map((p) => Math.hypot(p.appearance.leanAlong, p.appearance.leanAcross));
  const limit = (2 * Math.PI) / 180;
  expect(Math.max(...leans)).toBeLessThanOrEqual(limit + 1e-9);
  expect(Math.max(...leans)).toBeGreaterThan(limit * 0.9);
});

test('a print that is shown larger is announced', () => {
  const material = oak({ seamless: false, widthMm: 1160, heightMm: 400 });
  const layout = {
    kind: 'grid' as const,
    widthMm: 1190,
    heightMm: 100,
    shift: 0,
    diagonal: false,
    across: null,
    up: null,
  };
  const mesh = wallMesh([rectangle(3000, 1000)]);
  const project = projectOf([surface('wall', mesh, laidSpec({ layout }))]);
  const [laid] = layAll({ ...project, materials: { oak: material } }, mesh);
  expect(laid.findings).toContainEqual(
    expect.objectContaining({
      code: 'printEnlarged',
      values: expect.objectContaining({ times: expect.closeTo(1190 / 1160, 3) }),
    }),
  );
});
