import { leafNames } from '../material/leaves';
import { type Leaves, type Material, ROLE_LABELS, ROLES } from '../material/schema';
import type { Field, FieldGroup, SampleLook } from '../schema/fields';
import type { PercentRange, Slide, VariationSpec } from './schema';

/** How pieces differ, with the material whose prints they take. */
export interface VariationOfMaterial {
  variation: VariationSpec;
  material: Material;
}
type Of = VariationOfMaterial;

const having = (of: Of, values: Partial<VariationSpec>): Of => ({ ...of, variation: { ...of.variation, ...values } });

type Toggle = 'on' | 'flipAlong' | 'flipAcross';
const toggle = (label: string, key: Toggle): Field<Of> => ({
  kind: 'toggle',
  label,
  get: ({ variation }) => variation[key],
  set: (of, on) => having(of, { [key]: on }),
});

/** A range in percent, seen on a sample piece at either end. */
const percents = (
  label: string,
  look: keyof SampleLook,
  read: (own: VariationSpec) => PercentRange,
  write: (own: VariationSpec, range: PercentRange) => Partial<VariationSpec>,
  [min, max] = [-100, 100],
): Field<Of> => ({
  kind: 'range',
  label,
  of: 'number',
  look,
  suffix: '%',
  min,
  max,
  step: 1,
  get: ({ variation }) => read(variation),
  set: (of, range) => having(of, write(of.variation, range)),
});

const tone = (key: keyof VariationSpec['tone'], label: string) =>
  percents(
    label,
    key,
    (own) => own.tone[key],
    ({ tone: own }, range) => ({ tone: { ...own, [key]: range } }),
  );

const TONES = [tone('lightness', 'Lightness'), tone('warmth', 'Warmth'), tone('saturation', 'Saturation')];

/** The range that a slide starts with when it is no longer free. */
const FIRST_SLIDE: Slide = { fromMm: 0, toMm: 400, stepMm: 0 };

/** How far prints slide: anywhere, or within a range, in steps. */
const slide = (label: string, key: 'slideAlong' | 'slideAcross', look: keyof SampleLook): Field<Of>[] => [
  {
    kind: 'choice',
    label,
    options: [
      ['any', 'anywhere in the picture'],
      ['range', 'within a range'],
    ],
    get: ({ variation }) => (variation[key] ? 'range' : 'any'),
    set: (of, v) => having(of, { [key]: v === 'range' ? (of.variation[key] ?? FIRST_SLIDE) : null }),
  },
  {
    kind: 'range',
    label: `${label} by`,
    of: 'length',
    look,
    min: -100_000,
    max: 100_000,
    shown: ({ variation }) => variation[key] !== null,
    get: ({ variation }) => {
      const { fromMm: from, toMm: to } = variation[key] ?? FIRST_SLIDE;
      return { from, to };
    },
    // those that slide anywhere stay so
    set: (of, { from, to }) =>
      of.variation[key] ? having(of, { [key]: { ...of.variation[key], fromMm: from, toMm: to } }) : of,
  },
  {
    kind: 'length',
    label: `${label} in steps of`,
    min: 0,
    max: 100_000,
    shown: ({ variation }) => variation[key] !== null,
    get: ({ variation }) => (variation[key] ?? FIRST_SLIDE).stepMm,
    set: (of, stepMm) => (of.variation[key] ? having(of, { [key]: { ...of.variation[key], stepMm } }) : of),
  },
];

const SLIDES = [...slide('Slide along', 'slideAlong', 'alongMm'), ...slide('Slide across', 'slideAcross', 'acrossMm')];

const leafOptions = (leaves: Leaves): [string, string][] =>
  leafNames(leaves).map(({ column: c, row: r }) => [
    `${c},${r}`,
    leaves.places
      ? `only leaf ${c + 1}`
      : leaves.columns === 1
        ? `only strip ${r + 1}, from the top`
        : `only column ${c + 1}, row ${r + 1}`,
  ]);

const LEAF: Field<Of> = {
  kind: 'choice',
  label: 'Leaves',
  span: 2,
  shown: ({ material }) => !!material.leaves,
  optionsFor: ({ material: { leaves } }) => [['dealt', 'dealt'], ...(leaves ? leafOptions(leaves) : [])],
  get: ({ variation: { leaf } }) => (leaf ? `${leaf.column},${leaf.row}` : 'dealt'),
  set(of, text) {
    const { leaves } = of.material;
    const [column, row] = text.split(',').map(Number);
    if (text === 'dealt') return having(of, { leaf: null });
    // a picture that has no such leaf keeps what it has
    const known = leaves && leafNames(leaves).some((n) => n.column === column && n.row === row);
    return known ? having(of, { leaf: { column, row } }) : of;
  },
};

/** Everything in which pieces can differ, as people set it. */
export const VARIATION_FIELDS: readonly FieldGroup<Of>[] = [
  {
    label: 'Prints',
    columns: 2,
    fields: [
      toggle('Each piece takes its own print', 'on'),
      {
        kind: 'number',
        label: 'Alike when they share',
        suffix: '%',
        min: 0,
        max: 90,
        step: 1,
        get: ({ variation }) => variation.overlapShare * 100,
        set: (of, percent) => having(of, { overlapShare: percent / 100 }),
      },
      {
        kind: 'choice',
        label: 'Prints turned',
        options: [
          ['0', 'never'],
          ['180', 'end for end'],
          ['90', 'by quarters'],
          ['1', 'any way'],
        ],
        get: ({ variation }) => String(variation.turnStepDeg),
        set: (of, deg) => having(of, { turnStepDeg: Number(deg) }),
      },
      {
        kind: 'angle',
        label: 'Faces lean up to',
        min: 0,
        max: 10,
        step: 0.1,
        get: ({ variation }) => variation.tiltDeg,
        set: (of, tiltDeg) => having(of, { tiltDeg }),
      },
      toggle('Flip along', 'flipAlong'),
      toggle('Flip across', 'flipAcross'),
      percents(
        'Picture size',
        'sizePercent',
        (own) => own.sizePercent,
        (_own, sizePercent) => ({ sizePercent }),
        [10, 1000],
      ),
      LEAF,
    ],
  },
  { label: 'Slides', columns: 2, fields: SLIDES },
  { label: 'Tones', columns: 3, fields: TONES },
  {
    label: 'Maps that move with the piece',
    columns: 3,
    fields: [
      {
        kind: 'toggle',
        label: 'All maps move together',
        span: 3,
        get: ({ variation }) => variation.maps === null,
        set: (of, all) => having(of, { maps: all ? null : (of.variation.maps ?? ['baseColour']) }),
      },
      ...ROLES.map((role): Field<Of> => ({
        kind: 'toggle',
        label: ROLE_LABELS[role],
        shown: ({ variation, material }) => variation.maps !== null && !!material.maps[role],
        get: ({ variation: { maps } }) => maps?.includes(role) ?? true,
        set(of, on) {
          const { maps } = of.variation;
          // where all move together they go on doing so
          return maps ? having(of, { maps: ROLES.filter((r) => (r === role ? on : maps.includes(r))) }) : of;
        },
      })),
    ],
  },
];
