import { Type } from '@sinclair/typebox';
import type { Vec2 } from '../../geometry/vec';
import { simplifyLine } from '../../geometry/simplify';
import { findLaid, wordsOfLaid } from '../../picture/laid';
import { makeSeamless, MOST_OVERLAP, seamsOf } from '../../picture/seamless';
import { runsUpright, type SeamLine } from '../../picture/seamLine';
import { oneOf } from '../../schema/choice';
import { mirrorGiven } from '../given';
import { defineStep, Share, type Stage, type Tools } from './step';

/** A line on the picture before the step, along which its seam is led. */
const LedLine = Type.Array(Type.Tuple([Share, Share]), { minItems: 2, maxItems: 64 });
export const MOST_LINES = 4;

/** So that the picture closes on itself. */
export const seamless = defineStep(
  'seamless',
  {
    mode: oneOf('blend', 'period', 'mirror'),
    overlap: Type.Number({ minimum: 0.02, maximum: MOST_OVERLAP }),
    evened: Type.Boolean(),
    across: Type.Boolean(),
    down: Type.Boolean(),
    lines: Type.Optional(Type.Array(LedLine, { maxItems: MOST_LINES })),
  },
  {
    label: 'Seamless',
    what: 'so that it closes on itself',
    first: { mode: 'blend', overlap: 0.2, evened: true, across: true, down: true },
    places: ({ lines = [], ...step }) =>
      lines.map((line, n) => ({
        shape: 'path',
        through: line,
        points: line.map((at, k) => ({
          at,
          label: `Seam line ${n + 1}, place ${k + 1}`,
          moved: (to) => ({ ...step, lines: lines.with(n, line.with(k, inside(to))) }),
        })),
      })),
    chooses: true,
    // what it comes to is looked at; lines lie on what goes in
    placesAfter: () => null,
    draw: (step, line) => ({
      ...step,
      lines: [...(step.lines ?? []), kept(line.map(inside))].slice(-MOST_LINES),
    }),
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
    run(stage, step, { fail, remark, choose }) {
      const { raster: r, mmPerPx } = stage;
      if (!step.across && !step.down) return stage;
      try {
        remarkOnLines(stage, step, remark);
        let own: ReturnType<typeof makeSeamless> | null = null;
        const choice = choose(() => (own = makeSeamless(r, step)).choice);
        const made = own ?? makeSeamless(r, step, choice);
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

/** A drawn line may run so far off the places that are kept of it, a share of the picture; more if they were many. */
const STRAIGHT = 0.003;
const MOST_PLACES = 24;

function kept(line: readonly Vec2[]): Vec2[] {
  for (let aside = STRAIGHT; ; aside *= 1.5) {
    const left = simplifyLine(line, aside);
    if (left.length <= MOST_PLACES) return left.map(([x, y]) => [x, y]);
  }
}

const inside = ([x, y]: Vec2): Vec2 => [Math.max(0, Math.min(1, x)), Math.max(0, Math.min(1, y))];

/** Says which lines lead no seam, and why. */
function remarkOnLines({ raster: { width, height } }: Stage, step: Seamless, remark: Tools['remark']): void {
  const lines: SeamLine[] = step.lines ?? [];
  if (lines.length && step.mode !== 'blend')
    remark(
      step.mode === 'mirror'
        ? 'Mirrored pictures have no seam to lead along a line.'
        : 'Lines lead seams only where it is blended: on whole periods seams follow joints.',
    );
  lines.forEach((line, n) => {
    const upright = runsUpright(line, width, height);
    if (upright ? step.across : step.down) return;
    remark(
      `Line ${n + 1} leads no seam: it runs ${upright ? 'up, and side to side' : 'across, and top to bottom'} ` +
        'is not closed.',
    );
  });
}
type Seamless = Parameters<(typeof seamless)['run']>[1];
