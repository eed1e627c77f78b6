import fc from 'fast-check';
import { dressPieces } from '../dress/dressPieces';
import { exportPieces } from '../dress/exportPieces';
import { loopArea } from '../geometry/loop';
import { PLAIN } from '../layout/cells';
import { RECTANGLE, shapeOfCell } from '../layout/modules';
import { LAYOUTS, type Layouts } from '../layout/registry';
import type { LayoutSpec } from '../layout/schema';
import type { AnyLayoutSpec, Layout } from '../layout/types';
import { areaOfTriangles } from '../mesh/area';
import { laidSpec, oak, rectangle, wallMesh, wallSheet } from '../testing/surfaces';
import { arrange } from './arrange';
import { evaluateAt } from './evaluate';
import { listPieces } from './pieces';

const sheetOf = (width: number, height: number) => wallSheet(wallMesh([rectangle(width, height)]));

describe('a layout of two modules', () => {
  const { shape: hex } = shapeOfCell([0, -50, 100, -25, 100, 25, 0, 50, -100, 25, -100, -25], Array(6).fill(2));
  // squares of 100 mm and, between them, hexagons in cells of 200 × 100: the hexagons leave corners bare
  const beads: Layout<AnyLayoutSpec> = {
    ...(LAYOUTS.find((l) => l.kind === 'grid') as unknown as Layout<AnyLayoutSpec>),
    kind: 'beads',
    open: () => ({
      axes: [[1, 0]],
      modules: [RECTANGLE, { name: 'hexagon', shape: hex }],
      inset: [2, 2],
      largest: [196, 96],
      cellArea: 15_000,
      mostNeighbours: 0,
      classes: 1,
      classOf: () => 0,
      neighbours: () => 0,
      roleOf: () => 'tile',
      fill({ minX, minY, maxX, maxY }, cells) {
        for (let c = Math.floor(minY / 100); c * 100 < maxY; c++) {
          for (let i = Math.floor(minX / 300); i * 300 < maxX; i++) {
            cells.add(c, 2 * i, i * 300 + 50, c * 100 + 50, 50, 50, 0);
            cells.add(c, 2 * i + 1, i * 300 + 200, c * 100 + 50, 100, 50, 0, { ...PLAIN, module: 1 });
          }
        }
        cells.flush();
      },
    }),
  };
  const spec = laidSpec({ layout: { kind: 'beads' } as unknown as LayoutSpec, joint: 4 });
  const sheet = sheetOf(1200, 500);
  const layouts: Layouts = [beads];
  const region = { id: 'wall', spec, origin: [0, 0, 0] as [number, number, number] };
  const arrangement = arrange(region, sheet, { oak: oak() }, layouts)!;
  const square = 96 * 96;
  const hexagon = hex.pieceArea;

  test('each piece has the outline of its own module', () => {
    const pieces = listPieces(arrangement).filter((p) => p.whole);
    const areas = pieces.map((p) => Math.round(p.outline.reduce((sum, loop) => sum + loopArea(loop), 0)));
    expect(areas.filter((a) => a === square)).toHaveLength(20);
    expect(areas.filter((a) => a === Math.round(hexagon))).toHaveLength(20);
    expect(pieces.map((p) => p.outline[0].length).sort()).toEqual([...Array(20).fill(4), ...Array(20).fill(6)]);
  });

  test('the room gets buffers for each module, with the corners of that module', () => {
    const buffers = dressPieces(sheet, arrangement);
    expect(buffers.map((b) => [b.material, b.module, Math.round(areaOfTriangles(b))])).toEqual([
      [0, 0, 20 * 100 * 100],
      [0, 1, 20 * 200 * 100 * 0.75],
    ]);
    for (const b of buffers) expect(new Set(b.half)).toEqual(new Set(b.module ? hex.half.map(Math.fround) : [48]));
  });

  test('the export has the area of the pieces, and joints of the rest', () => {
    const { pieces, joints } = exportPieces(arrangement, { tangents: false });
    expect(pieces.reduce((sum, p) => sum + areaOfTriangles(p.dressed), 0)).toBeCloseTo(20 * (square + hexagon), -1);
    const rings = 20 * (100 * 100 - square + 200 * 100 * 0.75 - hexagon);
    expect(areaOfTriangles(joints[0].dressed)).toBeCloseTo(rings, -1);
  });

  test('what lies at a point goes by the module of its cell', () => {
    const [x, y] = sheet.charts[0].outline[0].reduce(([a, b], [u, v]) => [Math.min(a, u), Math.min(b, v)]);
    expect(evaluateAt(arrangement, [x + 5, y + 5])).toMatchObject({ index: 0, share: 1 });
    expect(evaluateAt(arrangement, [x + 200, y + 50])).toMatchObject({ index: 1, share: 1 });
    // the corner of its rectangle is bare
    expect(evaluateAt(arrangement, [x + 105, y + 5])).toBeNull();
  });
});

describe('the board a piece was sawn from', () => {
  const planks = (lengths: object, carryOffcuts: boolean, layoutNumber: number, leastApartMm = 150): LayoutSpec => ({
    kind: 'planks',
    lengths: lengths as never,
    widths: { kind: 'one', mm: 190 },
    stagger: { kind: 'random', leastApartMm, leastEndMm: 300, carryOffcuts, layoutNumber },
  });
  const joint = 2;
  const lay = (layout: LayoutSpec, width: number, height = 3000) =>
    listPieces(
      arrange(
        { id: 'floor', spec: laidSpec({ layout, joint }), origin: [0, 0, 0] },
        sheetOf(width, height),
        { oak: oak() },
        LAYOUTS as unknown as Layouts,
      )!,
    );

  test('off-cuts: what comes from one board is never longer than a board, saw cuts counted', () => {
    let shared = 0;
    fc.assert(
      fc.property(
        fc.constantFrom(
          { kind: 'one', mm: 1800 },
          { kind: 'range', fromMm: 800, toMm: 2000 },
          {
            kind: 'list',
            items: [
              { mm: 900, share: 1 },
              { mm: 1500, share: 1 },
            ],
          },
        ),
        fc.integer({ min: 700, max: 6000 }),
        fc.nat(50),
        fc.constantFrom(0, 150, 300),
        (lengths, width, number, apart) => {
          const longest = 'mm' in lengths ? lengths.mm! : 'toMm' in lengths ? lengths.toMm! : 1500;
          const pieces = lay(planks(lengths, true, number, apart), width);
          const known = new Map(pieces.map((p) => [`${p.course},${p.index}`, p]));
          const taken = new Map<string, number>();
          for (const p of pieces) {
            const key = p.board.join(',');
            const first = known.get(key)!;
            // the first piece of a board is its own, and nothing is sawn from a later row
            expect(first.board.join(',')).toBe(key);
            expect(first.course).toBeLessThanOrEqual(p.course);
            if (first !== p) {
              shared++;
              expect([p.index, p.whole]).toEqual([0, false]);
            }
            taken.set(key, (taken.get(key) ?? -joint) + p.length + joint);
          }
          for (const length of taken.values()) expect(length).toBeLessThanOrEqual(longest + 0.01);
        },
      ),
      { numRuns: 40 },
    );
    expect(shared).toBeGreaterThan(40);
  });

  test('without off-cuts, and in layouts that saw nothing themselves, each piece is of its own', () => {
    const random = lay(planks({ kind: 'range', fromMm: 800, toMm: 2000 }, false, 3), 4000);
    const brick = lay({ kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false }, 2000);
    for (const p of [...random, ...brick]) expect(p.board).toEqual([p.course, p.index]);
  });
});
