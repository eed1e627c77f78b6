import { Type } from '@sinclair/typebox';
import { findLaid, wordsOfLaid } from '../../picture/laid';
import { makeSeamless, seamsOf } from '../../picture/seamless';
import { oneOf } from '../../schema/choice';
import { mirrorGiven } from '../given';
import { defineStep } from './step';

/** So that the picture closes on itself. */
export const seamless = defineStep(
  'seamless',
  {
    mode: oneOf('blend', 'period', 'mirror'),
    overlap: Type.Number({ minimum: 0.02, maximum: 0.48 }),
    evened: Type.Boolean(),
    across: Type.Boolean(),
    down: Type.Boolean(),
  },
  {
    label: 'Seamless',
    what: 'so that it closes on itself',
    first: { mode: 'blend', overlap: 0.2, evened: true, across: true, down: true },
    groups: (of) => [
      {
        label: 'How it closes',
        columns: 2,
        fields: [
          {
            kind: 'choice',
            label: 'By',
            span: 2,
            options: [
              ['blend', 'the best seam through an overlap'],
              ['period', 'whole periods of what is laid'],
              ['mirror', 'mirroring, as a last resort'],
            ],
            get: (s) => s.mode,
            set: (s, mode) => ({ ...s, mode: mode as typeof s.mode }),
          },
          { ...of.share('Overlap', 'overlap', 2, 48), shown: (s) => s.mode !== 'mirror' },
          { ...of.toggle('Evened first', 'evened'), fixed: (s) => s.mode === 'mirror' },
          { ...of.toggle('Side to side', 'across') },
          { ...of.toggle('Top to bottom', 'down') },
        ],
      },
    ],
    brief: ({ mode }) => (mode === 'period' ? 'on whole periods' : mode === 'mirror' ? 'mirrored' : 'blended'),
    said: ({ mode, overlap }) =>
      mode === 'period'
        ? 'closed on whole periods'
        : mode === 'mirror'
          ? 'closed by mirroring'
          : `closed over ${Math.round(overlap * 100)}%`,
    run(stage, step, { fail, remark }) {
      const { raster: r, mmPerPx } = stage;
      if (!step.across && !step.down) return stage;
      try {
        const made = makeSeamless(r, step);
        const laid = step.mode === 'blend' ? findLaid(r) : null;
        const words = laid && wordsOfLaid(laid, mmPerPx);
        if (words) {
          const first = laid!.turnDeg ? `Turn it by ${laid!.turnDeg.toFixed(1)}° first, then close` : 'Close';
          remark(`It is ${words}: a blend breaks its joints. ${first} it on whole periods.`);
        }
        if (made.trued)
          remark(`Lean and perspective that were left in are set right, by up to ${made.trued.toFixed(1)} px.`);
        if (step.mode === 'mirror') mirrorGiven(made.raster, stage.given, r.width, r.height);
        if (step.mode === 'mirror')
          remark('Mirrored: it closes, but everyone will see that it is a mirror. A last resort.');
        if (made.period) {
          for (const [axis, p] of [
            ['x', made.period.x],
            ['y', made.period.y],
          ] as const) {
            if (!p) {
              if (axis === 'x' ? step.across : step.down)
                remark(`Nothing comes round along ${axis}: blended that way, over ${Math.round(step.overlap * 100)}%.`);
              continue;
            }
            const length = mmPerPx
              ? `${Math.round(p.pixels * mmPerPx[axis === 'x' ? 0 : 1] * 10) / 10} mm`
              : `${Math.round(p.pixels)} px`;
            remark(`Period along ${axis}: ${length}, ${Math.round(p.confidence * 100)}% alike.`);
          }
        }
        const closes = { across: step.across || stage.closes.across, down: step.down || stage.closes.down };
        return {
          ...stage,
          raster: made.raster,
          closes,
          seam: made.figure,
          seams: seamsOf(made),
          blended: words,
          ground: null,
          coats: [],
        };
      } catch (error) {
        return fail((error as Error).message);
      }
    },
  },
);
