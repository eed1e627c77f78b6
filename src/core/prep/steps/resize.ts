import { type Static, Type } from '@sinclair/typebox';
import type { Vec2 } from '../../geometry/vec';
import { powerOfTwo, resize as resized } from '../../picture/resize';
import { defineStep, mostPixels, saidMost } from './step';

const To = Type.Union([
  Type.Object({ kind: Type.Literal('density'), pxPerMm: Type.Number({ exclusiveMinimum: 0, maximum: 1000 }) }),
  Type.Object({ kind: Type.Literal('powerOfTwo') }),
]);
type To = Static<typeof To>;

/** To pixels per millimetre, or to powers of two; the true size stays. */
export const resize = defineStep(
  'resize',
  {
    to: To,
  },
  {
    label: 'Resize',
    what: 'to a power of two, or pixels per millimetre',
    first: { to: { kind: 'powerOfTwo' } },
    groups: () => [
      {
        label: 'Resize',
        columns: 2,
        fields: [
          {
            kind: 'choice',
            label: 'To',
            options: [
              ['powerOfTwo', 'a power of two'],
              ['density', 'pixels per mm'],
            ],
            get: (s) => s.to.kind,
            set(s, kind) {
              if (kind === s.to.kind) return s;
              const to: To = kind === 'density' ? { kind, pxPerMm: 1 } : { kind: 'powerOfTwo' };
              return { ...s, to };
            },
          },
          {
            kind: 'number',
            label: 'Pixels per mm',
            min: 0.01,
            max: 1000,
            step: 0.1,
            shown: (s) => s.to.kind === 'density',
            get: (s) => (s.to.kind === 'density' ? s.to.pxPerMm : 1),
            set: (s, pxPerMm) => (s.to.kind === 'density' ? { ...s, to: { ...s.to, pxPerMm } } : s),
          },
        ],
      },
    ],
    brief: () => '',
    said: ({ to }) => (to.kind === 'density' ? `made ${to.pxPerMm} pixels per mm` : 'made a power of two'),
    run(stage, { to }, { fail, remark }) {
      const { raster: r, mmPerPx, closes, scale } = stage;
      // a smaller picture stands for the original: it becomes what that would become, as much smaller
      const [fullWidth, fullHeight] = [r.width / scale, r.height / scale];
      if (to.kind === 'density' && !mmPerPx) return fail('its size is not known; measure it first.');
      const [wide, high] =
        to.kind === 'powerOfTwo'
          ? [powerOfTwo(fullWidth), powerOfTwo(fullHeight)]
          : [Math.round(r.width * mmPerPx![0] * to.pxPerMm), Math.round(r.height * mmPerPx![1] * to.pxPerMm)];
      if (wide * high > mostPixels(r.channels) || wide < 8 || high < 8)
        return fail(`it would come to ${wide} × ${high} pixels; 8 × 8 to ${saidMost(r.channels)} are made.`);
      if (wide > fullWidth * 1.02 || high > fullHeight * 1.02)
        remark(
          `Enlarged from ${Math.round(fullWidth)} × ${Math.round(fullHeight)} ` +
            `to ${wide} × ${high} pixels: that is beyond the picture’s own detail.`,
        );
      const [width, height] = [
        Math.max(8, Math.round(wide * Math.min(1, scale))),
        Math.max(8, Math.round(high * Math.min(1, scale))),
      ];
      const size = mmPerPx && ([(mmPerPx[0] * r.width) / width, (mmPerPx[1] * r.height) / height] as Vec2);
      return { ...stage, raster: resized(r, width, height, closes.across && closes.down), mmPerPx: size };
    },
  },
);
