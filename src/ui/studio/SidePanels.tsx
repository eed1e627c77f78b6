'use client';

import { useQuery } from '@tanstack/react-query';
import { Pencil, X } from 'lucide-react';
import { type ReactNode, useMemo, useState } from 'react';
import { usePanels } from '../project/panels';
import { useProject } from '../project/projectStore';
import type { HistoryEntry } from '@/api/answers';
import { call } from '../shared/api';
import { ACTIONS } from './keys';

function Panel({ title, children }: { title: string; children: ReactNode }) {
  const close = usePanels((s) => s.close);
  return (
    <aside
      aria-label={title}
      className="menu-list fixed top-[46px] right-2 z-40 flex max-h-[calc(100vh-60px)] w-[340px] flex-col p-0"
    >
      <header className="hair flex h-9 shrink-0 items-center border-b px-3">
        <h2 className="font-semibold">{title}</h2>
        <button type="button" className="tool ml-auto px-1" aria-label="Close" onClick={close}>
          <X size={14} />
        </button>
      </header>
      <div className="min-h-0 overflow-auto p-2">{children}</div>
    </aside>
  );
}

export function SidePanels() {
  const open = usePanels((s) => s.open);
  if (open === 'history') return <HistoryPanel />;
  if (open === 'keys') return <KeysPanel />;
  return null;
}

function KeysPanel() {
  return (
    <Panel title="Keys">
      <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1.5">
        {[
          ...ACTIONS.map(({ keys, label }) => ({ keys, label })),
          { keys: 'hold V', label: 'See the room without marks' },
        ].map(({ keys, label }) => (
          <div key={label} className="contents">
            <dt>
              <kbd className="num rounded border border-base-300 bg-base-200 px-1.5 text-2xs whitespace-nowrap">
                {keys}
              </kbd>
            </dt>
            <dd>{label}</dd>
          </div>
        ))}
      </dl>
      <p className="quiet mt-3 text-2xs">
        In number fields: any unit and sums (3*75+10, 2&apos;, 1.2 m); arrows step, Shift ten times, Alt a tenth; drag
        on the label.
      </p>
    </Panel>
  );
}

/** Every step ever made, newest first; steps that were stepped back from stay as branches. */
function HistoryPanel() {
  const { project, revision, goTo } = useProject();
  const [naming, setNaming] = useState<string | null>(null);
  const history = useQuery({
    queryKey: ['history', project?.id, revision],
    queryFn: () => call('GET /api/projects/{id}/history', { id: project!.id }),
    enabled: !!project,
    placeholderData: (before) => before,
  });
  const depths = useMemo(() => branchDepths(history.data ?? []), [history.data]);
  const name = async (entry: HistoryEntry, text: string) => {
    setNaming(null);
    await call('PATCH /api/projects/{id}/history/{entry}', {
      id: project!.id,
      entry: entry.id,
      body: { name: text.trim() || null },
    });
    await history.refetch();
  };
  const entries = [...(history.data ?? [])].reverse();
  const atStart = !entries.some((e) => e.current);
  return (
    <Panel title="History">
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
                onBlur={(ev) => void name(e, ev.target.value)}
                onKeyDown={(ev) => ev.key === 'Enter' && ev.currentTarget.blur()}
              />
            ) : (
              <button
                type="button"
                aria-current={e.current}
                className={`tool min-w-0 flex-1 justify-start px-1 ${e.onPath ? '' : 'opacity-60'}`}
                title={new Date(e.made).toLocaleString()}
                onClick={() => void goTo(e.id)}
              >
                <span className="truncate">
                  {e.name && <strong>{e.name}: </strong>}
                  {e.label}
                </span>
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
    </Panel>
  );
}

/** How many branchings lie between a step and the line the project stands on. */
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

/** Where the project stands is full, the way to it half full, other branches empty. */
function dotOf({ current, onPath }: { current: boolean; onPath: boolean }): string {
  if (current) return 'border-primary bg-primary';
  return onPath ? 'border-base-content bg-base-content/40' : 'border-base-content/50';
}
