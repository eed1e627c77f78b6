'use client';

import { Trash2 } from 'lucide-react';
import { usePrep } from '../prepStore';
import type { Of } from './of';

/** Where the first mark comes to lie, and how large it is. */
const FIRST = { centre: [0.5, 0.5], radius: [0.12, 0.12] } as const;

/** What of the sample is shown only where it is, or left out; its places are set on the light table. */
export function Marks({ step, onChange }: Of<'extend'>) {
  const { before, showBefore } = usePrep();
  const { marks } = step;
  const put = (next: typeof marks) => onChange({ ...step, marks: next });
  const mark = () => {
    showBefore(true);
    put([...marks, { centre: [...FIRST.centre], radius: [...FIRST.radius], shown: 'once' }]);
  };
  return (
    <div className="space-y-1" role="group" aria-label="Marked in the sample">
      {marks.map(({ shown }, n) => (
        // they have no name but their number
        <div key={n} className="flex items-center gap-1">
          <span className="quiet num w-12 text-2xs">Mark {n + 1}</span>
          <select
            aria-label={`Mark ${n + 1} is shown`}
            className="field h-[22px] flex-1"
            value={shown}
            onChange={(e) =>
              put(marks.map((m, k) => (k === n ? { ...m, shown: e.target.value as typeof m.shown } : m)))
            }
          >
            <option value="once">once, where it is</option>
            <option value="never">not at all</option>
          </select>
          <button
            type="button"
            className="tool h-[22px] px-1"
            aria-label={`Remove mark ${n + 1}`}
            onClick={() => put(marks.filter((_, k) => k !== n))}
          >
            <Trash2 size={12} />
          </button>
        </div>
      ))}
      <div className="flex items-center gap-1.5">
        <button
          type="button"
          className="tool tool-line h-[22px] px-1.5 text-2xs"
          disabled={marks.length >= 40}
          title="A knot, a crack, a stain that is to come once, or not at all"
          onClick={mark}
        >
          Mark something
        </button>
        {marks.length > 0 && !before && (
          <button type="button" className="tool h-[22px] px-1.5 text-2xs" onClick={() => showBefore(true)}>
            Show the marks
          </button>
        )}
      </div>
    </div>
  );
}
