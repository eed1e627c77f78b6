'use client';

import { useQuery } from '@tanstack/react-query';
import { Pencil, SquareSplitHorizontal } from 'lucide-react';
import { useMemo, useState } from 'react';
import type { HistoryEntry } from '@/api/answers';

/** Every step ever made, newest first; steps that were stepped back from stay as branches. */
export function HistoryList({
  of,
  list,
  name,
  goTo,
  compare,
}: {
  /** Whose history, and at which revision it is asked for. */
  of: readonly [string, number];
  list: () => Promise<HistoryEntry[]>;
  name: (entry: string, name: string | null) => Promise<unknown>;
  goTo: (entry: string | null) => Promise<void>;
  /** Looks at what is now beside what was at a step, where that can be. */
  compare?: (entry: HistoryEntry) => void;
}) {
  const [naming, setNaming] = useState<string | null>(null);
  const history = useQuery({ queryKey: ['history', ...of], queryFn: list, placeholderData: (before) => before });
  const depths = useMemo(() => branchDepths(history.data ?? []), [history.data]);
  const rename = async (entry: HistoryEntry, text: string) => {
    setNaming(null);
    await name(entry.id, text.trim() || null);
    await history.refetch();
  };
  const entries = [...(history.data ?? [])].reverse();
  const atStart = !entries.some((e) => e.current);
  return (
    <ol className="flex flex-col">
      {entries.map((e) => (
        <li key={e.id} className="group flex items-center gap-1.5" style={{ paddingLeft: depths.get(e.id)! * 14 }}>
          <span className={`h-2 w-2 shrink-0 rounded-full border ${dotOf(e)}`} />
          {naming === e.id ? (
            <input
              autoFocus
              aria-label="Name this step"
              className="field"
              defaultValue={e.name ?? ''}
              onBlur={(ev) => void rename(e, ev.target.value)}
              onKeyDown={(ev) => ev.key === 'Enter' && ev.currentTarget.blur()}
            />
          ) : (
            <button
              type="button"
              aria-current={e.current}
              className={`tool min-w-0 flex-1 justify-start px-1 ${e.onPath ? '' : 'opacity-75'}`}
              title={new Date(e.made).toLocaleString()}
              onClick={() => void goTo(e.id)}
            >
              <span className="truncate">
                {e.name && <strong>{e.name}: </strong>}
                {e.label}
              </span>
            </button>
          )}
          {compare && !e.current && (
            <button
              type="button"
              className="tool px-1 opacity-0 group-hover:opacity-100 focus:opacity-100"
              aria-label={`Compare with ${e.label}`}
              title="Compare what is now with what was then"
              onClick={() => compare(e)}
            >
              <SquareSplitHorizontal size={12} />
            </button>
          )}
          <button
            type="button"
            className="tool px-1 opacity-0 group-hover:opacity-100 focus:opacity-100"
            aria-label={`Name ${e.label}`}
            title="Name this step"
            onClick={() => setNaming(e.id)}
          >
            <Pencil size={12} />
          </button>
        </li>
      ))}
      <li className="flex items-center gap-1.5">
        <span
          className={
            'h-2 w-2 shrink-0 rounded-full border ' +
            `${atStart ? 'border-primary bg-primary' : 'border-base-content bg-base-content/40'}`
          }
        />
        <button type="button" className="tool px-1" onClick={() => void goTo(null)}>
          The start
        </button>
      </li>
    </ol>
  );
}

/** How many branchings lie between a step and the line the document stands on. */
function branchDepths(entries: HistoryEntry[]): Map<string, number> {
  const depth = new Map<string, number>();
  for (const e of entries) {
    const above = e.parent ? (depth.get(e.parent) ?? 0) : 0;
    const siblings = entries.filter((s) => s.parent === e.parent);
    const main = siblings.find((s) => s.onPath) ?? siblings.at(-1);
    depth.set(e.id, above + (main?.id === e.id ? 0 : 1));
  }
  return depth;
}

/** Where the document stands is full, the way to it half full, other branches empty. */
function dotOf({ current, onPath }: { current: boolean; onPath: boolean }): string {
  if (current) return 'border-primary bg-primary';
  return onPath ? 'border-base-content bg-base-content/40' : 'border-base-content/50';
}
