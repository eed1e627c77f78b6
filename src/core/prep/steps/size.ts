import { type Static, Type } from '@sinclair/typebox';
import type { Vec2 } from '../../geometry/vec';
import { RepeatLength } from '../../material/schema';
import type { Field } from '../../schema/fields';
import { formatLength } from '../../units/length';
import { defineStep, Place, type StepContext } from './step';
import type { Places } from './places';

type By = Static<typeof By>;
const By = Type.Union([
  Type.Object({ kind: Type.Literal('line'), from: Place, to: Place, lengthMm: RepeatLength }),
  Type.Object({
    kind: Type.Literal('count'),
    from: Place,
    to: Place,
    count: Type.Integer({ minimum: 1, maximum: 10_000 }),
    pieceMm: RepeatLength,
  }),
  Type.Object({ kind: Type.Literal('typed'), widthMm: RepeatLength, heightMm: RepeatLength }),
  Type.Object({ kind: Type.Literal('resolution'), pixelsPerInch: Type.Number({ minimum: 1, maximum: 100_000 }) }),
]);

/** Another way of knowing: the line stays where it is drawn. */
function otherWay(by: By, kind: string, { aspect }: StepContext): By {
  const line = 'from' in by ? { from: by.from, to: by.to } : { from: MIDDLE.from, to: MIDDLE.to };
  switch (kind) {
    case by.kind:
      return by;
    case 'line':
      return { kind, ...line, lengthMm: 500 };
    case 'count':
      return { kind, ...line, count: 7, pieceMm: 75 };
    case 'typed':
      return { kind, widthMm: 1000, heightMm: Math.round(1000 * aspect) };
    default:
      return { kind: 'resolution', pixelsPerInch: 300 };
  }
}
const MIDDLE: { from: Vec2; to: Vec2 } = { from: [0.25, 0.5], to: [0.75, 0.5] };

/** A number of one way of knowing; seen only where that is chosen. */
const known = <S extends { by: By }, K extends By['kind']>(
  way: K,
  kind: 'length' | 'number',
  label: string,
  key: Exclude<keyof Extract<By, { kind: K }>, 'kind' | 'from' | 'to'>,
  limits: { min: number; max: number; integer?: boolean },
): Field<S, StepContext> => ({
  kind,
  label,
  ...limits,
  shown: ({ by }) => by.kind === way,
  get: ({ by }) => (by.kind === way ? Number((by as Extract<By, { kind: K }>)[key]) : limits.min),
  set: (step, value) => (step.by.kind === way ? { ...step, by: { ...step.by, [key]: value } } : step),
});
const LENGTH = { min: 0.1, max: 1e6 };

/** How large the picture is: by a line of known length, by pieces counted along one, typed, or by its resolution. */
export const size = defineStep(
  'size',
  { by: By },
  {
    label: 'Size',
    what: 'how large the picture is: by a line, by pieces, typed',
    first: { by: { kind: 'line', ...MIDDLE, lengthMm: 500 } },
    hint: ({ by }) => ('from' in by ? 'Drag the ends of the line on the picture.' : null),
    places(step) {
      const { by } = step;
      if (!('from' in by)) return [];
      const line: Places<typeof step> = {
        shape: 'line',
        through: [by.from, by.to],
        text: formatLength(by.kind === 'line' ? by.lengthMm : by.count * by.pieceMm, 'mm'),
        points: [
          { at: by.from, label: 'Start of the line', moved: (from) => ({ ...step, by: { ...by, from } }) },
          { at: by.to, label: 'End of the line', moved: (to) => ({ ...step, by: { ...by, to } }) },
        ],
      };
      return [line];
    },
    groups: () => [
      {
        label: 'How large it is',
        columns: 2,
        fields: [
          {
            kind: 'choice',
            label: 'Known by',
            span: 2,
            options: [
              ['line', 'a line of known length'],
              ['count', 'pieces counted along a line'],
              ['typed', 'its width and height'],
              ['resolution', 'its resolution'],
            ],
            get: ({ by }) => by.kind,
            set: (step, kind, context) => ({ ...step, by: otherWay(step.by, kind, context) }),
          },
          known('line', 'length', 'It is really', 'lengthMm', LENGTH),
          known('count', 'number', 'Pieces along it', 'count', { min: 1, max: 10_000, integer: true }),
          known('count', 'length', 'Each with its joint', 'pieceMm', LENGTH),
          known('typed', 'length', 'Width', 'widthMm', LENGTH),
          known('typed', 'length', 'Height', 'heightMm', LENGTH),
          known('resolution', 'number', 'Pixels per inch', 'pixelsPerInch', { min: 1, max: 100_000 }),
        ],
      },
    ],
    brief({ by }) {
      switch (by.kind) {
        case 'line':
          return formatLength(by.lengthMm, 'mm');
        case 'count':
          return `${by.count} of ${formatLength(by.pieceMm, 'mm')}`;
        case 'typed':
          return `${formatLength(by.widthMm, 'mm')} wide`;
        case 'resolution':
          return `${by.pixelsPerInch} px/in`;
      }
    },
    said({ by }) {
      switch (by.kind) {
        case 'line':
          return `measured by a line of ${formatLength(by.lengthMm, 'mm')}`;
        case 'count':
          return `measured by ${by.count} pieces of ${formatLength(by.pieceMm, 'mm')}`;
        case 'typed':
          return `said to be ${formatLength(by.widthMm, 'mm')} wide`;
        case 'resolution':
          return `taken at ${by.pixelsPerInch} pixels per inch`;
      }
    },
    run(stage, { by }, { fail, remark }) {
      const { raster: r, scale } = stage;
      const sized = (x: number, y = x) => ({ ...stage, mmPerPx: [x, y] as Vec2 });
      switch (by.kind) {
        case 'line':
        case 'count': {
          const pixels = Math.hypot((by.to[0] - by.from[0]) * r.width, (by.to[1] - by.from[1]) * r.height);
          if (!(pixels >= 4)) fail('the line is too short to measure by.');
          const mm = (by.kind === 'line' ? by.lengthMm : by.count * by.pieceMm) / pixels;
          return sized(mm);
        }
        case 'typed': {
          const [x, y] = [by.widthMm / r.width, by.heightMm / r.height];
          if (Math.abs(x / y - 1) > 0.01)
            remark(
              'Width and height differ from its pixels’ shape by ' +
                `${Math.round(Math.abs(x / y - 1) * 100)}%: it is stretched.`,
            );
          return sized(x, y);
        }
        case 'resolution': {
          const mm = 25.4 / by.pixelsPerInch / scale;
          return sized(mm);
        }
      }
    },
  },
);
