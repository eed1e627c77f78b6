'use client';

import { type SeamFigure, shows, worstOf } from '@/core/picture/judge';
import { UNEVENLY_SHARP } from '@/core/picture/sharpness';
import { BROKEN } from '@/core/picture/strangeness';
import { differencesOf, figuresOf, stepsMark } from '@/core/prep/figures';
import { COPIED } from '@/core/prep/judge';
import type { PrepRun } from '@/workers/prep.worker';
import { useLibrary } from '../materials/useLibrary';
import { usePrep } from './prepStore';

/** What is measured on the finished picture as it is shown, and what it came to at full size. */
export function Figures({ run }: { run: PrepRun }) {
  const worseOf = (w: PrepRun['verdict']['wrap']) => worstOf([w.across, w.down]);
  const worse = worseOf(run.verdict.wrap);
  const was = `was ${Math.round(worseOf(run.untouched.wrap).percentile * 100)}`;
  const say = (f: SeamFigure) => (shows(f) ? 'it shows' : 'not to be found');
  const row = (label: string, value: string, note: string, good: boolean) => (
    <div className="flex items-baseline gap-2" key={label}>
      <dt className="quiet w-[86px] shrink-0">{label}</dt>
      <dd className="num">{value}</dd>
      <dd className={`ml-auto whitespace-nowrap ${good ? 'text-success' : 'text-error'}`}>{note}</dd>
    </div>
  );
  const { framed, broken, sharpness, seamless, faults } = run.verdict;
  const strange = Math.max(framed ? 0 : broken.edge, broken.seam);
  return (
    <dl className="hair space-y-0.5 border-t bg-base-100 px-2 py-1.5 text-2xs" data-testid="figures">
      {framed
        ? row('Over the edge', 'within a joint of one colour, all round', 'not to be found', true)
        : row('Over the edge', `${asLines(worse.percentile)}, ${was}`, say(worse), !shows(worse))}
      {run.seam && row('Along the seam', `${asLines(run.seam.percentile)}`, say(run.seam), !shows(run.seam))}
      {row(
        'Broken lines',
        `at ${Math.round(strange * 100)} of 100 places where it was joined`,
        strange <= BROKEN ? 'none to be seen' : 'they show',
        strange <= BROKEN,
      )}
      {row(
        'Sharpness',
        `${(2 ** sharpness).toFixed(1)} × from place to place`,
        sharpness <= UNEVENLY_SHARP ? 'even' : 'soft patches',
        sharpness <= UNEVENLY_SHARP,
      )}
      {row(
        'Strongest blotch',
        `${run.blotches.strongest.toFixed(1)} × the common, was ${run.untouched.strongest.toFixed(1)} ×`,
        run.blotches.strongest < 4 ? 'even' : 'it will recur',
        run.blotches.strongest < 4,
      )}
      {run.copies &&
        row(
          'Copies',
          `up to ${inHundred(run.copies.strongest)}% alike, in the sample ${inHundred(run.copies.own)}%`,
          run.copies.strongest <= COPIED * run.copies.own ? 'none to be seen' : 'they show',
          run.copies.strongest <= COPIED * run.copies.own,
        )}
      <div className={`pt-0.5 leading-tight ${seamless ? 'text-success' : 'text-error'}`}>
        <dt className="sr-only">Verdict</dt>
        <dd>{seamless ? 'Seamless: nobody finds where it closes.' : `Not seamless: ${faults.join('; ')}.`}</dd>
      </div>
      <FullSize run={run} />
    </dl>
  );
}

const inHundred = (share: number) => Math.round(share * 100);

/** How a line compares with those within the picture: one stronger than nearly all of them is seen. */
const asLines = (percentile: number) => `stronger than ${Math.round(percentile * 100)} of 100 lines in it`;

/** How the material that was made differs from what is shown, which is smaller; nothing where other steps made it. */
function FullSize({ run }: { run: PrepRun }) {
  const prep = usePrep((s) => s.prep);
  const { data = [] } = useLibrary();
  const made = prep?.material ? data.find((m) => m.id === prep.material) : undefined;
  const picture = made?.maps.baseColour;
  const { measured } = made ?? {};
  if (!prep || !picture || measured?.image !== picture.image || measured.steps !== stepsMark(prep)) return null;
  const differs = differencesOf(figuresOf(run.verdict, run.seam), measured.figures);
  const size = `${picture.widthPx} × ${picture.heightPx} px`;
  const { faults } = measured.figures;
  const flips = run.verdict.seamless !== !faults.length;
  return (
    <div className={`leading-tight ${flips ? 'text-error' : 'quiet'}`} data-testid="full-size">
      <dt className="sr-only">At full size</dt>
      <dd>
        {differs.length || flips
          ? `Made at ${size} it differs: ${[...differs, faults.length ? 'not seamless' : 'seamless'].join('; ')}.`
          : `Made at ${size}, it measures the same.`}
      </dd>
    </div>
  );
}
