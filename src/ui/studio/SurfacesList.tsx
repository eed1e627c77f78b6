'use client';

import { useDroppable } from '@dnd-kit/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { ChevronDown, ChevronRight, EyeOff, Lock, LockOpen, Search } from 'lucide-react';
import { type MouseEvent, useMemo, useRef, useState } from 'react';
import { zonesOn } from '@/core/project/regions';
import type { Part, Surface } from '@/core/project/schema';
import { formatArea } from '@/core/units/length';
import { Swatch } from '../materials/Swatch';
import { useProject } from '../project/projectStore';
import { useSelection } from '../project/selection';
import { surfaceArea, useAreas } from '../project/useAreas';
import { laySpec } from './lay';
import { SelectMenu } from './SelectMenu';
import { SelectionTools } from './SelectionTools';

type Row = { kind: 'part'; part: Part; count: number; open: boolean } | { kind: 'surface'; surface: Surface };

/** Parts and their surfaces: what is laid on each, and the way to pick many at once. */
export function SurfacesList() {
  const project = useProject((s) => s.project)!;
  const run = useProject((s) => s.run);
  const ids = useSelection((s) => s.ids);
  const select = useSelection((s) => s.select);
  const hover = useSelection((s) => s.hover);
  const [filter, setFilter] = useState('');
  const [closed, setClosed] = useState<Set<string>>(new Set());
  const [renaming, setRenaming] = useState<string | null>(null);
  const anchor = useRef<string | null>(null);
  const areas = useAreas(project);
  const scroller = useRef<HTMLDivElement>(null);

  const rows = useMemo<Row[]>(() => {
    const words = filter.trim().toLowerCase();
    const byPart = new Map<string, Surface[]>();
    for (const s of Object.values(project.surfaces)) {
      const own = byPart.get(s.part);
      if (own) own.push(s);
      else byPart.set(s.part, [s]);
    }
    return Object.values(project.parts).flatMap((part): Row[] => {
      const every = (byPart.get(part.id) ?? []).sort((a, b) => b.areaMm2 - a.areaMm2);
      // zones come after the surface they are drawn on
      const all = every.filter((s) => !s.zone).flatMap((s) => [s, ...zonesOn(project, s.id)]);
      const material = (s: Surface) => (s.spec ? (project.materials[s.spec.material]?.name ?? '') : 'bare');
      const own = words
        ? all.filter((s) =>
            `${part.name} ${part.path.join(' ')} ${s.name} ${material(s)}`.toLowerCase().includes(words),
          )
        : all;
      if (!own.length) return [];
      const open = words !== '' || !closed.has(part.id);
      return [
        { kind: 'part', part, count: own.length, open },
        ...(open ? own.map((surface): Row => ({ kind: 'surface', surface })) : []),
      ];
    });
  }, [project, filter, closed]);

  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => 28,
    overscan: 12,
  });
  const shownIds = () => rows.flatMap((r) => (r.kind === 'surface' ? [r.surface.id] : []));

  function pick(e: MouseEvent, surface: Surface) {
    const { lifted, laying } = useSelection.getState();
    if (laying && lifted) return run(laySpec(project, [surface.id], lifted.spec, lifted.portions));
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

  return (
    <aside aria-label="Surfaces" className="flex h-full min-w-0 flex-col bg-base-100">
      <div className="hair flex h-8 shrink-0 items-center gap-1 border-b px-1.5">
        <Search size={13} className="quiet shrink-0" />
        <input
          aria-label="Filter surfaces"
          placeholder="Filter by room, part, material"
          className="h-6 min-w-0 flex-1 bg-transparent outline-none"
          value={filter}
          onChange={(e) => setFilter(e.target.value)}
          onKeyDown={(e) => e.key === 'Escape' && setFilter('')}
        />
        <SelectMenu shown={shownIds} />
      </div>
      <div ref={scroller} className="min-h-0 flex-1 overflow-auto" tabIndex={-1}>
        <ul aria-label="Parts and surfaces" className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index];
            const style = { position: 'absolute' as const, top: item.start, height: item.size, left: 0, right: 0 };
            if (row.kind === 'part') {
              const { part } = row;
              return (
                <li key={part.id} style={style} className="flex items-center gap-1 pr-1 pl-1">
                  <button
                    type="button"
                    aria-label={row.open ? 'Fold' : 'Unfold'}
                    aria-expanded={row.open}
                    className="grid h-6 w-5 place-items-center"
                    onClick={() => setClosed((c) => toggled(c, part.id))}
                  >
                    {row.open ? <ChevronDown size={13} /> : <ChevronRight size={13} />}
                  </button>
                  <button
                    type="button"
                    className="min-w-0 flex-1 truncate text-left font-semibold"
                    title="Pick all of it"
                    onClick={() =>
                      select(
                        rows.flatMap((r) => (r.kind === 'surface' && r.surface.part === part.id ? [r.surface.id] : [])),
                      )
                    }
                  >
                    {part.name}
                  </button>
                  <span className="num quiet text-2xs">{row.count}</span>
                  <button
                    type="button"
                    className="grid h-6 w-6 place-items-center"
                    aria-pressed={part.locked}
                    aria-label={part.locked ? `Unlock ${part.name}` : `Lock ${part.name}`}
                    title={part.locked ? 'Locked: seen, but not picked' : 'Lock'}
                    onClick={() => run([{ kind: 'setParts', ids: [part.id], locked: !part.locked }])}
                  >
                    {part.locked ? (
                      <Lock size={12} className="text-primary" />
                    ) : (
                      <LockOpen size={12} className="quiet" />
                    )}
                  </button>
                </li>
              );
            }
            const { surface } = row;
            return (
              <SurfaceRow
                key={surface.id}
                style={style}
                surface={surface}
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

const toggled = (set: Set<string>, id: string) => {
  const next = new Set(set);
  if (!next.delete(id)) next.add(id);
  return next;
};

function SurfaceRow(p: {
  surface: Surface;
  areaMm2: number;
  picked: boolean;
  renaming: boolean;
  style: React.CSSProperties;
  onPick: (e: MouseEvent, s: Surface) => void;
  onHover: (id: string | null) => void;
  onRename: () => void;
  onRenamed: (s: Surface, name: string) => void;
}) {
  const { surface } = p;
  const project = useProject((s) => s.project)!;
  const { setNodeRef, isOver } = useDroppable({ id: `surface:${surface.id}` });
  const material = surface.spec ? project.materials[surface.spec.material] : undefined;
  const slot = project.models[project.parts[surface.part].model]?.slots[surface.slot];
  return (
    <li ref={setNodeRef} style={p.style} className="px-1">
      <div
        className={
          `flex h-[26px] items-center gap-1.5 rounded-[5px] border pr-1.5 ${surface.zone ? 'pl-9' : 'pl-5'} ` +
          `${p.picked ? 'border-primary' : 'border-transparent'} ` +
          `${isOver ? 'bg-secondary/15' : 'hover:bg-base-200'} ${surface.hidden ? 'opacity-50' : ''}`
        }
        onMouseEnter={() => p.onHover(surface.id)}
        onMouseLeave={() => p.onHover(null)}
      >
        {material ? (
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
            title={`${surface.name}: ${material?.name ?? 'bare'}. Double-click to rename`}
            onClick={(e) => p.onPick(e, surface)}
            onDoubleClick={p.onRename}
          >
            {surface.name}
          </button>
        )}
        {surface.hidden && <EyeOff size={12} className="quiet" />}
        {surface.leftBare && <span className="quiet text-2xs">left bare</span>}
        <span className="num quiet text-2xs">{formatArea(p.areaMm2, project.unit)}</span>
      </div>
    </li>
  );
}
