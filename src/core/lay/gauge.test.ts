import type { GaugeSide } from '../specification/gauge';
import type { Spec } from '../specification/schema';
import { gaugedOn } from '../setout/gauge';
import { laidSpec, oak, wallMesh } from '../testing/surfaces';
import type { LayoutSpec } from '../layout/schema';
import { FIRST_MAPPING } from '../mapping/schema';
import { lay } from './lay';
import type { Region } from './region';

const [WIDE, HIGH] = [3127, 2412];
const wall = wallMesh([
  [
    [0, 0],
    [WIDE, 0],
    [WIDE, HIGH],
    [0, HIGH],
  ],
]);

const LAYOUTS: Record<string, LayoutSpec> = {
  stretcher: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0, raking: false },
  flemish: { kind: 'flemish', stretcherMm: 215, headerMm: 102.5, heightMm: 65, closers: false } as LayoutSpec,
  grid: { kind: 'grid', widthMm: 200, heightMm: 65, shift: 0, diagonal: false, across: null, up: null },
};

const side = (rest: Partial<GaugeSide> = {}): GaugeSide => ({
  from: { kind: 'edge' },
  to: { kind: 'edge' },
  meets: ['face', 'face'],
  count: null,
  jointFromMm: 7,
  jointToMm: 13,
  sizePercent: 1,
  ...rest,
});

function laidWith(layout: LayoutSpec, gauge: Spec['gauge'], turnDeg = 0, mirrors = [false, false]) {
  const spec: Spec = {
    ...laidSpec({ layout, joint: 10 }),
    direction: { turnDeg, mirrorX: mirrors[0], mirrorY: mirrors[1] },
    gauge,
  };
  const region: Region = {
    id: 'wall',
    patches: [{ faces: [0, wall.slots.length] }],
    mapping: FIRST_MAPPING.flat,
    cuts: [],
    origin: [0, 0, 0],
    spec,
    colour: null,
  };
  return lay(region, [wall], { oak: oak() });
}

/** Lowest and highest places of pieces on the sheet, from its lower left corner. */
function reach({ pieces, sheet }: ReturnType<typeof laidWith>, c: 0 | 1) {
  const all = pieces.flatMap((p) => p.outline.flat()).map((p) => p[c]);
  const from = c ? sheet.bounds.minY : sheet.bounds.minX;
  return [Math.min(...all) - from, Math.max(...all) - from];
}

const TURNS: [number, boolean, boolean][] = [
  [0, false, false],
  [180, false, false],
  [0, false, true],
  [0, true, false],
  [90, false, false],
  [-90, false, true],
  [90, true, false],
];

describe('gauged courses', () => {
  test.each(TURNS)('turned %d, mirrored %s %s: whole courses end at both edges', (turnDeg, mx, my) => {
    const laid = laidWith(LAYOUTS.stretcher, { up: side(), across: side() }, turnDeg, [mx, my]);
    expect(laid.findings.filter((f) => f.code.startsWith('gauge'))).toEqual([]);
    for (const c of [0, 1] as const) {
      const [low, high] = reach(laid, c);
      expect(low).toBeCloseTo(0, 2);
      expect(high).toBeCloseTo(c ? HIGH : WIDE, 2);
    }
    expect(laid.pieces.every((p) => p.whole)).toBe(true);
  });

  test.each(Object.entries(LAYOUTS))('%s: as many whole courses as are asked for', (_kind, layout) => {
    const laid = laidWith(layout, { up: side({ count: 33 }) });
    const rows = new Set(laid.pieces.map((p) => Math.round(p.middle[1])));
    expect(rows.size).toBe(33);
    const { joint } = laid.arrangement!;
    // worked out by hand: (2412 − 33 · 65) / 32
    expect(joint.acrossMm).toBeCloseTo(8.34375, 6);
    expect(joint.alongMm).toBe(10);
  });

  test('a limit meets a face, the middle of a joint or a whole joint', () => {
    const at = (meets: GaugeSide['meets']) => {
      const laid = laidWith(LAYOUTS.stretcher, { up: side({ meets }) });
      const joint = laid.arrangement!.joint.acrossMm;
      const [low, high] = reach(laid, 1);
      return [low / joint, (HIGH - high) / joint];
    };
    expect(at(['face', 'face']).map((v) => v.toFixed(3))).toEqual(['0.000', '0.000']);
    expect(at(['joint', 'face']).map((v) => v.toFixed(3))).toEqual(['1.000', '0.000']);
    expect(at(['middle', 'joint']).map((v) => v.toFixed(3))).toEqual(['0.500', '1.000']);
  });

  test('between a sill and a lintel, and from a level, it runs on with the same courses beyond', () => {
    const level = { kind: 'level', level: { id: 'sill', heightMm: 900 } } as const;
    const laid = laidWith(LAYOUTS.stretcher, { up: side({ from: level, to: { kind: 'place', mm: 2100 } }) });
    const edges = new Set(
      laid.pieces.flatMap((p) => p.outline.flat().map(([, y]) => (y - laid.sheet.bounds.minY).toFixed(2))),
    );
    expect(edges.has('900.00')).toBe(true);
    expect(edges.has('2100.00')).toBe(true);
    // beyond the lintel the same courses go on to the edge
    expect(HIGH - reach(laid, 1)[1]).toBeLessThan(laid.arrangement!.joint.acrossMm);
  });

  test('what cannot be kept is said, and nothing is gauged', () => {
    const codes = (...args: Parameters<typeof laidWith>) => {
      const laid = laidWith(...args);
      const [low] = reach(laid, 1);
      expect(low).toBeCloseTo(0, 2);
      return laid.findings.map((f) => f.code).filter((c) => c.startsWith('gauge'));
    };
    expect(codes(LAYOUTS.stretcher, { up: side({ count: 40 }) })).toEqual(['gaugeOutOfTolerance']);
    expect(codes(LAYOUTS.stretcher, { up: side() }, 30)).toEqual(['gaugeAslant']);
    const random: LayoutSpec = { kind: 'crazy', acrossMm: 400, evened: 2, layoutNumber: 1 } as unknown as LayoutSpec;
    expect(codes(random, { up: side() })).toEqual(['gaugeHasNoUnit']);
  });

  test('the same spec on the same sheet is gauged once', () => {
    const laid = laidWith(LAYOUTS.stretcher, { up: side() });
    const { spec } = laid.region;
    expect(gaugedOn(spec!, laid.sheet)).toBe(gaugedOn(spec!, laid.sheet));
    // without a gauge a spec is what it is
    const plain = { ...spec!, gauge: undefined };
    expect(gaugedOn(plain, laid.sheet).spec).toBe(plain);
  });
});
