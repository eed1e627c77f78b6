import { type Static, Type } from '@sinclair/typebox';
import polygonClipping from 'polygon-clipping';
import { Side } from '../../schema/sizes';
import { box, countOf, lengthOf, pattern, woodJoint } from '../pattern';
import type { PeriodCell } from '../period';

export const WovenLayout = Type.Object({
  kind: Type.Literal('woven'),
  /** The strips that pass over and under one another. */
  stripMm: Side,
  /** The squares between them. */
  blockMm: Side,
  /** Blocks along a panel's side, 0 without panels. */
  blocks: Type.Integer({ minimum: 0, maximum: 6 }),
  frameMm: Side,
});
type WovenLayout = Static<typeof WovenLayout>;

type Ring = [number, number][];

/**
 * Strips woven over and under one another with squares between: endless, or aslant within a square frame, panel beside
 * panel.
 */
export const woven = pattern<WovenLayout>({
  kind: 'woven',
  label: 'Woven panels',
  trade: 'planks',
  also: ['parquet', 'panel', 'framed', 'weave', 'palace'],
  schema: WovenLayout,
  first: { stripMm: 70, blockMm: 150, blocks: 3, frameMm: 90 },
  joint: woodJoint,
  formats: [
    { label: 'Panel of three blocks, frame of 90', spec: {} },
    { label: 'Panel of two blocks, frame of 70', spec: { blocks: 2, frameMm: 70, stripMm: 60, blockMm: 140 } },
    { label: 'Endless weave, strips of 50', spec: { blocks: 0, stripMm: 50, blockMm: 100 } },
  ],
  roles: ['level', 'upright', 'block', 'frame'],
  size: null,
  lengths: ['stripMm', 'blockMm', 'frameMm'],
  fields: [
    lengthOf('Strips', 'stripMm'),
    lengthOf('Blocks', 'blockMm'),
    countOf('Panels', 'blocks', [
      [0, 'none, endless'],
      [2, '2 blocks wide'],
      [3, '3 blocks wide'],
      [4, '4 blocks wide'],
    ]),
    { ...lengthOf<WovenLayout>('Frame', 'frameMm'), shown: (s) => s.blocks > 0 },
  ],
  describe: (s, size) =>
    s.blocks
      ? `woven panels, strips ${size(s.stripMm)}, blocks ${size(s.blockMm)}, frame ${size(s.frameMm)}`
      : `a weave of strips ${size(s.stripMm)} round blocks ${size(s.blockMm)}`,
  period({ stripMm, blockMm, blocks, frameMm }, { acrossMm: joint }) {
    const [w, b, f] = [stripMm + joint, blockMm + joint, frameMm + joint];
    const u = w + b;
    if (!blocks) return { right: [2 * u, 0], up: [u, u], cells: [...weaveAt(0, 0, w, b)] };
    // aslant in a square as wide as so many blocks lie across it cornerwise
    const inner = blocks * u * Math.SQRT2;
    const h = inner / 2;
    const square: Ring = [
      [-h, -h],
      [h, -h],
      [h, h],
      [-h, h],
    ];
    const cells: PeriodCell[] = [];
    const reach = 2 * blocks + 2;
    for (let j = -reach; j <= reach; j++)
      for (let i = -reach; i <= reach; i++)
        if (!((i + j) & 1))
          for (const c of weaveAt(i * u - w / 2, j * u - w / 2, w, b)) cells.push(...within(c, square));
    const s = inner + 2 * f;
    const frame = [
      [-h - f, -h - f, s - f, f, 0],
      [h, -h - f, f, s - f, 90],
      [-h, h, s - f, f, 0],
      [-h - f, -h, f, s - f, 90],
    ];
    for (const [x, y, wide, high, deg] of frame) cells.push({ role: 'frame', deg, cell: box(x, y, wide, high) });
    return { right: [s, 0], up: [0, s], cells };
  },
});

/** One crossing where the lying strip passes, the next where the standing one does, and two blocks. */
function weaveAt(x: number, y: number, w: number, b: number): PeriodCell[] {
  const u = w + b;
  return [
    { role: 'level', cell: box(x - b, y, 2 * b + w, w) },
    { role: 'upright', deg: 90, cell: box(x + u, y - b, w, 2 * b + w) },
    { role: 'block', cell: box(x + w, y + w, b, b) },
    { role: 'block', cell: box(x + w, y - b, b, b) },
  ];
}

/** A cell turned by 45° and cut to a square. */
function within({ cell, role, deg = 0 }: PeriodCell, square: Ring): PeriodCell[] {
  const turned: Ring = [];
  for (let k = 0; k < cell.length; k += 2)
    turned.push([(cell[k] - cell[k + 1]) * Math.SQRT1_2, (cell[k] + cell[k + 1]) * Math.SQRT1_2]);
  const tidy = (ring: Ring): Ring => ring.map(([x, y]) => [Math.round(x * 1e6) / 1e6, Math.round(y * 1e6) / 1e6]);
  const cut = polygonClipping.intersection([tidy(turned)], [tidy(square)]);
  return cut.map(([outer]) => ({ role, deg: deg + 45, cell: outer.slice(0, -1).flat() }));
}
