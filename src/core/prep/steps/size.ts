import { Type } from '@sinclair/typebox';
import type { Vec2 } from '../../geometry/vec';
import { RepeatLength } from '../../material/schema';
import { formatLength } from '../../units/length';
import { defineStep, Place } from './step';

/** How large the picture is: by a line of known length, by pieces counted along one, typed, or by its resolution. */
export const size = defineStep(
  'size',
  {
    by: Type.Union([
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
    ]),
  },
  {
    label: 'Size',
    what: 'how large the picture is: by a line, by pieces, typed',
    first: { by: { kind: 'line', from: [0.25, 0.5], to: [0.75, 0.5], lengthMm: 500 } },
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
    run(stage, { by }, { fail, remark, scale }) {
      const { raster: r } = stage;
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
