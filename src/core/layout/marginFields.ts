import type { Field, Option } from '../schema/fields';
import type { Leftover, MarginsSpec } from './margins';

interface MarginContext {
  /** What can lie in the margins, by id, as [id, name]. */
  materials: readonly Option[];
}

const WAYS: readonly Option[] = [
  ['cut', 'cut at the edges'],
  ['both', 'whole, the rest at both edges'],
  ['low', 'whole, the rest at the left or below'],
  ['high', 'whole, the rest at the right or above'],
];

const way = (label: string, key: 'along' | 'across'): Field<MarginsSpec, MarginContext> => ({
  kind: 'choice',
  label,
  options: WAYS,
  get: (margins) => margins[key] ?? 'cut',
  set: ({ [key]: _before, ...rest }, v) => (v === 'cut' ? rest : { ...rest, [key]: v as Leftover }),
});

/** Whether pieces are cut at the edges, as people set it. */
export const MARGIN_FIELDS: Field<MarginsSpec, MarginContext>[] = [
  way('Along a course they are', 'along'),
  way('Courses are', 'across'),
  {
    kind: 'choice',
    label: 'In what is left lies',
    span: 2,
    shown: ({ along, across }) => !!along || !!across,
    optionsFor: (_margins, { materials }) => [['nothing', 'nothing'], ...materials],
    get: ({ material }) => material ?? 'nothing',
    set: ({ material: _before, ...rest }, v) => (v === 'nothing' ? rest : { ...rest, material: v }),
  },
];
