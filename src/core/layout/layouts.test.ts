import Ajv from 'ajv';
import fc from 'fast-check';
import { fieldsKeepTheirOwn } from '../testing/fields';
import { holdsPoint } from '../geometry/loop';
import { listCells, type ListedCell, shared } from '../testing/cells';
import { rectangle } from '../testing/surfaces';
import { areaOf } from './area';
import { Draw, longest, mean, saySizes, shortest, sizeFrom } from './drawSizes';
import { defaultJoint, JointSpec } from './joint';
import { JOINT_FIELDS } from './jointFields';
import { LAYOUTS, layoutOf, openLayout } from './registry';
import { closeRing } from './ring';
import type { LayoutSpec } from './schema';
import { halfOf } from './modules';
import type { AnyLayoutSpec, Layout, OpenLayout } from './types';
import { pieceIn, shareWord } from './words';
import { wrapped } from './stretcher';

/*
 * Layouts by themselves: cells in their own frame, on a rectangle, without sheets, prints or zones. What is laid of
 * them on outlines of any shape is tested in lay/.
 */

const all = LAYOUTS as readonly unknown[] as readonly Layout<AnyLayoutSpec>[];
const laid = all.filter((l) => l.cells === 'laid');
const specs: [string, LayoutSpec][] = [
  ...laid.flatMap((l) => l.formats.map((f): [string, LayoutSpec] => [f.label, f.spec as LayoutSpec])),
  ['stacked bricks', { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0, raking: false }],
  ['raking thirds', { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 1 / 3, raking: true }],
  ['triple herringbone', { kind: 'herringbone', lengthMm: 490, widthMm: 70, strands: 3 }],
  ['odd herringbone', { kind: 'herringbone', lengthMm: 333, widthMm: 90, strands: 2 }],
  ['exactly 7 × 5', { kind: 'grid', widthMm: 1, heightMm: 1, shift: 0, diagonal: false, across: 7, up: 5 }],
];
const area = areaOf([rectangle(3000, 2000)]);
const joint = { ...defaultJoint(6), alongMm: 8, acrossMm: 6 };
const open = <S extends AnyLayoutSpec>(spec: S) => openLayout(spec, joint, area);

type Cell = ListedCell;
const cellsOf = (layout: OpenLayout, [minX, minY, maxX, maxY]: number[] = [0, 0, 3000, 2000]): Cell[] =>
  listCells(layout, { minX, minY, maxX, maxY });
const holds = ({ cell }: Cell, x: number, y: number) => holdsPoint([cell], [x, y]);
const keyOf = (c: { course: number; index: number }) => `${c.course},${c.index}`;

describe.each(specs)('%s', (_label, spec) => {
  const layout = open(spec);
  const cells = cellsOf(layout);
  const byKey = new Map(cells.map((c) => [keyOf(c), c]));

  test('cells cover the plane without gap or overlap, each once', () => {
    expect(byKey.size).toBe(cells.length);
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 2999, noNaN: true }),
        fc.double({ min: 1, max: 1999, noNaN: true }),
        (x, y) => {
          const near = cells.filter((c) => Math.abs(c.x - x) <= c.a + c.b && Math.abs(c.y - y) <= c.a + c.b);
          // beside round numbers, on which sides lie
          expect(near.filter((c) => holds(c, x + 0.0137, y + 0.0073))).toHaveLength(1);
        },
      ),
      { numRuns: 60 },
    );
  });

  test('whatever is asked for, a place has the same cell', () => {
    const part = cellsOf(layout, [700, 500, 1500, 1100]);
    for (const c of part) {
      const whole = byKey.get(keyOf(c));
      if (whole) expect(c).toEqual(whole);
    }
    // every cell that touches the part is given
    const given = new Set(part.map(keyOf));
    const touching = cells.filter((c) => c.cell.some(([x, y]) => x > 701 && x < 1499 && y > 501 && y < 1099));
    expect(touching.filter((c) => !given.has(keyOf(c)))).toEqual([]);
  });

  test('neighbours are those whose sides touch, no more than are told of, and of another class', () => {
    const out = new Int32Array(layout.mostNeighbours * 2 + 8);
    const inner = cells.filter((c) => c.x > 800 && c.x < 2200 && c.y > 600 && c.y < 1400).slice(0, 16);
    const beyond = layout.largest[0] + 50;
    const wide = cellsOf(layout, [-beyond, 0, 3000 + beyond, 2000]);
    for (const c of inner) {
      const n = layout.neighbours(c.course, c.index, out);
      expect(n).toBeLessThanOrEqual(layout.mostNeighbours);
      const named = Array.from({ length: n }, (_, k) => `${out[k * 2]},${out[k * 2 + 1]}`).sort();
      expect(new Set(named).size).toBe(n);
      // along each side, a little beyond it
      const found = new Set<string>();
      const reach = c.a + c.b + layout.largest[0] + layout.largest[1];
      const near = wide.filter(
        (o) => Math.abs(o.x - c.x) < reach && Math.abs(o.y - c.y) < c.a + c.b + 2 * o.b + 2 * o.a,
      );
      c.cell.forEach(([ax, ay], k) => {
        const [bx, by] = c.cell[(k + 1) % c.cell.length];
        const l = Math.hypot(bx - ax, by - ay);
        for (let t = 0.5; t < l; t += Math.min(7, l / 8)) {
          const [x, y] = [
            ax + ((bx - ax) * t) / l + ((by - ay) / l) * 0.01,
            ay + ((by - ay) * t) / l - ((bx - ax) / l) * 0.01,
          ];
          const other = near.find((o) => keyOf(o) !== keyOf(c) && holds(o, x, y));
          if (other) found.add(keyOf(other));
        }
      });
      expect(named).toEqual(expect.arrayContaining([...found]));
      // what the steps along a side missed shares a short part of it
      for (const key of named) {
        if (found.has(key)) continue;
        const other = near.find((o) => keyOf(o) === key)!;
        expect([key, shared(c.cell, other.cell) > 1e-3]).toEqual([key, true]);
      }
      for (const key of named) {
        const [course, index] = key.split(',').map(Number);
        expect(layout.classOf(course, index)).not.toBe(layout.classOf(c.course, c.index));
        expect(layout.classOf(course, index)).toBeLessThan(layout.classes);
        expect(layout.classOf(course, index)).toBeGreaterThanOrEqual(0);
      }
    }
  });

  test('pieces have the sizes asked for, joints lie between them', () => {
    const roles = new Set<string>();
    for (const c of cells) {
      const [length, width] = halfOf(c.shape, c.a, c.b, layout.inset).map((v) => 2 * v);
      expect(length).toBeLessThanOrEqual(layout.largest[0] + 1e-6);
      expect(width).toBeLessThanOrEqual(layout.largest[1] + 1e-6);
      expect(length).toBeGreaterThan(0);
      roles.add(layout.roleOf(c.course, c.index));
    }
    const { roles: known } = layoutOf(spec);
    for (const role of roles) expect(known).toContain(role);
    const mean = (3000 * 2000) / layout.cellArea;
    expect(cells.length).toBeGreaterThan(mean * 0.8);
    expect(cells.length).toBeLessThan(mean * 2 + 80);
  });
});

describe('where the first piece lies', () => {
  const first = (spec: LayoutSpec, course = 0, index = 0) => {
    const found = cellsOf(open(spec), [-400, -400, 1600, 1600]).find((c) => c.course === course && c.index === index)!;
    const { inset } = open(spec);
    return [found.x - found.a + inset[0], found.y - found.b + inset[1]].map((v) => Math.round(v * 1e6) / 1e6);
  };
  const brick = { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false } as const;

  test('bricks: its lower left corner at the start, courses moved to and fro or always on', () => {
    expect(first(brick)).toEqual([0, 0]);
    expect(first(brick, 0, 1)).toEqual([223, 0]);
    expect(first(brick, 1)).toEqual([111.5, 71]);
    expect(first(brick, 2)).toEqual([0, 142]);
    expect(first(brick, -1)).toEqual([111.5, -71]);
    const third = { ...brick, lap: 1 / 3 };
    expect(first(third, 1)[0]).toBeCloseTo(223 / 3, 5);
    expect(first(third, 2)[0]).toBe(0);
    const raking = { ...third, raking: true };
    expect([0, 1, 2, 3].map((c) => Math.round(first(raking, c)[0]))).toEqual([0, 74, 149, 0]);
    expect(first({ ...brick, lap: 0 }, 1)).toEqual([0, 71]);
  });

  test('tiles: rows moved on by their shift, counted pieces from edge to edge', () => {
    const tile = {
      kind: 'grid',
      widthMm: 150,
      heightMm: 100,
      shift: 0.25,
      diagonal: false,
      across: null,
      up: null,
    } as const;
    expect([0, 1, 2, 4].map((c) => first(tile, c)[0])).toEqual([0, 39.5, 79, 0]);
    expect(first(tile, 1)[1]).toBe(106);
    const counted = { ...tile, shift: 0, across: 7, up: 5 };
    const [w, h] = open(counted).largest;
    expect([w * 7 + 6 * 8, h * 5 + 4 * 6].map(Math.round)).toEqual([3000, 2000]);
    expect(open({ ...counted, diagonal: true }).largest).toEqual([150, 100]);
    expect(open({ ...counted, across: 100_000 } as LayoutSpec).largest[0]).toBe(0.01);
  });

  test('herringbone: one lying at the start, one standing beside it', () => {
    const bone = { kind: 'herringbone', lengthMm: 490, widthMm: 70, strands: 1 } as const;
    expect(first(bone)).toEqual([0, 0]);
    const cells = cellsOf(open(bone), [-400, -400, 1600, 1600]);
    const upright = cells.find((c) => c.course === 0 && c.index === 1)!;
    expect(upright.axis).toBe(1);
    // all joints are as wide as those between rows
    expect(open(bone).inset).toEqual([3, 3]);
    expect([upright.x - upright.b + 3, upright.y - upright.a + 3].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([
      0, 76,
    ]);
    expect(open(bone).roleOf(0, 0)).toBe('level');
    expect(open(bone).roleOf(0, 1)).toBe('upright');
    expect(open({ ...bone, strands: 2 }).roleOf(0, 1)).toBe('level');
    expect(open({ ...bone, strands: 2 }).roleOf(0, -1)).toBe('upright');
  });

  test('hexagons: as wide across their flats as asked, the joint all round', () => {
    const hex = { kind: 'hexagon', acrossFlatsMm: 200, pointUp: true } as const;
    const [c] = cellsOf(open(hex), [0, 0, 10, 10]).filter((o) => o.course === 0 && o.index === 0);
    expect([c.x, c.a]).toEqual([100, 103]);
    expect(c.y).toBeCloseTo(200 / Math.sqrt(3), 9);
    expect(2 * c.b).toBeCloseTo((2 * 206) / Math.sqrt(3), 9);
    const flat = open({ ...hex, pointUp: false });
    const [f] = cellsOf(flat, [0, 0, 400, 400]).filter((o) => o.course === 0 && o.index === 0);
    expect([f.b, f.y]).toEqual([103, 100]);
    expect(f.a).toBeCloseTo(206 / Math.sqrt(3), 9);
    expect(f.x).toBeCloseTo(200 / Math.sqrt(3), 9);
  });
});

describe('definitions', () => {
  const ajv = new Ajv({ strict: false });

  test.each(all.map((l) => [l.label, l] as const))(
    '%s: what it starts with and its formats are valid',
    (_l, layout) => {
      const valid = ajv.compile(layout.schema);
      for (const { spec } of [layout.preset, ...layout.formats]) {
        expect(valid(spec)).toBe(true);
        expect(spec.kind).toBe(layout.kind);
        expect(layout.describe(spec, (a, b) => (b === undefined ? `${a}` : `${a} × ${b}`))).toMatch(/\w/);
      }
      expect(new Set(layout.formats.map((f) => f.label)).size).toBe(layout.formats.length);
      expect(layout.cells === 'laid').toBe(!!layout.open);
      expect(layout.roles.length > 0).toBe(layout.cells !== 'none');
    },
  );

  test.each(laid.map((l) => [l.label, l] as const))(
    '%s: a field sets what it shows, and nothing else',
    (_l, layout) => {
      const valid = ajv.compile(layout.schema);
      for (const { spec } of [layout.preset, ...layout.formats]) {
        for (const field of layout.fields) {
          if (field.shown && !field.shown(spec, undefined)) continue;
          const value = field.get(spec, undefined);
          expect(field.set(spec, value as never, undefined)).toEqual(spec);
          const others =
            field.kind === 'toggle' ? [!value] : field.kind === 'choice' ? (field.options ?? []).map(([o]) => o) : [];
          for (const other of others) {
            const changed = field.set(spec, other as never, undefined);
            expect(valid(changed)).toBe(true);
            expect(field.get(changed, undefined)).toBe(other);
          }
        }
        if (!layout.size) continue;
        const size = layout.size.get(spec);
        if (!size) continue;
        const next = layout.size.set(spec, [333, layout.size.set(spec, [333, 333]) && 111]);
        expect(valid(next)).toBe(true);
        expect(layout.size.get(next)![0]).toBe(333);
      }
    },
  );

  test.each(laid.map((l) => [l.label, l] as const))('%s: sized to a pitch, it has that pitch', (_l, layout) => {
    for (const { spec } of [layout.preset, ...layout.formats]) {
      for (const standing of [false, true]) {
        const round = layout.round?.(spec, joint, 260, standing);
        // hexagons stand in columns, every other one half a tile off
        if (!round || (layout.kind === 'hexagon' && standing)) continue;
        const cells = cellsOf(open(round), [0, 0, 1200, 1200]).sort((p, q) => p.course - q.course || p.index - q.index);
        const per = layout.perPitch?.(round, joint) ?? 1;
        const [a] = cells.filter((c) => c.course === 2);
        const next = standing
          ? cells.find((c) => c.course === 3)!
          : cells.find((c) => c.course === 2 && c.index === a.index + per)!;
        const along = standing ? next.y - a.y : next.x - a.x;
        expect(Math.abs(along)).toBeCloseTo(260, 6);
        if (!standing && layout.pitch) expect(layout.pitch(round, joint)).toBeCloseTo(260, 6);
      }
    }
  });

  test('layouts that no length settles say so', () => {
    const grid = layoutOf({ kind: 'grid' });
    const tile = { ...grid.preset.spec, diagonal: true };
    expect(grid.round!(tile, joint, 200, false)).toBeNull();
    expect(grid.pitch!(tile, joint)).toBeNull();
    expect(grid.pitch!({ ...grid.preset.spec, across: 5 } as AnyLayoutSpec, joint)).toBeNull();
    const hex = layoutOf({ kind: 'hexagon' });
    const flat = { ...hex.preset.spec, pointUp: false };
    expect(hex.round!(flat, joint, 200, false)).toBeNull();
    expect(hex.round!(hex.preset.spec, joint, 200, true)).toBeNull();
    expect(hex.pitch!(flat, joint)).toBeNull();
  });

  test('one that is not there is named, one that is not laid by rule is not opened', () => {
    expect(() => layoutOf({ kind: 'moire' })).toThrow('there is no layout “moire”');
    expect(() => open({ kind: 'whole' })).toThrow('“Whole picture” is not laid by rule');
  });

  test('joints: each field sets its own value alone; pieces of the mesh have only edges', () => {
    const j = defaultJoint(10);
    expect(j).toMatchObject({ alongMm: 10, acrossMm: 10, recessMm: 1, roundingMm: 1 });
    expect(defaultJoint(1)).toMatchObject({ recessMm: 0.5, roundingMm: 0.5 });
    const context = { plain: false, materials: [['brass', 'Brass']] as const };
    fieldsKeepTheirOwn(JOINT_FIELDS, j, context, ajv.compile(JointSpec));
    const shown = (plain: boolean) =>
      JOINT_FIELDS.filter((f) => f.shown!(j, { ...context, plain })).map((f) => f.label);
    expect(shown(true)).toEqual(['Edges rounded']);
    expect(shown(false)).toHaveLength(JOINT_FIELDS.length);
    const [material] = JOINT_FIELDS.filter((f) => f.kind === 'choice');
    const inBrass = material.set(j, 'brass', context);
    expect(inBrass.material).toBe('brass');
    expect(JOINT_FIELDS.filter((f) => f.fixed?.(inBrass, context)).map((f) => f.label)).toEqual(['Joint colour']);
    expect(material.set(inBrass, 'plain', context)).toEqual(j);
  });
});

describe('words', () => {
  const say = (spec: LayoutSpec) => layoutOf(spec).describe(spec, (a, b) => (b === undefined ? `${a}` : `${a} × ${b}`));
  test.each<[LayoutSpec, string]>([
    [
      { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
      'stretcher bond of bricks 215 × 65, half lap',
    ],
    [{ kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0, raking: false }, 'stack bond of bricks 215 × 65'],
    [
      { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.4, raking: false },
      'stretcher bond of bricks 215 × 65, 40% lap',
    ],
    [
      { kind: 'flemish', stretcherMm: 215, headerMm: 102.5, heightMm: 65, closers: true },
      'Flemish bond of bricks 215 × 65 with queen closers',
    ],
    [
      { kind: 'flemish', stretcherMm: 215, headerMm: 102.5, heightMm: 65, closers: false },
      'Flemish bond of bricks 215 × 65',
    ],
    [
      {
        kind: 'planks',
        lengths: { kind: 'one', mm: 900 },
        widths: { kind: 'one', mm: 95 },
        stagger: { kind: 'share', share: 0 },
      },
      'planks 900 × 95, end joints in line',
    ],
    [{ kind: 'herringbone', lengthMm: 490, widthMm: 70, strands: 1 }, 'herringbone of planks 490 × 70'],
    [{ kind: 'herringbone', lengthMm: 490, widthMm: 70, strands: 2 }, 'double herringbone of planks 490 × 70'],
    [{ kind: 'herringbone', lengthMm: 490, widthMm: 70, strands: 3 }, 'triple herringbone of planks 490 × 70'],
    [
      { kind: 'grid', widthMm: 150, heightMm: 100, shift: 0, diagonal: false, across: null, up: null },
      'a grid of tiles 150 × 100',
    ],
    [
      { kind: 'grid', widthMm: 150, heightMm: 100, shift: 1 / 3, diagonal: true, across: null, up: null },
      'a diagonal grid of tiles 150 × 100, each row third on',
    ],
    [
      { kind: 'grid', widthMm: 150, heightMm: 100, shift: 0, diagonal: false, across: 7, up: null },
      'a grid of tiles 150 × 100, exactly 7 across',
    ],
    [
      { kind: 'grid', widthMm: 150, heightMm: 100, shift: 0, diagonal: false, across: 7, up: 5 },
      'a grid, exactly 7 across, exactly 5 up',
    ],
    [{ kind: 'hexagon', acrossFlatsMm: 200, pointUp: true }, 'hexagons 200 across flats'],
    [{ kind: 'hexagon', acrossFlatsMm: 200, pointUp: false }, 'hexagons 200 across flats, flat side up'],
    [
      {
        kind: 'planks',
        lengths: { kind: 'one', mm: 900 },
        widths: { kind: 'one', mm: 140 },
        stagger: { kind: 'share', share: 0.5 },
      },
      'planks 900 × 140, halves',
    ],
    [
      {
        kind: 'planks',
        lengths: { kind: 'range', fromMm: 600, toMm: 900 },
        widths: {
          kind: 'list',
          items: [
            { mm: 90, share: 1 },
            { mm: 140, share: 2 },
          ],
        },
        stagger: { kind: 'step', stepMm: 300 },
      },
      'planks 600 to 900 long, 90, 140 wide, steps of 300',
    ],
    [{ kind: 'whole' }, 'one whole picture'],
    [{ kind: 'asModelled' }, 'pieces as modelled'],
  ])('%j', (spec, words) => expect(say(spec)).toBe(words));

  test('shares as the trade says them', () => {
    expect([0.5, 1 / 3, 0.3333, 0.25, 0.2, 0.335].map(shareWord)).toEqual([
      'half',
      'third',
      'third',
      'quarter',
      '20%',
      '34%',
    ]);
    expect([pieceIn(225, 10), pieceIn(5, 10)]).toEqual([215, 1]);
    expect([0, 1, 2.25, 3 * (1 / 3), -0.25].map(wrapped)).toEqual([0, 0, 0.25, 0, 0.75]);
  });
});

describe('sizes', () => {
  const list = {
    kind: 'list' as const,
    items: [
      { mm: 100, share: 3 },
      { mm: 300, share: 1 },
    ],
  };
  const range = { kind: 'range' as const, fromMm: 900, toMm: 500 };
  const one = { kind: 'one' as const, mm: 700 };

  test('least, most and mean', () => {
    expect([one, range, list].map(longest)).toEqual([700, 900, 300]);
    expect([one, range, list].map(shortest)).toEqual([700, 500, 100]);
    expect([one, range, list].map(mean)).toEqual([700, 700, 150]);
    expect(
      mean({
        ...list,
        items: [
          { mm: 80, share: 0 },
          { mm: 90, share: 0 },
        ],
      }),
    ).toBe(80);
  });

  test('drawn: each as often as its share, ranges in whole millimetres from end to end', () => {
    const bits = Array.from({ length: 4000 }, (_, n) => (n * 4294967296) / 4000);
    expect(new Set(bits.map((b) => sizeFrom(one, b)))).toEqual(new Set([700]));
    expect(bits.filter((b) => sizeFrom(list, b) === 100)).toHaveLength(3000);
    const drawn = bits.map((b) => sizeFrom(range, b));
    expect([Math.min(...drawn), Math.max(...drawn)]).toEqual([500, 900]);
    expect(drawn.every(Number.isInteger)).toBe(true);
    expect(sizeFrom({ ...list, items: [{ mm: 80, share: 0 }] }, 5)).toBe(80);
    expect(new Set([Draw.width, Draw.length, Draw.offset]).size).toBe(3);
  });
});

describe('widths in turn', () => {
  const one = { kind: 'one' as const, mm: 700 };
  const turn = {
    kind: 'turn' as const,
    items: [
      { mm: 90, times: 2 },
      { mm: 140, times: 1 },
    ],
  };

  test.each([
    ['planks', { kind: 'planks', lengths: one, widths: turn, stagger: { kind: 'share', share: 0.5 } }],
    ['coursed', { kind: 'coursed', lengths: one, heights: turn, leastApartMm: 0, leastEndMm: 0, layoutNumber: 3 }],
  ])('%s: course after course from the start, upwards and downwards', (_kind, spec) => {
    const cells = listCells(open(spec), { minX: 0, minY: -900, maxX: 10, maxY: 900 });
    const widths = new Map(cells.map((c) => [c.course, Math.round(2 * c.b - joint.acrossMm)]));
    const courses = [...widths.keys()].sort((a, b) => a - b);
    expect(courses.length).toBeGreaterThan(6);
    for (const c of courses) expect([c, widths.get(c)]).toEqual([c, ((c % 3) + 3) % 3 === 2 ? 140 : 90]);
    expect(mean(turn)).toBeCloseTo(320 / 3, 9);
    expect(saySizes(turn, (mm) => `${mm}`)).toBe('2 × 90, 140 in turn');
  });
});

describe('closed to a ring', () => {
  const brick = { kind: 'stretcher', lengthMm: 242, heightMm: 65, lap: 0.5, raking: false } as const;
  // twelve bricks and their joints once round
  const layout = open(brick);

  test.each(['index', 'course'] as const)('by %s: what runs over the seam is one piece on both sides', (by) => {
    const count = by === 'index' ? 12 : 20;
    const ring = closeRing(layout, { by, count });
    const cells = cellsOf(ring, [-10, 0, 3010, 1400]);
    for (const c of cells) {
      const v = by === 'index' ? c.index : c.course;
      expect(v).toBeGreaterThanOrEqual(0);
      expect(v).toBeLessThan(count);
    }
    expect(new Set(cells.map(keyOf)).size).toBeLessThan(cells.length);
  });

  test('neighbours go round, and the last is of another class than the first', () => {
    const ring = closeRing(layout, { by: 'index', count: 12 });
    const out = new Int32Array(32);
    const named = (course: number, index: number) => {
      const n = ring.neighbours(course, index, out);
      return Array.from({ length: n }, (_, k) => [out[k * 2], out[k * 2 + 1]]);
    };
    expect(named(0, 0)).toContainEqual([0, 11]);
    expect(named(0, 11)).toContainEqual([0, 0]);
    expect(ring.classes).toBe(2 * layout.classes);
    for (let c = 0; c < 6; c++) {
      for (let i = 0; i < 12; i++) {
        expect(ring.classOf(c, i)).toBeLessThan(ring.classes);
        for (const [oc, oi] of named(c, i)) expect(ring.classOf(oc, oi)).not.toBe(ring.classOf(c, i));
      }
    }
  });
});

describe('Flemish bond', () => {
  const bond = { kind: 'flemish', stretcherMm: 215, headerMm: 102.5, heightMm: 65, closers: true } as const;
  const j = defaultJoint(10);
  const rows = (width: number, closers = true) => {
    const wall = openLayout({ ...bond, closers } as LayoutSpec, j, areaOf([rectangle(width, 600)]));
    return [0, 1].map((course) =>
      cellsOf(wall, [0, 0, width, 600])
        .filter((c) => c.course === course && c.x + c.a > 0 && c.x - c.a < width)
        .sort((p, q) => p.x - q.x)
        .map((c) => ({ role: wall.roleOf(c.course, c.index), from: c.x - c.a + 5, to: c.x + c.a - 5, sawn: c.sawn })),
    );
  };

  test('stretchers and headers in turn, headers over the middles of stretchers', () => {
    const [low, high] = rows(2000, false);
    for (const row of [low, high])
      row.slice(1).forEach((c, n) => expect([c.role, row[n].role].sort()).toEqual(['header', 'stretcher']));
    const header = high.find((c) => c.role === 'header' && c.from > 300)!;
    const below = low.find((c) => c.from < header.from && c.to > header.to)!;
    expect(below.role).toBe('stretcher');
    expect((below.from + below.to) / 2).toBeCloseTo((header.from + header.to) / 2, 6);
    expect(low[0]).toMatchObject({ role: 'stretcher', from: 0, to: 215 });
  });

  test('at upright ends the header goes to the end, the closer stands inside it', () => {
    const [, high] = rows(2 * 337.5 + 215);
    expect(high[0]).toMatchObject({ role: 'header', sawn: 0 });
    expect([high[0].from, high[0].to]).toEqual([0, 102.5]);
    expect(high[1].role).toBe('closer');
    expect(high[1].from).toBeCloseTo(112.5, 6);
    expect(high[1].to - high[1].from).toBeLessThanOrEqual(0.75 * 102.5);
    expect(high[1].sawn).toBe(1);
    expect(high.at(-1)).toMatchObject({ role: 'header' });
    expect(high.at(-2)).toMatchObject({ role: 'closer' });
    expect(high.filter((c) => c.role === 'closer')).toHaveLength(2);
  });

  test('without closers, or where none fits, the bond runs on', () => {
    expect(rows(2 * 337.5 + 215, false)[1].some((c) => c.role === 'closer')).toBe(false);
    for (let width = 200; width < 1300; width += 7) {
      for (const row of rows(width)) {
        const closers = row.filter((c) => c.role === 'closer');
        expect(closers.length).toBeLessThanOrEqual(2);
        for (const c of closers) {
          expect(c.to - c.from).toBeGreaterThanOrEqual(20 - 1e-6);
          expect(c.to - c.from).toBeLessThanOrEqual(0.75 * 102.5 + 1e-6);
        }
        // nothing lies over anything else
        row.slice(1).forEach((c, n) => expect(c.from - row[n].to).toBeCloseTo(10, 6));
      }
    }
  });
});
