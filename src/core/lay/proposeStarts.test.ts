import type { Loop } from '../geometry/loop';
import { FIRST_MAPPING } from '../mapping/schema';
import type { LayoutSpec } from '../layout/schema';
import { firstGauge } from '../specification/gauge';
import type { Spec } from '../specification/schema';
import { laidSpec, oak, wallMesh } from '../testing/surfaces';
import { drawStart } from '../draw/start';
import { lay } from './lay';
import { figuresOf, laidCost, proposeStarts, startNow, type StartOptions } from './proposeStarts';

const tiles: LayoutSpec = {
  kind: 'grid',
  widthMm: 148,
  heightMm: 148,
  shift: 0,
  diagonal: false,
  across: null,
  up: null,
};
const bricks: LayoutSpec = { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false };
const materials = { oak: oak() };

/** A wall with a door and a window, in numbers that fit nothing. */
const OUTLINE: Loop[] = [
  [
    [0, 0],
    [840, 0],
    [840, 2035],
    [1655, 2035],
    [1655, 0],
    [4117, 0],
    [4117, 2610],
    [0, 2610],
  ],
  [
    [2300, 900],
    [2300, 2035],
    [3190, 2035],
    [3190, 900],
  ],
];

function wall(layout: LayoutSpec, rest: Partial<Spec> = {}, loops = OUTLINE) {
  const mesh = wallMesh(loops);
  const spec: Spec = { ...laidSpec({ layout, joint: layout === tiles ? 2 : 10 }), ...rest };
  return lay(
    {
      id: 'wall',
      patches: [{ faces: [0, mesh.slots.length] }],
      mapping: FIRST_MAPPING.flat,
      cuts: [],
      origin: [0, 0, 0],
      spec,
      colour: null,
    },
    [mesh],
    materials,
  );
}
const options: StartOptions = { symmetric: false, turned: false, hidden: [] };

describe('proposed starts', () => {
  test.each([
    ['tiles', tiles, {}],
    ['bricks', bricks, {}],
    ['bricks turned by a quarter', bricks, { direction: { turnDeg: 90, mirrorX: false, mirrorY: false } }],
    ['bricks mirrored', bricks, { direction: { turnDeg: 0, mirrorX: true, mirrorY: false } }],
    ['bricks from the centre', bricks, { start: { datum: 'centre', xMm: 13, yMm: -7 } }],
  ] as [string, LayoutSpec, Partial<Spec>][])('%s: fewer slivers and cuts than as it was', (_name, layout, rest) => {
    const before = wall(layout, rest);
    const was = figuresOf(before.pieces);
    const found = proposeStarts(before, materials, options);
    expect(found).toHaveLength(5);
    const [best] = found;
    const now = startNow(before, materials, options)!;
    expect(best.cost).toBeLessThanOrEqual(now.cost);
    expect(best.slivers).toBeLessThanOrEqual(now.slivers);
    expect(best.narrowestMm).toBeGreaterThanOrEqual(was.narrowestMm);
    // saw cuts are counted from the outline alone: laid, as many pieces are cut, those at corners once
    expect(best.cut).toBeLessThanOrEqual(best.cuts);
    expect(best.cut).toBeGreaterThan(best.cuts - 16);
    expect(best.whole + best.cut).toBe(best.laid.pieces.length);
    for (let n = 1; n < found.length; n++) expect(found[n].laidCost).toBeGreaterThanOrEqual(found[n - 1].laidCost);
    expect(best.laidCost).toBeLessThanOrEqual(laidCost(before, []));
  });

  test('a rectangle that fits whole tiles gets them whole', () => {
    const loops: Loop[] = [
      [
        [0, 0],
        [1498, 0],
        [1498, 1048],
        [0, 1048],
      ],
    ];
    const [best] = proposeStarts(
      wall(tiles, { start: { datum: 'corner', xMm: 40, yMm: 77 } }, loops),
      materials,
      options,
    );
    expect(best).toMatchObject({ cut: 0, whole: 70, cost: 0 });
    expect(best.wastePercent).toBeCloseTo(0, 6);
  });

  test('by symmetry the left is as the right; a hidden edge takes the cuts', () => {
    const loops: Loop[] = [
      [
        [0, 0],
        [1390, 0],
        [1390, 1048],
        [0, 1048],
      ],
    ];
    const widths = (of: { laid: ReturnType<typeof wall> }) => {
      const xs = of.laid.pieces.map((p) => p.outline[0].map(([x]) => x - of.laid.sheet.bounds.minX));
      const [left] = xs.filter((x) => Math.min(...x) < 3).map((x) => Math.max(...x) - Math.min(...x));
      const [right] = xs.filter((x) => Math.max(...x) > 1387).map((x) => Math.max(...x) - Math.min(...x));
      return [left, right];
    };
    const [even] = proposeStarts(wall(tiles, {}, loops), materials, { ...options, symmetric: true });
    const [left, right] = widths(even);
    expect(left).toBeCloseTo(right, 3);
    // 1450 is nine tiles and 100: where the right is hidden, all of the cuts go there
    const wider = loops.map((l) => l.map(([x, y]): [number, number] => [x ? 1450 : 0, y]));
    const [hidden] = proposeStarts(wall(tiles, {}, wider), materials, { ...options, hidden: ['right'] });
    expect(widths(hidden)[0]).toBeCloseTo(148, 3);
  });

  test('a gauge stays; only the other direction is searched', () => {
    const gauge: Spec['gauge'] = {
      up: {
        from: { kind: 'edge' },
        to: { kind: 'edge' },
        meets: ['face', 'face'],
        count: null,
        jointFromMm: 7,
        jointToMm: 13,
        sizePercent: 1,
      },
    };
    const found = proposeStarts(wall(bricks, { gauge }), materials, options);
    for (const { spec, laid } of found) {
      expect(spec.gauge).toEqual(gauge);
      const ys = laid.pieces.flatMap((p) => p.outline.flat().map(([, y]) => y - laid.sheet.bounds.minY));
      expect([Math.min(...ys), Math.max(...ys)].map((v) => v.toFixed(2))).toEqual(['0.00', '2610.00']);
    }
  });

  test('turned as well, the better of both directions comes first', () => {
    const found = proposeStarts(wall(bricks), materials, { ...options, turned: true });
    expect(found[0].laidCost).toBe(Math.min(...found.map((f) => f.laidCost)));
    for (const { turned, spec } of found) expect(spec.direction.turnDeg).toBe(turned ? 90 : 0);
  });

  test('what has no start to choose gets no proposals', () => {
    const stones: LayoutSpec = { kind: 'crazy', acrossMm: 400, evened: 2, layoutNumber: 1 } as unknown as LayoutSpec;
    expect(proposeStarts(wall(stones), materials, options)).toEqual([]);
  });

  test('the drawing shows every piece within its picture, cut ones and slivers apart', () => {
    const { pieces, sheet } = wall(tiles, { start: { datum: 'corner', xMm: 20, yMm: 0 } });
    const drawn = drawStart(pieces, sheet.bounds, { width: 160, height: 90 });
    expect(drawn).toHaveLength(pieces.length);
    for (const { outline } of drawn)
      for (const [x, y] of outline.flat()) {
        expect(x).toBeGreaterThan(-0.01);
        expect(x).toBeLessThan(160.01);
        expect(y).toBeGreaterThan(-0.01);
        expect(y).toBeLessThan(90.01);
      }
    expect(new Set(drawn.map((d) => d.kind))).toEqual(new Set(['whole', 'cut', 'sliver']));
    expect(drawn.filter((d) => d.kind === 'whole')).toHaveLength(pieces.filter((p) => p.whole).length);
  });
});

test('joints that may give bring whole pieces out from edge to edge, within their tolerance', () => {
  // 13 tiles of 148 and 12 joints: 2 mm make 1948; in 1960 they are 3 mm. Up: 6 · 148 + 5 · 2 = 898; in 903 they are 3
  const loops: Loop[] = [
    [
      [0, 0],
      [1960, 0],
      [1960, 903],
      [0, 903],
    ],
  ];
  const of = wall(tiles, {}, loops);
  const plain = proposeStarts(of, materials, options);
  expect(plain[0].cut).toBeGreaterThan(0);
  expect(plain.every((p) => p.spec.pieces!.joint.alongMm === 2)).toBe(true);
  const [best] = proposeStarts(of, materials, { ...options, jointsByMm: 1.5 });
  expect(best.spec.pieces!.joint).toMatchObject({ alongMm: 3, acrossMm: 3 });
  expect([best.cut, best.whole]).toEqual([0, 78]);
  for (const { spec } of proposeStarts(of, materials, { ...options, jointsByMm: 0.4 })) {
    expect(Math.abs(spec.pieces!.joint.alongMm - 2)).toBeLessThanOrEqual(0.4);
    expect(Math.abs(spec.pieces!.joint.acrossMm - 2)).toBeLessThanOrEqual(0.4);
  }
  // what is gauged has its joints already
  const gauged = wall(tiles, { gauge: { up: firstGauge(2) } }, loops);
  for (const { spec } of proposeStarts(gauged, materials, { ...options, jointsByMm: 1.5 }))
    expect(spec.pieces!.joint.acrossMm).toBe(2);
});
