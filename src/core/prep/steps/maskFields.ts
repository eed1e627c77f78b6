import { FIRST_NOISE } from '../noise';
import type { Mask } from './mask';
import type { Field } from '../../schema/fields';
import type { AnyStep, StepContext, StepFields } from './step';

/** What a mask of each kind starts with; its places are dragged on the light table. */
function firstMask(kind: string): Mask | null {
  if (kind === 'gradient') return { kind, from: [0.1, 0.5], to: [0.9, 0.5] };
  if (kind === 'none') return null;
  if (kind === 'patches') return { kind, ...FIRST_NOISE, cover: 0.5, softness: 0.4 };
  return { kind: 'ellipse', centre: [0.5, 0.5], radius: [0.3, 0.3], softness: 0.4, outside: kind === 'outside' };
}

/** A number of patches, shown so many times as large as it is stored. */
function ofPatches(
  key: 'cover' | 'sizeMm' | 'octaves' | 'seed',
  field: { kind: 'number' | 'length'; label: string; min: number; max: number; suffix?: string; integer?: boolean },
  times = 1,
): Field<AnyStep, StepContext> {
  return {
    ...field,
    shown: ({ mask }: AnyStep) => mask?.kind === 'patches',
    get: ({ mask }: AnyStep) => (mask?.kind === 'patches' ? Math.round(mask[key] * times * 100) / 100 : 0),
    set: (step: AnyStep, v: number): AnyStep =>
      step.mask?.kind === 'patches' ? { ...step, mask: { ...step.mask, [key]: v / times } } : step,
  } as Field<AnyStep, StepContext>;
}

const kindOf = ({ mask }: AnyStep): string =>
  mask?.kind === 'ellipse' && mask.outside ? 'outside' : (mask?.kind ?? 'none');

/** Where a step works: everywhere, or less and less, or within an ellipse. */
export const MASK_GROUPS: StepFields<AnyStep> = [
  {
    label: 'Where it works',
    columns: 2,
    fields: [
      {
        kind: 'choice',
        label: 'Where',
        options: [
          ['none', 'everywhere'],
          ['gradient', 'less and less along a line'],
          ['ellipse', 'within an ellipse'],
          ['outside', 'outside an ellipse'],
          ['patches', 'in patches'],
        ],
        get: kindOf,
        set(step, kind) {
          if (kind === kindOf(step)) return step;
          const { mask } = step;
          // within and outside are the same ellipse
          if (mask?.kind === 'ellipse' && (kind === 'ellipse' || kind === 'outside'))
            return { ...step, mask: { ...mask, outside: kind === 'outside' } };
          return { ...step, mask: firstMask(kind) };
        },
      },
      {
        kind: 'number',
        label: 'Soft edge',
        suffix: ' %',
        min: 0,
        max: 100,
        step: 5,
        shown: ({ mask }) => mask?.kind === 'ellipse' || mask?.kind === 'patches',
        get: ({ mask }) => (mask && mask.kind !== 'gradient' ? Math.round(mask.softness * 1e4) / 100 : 0),
        set: (step, percent) =>
          step.mask && step.mask.kind !== 'gradient'
            ? { ...step, mask: { ...step.mask, softness: percent / 100 } }
            : step,
      },
      ofPatches('cover', { kind: 'number', label: 'Cover', suffix: ' %', min: 0, max: 100 }, 100),
      ofPatches('sizeMm', { kind: 'length', label: 'Size', min: 0.5, max: 10_000 }),
      ofPatches('octaves', { kind: 'number', label: 'Octaves', min: 1, max: 8, integer: true }),
      ofPatches('seed', { kind: 'number', label: 'Shuffle', min: 1, max: 9999, integer: true }),
    ],
  },
];
