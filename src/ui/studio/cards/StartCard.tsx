'use client';

import { FlipHorizontal2, FlipVertical2, Magnet, RotateCcw, RotateCw, X } from 'lucide-react';
import { useShallow } from 'zustand/react/shallow';
import { sayFinding } from '@/core/finding/finding';
import type { SheetSummary } from '@/core/mapping/sheet';
import { alongOf, gaugedOn } from '@/core/setout/gauge';
import { keepsLevels } from '@/core/setout/placement';
import { formatLength } from '@/core/units/length';
import { type Datum, liesInPieces, type Spec } from '@/core/specification/schema';
import { type MarkTool, useSelection } from '../../project/selection';
import { MIXED, ValueField } from '../../shared/ValueField';
import { Select, TextField } from '../../shared/fields';
import { newId } from '../../shared/ids';
import { Segment } from '../bench/Segment';
import { type Laid, useBench } from '../useBench';
import { sharedBy } from '../../shared/sharedValue';
import { BestStartMenu } from '../setout/BestStartPanel';
import { GaugeMenu } from '../setout/GaugePanel';
import { JointLinesMenu } from '../setout/JointLinesPanel';
import { useRoomSettings } from '../room/settings';
import { useSheet } from '../useSheet';
import { wrapTurn } from './turn';

const DATUMS: [Datum, string][] = [
  ['corner', 'Lower left corner'],
  ['centre', 'Centre'],
  ['part', 'The part’s origin'],
  ['world', 'Site zero'],
];

/** Where the picture starts, and which way it runs. */
export function StartCard() {
  const { project, laid, edit, run, unit } = useBench();
  const none = !laid.length;
  const of = <T,>(read: (l: Laid) => T, otherwise: T) => (none ? otherwise : sharedBy(laid, read));
  const datum = of(
    (l) =>
      l.spec.start.level && l.spec.start.datum === 'level' ? `level:${l.spec.start.level.id}` : l.spec.start.datum,
    'corner',
  );
  const levels = Object.values(project?.levels ?? {});
  const sheet = useSheet(laid[0]?.surface.id ?? null)?.sheet ?? null;

  function setDatum(value: string) {
    if (!value.startsWith('level:')) {
      return edit(({ spec }) => {
        const { level: _level, ...start } = spec.start;
        return { ...spec, start: { ...start, datum: value as Datum } };
      });
    }
    const known = levels.find((l) => `level:${l.id}` === value);
    // a new level begins at the lower edge of what is picked
    const level = known ?? {
      id: newId('level'),
      name: `Level ${levels.length + 1}`,
      heightMm: Math.round((sheet?.bounds.minY ?? 0) * 10) / 10,
    };
    const specs = Object.fromEntries(
      laid.map((l) => [
        l.surface.id,
        {
          ...l.spec,
          start: { ...l.spec.start, datum: 'level' as const, level: { id: level.id, heightMm: level.heightMm } },
        },
      ]),
    );
    run([...(known ? [] : [{ kind: 'setLevel' as const, level }]), { kind: 'setSpecs', specs }]);
  }
  const middle = of((l) => l.spec.start.middle ?? 'joint', 'joint');
  const kept = datum === MIXED || !String(datum).startsWith('level:') || !sheet || keepsLevels(sheet);
  const mirrorX = of((l) => l.spec.direction.mirrorX, false) === true;
  const mirrorY = of((l) => l.spec.direction.mirrorY, false) === true;
  const turnBy = (deg: number) =>
    edit((l) => ({ ...l.spec, direction: { ...l.spec.direction, turnDeg: wrapTurn(l.spec.direction.turnDeg + deg) } }));
  return (
    <Segment id="start" further={levels.length ? <LevelFields /> : undefined}>
      <div className="grid grid-cols-2 gap-1">
        <label className="col-span-2 block">
          <span className="quiet sr-only">Datum</span>
          <select
            aria-label="Datum"
            className="field"
            disabled={none}
            value={datum === MIXED ? '' : datum}
            onChange={(e) => setDatum(e.target.value)}
          >
            {datum === MIXED && <option value="">mixed</option>}
            {DATUMS.map(([d, label]) => (
              <option key={d} value={d}>
                {label}
              </option>
            ))}
            {levels.map((l) => (
              <option key={l.id} value={`level:${l.id}`}>
                Level: {l.name}, {formatLength(l.heightMm, unit)}
              </option>
            ))}
            <option value="level:new">A new level…</option>
          </select>
        </label>
        {datum === 'centre' && laid.some((l) => !l.spec.repeat.once) && (
          <Select
            label="In the middle"
            value={middle === MIXED ? '' : middle}
            options={[
              ...(middle === MIXED ? [['', 'mixed'] as [string, string]] : []),
              ['joint', 'a joint'],
              ['piece', liesInPieces(laid[0].spec) ? 'a piece' : 'a picture'],
            ]}
            onChange={(v) => v && edit(({ spec }) => ({ ...spec, start: withMiddle(spec.start, v) }))}
          />
        )}
        <ValueField
          label="Right"
          kind="length"
          unit={unit}
          value={of<number | null>((l) => l.spec.start.xMm, null)}
          min={-1e7}
          max={1e7}
          disabled={none}
          onChange={(xMm, g) => edit((l) => ({ ...l.spec, start: { ...l.spec.start, xMm } }), g)}
        />
        <ValueField
          label="Up"
          kind="length"
          unit={unit}
          value={of<number | null>((l) => l.spec.start.yMm, null)}
          min={-1e7}
          max={1e7}
          disabled={none}
          onChange={(yMm, g) => edit((l) => ({ ...l.spec, start: { ...l.spec.start, yMm } }), g)}
        />
        <ValueField
          label="Turned"
          kind="angle"
          value={of<number | null>((l) => l.spec.direction.turnDeg, null)}
          min={-360}
          max={360}
          disabled={none}
          onChange={(deg, g) =>
            edit((l) => ({ ...l.spec, direction: { ...l.spec.direction, turnDeg: wrapTurn(deg) } }), g)
          }
        />
        <div className="flex items-end pb-0.5">
          <button
            type="button"
            className="tool h-[22px] px-[3px]"
            disabled={none}
            onClick={() => turnBy(90)}
            title="A quarter turn left"
            aria-label="A quarter turn left"
          >
            <RotateCcw size={14} />
          </button>
          <button
            type="button"
            className="tool h-[22px] px-[3px]"
            disabled={none}
            onClick={() => turnBy(-90)}
            title="A quarter turn right"
            aria-label="A quarter turn right"
          >
            <RotateCw size={14} />
          </button>
          <button
            type="button"
            className="tool h-[22px] px-[3px]"
            disabled={none}
            aria-pressed={mirrorX}
            onClick={() => edit((l) => ({ ...l.spec, direction: { ...l.spec.direction, mirrorX: !mirrorX } }))}
            title="Mirror left to right"
            aria-label="Mirror left to right"
          >
            <FlipHorizontal2 size={14} />
          </button>
          <button
            type="button"
            className="tool h-[22px] px-[3px]"
            disabled={none}
            aria-pressed={mirrorY}
            onClick={() => edit((l) => ({ ...l.spec, direction: { ...l.spec.direction, mirrorY: !mirrorY } }))}
            title="Mirror top to bottom"
            aria-label="Mirror top to bottom"
          >
            <FlipVertical2 size={14} />
          </button>
        </div>
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-1">
        <MarkButton
          tool="start"
          label="Start on…"
          title="Then click a corner, a door’s jamb or a middle on the sheet"
        />
        <MarkButton tool="along" label="Along…" title="Then click an edge on the sheet: courses run along it" />
        <SlideButton disabled={none} />
        <SnapButton />
        <GaugeMenu laid={laid} sheet={sheet} />
        <BestStartMenu laid={laid} />
        <JointLinesMenu laid={laid} sheet={sheet} />
        {laid[0]?.spec.gauge && sheet && <Outcome laid={laid[0]} sheet={sheet} />}
      </div>
      {!kept && <p className="mt-1 text-2xs">This sheet does not stand upright: its corner is taken, not the level.</p>}
    </Segment>
  );
}

function SlideButton({ disabled }: { disabled: boolean }) {
  const sliding = useSelection((s) => s.sliding);
  const setSliding = useSelection((s) => s.setSliding);
  return (
    <button
      type="button"
      className="tool tool-line h-[22px] px-1.5 text-2xs"
      aria-pressed={sliding}
      disabled={disabled}
      title="Then drag what is laid over its surface, in the room; Escape to stop"
      onClick={() => setSliding(!sliding)}
    >
      Drag…
    </button>
  );
}

/** Whether drags, of the sheet and of the room, land on what is there. */
function SnapButton() {
  const { snaps, set } = useRoomSettings(useShallow(({ snaps, set }) => ({ snaps, set })));
  return (
    <button
      type="button"
      className="tool h-[22px] px-1"
      aria-pressed={snaps}
      aria-label="Snap"
      title={snaps ? 'Drags land on edges, middles and round values; Alt for free' : 'Drags are free; Alt to snap'}
      onClick={() => set({ snaps: !snaps })}
    >
      <Magnet size={13} />
    </button>
  );
}

function MarkButton({ tool, label, title }: { tool: MarkTool; label: string; title: string }) {
  const { laid } = useBench();
  const now = useSelection((s) => s.markTool);
  const setTool = useSelection((s) => s.setMarkTool);
  return (
    <button
      type="button"
      className="tool tool-line h-[22px] px-1.5 text-2xs"
      aria-pressed={now === tool}
      disabled={!laid.length}
      title={title}
      onClick={() => setTool(now === tool ? null : tool)}
    >
      {label}
    </button>
  );
}

/** What a gauge comes to on the first surface. */
function Outcome({ laid, sheet }: { laid: Laid; sheet: SheetSummary }) {
  const { unit } = useBench();
  const { spec, findings } = gaugedOn(laid.spec, sheet);
  if (findings.length) return <span className="text-2xs text-error">{sayFinding(findings[0], unit)}</span>;
  const { acrossMm, alongMm } = spec.pieces!.joint;
  const said = (['up', 'across'] as const)
    .filter((axis) => laid.spec.gauge?.[axis])
    .map((axis) => formatLength(alongOf(spec, axis) ? alongMm : acrossMm, unit));
  return <span className="num quiet text-2xs">joints {said.join(' and ')}</span>;
}

function withMiddle({ middle: _before, ...start }: Spec['start'], middle: string): Spec['start'] {
  return middle === 'piece' ? { ...start, middle } : start;
}

/** The levels of the project; moving one moves everything set out from it. */
function LevelFields() {
  const { project, run, unit } = useBench();
  const used = new Map<string, number>();
  for (const s of Object.values(project?.surfaces ?? {})) {
    const id = s.spec?.start.level?.id;
    if (id) used.set(id, (used.get(id) ?? 0) + 1);
  }
  return (
    <div className="grid max-w-[720px] grid-cols-[repeat(auto-fill,minmax(280px,1fr))] gap-x-4 gap-y-1">
      {Object.values(project?.levels ?? {}).map((level) => (
        <div key={level.id} className="flex items-end gap-1">
          <TextField
            label="Level"
            value={level.name}
            onChange={(name) => name && run([{ kind: 'setLevel', level: { ...level, name } }])}
          />
          <div className="w-24">
            <ValueField
              label="Height"
              kind="length"
              unit={unit}
              value={level.heightMm}
              min={-1e7}
              max={1e7}
              onChange={(heightMm, g) => run([{ kind: 'setLevel', level: { ...level, heightMm } }], g)}
            />
          </div>
          <button
            type="button"
            className="tool px-1"
            disabled={used.has(level.id)}
            aria-label={`Remove ${level.name}`}
            title={used.has(level.id) ? `${used.get(level.id)} surfaces are set out from it` : 'Remove'}
            onClick={() => run([{ kind: 'removeLevel', id: level.id }])}
          >
            <X size={13} />
          </button>
        </div>
      ))}
    </div>
  );
}
