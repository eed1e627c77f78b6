'use client';

import { useShallow } from 'zustand/react/shallow';
import { Command } from 'cmdk';
import { usePanels } from '../../project/panels';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { useLibrary } from '../../materials/useLibrary';
import { ACTIONS } from '../keys';
import { layNow } from '../lay';
import { type Entry, fieldEntries, toolEntries, wayEntries } from './entries';

/** Every typed word must be in its name or in what else it is called; the beginning of its name counts most. */
function found(value: string, search: string, keywords: string[] = []): number {
  const [name, all] = [value.toLowerCase(), `${value} ${keywords.join(' ')}`.toLowerCase()];
  const typed = search.trim().toLowerCase();
  if (!typed.split(/\s+/).every((word) => all.includes(word))) return 0;
  if (name.startsWith(typed)) return 1;
  return all.split(/\s+/).some((word) => word.startsWith(typed)) ? 0.8 : 0.5;
}

/** Ctrl+K: every command, tool, layout, field, surface and material by name, or by what else people call it. */
export function Palette() {
  const { open, close } = usePanels();
  const project = useProject((s) => s.project);
  const { ids, select } = useSelection(useShallow(({ ids, select }) => ({ ids, select })));
  const library = useLibrary();
  if (open !== 'palette' || !project) return null;
  const then = (work: () => void) => () => {
    close();
    work();
  };
  const spec = ids[0] ? (project.surfaces[ids[0]]?.spec ?? null) : null;
  const groups: [string, Entry[]][] = [
    ['Tools', toolEntries(project)],
    ...(spec ? [['Layouts and mappings', wayEntries()] as [string, Entry[]]] : []),
    ['Fields', fieldEntries(spec)],
  ];
  const item = 'flex h-7 cursor-pointer items-center gap-2 rounded-[5px] px-2 data-[selected=true]:bg-secondary/15';
  return (
    <div
      role="dialog"
      aria-label="Commands"
      className="fixed inset-0 z-50"
      onPointerDown={(e) => e.target === e.currentTarget && close()}
    >
      <Command
        label="Commands"
        filter={found}
        className="menu-list mx-auto mt-24 w-[520px]"
        onKeyDown={(e) => e.key === 'Escape' && close()}
      >
        <Command.Input autoFocus placeholder="What do you want to do?" className="field h-9" />
        <Command.List className="mt-1 max-h-80 overflow-auto">
          <Command.Empty className="quiet p-3">Nothing is called that.</Command.Empty>
          <Command.Group heading="Commands">
            {ACTIONS.filter((a) => !/[←,]|Ctrl\+K|Esc/.test(a.keys)).map((a) => (
              <Command.Item key={a.label} className={item} onSelect={then(() => a.run())}>
                {a.label} <kbd className="num quiet ml-auto text-2xs">{a.keys}</kbd>
              </Command.Item>
            ))}
          </Command.Group>
          {groups.map(([heading, entries]) => (
            <Command.Group key={heading} heading={heading}>
              {entries.map(({ label, where, also, run }) => (
                <Command.Item
                  key={`${where} ${label}`}
                  value={`${label} ${where}`}
                  keywords={[...also]}
                  className={item}
                  onSelect={then(run)}
                >
                  {label} <span className="quiet ml-auto text-2xs">{where}</span>
                </Command.Item>
              ))}
            </Command.Group>
          ))}
          {ids.length > 0 && (
            <Command.Group heading="Lay on what is picked">
              {(library.data ?? []).map((m) => (
                <Command.Item
                  key={m.id}
                  value={`lay ${m.name}`}
                  className={item}
                  onSelect={then(() => void layNow(ids, m))}
                >
                  Lay {m.name}
                </Command.Item>
              ))}
            </Command.Group>
          )}
          <Command.Group heading="Pick a surface">
            {Object.values(project.surfaces)
              .slice(0, 400)
              .map((s) => (
                <Command.Item
                  key={s.id}
                  value={`${project.parts[s.part].name} ${s.name} ${s.id}`}
                  className={item}
                  onSelect={then(() => select([s.id]))}
                >
                  {project.parts[s.part].name}, {s.name}
                </Command.Item>
              ))}
          </Command.Group>
        </Command.List>
      </Command>
    </div>
  );
}
