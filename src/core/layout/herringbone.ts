import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../schema/sizes';
import type { Bounds2 } from '../geometry/bounds';
import type { Cells } from './cells';
import { defaultJoint } from './joint';
import { RECTANGLE } from './modules';
import type { Layout } from './types';

export const HerringboneLayout = Type.Object({
  kind: Type.Literal('herringbone'),
  lengthMm: Side,
  widthMm: Side,
  /** Pieces side by side that turn together: 1 single, 2 double herringbone. */
  strands: Type.Integer({ minimum: 1, maximum: 4 }),
});
export type HerringboneLayout = Static<typeof HerringboneLayout>;

const staves = (lengthMm: number, widthMm: number, strands = 1): HerringboneLayout => ({
  kind: 'herringbone',
  lengthMm,
  widthMm,
  strands,
});

/**
 * Pieces lying and standing in turn. In the layout's frame they lie along x and y; a floor is usually turned by 45°.
 * Endless.
 *
 * With a the length and b the width of a bundle of strands, both with a joint, bundles lie at i·(b, b) + t·(−a, a):
 * one level at that point, one upright at that point + (0, b). This tiles for any proportion. All joints have one
 * width, since every end meets a side.
 */
export const herringbone: Layout<HerringboneLayout> = {
  kind: 'herringbone',
  label: 'Herringbone',
  trade: 'planks',
  also: ['parquet', 'staves', 'zigzag'],
  schema: HerringboneLayout,
  cells: 'laid',
  preset: { spec: staves(490, 70), joint: defaultJoint(1, '#3a2c20') },
  formats: [
    { label: 'Parquet stave 490 × 70', spec: staves(490, 70) },
    { label: 'Parquet stave 280 × 70', spec: staves(280, 70) },
    { label: 'Double, stave 490 × 70', spec: staves(490, 70, 2) },
    { label: 'Brick paver 200 × 100', spec: staves(200, 100), joint: { alongMm: 4, acrossMm: 4, colour: '#8d8473' } },
    { label: 'Wide board 750 × 150', spec: staves(750, 150) },
  ],
  oneJoint: true,
  roles: ['level', 'upright'],
  size: {
    label: 'Plank',
    sorted: true,
    get: (s) => [s.lengthMm, s.widthMm],
    set: (s, [lengthMm, widthMm]) => ({ ...s, lengthMm, widthMm }),
  },
  fields: [
    {
      kind: 'choice',
      label: 'Strands',
      options: [
        ['1', 'single'],
        ['2', 'double'],
        ['3', 'triple'],
      ],
      get: (s) => String(s.strands),
      set: (s, v) => ({ ...s, strands: Number(v) }),
    },
  ],
  describe: (s, size) =>
    `${s.strands === 2 ? 'double ' : s.strands > 2 ? 'triple ' : ''}herringbone ` +
    `of planks ${size(s.lengthMm, s.widthMm)}`,
  open({ lengthMm, widthMm, strands }, { acrossMm: joint }) {
    const a = lengthMm + joint;
    const w = widthMm + joint;
    const b = w * strands;
    const half = joint / 2;
    // index = (i · 2 + upright) · strands + strand; course = t
    const box = (course: number, index: number): [number, number, number, number] => {
      const bundle = Math.floor(index / strands);
      const strand = index - bundle * strands;
      const i = bundle >> 1;
      const x = i * b - course * a - half;
      const y = i * b + course * a - half;
      return bundle & 1
        ? [x + strand * w, y + b, x + strand * w + w, y + b + a]
        : [x, y + strand * w, x + a, y + strand * w + w];
    };
    // which pieces touch is the same for all of a kind: found once, by looking
    const touching = Array.from({ length: 2 * strands }, (_, index) => {
      const own = box(0, index);
      const found: [number, number][] = [];
      const reach = (Math.ceil(a / b) + 2) * 2 * strands;
      for (let t = -1; t <= 1; t++) {
        for (let o = -reach; o < reach + 2 * strands; o++) {
          if ((t !== 0 || o !== index) && shareEdge(own, box(t, o))) found.push([t, o - index]);
        }
      }
      return found;
    });
    return {
      axes: [
        [1, 0],
        [0, 1],
      ],
      modules: [RECTANGLE],
      inset: [half, half],
      largest: [lengthMm, widthMm],
      cellArea: a * w,
      mostNeighbours: Math.max(...touching.map((t) => t.length)),
      roleOf: (_course, index) => (Math.floor(index / strands) & 1 ? 'upright' : 'level'),
      classes: 4,
      // pieces of a kind touch only along their own chain, upright ones never level ones of their class
      classOf(_course, index) {
        const bundle = Math.floor(index / strands);
        const along = (bundle >> 1) * strands + index - bundle * strands;
        return (bundle & 1) * 2 + (along & 1);
      },
      neighbours(course, index, out) {
        const list = touching[((index % (2 * strands)) + 2 * strands) % (2 * strands)];
        for (let n = 0; n < list.length; n++) {
          out[n * 2] = course + list[n][0];
          out[n * 2 + 1] = index + list[n][1];
        }
        return list.length;
      },
      fill({ minX, minY, maxX, maxY }: Bounds2, cells: Cells) {
        const t0 = Math.floor((minY - a - b - maxX) / (2 * a));
        const t1 = Math.ceil((maxY - minX + a) / (2 * a));
        for (let t = t0; t <= t1; t++) {
          const from = Math.max((minX - a + t * a) / b, (minY - a - b - t * a) / b);
          const to = Math.min((maxX + t * a + half) / b, (maxY - t * a + half) / b);
          for (let i = Math.floor(from); i <= Math.ceil(to); i++) {
            const x = i * b - t * a - half;
            const y = i * b + t * a - half;
            for (let s = 0; s < strands; s++) {
              cells.add(t, i * 2 * strands + s, x + a / 2, y + s * w + w / 2, a / 2, w / 2, 0);
              cells.add(t, (i * 2 + 1) * strands + s, x + s * w + w / 2, y + b + a / 2, a / 2, w / 2, 1);
            }
          }
        }
        cells.flush();
      },
    };
  },
};

/** Two boxes [x0, y0, x1, y1] touch along more than a point and do not overlap. */
function shareEdge(p: number[], q: number[]): boolean {
  const tiny = 1e-6;
  const x = Math.min(p[2], q[2]) - Math.max(p[0], q[0]);
  const y = Math.min(p[3], q[3]) - Math.max(p[1], q[1]);
  return (Math.abs(x) < tiny && y > tiny) || (Math.abs(y) < tiny && x > tiny);
}
