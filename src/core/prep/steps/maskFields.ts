import type { Mask } from './mask';
import type { AnyStep, StepFields } from './step';

/** What a mask of each kind starts with; its places are dragged on the light table. */
function firstMask(kind: string): Mask | null {
  if (kind === 'gradient') return { kind, from: [0.1, 0.5], to: [0.9, 0.5] };
  if (kind === 'none') return null;
  return { kind: 'ellipse', centre: [0.5, 0.5], radius: [0.3, 0.3], softness: 0.4, outside: kind === 'outside' };
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
        shown: ({ mask }) => mask?.kind === 'ellipse',
        get: ({ mask }) => (mask?.kind === 'ellipse' ? Math.round(mask.softness * 1e4) / 100 : 0),
        set: (step, percent) =>
          step.mask?.kind === 'ellipse' ? { ...step, mask: { ...step.mask, softness: percent / 100 } } : step,
      },
    ],
  },
];
