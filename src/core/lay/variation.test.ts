import { sayFinding } from '../finding/finding';
import { findingsOf } from './findings';
import { pieceAt } from './evaluate';
import { listPieces, type Piece } from './pieces';
import fc from 'fast-check';
import type { LayoutSpec } from '../layout/schema';
import type { Loop } from '../geometry/loop';
import { faultOfLeaves, moveLine } from '../material/leaves';
import type { Material } from '../material/schema';
import { fingerprint } from '../count/fingerprint';
import { summarise } from '../count/summary';
import { type Laid, arrangeOn, laidSpec, oak, listOn, rectangle, wallMesh, wallSheet } from '../testing/surfaces';

const LAYOUTS: Record<string, LayoutSpec> = {
  stretcher: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
  thirds: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 1 / 3, raking: true },
  flemish: { kind: 'flemish', stretcherMm: 215, headerMm: 102.5, heightMm: 65, closers: true },
  herringbone: { kind: 'herringbone', lengthMm: 280, widthMm: 70, strands: 1 },
  grid: { kind: 'grid', widthMm: 147, heightMm: 147, shift: 0, diagonal: false, across: null, up: null },
  hexagon: { kind: 'hexagon', acrossFlatsMm: 150, pointUp: false },
  planks: {
    kind: 'planks',
    lengths: { kind: 'one', mm: 600 },
    widths: { kind: 'one', mm: 90 },
    stagger: { kind: 'share', share: 1 / 3 },
  },
  random: {
    kind: 'planks',
    lengths: { kind: 'range', fromMm: 500, toMm: 900 },
    widths: { kind: 'one', mm: 90 },
    stagger: { kind: 'random', leastApartMm: 120, leastEndMm: 150, carryOffcuts: false, layoutNumber: 5 },
  },
};

function lay(laid: Laid, outline: Loop = rectangle(2400, 1600), material: Material = oak()) {
  const mesh = wallMesh([outline]);
  const sheet = wallSheet(mesh);
  const open = arrangeOn(laidSpec(laid), sheet, { oak: material });
  return { open, sheet, pieces: listPieces(open) };
}

const key = (p: { course: number; index: number }) => `${p.course},${p.index}`;
/** Prints compared to a thousandth of a millimetre. */
const print = (p: Piece) =>
  [
    p.appearance.material,
    p.appearance.print,
    Math.round(p.appearance.u * 1e6),
    Math.round(p.appearance.v * 1e6),
    ...[...p.appearance.gain].map((g) => Math.round(g * 1e6)),
  ].join();

describe.each(Object.keys(LAYOUTS))('%s', (name) => {
  const layout = LAYOUTS[name];
  const out = new Int32Array(64);

  test('neighbours never show the same leaf when there are just enough', () => {
    fc.assert(
      fc.property(fc.nat(1e6), (shuffle) => {
        const bare = lay({ layout, variation: { shuffle } });
        const needed = bare.open.layout.mostNeighbours + 1;
        // one row of leaves, each as large as the largest piece
        const [l, w] = bare.open.layout.largest;
        const leafy = oak({
          widthMm: l,
          heightMm: w * needed,
          seamless: false,
          leaves: { columns: 1, rows: needed, insetMm: 0 },
        });
        const { open } = lay({ layout, variation: { shuffle } }, undefined, leafy);
        expect(open.materials[0].prints).toMatchObject({ leaves: needed, byLeaf: true, distinct: needed, enlarged: 1 });
        for (const p of bare.pieces) {
          const n = open.layout.neighbours(p.course, p.index, out);
          const own = open.dealer.printOf(p.course, p.index);
          for (let i = 0; i < n; i++) expect(open.dealer.printOf(out[i * 2], out[i * 2 + 1])).not.toBe(own);
        }
      }),
      { numRuns: 4 },
    );
  });

  test('neighbours’ prints overlap by no more than the set share', () => {
    const { open, pieces } = lay({ layout, variation: { overlapShare: 0.3 } });
    const { prints, widthMm, heightMm } = open.materials[0];
    expect(prints.distinct).toBeGreaterThan(open.layout.mostNeighbours);
    const [l, w] = open.layout.largest;
    const byKey = new Map(pieces.map((p) => [key(p), p]));
    const near = (d: number, period: number) => Math.abs(d - Math.round(d / period) * period);
    let compared = 0;
    for (const p of pieces) {
      const n = open.layout.neighbours(p.course, p.index, out);
      for (let i = 0; i < n; i++) {
        const q = byKey.get(`${out[i * 2]},${out[i * 2 + 1]}`);
        if (!q) continue;
        compared++;
        const dx = near((p.appearance.u - q.appearance.u) * widthMm, widthMm);
        const dy = near((p.appearance.v - q.appearance.v) * heightMm, heightMm);
        const overlap = Math.max(0, 1 - dx / l) * Math.max(0, 1 - dy / w);
        expect(overlap).toBeLessThanOrEqual(0.3 + 1e-6);
      }
    }
    expect(compared).toBeGreaterThan(100);
  });

  test('another shuffle number: other prints, the same outlines; the same numbers: the same pieces', () => {
    const a = lay({ layout, variation: { shuffle: 7 } }).pieces;
    const b = lay({ layout, variation: { shuffle: 8 } }).pieces;
    expect(b.map((p) => [key(p), p.outline])).toEqual(a.map((p) => [key(p), p.outline]));
    const changed = a.filter((p, i) => print(p) !== print(b[i])).length;
    expect(changed / a.length).toBeGreaterThan(0.95);
    expect(fingerprint(lay({ layout, variation: { shuffle: 7 } }).pieces)).toBe(fingerprint(a));
    expect(fingerprint(b)).not.toBe(fingerprint(a));
  });

  test('a surface that grows keeps its pieces and their prints', () => {
    const fitted = layout.kind === 'flemish' || name === 'random';
    const [width, height] = fitted ? [6000, 1600] : [2400, 1600];
    const small = lay({ layout }, rectangle(width, height));
    // fitted rows answer for growth away from the start, and make their end zone anew; endless ones for any direction
    const larger = lay({ layout, start: fitted ? [0, 0] : [700, 300] }, rectangle(width + 1700, height + 900));
    const zone = fitted ? 3 * small.open.layout.largest[0] : 0;
    const grown = new Map(larger.pieces.map((p) => [key(p), p]));
    let kept = 0;
    for (const p of small.pieces) {
      if (p.middle[0] > width - zone || p.middle[1] > height - (fitted ? 300 : 0)) continue;
      const q = grown.get(key(p))!;
      expect(q && print(q)).toBe(print(p));
      kept++;
    }
    expect(kept).toBeGreaterThan(small.pieces.length * (fitted ? 0.35 : 0.8));
  });
});

test('pinned pieces keep their print through shuffles, and others keep away from it', () => {
  const layout = LAYOUTS.stretcher;
  const first = lay({ layout, variation: { shuffle: 3 } });
  const found = pieceAt(first.open, [1000, 700])!;
  const before = first.pieces.find((p) => key(p) === key(found))!;
  for (const shuffle of [4, 5, 6]) {
    const later = lay({ layout, variation: { shuffle, pins: [found] } });
    expect(print(later.pieces.find((p) => key(p) === key(found))!)).toBe(print(before));
    const out = new Int32Array(32);
    const n = later.open.layout.neighbours(found.course, found.index, out);
    for (let i = 0; i < n; i++) expect(later.open.dealer.printOf(out[i * 2], out[i * 2 + 1])).not.toBe(found.print);
  }
});

test('a piece dealt again changes, and none but its neighbours with it', () => {
  const layout = LAYOUTS.grid;
  const a = lay({ layout });
  const { course, index } = pieceAt(a.open, [800, 800])!;
  const b = lay({ layout, variation: { deals: [{ course, index, deal: 1 }] } });
  const changed = a.pieces.filter((p, i) => print(p) !== print(b.pieces[i]));
  expect(changed.map(key)).toContain(`${course},${index}`);
  for (const p of changed) expect(Math.abs(p.course - course) + Math.abs(p.index - index)).toBeLessThanOrEqual(2);
});

test('a print never crosses the edge of a picture that is not seamless', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(0, 90, 180, 1),
      fc.constantFrom<'x' | 'y'>('x', 'y'),
      fc.integer({ min: 80, max: 130 }),
      (turnStepDeg, grain, percent) => {
        const sizePercent = { from: 80, to: percent };
        const material = oak({ seamless: false, widthMm: 900, heightMm: 700, grain });
        const { open, pieces } = lay(
          { layout: LAYOUTS.stretcher, variation: { turnStepDeg, sizePercent, flipAlong: true } },
          undefined,
          material,
        );
        expect(open.materials[0].prints.enlarged).toBe(1);
        for (const { appearance: look } of pieces) {
          for (const l of [-107.5, 107.5])
            for (const w of [-32.5, 32.5]) {
              for (const v of [
                look.u + l * look.uAlong + w * look.uAcross,
                look.v + l * look.vAlong + w * look.vAcross,
              ]) {
                expect(v).toBeGreaterThanOrEqual(-1e-9);
                expect(v).toBeLessThanOrEqual(1 + 1e-9);
              }
            }
        }
      },
    ),
    { numRuns: 12 },
  );
});

test('a picture smaller than a piece, and one with too few prints, are said', () => {
  const small = lay({ layout: LAYOUTS.stretcher }, undefined, oak({ widthMm: 150, heightMm: 100, seamless: false }));
  const said = ({ open, sheet }: typeof small) =>
    findingsOf(null, sheet, open)
      .map((f) => sayFinding(f))
      .join();
  expect(said(small)).toMatch(/larger than what is seamless.*1\.43 times/s);
  const few = lay({ layout: LAYOUTS.stretcher }, undefined, oak({ widthMm: 430, heightMm: 130, seamless: false }));
  const { prints, needed } = summarise({ arrangement: few.open, pieces: few.pieces, sheet: few.sheet })!;
  expect([prints, needed]).toEqual([4, 7]);
  expect(said(few)).toMatch(/4 different prints.*7 are needed/);
});

test('slides keep to their range and steps', () => {
  const slideAlong = { fromMm: 100, toMm: 700, stepMm: 50 };
  const { pieces, open } = lay({ layout: LAYOUTS.planks, variation: { slideAlong } });
  const { widthMm } = open.materials[0];
  const seen = new Set(pieces.map((p) => Math.round((p.appearance.u * widthMm - 300) * 1e3) / 1e3));
  for (const s of seen) {
    expect(s).toBeGreaterThanOrEqual(100);
    expect(s).toBeLessThanOrEqual(700);
    expect(s % 50).toBeCloseTo(0, 6);
  }
  expect(seen.size).toBeGreaterThan(1);
});

test('materials are mixed by share, course and role; off, the main one fills the place', () => {
  const walnut = oak({ id: 'walnut', name: 'Walnut' });
  const entry = { material: 'walnut', on: true, share: 0.25, every: 4, first: 1, role: 'header' as const };
  const count = (by: 'share' | 'course' | 'role', on: boolean) => {
    const mesh = wallMesh([rectangle(6000, 3000)]);
    const sheet = wallSheet(mesh);
    const spec = laidSpec({ layout: LAYOUTS.flemish, joint: 10 });
    spec.pieces!.mix = { by, entries: [{ ...entry, on }] };
    const pieces = listOn(spec, sheet, { oak: oak(), walnut });
    return { pieces, mixed: pieces.filter((p) => p.material === 1) };
  };
  const share = count('share', true);
  expect(share.mixed.length / share.pieces.length).toBeGreaterThan(0.2);
  expect(share.mixed.length / share.pieces.length).toBeLessThan(0.3);
  expect(new Set(count('course', true).mixed.map((p) => ((p.course % 4) + 4) % 4))).toEqual(new Set([1]));
  const byRole = count('role', true);
  expect(byRole.mixed.every((p) => p.role === 'header')).toBe(true);
  expect(byRole.pieces.filter((p) => p.role === 'header')).toHaveLength(byRole.mixed.length);
  expect(count('share', false).mixed).toHaveLength(0);
});

test('a pinned piece keeps its material through shuffles, too', () => {
  const walnut = oak({ id: 'walnut', name: 'Walnut' });
  const mesh = wallMesh([rectangle(3000, 2000)]);
  const sheet = wallSheet(mesh);
  const lay = (shuffle: number, pins: NonNullable<Laid['variation']>['pins'] = []) => {
    const spec = laidSpec({ layout: LAYOUTS.grid, variation: { shuffle, pins } });
    spec.pieces!.mix = {
      by: 'share',
      entries: [{ material: 'walnut', on: true, share: 0.5, every: 1, first: 0, role: 'tile' }],
    };
    return listOn(spec, sheet, { oak: oak(), walnut });
  };
  const first = lay(1);
  const pins = first
    .slice(0, 40)
    .map(({ course, index, appearance: look }) => ({ course, index, print: look.print, seed: look.seed }));
  const before = new Map(first.map((p) => [key(p), print(p)]));
  for (const shuffle of [2, 3]) {
    const later = lay(shuffle, pins);
    for (const pin of pins) expect(print(later.find((p) => key(p) === key(pin))!)).toBe(before.get(key(pin)));
    expect(later.some((p) => print(p) !== before.get(key(p)))).toBe(true);
  }
});

test('random rows keep their rules', () => {
  fc.assert(
    fc.property(fc.nat(500), fc.boolean(), (layoutNumber, carryOffcuts) => {
      const layout: LayoutSpec = {
        kind: 'planks',
        lengths: { kind: 'range', fromMm: 700, toMm: 1600 },
        widths: { kind: 'one', mm: 140 },
        stagger: { kind: 'random', leastApartMm: 150, leastEndMm: 300, carryOffcuts, layoutNumber },
      };
      const { pieces } = lay({ layout, joint: 2 }, rectangle(6200, 3000));
      const rows = new Map<number, Piece[]>();
      for (const p of pieces) rows.set(p.course, [...(rows.get(p.course) ?? []), p]);
      const joints = (c: number) =>
        (rows.get(c) ?? [])
          .sort((a, b) => a.index - b.index)
          .slice(0, -1)
          .map((p) => p.middle[0] + p.length / 2);
      for (const [course, row] of rows) {
        const sorted = [...row].sort((a, b) => a.index - b.index);
        expect(sorted[0].length).toBeGreaterThanOrEqual(299.9);
        expect(sorted.at(-1)!.length).toBeGreaterThanOrEqual(299.9);
        for (const p of sorted) expect(p.length).toBeLessThanOrEqual(1600.1);
        for (const x of joints(course))
          for (const y of joints(course + 1)) expect(Math.abs(x - y)).toBeGreaterThan(149);
      }
    }),
    { numRuns: 15 },
  );
});

test('grain runs along every piece and stops at its joints', () => {
  // a picture whose only feature is a random value for each millimetre across the grain
  const value = (v: number) => {
    const mm = Math.floor((((v % 1) + 1) % 1) * 1140);
    return (Math.imul(mm ^ 0x5bd1e995, 0x27d4eb2f) >>> 8) / 2 ** 24;
  };
  for (const [name, layout] of Object.entries(LAYOUTS)) {
    const { pieces } = lay({ layout, joint: 0 }, rectangle(3000, 2000));
    const at = (p: Piece, x: number, y: number) => {
      const [dx, dy] = [x - p.middle[0], y - p.middle[1]];
      const l = dx * p.axis[0] + dy * p.axis[1];
      const w = dx * p.across[0] + dy * p.across[1];
      return value(p.appearance.v + l * p.appearance.vAlong + w * p.appearance.vAcross);
    };
    let along = 0;
    let over = 0;
    let n = 0;
    const whole = pieces.filter((p) => p.whole);
    const startOf = (p: Piece) => [0, 1].map((c) => Math.round(p.middle[c] - (p.axis[c] * p.length) / 2)).join();
    const byEnd = new Map(whole.map((p) => [startOf(p), p]));
    for (const p of whole) {
      const end = [p.middle[0] + (p.axis[0] * p.length) / 2, p.middle[1] + (p.axis[1] * p.length) / 2];
      const next = byEnd.get(`${Math.round(end[0])},${Math.round(end[1])}`);
      for (const w of [-0.3, -0.1, 0.13, 0.31]) {
        const off = [p.across[0] * w * p.width, p.across[1] * w * p.width];
        const inside = [-0.45, -0.2, 0.1, 0.44].map((l) =>
          at(p, p.middle[0] + off[0] + l * p.length * p.axis[0], p.middle[1] + off[1] + l * p.length * p.axis[1]),
        );
        along += Math.max(...inside) - Math.min(...inside);
        if (!next || next === p) continue;
        over += Math.abs(at(p, end[0] + off[0], end[1] + off[1]) - at(next, end[0] + off[0], end[1] + off[1]));
        n++;
      }
    }
    // unbroken within a piece
    expect({ name, along }).toEqual({ name, along: 0 });
    // over a joint as different as any two places: a third on average
    if (n > 40) expect(over / n).toBeGreaterThan(0.2);
  }
});

describe('leaves of uneven size', () => {
  // three strips, the lowest too thin for the boards
  const strips = oak({
    widthMm: 2400,
    heightMm: 500,
    seamless: false,
    leaves: { columns: 1, rows: 3, insetMm: 2, rowLines: [0.4, 0.9] },
  });
  const boards: LayoutSpec = {
    kind: 'planks',
    lengths: { kind: 'one', mm: 900 },
    widths: { kind: 'one', mm: 150 },
    stagger: { kind: 'share', share: 0.5 },
  };

  test('pieces are cut from leaves they have room in, and never over a line', () => {
    const { open, pieces } = lay({ layout: boards }, undefined, strips);
    expect(open.materials[0].prints).toMatchObject({ leaves: 2, enlarged: 1 });
    const seen = new Set<number>();
    for (const { appearance: look } of pieces) {
      const middle = look.v * 500;
      const [low, high] = [middle - 75, middle + 75];
      // strips from the lower edge: 0–50, 50–300, 300–500 mm, less the inset
      const strip = low >= 302 - 1e-6 && high <= 498 + 1e-6 ? 0 : low >= 52 - 1e-6 && high <= 298 + 1e-6 ? 1 : -1;
      expect(strip).toBeGreaterThanOrEqual(0);
      expect(look.u * 2400 - 450).toBeGreaterThanOrEqual(2 - 1e-6);
      expect(look.u * 2400 + 450).toBeLessThanOrEqual(2398 + 1e-6);
      seen.add(strip);
    }
    expect(seen.size).toBe(2);
  });

  test('where a piece has room in none, the largest leaf is shown larger, and that is said', () => {
    const { open } = lay({ layout: { ...boards, widths: { kind: 'one', mm: 400 } } }, undefined, strips);
    expect(open.materials[0].prints.leaves).toBe(1);
    expect(open.materials[0].prints.enlarged).toBeCloseTo(400 / 246, 6);
  });

  test('lines that do not fit the counts or do not rise are named', () => {
    expect(faultOfLeaves({ columns: 1, rows: 3, insetMm: 0, rowLines: [0.4] })).toMatchObject({ field: 'rowLines' });
    expect(faultOfLeaves({ columns: 3, rows: 1, insetMm: 0, columnLines: [0.6, 0.4] })?.detail).toContain('rise');
    expect(faultOfLeaves({ columns: 3, rows: 1, insetMm: 0, columnLines: [0.3, 0.4] })).toBeNull();
    const moved = moveLine({ columns: 3, rows: 1, insetMm: 0 }, 'columnLines', 0, 5);
    expect(faultOfLeaves(moved)).toBeNull();
    expect(moved.columnLines![0]).toBeLessThan(2 / 3);
  });
});
