'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { ChevronDown, ChevronRight, EyeOff, Lock, LockOpen, Search, Unlink, Waypoints } from 'lucide-react';
import { type MouseEvent, useMemo, useRef, useState } from 'react';
import { useShallow } from 'zustand/react/shallow';
import type { Surface } from '@/core/project/schema';
import { formatArea } from '@/core/units/length';
import { Swatch } from '../../materials/Swatch';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { surfaceArea, useAreas } from '../../project/useAreas';
import { laySpec } from '../lay';
import { layOnMember } from '../layOnMember';
import { type Group, groupSurfaces, type Listed } from './groups';
import { KindBar, useListSettings } from './KindBar';
import { leaveRun } from './runs';
import { SelectMenu } from './SelectMenu';
import { SelectionTools } from './SelectionTools';
import { useRooms } from './useRooms';

type Row =
  | { kind: 'group'; group: Group; ids: string[]; open: boolean }
  | { kind: 'fold'; key: string; label: string; ids: string[]; open: boolean }
  | { kind: 'surface'; listed: Listed; deeper: boolean };

const idsOf = (listed: Listed[]) => listed.map((l) => l.surface.id);

/** All surfaces by the rooms they lie in: what is laid on each, and the way to pick many at once. */
export function SurfacesList() {
  const project = useProject((s) => s.project)!;
  const run = useProject((s) => s.run);
  const { ids, select, hover } = useSelection(useShallow(({ ids, select, hover }) => ({ ids, select, hover })));
  const by = useListSettings((s) => s.by);
  const rooms = useRooms();
  const [filter, setFilter] = useState('');
  /** Groups and folds that lie otherwise than they do at first. */
  const [turned, setTurned] = useState<Set<string>>(new Set());
  const [renaming, setRenaming] = useState<string | null>(null);
  const anchor = useRef<string | null>(null);
  const areas = useAreas(project);
  const scroller = useRef<HTMLDivElement>(null);
  const groups = useMemo(() => groupSurfaces(project, rooms, by, filter.trim()), [project, rooms, by, filter]);

  const rows = useMemo<Row[]>(() => {
    const picked = new Set(ids);
    const holds = (listed: Listed[]) => listed.some((l) => picked.has(l.surface.id));
    return groups.flatMap((group): Row[] => {
      const all = [...group.listed, ...group.folded.flatMap((f) => f.listed)];
      // what nobody sees is folded at first
      const open = filter !== '' || turned.has(group.key) === group.closedIn;
      const own: Row[] = group.listed.map((listed) => ({ kind: 'surface', listed, deeper: false }));
      const folds = group.folded.flatMap(({ key, name, listed }): Row[] => {
        const unfolded = turned.has(key) || holds(listed);
        return [
          { kind: 'fold', key, label: `${listed.length} ${name}`, ids: idsOf(listed), open: unfolded },
          ...(unfolded ? listed.map((l): Row => ({ kind: 'surface', listed: l, deeper: true })) : []),
        ];
      });
      return [{ kind: 'group', group, ids: idsOf(all), open }, ...(open ? [...own, ...folds] : [])];
    });
  }, [groups, filter, turned, ids]);

  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 28,
    overscan: 12,
  });
  const shownIds = () => rows.flatMap((r) => (r.kind === 'surface' ? [r.listed.surface.id] : []));

  function pick(e: MouseEvent, surface: Surface) {
    const { lifted, laying } = useSelection.getState();
    if (laying && lifted)
      return layOnMember(surface.id, (then, id) => laySpec(then, [id], lifted.spec, lifted.portions));
    if (e.shiftKey && anchor.current) {
      const all = shownIds();
      const [a, b] = [all.indexOf(anchor.current), all.indexOf(surface.id)];
      if (a >= 0 && b >= 0) return select(all.slice(Math.min(a, b), Math.max(a, b) + 1));
    }
    anchor.current = surface.id;
    if (e.ctrlKey || e.metaKey) useSelection.getState().toggle(surface.id);
    else select([surface.id]);
  }

  const rename = (surface: Surface, name: string) => {
    setRenaming(null);
    if (name.trim() && name.trim() !== surface.name)
      run([{ kind: 'setSurfaces', ids: [surface.id], name: name.trim() }]);
  };
  const turn = (key: string) => setTurned((t) => toggled(t, key));

  return (
    <aside aria-label="Surfaces" className="flex h-full min-w-0 flex-col bg-base-100">
      <div className="hair flex h-8 shrink-0 items-center gap-1 border-b px-1.5">
        <Search size={13} className="quiet shrink-0" />
        <input
          aria-label="Find surfaces"
          placeholder="Find: walls hall, top, oak…"
          className="h-6 min-w-0 flex-1 bg-transparent outline-none"
          value={filter}
          onChange={(e) => setFilter(e.target.value)}
          onKeyDown={(e) => e.key === 'Escape' && setFilter('')}
        />
        <SelectMenu shown={shownIds} />
      </div>
      <KindBar rooms={rooms} />
      <div ref={scroller} className="min-h-0 flex-1 overflow-auto" tabIndex={-1} onKeyDown={walkRows}>
        <ul aria-label="Surfaces by group" className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index];
            const style = { position: 'absolute' as const, top: item.start, height: item.size, left: 0, right: 0 };
            if (row.kind === 'group')
              return <GroupRow key={row.group.key} style={style} row={row} onTurn={turn} onPick={select} />;
            if (row.kind === 'fold')
              return (
                <li key={row.key} style={style} className="flex items-center pr-1.5 pl-5">
                  <button
                    type="button"
                    aria-expanded={row.open}
                    className="quiet flex h-6 items-center gap-1 text-2xs hover:underline"
                    onClick={() => turn(row.key)}
                  >
                    {row.open ? <ChevronDown size={12} /> : <ChevronRight size={12} />} {row.label}
                  </button>
                </li>
              );
            const { surface } = row.listed;
            return (
              <SurfaceRow
                key={surface.id}
                style={style}
                listed={row.listed}
                deeper={row.deeper}
                areaMm2={surfaceArea(areas, surface)}
                picked={ids.includes(surface.id)}
                renaming={renaming === surface.id}
                onPick={pick}
                onHover={hover}
                onRename={() => setRenaming(surface.id)}
                onRenamed={rename}
              />
            );
          })}
        </ul>
        {!rows.length && (
          <p className="quiet p-4 text-center">{filter ? 'Nothing is called that.' : 'No surfaces yet.'}</p>
        )}
      </div>
      <SelectionTools areas={areas} />
    </aside>
  );
}

/** A room, a part, a material or a facing: folds, and picks all of it. */
function GroupRow({
  row: { group, ids, open },
  style,
  onTurn,
  onPick,
}: {
  row: Extract<Row, { kind: 'group' }>;
  style: React.CSSProperties;
  onTurn: (key: string) => void;
  onPick: (ids: string[]) => void;
}) {
  const foresee = useSelection((s) => s.foresee);
  const run = useProject((s) => s.run);
  const { part } = group;
  return (
    <li style={style} className="flex items-center gap-1 pr-1 pl-1">
      <button
        type="button"
        aria-label={`${open ? 'Fold' : 'Unfold'} ${group.name}`}
        aria-expanded={open}
        className="grid h-6 w-5 place-items-center"
        onClick={() => onTurn(group.key)}
      >
        {open ? <ChevronDown size={13} /> : <ChevronRight size={13} />}
      </button>
      <button
        type="button"
        className="min-w-0 flex-1 truncate text-left font-semibold"
        title={group.closedIn ? 'Nobody could stand before any of these. Pick them all' : 'Pick all of it'}
        onClick={() => onPick(ids)}
      >
        {group.name}
      </button>
      {group.walls.length > 0 && (
        <button
          type="button"
          className="tool h-5 px-1 text-2xs"
          aria-label={`Walls of ${group.name}`}
          title={`Pick its ${group.walls.length} walls`}
          onMouseEnter={() => foresee(group.walls)}
          onMouseLeave={() => foresee([])}
          onClick={() => (foresee([]), onPick(group.walls))}
        >
          walls
        </button>
      )}
      <span className="num quiet text-2xs">{ids.length}</span>
      {part && (
        <button
          type="button"
          className="grid h-6 w-6 place-items-center"
          aria-pressed={part.locked}
          aria-label={part.locked ? `Unlock ${part.name}` : `Lock ${part.name}`}
          title={part.locked ? 'Locked: seen, but not picked' : 'Lock'}
          onClick={() => run([{ kind: 'setParts', ids: [part.id], locked: !part.locked }])}
        >
          {part.locked ? <Lock size={12} className="text-primary" /> : <LockOpen size={12} className="quiet" />}
        </button>
      )}
    </li>
  );
}

/** Up and down go from row to row. */
function walkRows(e: React.KeyboardEvent<HTMLElement>): void {
  const by = { ArrowDown: 1, ArrowUp: -1 }[e.key];
  if (!by || !(e.target instanceof HTMLButtonElement)) return;
  const rows = [...e.currentTarget.querySelectorAll<HTMLLIElement>('li')].sort((a, b) => a.offsetTop - b.offsetTop);
  const at = rows.findIndex((row) => row.contains(e.target as Node));
  const next = rows[at + by];
  if (!next) return;
  const buttons = next.querySelectorAll<HTMLButtonElement>('button');
  (next.querySelector<HTMLButtonElement>('[data-surface]') ?? buttons[0])?.focus();
  e.preventDefault();
  e.stopPropagation();
}

const toggled = (set: Set<string>, id: string) => {
  const next = new Set(set);
  if (!next.delete(id)) next.add(id);
  return next;
};

function SurfaceRow(p: {
  listed: Listed;
  /** Within a fold. */
  deeper: boolean;
  areaMm2: number;
  picked: boolean;
  renaming: boolean;
  style: React.CSSProperties;
  onPick: (e: MouseEvent, s: Surface) => void;
  onHover: (id: string | null) => void;
  onRename: () => void;
  onRenamed: (s: Surface, name: string) => void;
}) {
  const { surface, called, of, run } = p.listed;
  const project = useProject((s) => s.project)!;
  const lit = useSelection((s) => s.hovered === surface.id);
  const material = surface.spec ? project.materials[surface.spec.material] : undefined;
  const laid = run ? `part of ${run.name}` : (material?.name ?? 'bare');
  const indent = surface.zone || run ? 'pl-9' : p.deeper ? 'pl-7' : 'pl-5';
  const slot = project.models[project.parts[surface.part].model]?.slots[surface.slot];
  return (
    <li data-takes={surface.id} style={p.style} className="px-1">
      <div
        className={
          `flex h-[26px] items-center gap-1.5 rounded-[5px] border pr-1.5 ${indent} ` +
          `${p.picked ? 'border-primary' : 'border-transparent'} ` +
          `${lit ? 'bg-base-200' : ''} ${surface.hidden ? 'opacity-50' : ''}`
        }
        onMouseEnter={() => p.onHover(surface.id)}
        onMouseLeave={() => p.onHover(null)}
      >
        {run ? (
          <Waypoints size={12} className="quiet shrink-0" aria-hidden />
        ) : material ? (
          <Swatch material={material} size={16} />
        ) : (
          <span
            className="h-4 w-4 shrink-0 rounded-[5px] border border-dashed border-base-content/40"
            style={{ background: slot?.colour }}
          />
        )}
        {p.renaming ? (
          <input
            autoFocus
            aria-label="Surface name"
            className="field h-5 flex-1"
            defaultValue={surface.name}
            onBlur={(e) => p.onRenamed(surface, e.target.value)}
            onKeyDown={(e) =>
              e.key === 'Enter' ? e.currentTarget.blur() : e.key === 'Escape' && p.onRenamed(surface, surface.name)
            }
          />
        ) : (
          <button
            type="button"
            data-surface={surface.id}
            aria-pressed={p.picked}
            className="min-w-0 flex-1 truncate text-left"
            title={`${called}${of ? ` (${of}, ${surface.name})` : ''}: ${laid}. Double-click to rename`}
            onClick={(e) => p.onPick(e, surface)}
            onDoubleClick={p.onRename}
          >
            {called}
            {surface.run ? (
              <span className="quiet text-2xs"> run of {surface.run.members.length}</span>
            ) : (
              of && !surface.zone && <span className="quiet text-2xs"> {of}</span>
            )}
          </button>
        )}
        {run && (
          <button
            type="button"
            className="quiet grid h-5 w-5 shrink-0 place-items-center hover:text-base-content"
            aria-label={`Let ${called} leave ${run.name}`}
            title="Let it leave the run; it keeps what is laid"
            onClick={() => leaveRun(run, surface.id)}
          >
            <Unlink size={12} />
          </button>
        )}
        {surface.hidden && <EyeOff size={12} className="quiet" />}
        {surface.leftBare && <span className="quiet text-2xs">left bare</span>}
        <span className="num quiet text-2xs">{formatArea(p.areaMm2, project.unit)}</span>
      </div>
    </li>
  );
}
