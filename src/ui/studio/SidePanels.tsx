'use client';

import type { HistoryEntry } from '@/api/answers';
import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import { usePanels } from '../project/panels';
import { useProject } from '../project/projectStore';
import { call } from '../shared/api';
import { HistoryList } from '../shared/HistoryList';
import { ACTIONS } from './keys';
import { useCompare } from './options/compareStore';

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
      <div className="min-h-0 overflow-auto p-2" tabIndex={0} role="group" aria-label={title}>
        {children}
      </div>
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

/** Puts what was at a step and what is now under one edge. */
async function beside(id: string, entry: HistoryEntry): Promise<void> {
  const then = await call('GET /api/projects/{id}/history/{entry}', { id, entry: entry.id });
  useCompare
    .getState()
    .compare(
      { name: `Then: ${entry.name ?? entry.label}`, specs: {}, project: then.project },
      { name: 'Now', specs: {} },
    );
}

/** What was done to the project. */
function HistoryPanel() {
  const { project, revision, goTo } = useProject();
  const id = project?.id;
  return (
    <Panel title="History">
      {id && (
        <HistoryList
          key={id}
          of={[id, revision]}
          list={() => call('GET /api/projects/{id}/history', { id })}
          name={(entry, name) => call('PATCH /api/projects/{id}/history/{entry}', { id, entry, body: { name } })}
          goTo={goTo}
          compare={(entry) => void beside(id, entry)}
        />
      )}
    </Panel>
  );
}
