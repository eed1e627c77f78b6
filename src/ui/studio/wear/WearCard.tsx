'use client';

import { ArrowDown, ArrowUp, Eye, PenLine, Plus, Stamp, X } from 'lucide-react';
import type { Material } from '@/core/material/schema';
import { MARK_FIELDS } from '@/core/wear/markFields';
import { COMMON_FIELDS, WEAR_KINDS, wearKindOf } from '@/core/wear/registry';
import { grainOf } from '@/core/wear/bake';
import { WEAR_PICTURE_PX } from '@/core/project/wearOf';
import { noWear, type WearLayer, type WearMark, type WearSpec } from '@/core/wear/schema';
import { formatLength } from '@/core/units/length';
import { Swatch } from '../../materials/Swatch';
import { useLibrary } from '../../materials/useLibrary';
import { useSelection } from '../../project/selection';
import { FieldViews } from '../../shared/FieldView';
import { Menu } from '../../shared/Menu';
import { Segment } from '../bench/Segment';
import { useRoomSettings } from '../room/settings';
import { type Laid, useBench } from '../useBench';
import { useSheet } from '../useSheet';
import { type Entry, useWear } from './wearStore';

/** What has come over the whole surface: dirt, dust, rubbing, bleaching, and single marks. */
export function WearCard() {
  const { laid, edit } = useBench();
  const { chosen, choose } = useWear();
  const [first] = laid;
  const wear = first?.spec.wear ?? noWear();
  const change = (next: (wear: WearSpec) => WearSpec, gesture?: string) =>
    edit((l) => worn(l, next(l.spec.wear ?? noWear())), gesture);
  const shown = chosen && wear[chosen.of][chosen.n] ? chosen : null;
  const fields = (all: boolean) => shown && first && <EntryFields entry={shown} all={all} change={change} />;
  return (
    <Segment
      id="wear"
      own={laid.length ? laid.some((l) => l.spec.wear) : undefined}
      follows="new"
      onLetGo={() => edit(({ spec: { wear: _all, ...spec } }) => spec)}
      further={fields(true) ?? <p className="quiet text-2xs">Choose an entry to see all that can be set of it.</p>}
    >
      <div className="flex shrink-0 items-center gap-0.5">
        <Menu
          up
          className="tool tool-line h-[22px] gap-1 px-1.5 text-2xs"
          label={
            <>
              <Plus size={12} /> Add wear
            </>
          }
          title="Over the whole surface, at a size of its own"
        >
          {(close) => (
            <Kinds
              enabled={!!first}
              add={(layer) => {
                close();
                change((w) => ({ ...w, layers: [...w.layers, layer] }));
                choose({ of: 'layers', n: wear.layers.length });
              }}
            />
          )}
        </Menu>
        <Menu
          up
          className="tool h-[22px] gap-1 px-1 text-2xs"
          label={
            <>
              <Stamp size={12} /> Mark
            </>
          }
          title="A single mark of true size: choose one, then click where it lies"
        >
          {(close) => <MarkList close={close} />}
        </Menu>
        <ShownAlone />
      </div>
      {!wear.layers.length && !wear.marks.length ? (
        <p className="quiet mt-1 text-2xs leading-tight">
          {first ? 'As new: nothing has come over it.' : 'Pick a surface: dirt and dust lie over all of it.'}
        </p>
      ) : (
        <Entries wear={wear} chosen={shown} change={change} />
      )}
      {first && <Coarse surface={first.surface.id} wear={wear} />}
      {shown && <div className="mt-1 border-t border-base-300 pt-1">{fields(false)}</div>}
    </Segment>
  );
}

/** Says where marks are shown coarser than their pictures are. */
function Coarse({ surface, wear }: { surface: string; wear: WearSpec }) {
  const { project, unit } = useBench();
  const found = useSheet(surface);
  if (!found || found.surface !== surface || !wear.marks.length) return null;
  const of = (id: string) => project?.materials[id];
  const widest = (id: string) => Math.min(WEAR_PICTURE_PX, of(id)?.maps.baseColour?.widthPx ?? 1);
  const { pixelMm, wantedMm } = grainOf(found.sheet, wear, (id) => of(id)?.widthMm, widest);
  if (pixelMm < wantedMm * 2) return null;
  return (
    <p className="quiet mt-0.5 text-2xs leading-tight" title="A zone round a mark shows it finer">
      This surface is so large that marks are shown at {formatLength(pixelMm, unit, { decimals: 1 })} a pixel
    </p>
  );
}

/** The spec with other wear; none of it at all where nothing is left. */
function worn({ spec: { wear: _before, ...spec } }: Laid, wear: WearSpec): Laid['spec'] {
  return wear.layers.length || wear.marks.length ? { ...spec, wear } : spec;
}

function Kinds({ enabled, add }: { enabled: boolean; add: (layer: WearLayer) => void }) {
  return WEAR_KINDS.map(({ kind, label, hint, first }) => (
    <button key={kind} type="button" className="tool" disabled={!enabled} onClick={() => add(first)}>
      <span className="font-medium">{label}</span> <span className="quiet ml-2 text-2xs">{hint}</span>
    </button>
  ));
}

/** Materials that can be a mark: those that are see-through first. */
function MarkList({ close }: { close: () => void }) {
  const { ids, unit } = useBench();
  const library = useLibrary();
  const setWearTool = useSelection((s) => s.setWearTool);
  const all = [...(library.data ?? [])].sort((a, b) => Number(!!b.maps.opacity) - Number(!!a.maps.opacity));
  const length = (mm: number, withUnit = true) => formatLength(mm, unit, { withUnit });
  return (
    <div role="group" aria-label="Marks" className="max-h-64 w-64 overflow-auto">
      {all.map((m: Material) => (
        <button
          key={m.id}
          type="button"
          className="tool h-7 w-full justify-start gap-2"
          disabled={!ids.length}
          onClick={() => {
            close();
            setWearTool({ kind: 'mark', material: m });
          }}
        >
          <Swatch material={m} size={22} />
          <span className="min-w-0 flex-1 truncate text-left">{m.name}</span>
          <span className="num quiet text-2xs">
            {length(m.widthMm, false)} × {length(m.heightMm)}
          </span>
        </button>
      ))}
    </div>
  );
}

/** Wear by itself, on plain ground. */
function ShownAlone() {
  const shown = useRoomSettings((s) => s.shown);
  const set = useRoomSettings((s) => s.set);
  const on = shown === 'wear';
  return (
    <button
      type="button"
      className="tool ml-auto h-[22px] gap-1 px-1 text-2xs"
      aria-pressed={on}
      title="See the wear alone, on plain ground"
      onClick={() => set({ shown: on ? 'all' : 'wear' })}
    >
      <Eye size={12} /> Alone
    </button>
  );
}

type Change = (next: (wear: WearSpec) => WearSpec, gesture?: string) => void;

/** The list of what there is, the uppermost last. */
function Entries({ wear, chosen, change }: { wear: WearSpec; chosen: Entry | null; change: Change }) {
  const { project } = useBench();
  const rows: { entry: Entry; label: string; on: boolean }[] = [
    ...wear.layers.map((l, n) => ({ entry: { of: 'layers' as const, n }, label: wearKindOf(l).label, on: l.on })),
    ...wear.marks.map((m, n) => ({
      entry: { of: 'marks' as const, n },
      label: project?.materials[m.material]?.name ?? 'Mark',
      on: m.on,
    })),
  ];
  return (
    <ul aria-label="Wear" className="mt-1 max-h-[68px] shrink-0 overflow-y-auto">
      {rows.map(({ entry, label, on }) => (
        <Row
          key={`${entry.of} ${entry.n}`}
          label={label}
          on={on}
          entry={entry}
          last={entry.n === wear[entry.of].length - 1}
          isChosen={chosen?.of === entry.of && chosen.n === entry.n}
          change={change}
        />
      ))}
    </ul>
  );
}

function Row({
  label,
  on,
  entry,
  last,
  isChosen,
  change,
}: {
  label: string;
  on: boolean;
  entry: Entry;
  last: boolean;
  isChosen: boolean;
  change: Change;
}) {
  const choose = useWear((s) => s.choose);
  const { of, n } = entry;
  const move = (by: number) => {
    change((w) => ({ ...w, [of]: swapped<WearLayer | WearMark>(w[of], n, n + by) }));
    choose({ of, n: n + by });
  };
  return (
    <li
      ref={(row) => {
        if (isChosen) row?.scrollIntoView({ block: 'nearest' });
      }}
      className={`flex h-[22px] items-center gap-1 rounded-[4px] px-0.5 ${isChosen ? 'bg-secondary/15' : ''}`}
    >
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        aria-label={`${label} is seen`}
        checked={on}
        onChange={({ target }) => change((w) => changedAt(w, entry, (e) => ({ ...e, on: target.checked })))}
      />
      <button
        type="button"
        className="min-w-0 flex-1 truncate text-left"
        aria-pressed={isChosen}
        onClick={() => choose(isChosen ? null : entry)}
      >
        {label}
      </button>
      {isChosen && (
        <>
          <button type="button" className="tool h-5 px-0.5" aria-label="Lower" disabled={!n} onClick={() => move(-1)}>
            <ArrowUp size={11} />
          </button>
          <button type="button" className="tool h-5 px-0.5" aria-label="Higher" disabled={last} onClick={() => move(1)}>
            <ArrowDown size={11} />
          </button>
        </>
      )}
      <button
        type="button"
        className="tool h-5 px-0.5"
        aria-label={`Take ${label} away`}
        onClick={() => {
          change((w) => ({ ...w, [of]: w[of].filter((_, k) => k !== n) }));
          choose(null);
        }}
      >
        <X size={11} />
      </button>
    </li>
  );
}

/** All fields of one entry, of every picked surface that has one of its kind there. */
function EntryFields({ entry, all, change }: { entry: Entry; all: boolean; change: Change }) {
  const { laid, unit, project } = useBench();
  const [first] = laid;
  const own = first.spec.wear![entry.of][entry.n];
  const seen = <F extends { further?: boolean }>(fields: readonly F[]) => fields.filter((f) => all || !f.further);
  const grid = 'grid grid-cols-[repeat(auto-fill,minmax(96px,1fr))] gap-x-2 gap-y-1';
  if (entry.of === 'marks') {
    const marks = laid.flatMap((l) => l.spec.wear?.marks[entry.n] ?? []);
    return (
      <div className={grid}>
        <FieldViews
          fields={seen(MARK_FIELDS)}
          specs={marks}
          context={undefined}
          unit={unit}
          onEach={(set, gesture) => change((w) => changedAt(w, entry, (m) => set(m as WearMark)), gesture)}
        />
      </div>
    );
  }
  const kind = wearKindOf(own as WearLayer);
  const isSame = (l: WearLayer | undefined): l is WearLayer => l?.kind === kind.kind;
  const layers = laid.map((l) => l.spec.wear?.layers[entry.n]).filter(isSame);
  const onEach = (set: (layer: WearLayer) => WearLayer, gesture?: string) =>
    change((w) => changedAt(w, entry, (l) => (isSame(l as WearLayer) ? set(l as WearLayer) : l)), gesture);
  const patterns = Object.values(project?.materials ?? {}).map((m) => [m.id, m.name] as const);
  return (
    <>
      {own && 'points' in own && <DrawPath n={entry.n} drawn={own.points.length > 1} />}
      <div className={grid}>
        <FieldViews fields={seen(kind.fields)} specs={layers} context={{ patterns }} unit={unit} onEach={onEach} />
        <FieldViews fields={seen(COMMON_FIELDS)} specs={layers} context={undefined} unit={unit} onEach={onEach} />
      </div>
    </>
  );
}

function DrawPath({ n, drawn }: { n: number; drawn: boolean }) {
  const tool = useSelection((s) => s.wearTool);
  const setWearTool = useSelection((s) => s.setWearTool);
  const on = tool?.kind === 'path' && tool.layer === n;
  return (
    <button
      type="button"
      className="tool tool-line mb-1 h-[22px] gap-1 px-1.5 text-2xs"
      aria-pressed={on}
      title="Click along the path on the sheet; Enter ends it"
      onClick={() => setWearTool(on ? null : { kind: 'path', layer: n })}
    >
      <PenLine size={12} /> {drawn ? 'Draw the path anew' : 'Draw the path'}
    </button>
  );
}

function swapped<T>(list: readonly T[], a: number, b: number): T[] {
  const out = [...list];
  [out[a], out[b]] = [out[b], out[a]];
  return out;
}

/** The wear with one entry changed; as it is where there is no such entry. */
function changedAt<T extends WearLayer | WearMark>(wear: WearSpec, { of, n }: Entry, next: (entry: T) => T): WearSpec {
  return { ...wear, [of]: wear[of].map((e, k) => (k === n ? next(e as T) : e)) };
}
