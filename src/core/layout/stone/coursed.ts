import { type Static, Type } from '@sinclair/typebox';
import { CourseSizes, LayoutNumber, Sizes } from '../../schema/sizes';
import { layoutNumberOf, mortar } from '../pattern';
import { saySizes } from '../drawSizes';
import { planks } from '../planks';
import type { PlanksLayout } from '../planksSchema';
import type { Layout } from '../types';

export const CoursedLayout = Type.Object({
  kind: Type.Literal('coursed'),
  lengths: Sizes,
  heights: CourseSizes,
  /** Least distance between perpends of neighbouring courses. */
  leastApartMm: Type.Number({ minimum: 0, maximum: 100_000 }),
  leastEndMm: Type.Number({ minimum: 0, maximum: 100_000 }),
  layoutNumber: LayoutNumber,
});
type CoursedLayout = Static<typeof CoursedLayout>;

/** Laid as boards are: stones in rows of several heights, their ends kept apart. */
const asPlanks = ({ lengths, heights, leastApartMm, leastEndMm, layoutNumber }: CoursedLayout): PlanksLayout => ({
  kind: 'planks',
  lengths,
  widths: heights,
  stagger: { kind: 'random', leastApartMm, leastEndMm, carryOffcuts: false, layoutNumber },
});

const stones = (lengths: [number, number], heights: Sizes, leastApartMm = 60): CoursedLayout => ({
  kind: 'coursed',
  lengths: { kind: 'range', fromMm: lengths[0], toMm: lengths[1] },
  heights,
  leastApartMm,
  leastEndMm: 60,
  layoutNumber: 1,
});
const list = (...mm: number[]): Sizes => ({ kind: 'list', items: mm.map((size) => ({ mm: size, share: 1 })) });

/** Stone in level courses of several heights, lengths at random, perpends kept apart. */
export const coursed: Layout<CoursedLayout> = {
  kind: 'coursed',
  label: 'Coursed stone',
  trade: 'stone',
  also: ['ashlar', 'rubble', 'slate', 'ledge', 'random lengths'],
  schema: CoursedLayout,
  cells: 'laid',
  preset: { spec: stones([180, 520], list(90, 120, 160)), joint: { ...mortar, alongMm: 8, acrossMm: 8 } },
  formats: [
    { label: 'Courses of 90, 120 and 160', spec: stones([180, 520], list(90, 120, 160)) },
    {
      label: 'Slate 20 to 45 high',
      spec: stones([120, 480], { kind: 'range', fromMm: 20, toMm: 45 }, 40),
      joint: { alongMm: 2, acrossMm: 2 },
    },
    {
      label: 'Ashlar 300 high',
      spec: stones([400, 900], { kind: 'one', mm: 300 }, 120),
      joint: { alongMm: 4, acrossMm: 4 },
    },
  ],
  course: (s, joint) => (s.heights.kind === 'one' ? s.heights.mm + joint.acrossMm : 0),
  roles: ['stone'],
  size: null,
  fields: [
    {
      kind: 'sizes',
      label: 'Lengths',
      get: (s) => s.lengths,
      set: (s, lengths) => ({ ...s, lengths: lengths as Sizes }),
    },
    {
      kind: 'sizes',
      label: 'Course heights',
      inTurn: true,
      get: (s) => s.heights,
      set: (s, heights) => ({ ...s, heights }),
    },
    {
      kind: 'length',
      label: 'Perpends apart, at least',
      min: 0,
      get: (s) => s.leastApartMm,
      set: (s, leastApartMm) => ({ ...s, leastApartMm }),
    },
    {
      kind: 'length',
      label: 'End stones, at least',
      min: 0,
      get: (s) => s.leastEndMm,
      set: (s, leastEndMm) => ({ ...s, leastEndMm }),
    },
    layoutNumberOf(),
  ],
  describe(s, size) {
    const said = (v: CourseSizes) => saySizes(v, size);
    return `coursed stone ${said(s.heights)} high, ${said(s.lengths)} long`;
  },
  open: (s, joint, area) => ({ ...planks.open!(asPlanks(s), joint, area), roleOf: () => 'stone' }),
};
