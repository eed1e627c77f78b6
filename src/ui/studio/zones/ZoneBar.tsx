'use client';

import { CornerUpLeft, Frame, Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { SheetSummary } from '@/core/mapping/sheet';
import type { Level, Surface } from '@/core/project/schema';
import type { LengthUnit } from '@/core/units/length';
import { listEdges } from '@/core/zones/outlines';
import type { BorderShape, HeightShape, ZoneShape } from '@/core/zones/schema';
import { useProject } from '../../project/projectStore';
import { useSelection, type ZoneTool } from '../../project/selection';
import { Select } from '../../shared/fields';
import { Menu } from '../../shared/Menu';
import { ValueField } from '../../shared/ValueField';
import { useSheet } from '../useSheet';
import { addZones, changeZone, zoneBases } from './addZone';
import { edgeZone, takesEdge } from './layOnce';
import { inSoldiers, soldierBand } from './soldierBand';

const DRAWN: [ZoneTool, string][] = [
  ['rectangle', 'Rectangle'],
  ['circle', 'Circle'],
  ['polygon', 'Outline, corner by corner'],
];

/** Ways to begin a zone on the surface shown. */
export function ZoneMenu({ surface, sheet }: { surface: Surface; sheet: SheetSummary }) {
  const tool = useSelection((s) => s.zoneTool);
  const setTool = useSelection((s) => s.setZoneTool);
  const { minX, minY, maxX, maxY } = sheet.bounds;
  const add = (shape: ZoneShape) => void addZones(zoneBases(surface), shape);
  const levels = useProject((s) => s.project?.levels);
  const unit = useProject((s) => s.project?.unit ?? 'mm');
  // a band that suits the size: a tenth of the shorter side, on a round value
  const band = Math.max(10, Math.min(300, Math.round(Math.min(maxX - minX, maxY - minY) / 100) * 10));
  return (
    <Menu
      align="right"
      title="Draw a zone with a spec of its own"
      label="Zone"
      className={`tool ${tool ? 'tool-main' : ''}`}
    >
      {(close) => (
        <>
          {DRAWN.map(([kind, label]) => (
            <button key={kind} type="button" className="tool" onClick={() => (setTool(kind), close())}>
              {label}
            </button>
          ))}
          <hr className="hair my-1" />
          <button
            type="button"
            className="tool"
            onClick={() => (
              add({ kind: 'border', widthMm: band, courses: null, edges: null, corners: 'mitred' }),
              close()
            )}
          >
            Border all round
          </button>
          <button type="button" className="tool" onClick={() => (add({ kind: 'inset', byMm: band }), close())}>
            Field within a margin
          </button>
          <HeightZones
            levels={Object.values(levels ?? {})}
            unit={unit}
            add={(shape) => (add(shape), close())}
            addSoldiers={(at) => {
              void addZones(zoneBases(surface), soldierBand(at), { name: 'Soldiers', spec: inSoldiers });
              close();
            }}
          />
        </>
      )}
    </Menu>
  );
}

/** Tiles up to a height, plaster from it: on every picked wall in one step. */
function HeightZones({
  levels,
  unit,
  add,
  addSoldiers,
}: {
  levels: Level[];
  unit: LengthUnit;
  add: (shape: HeightShape) => void;
  addSoldiers: (at: Pick<HeightShape, 'heightMm' | 'from' | 'levelMm'>) => void;
}) {
  const [heightMm, setHeight] = useState(2100);
  const [base, setBase] = useState('');
  const level = levels.find((l) => l.id === base);
  const at = { heightMm, from: level ? ('level' as const) : ('foot' as const), levelMm: level?.heightMm ?? 0 };
  const shape = (side: HeightShape['side']): HeightShape => ({ kind: 'height', side, ...at });
  return (
    <fieldset className="mt-1 grid w-full min-w-60 grid-cols-2 gap-1.5 border-t border-base-300 px-2 pt-2 pb-1">
      <legend className="sr-only">By height</legend>
      <ValueField
        label="Height"
        kind="length"
        unit={unit}
        value={heightMm}
        min={-1e7}
        max={1e7}
        step={10}
        onChange={setHeight}
      />
      <Select
        label="Measured from"
        value={base}
        options={[['', 'its foot'], ...levels.map((l): [string, string] => [l.id, l.name])]}
        onChange={setBase}
      />
      <button type="button" className="tool tool-line justify-center" onClick={() => add(shape('below'))}>
        Up to it
      </button>
      <button type="button" className="tool tool-line justify-center" onClick={() => add(shape('above'))}>
        From it up
      </button>
      <button
        type="button"
        className="tool tool-line col-span-2 justify-center"
        title="One course of bricks on end, of the wall’s own bricks and joints, beginning at this height"
        onClick={() => addSoldiers(at)}
      >
        A course of soldiers on it
      </button>
    </fieldset>
  );
}

/** The numbers of a picked zone. */
export function ZoneBar({ zone, unit }: { zone: Surface; unit: LengthUnit }) {
  const run = useProject((s) => s.run);
  const base = useProject((s) => s.project?.surfaces[zone.zone!.of]);
  const select = useSelection((s) => s.select);
  const { shape } = zone.zone!;
  const set = (next: ZoneShape, gesture?: string) => void changeZone(zone, next, gesture);
  const length = (label: string, value: number, change: (mm: number) => ZoneShape, min = -1e7) => (
    <div className="w-[84px]" key={label}>
      <ValueField
        label={label}
        kind="length"
        unit={unit}
        value={value}
        min={min}
        max={1e7}
        onChange={(v, g) => set(change(v), g)}
      />
    </div>
  );
  return (
    <div
      aria-label="Zone"
      role="group"
      className="hair flex flex-wrap items-end gap-1.5 border-b bg-base-100 px-2 py-1.5"
    >
      {shape.kind === 'rectangle' && [
        length('From the left', shape.xMm, (xMm) => ({ ...shape, xMm })),
        length('From below', shape.yMm, (yMm) => ({ ...shape, yMm })),
        length('Width', shape.widthMm, (widthMm) => ({ ...shape, widthMm }), 1),
        length('Height', shape.heightMm, (heightMm) => ({ ...shape, heightMm }), 1),
      ]}
      {shape.kind === 'circle' && [
        length('Centre, from left', shape.xMm, (xMm) => ({ ...shape, xMm })),
        length('Centre, from below', shape.yMm, (yMm) => ({ ...shape, yMm })),
        length('Radius', shape.radiusMm, (radiusMm) => ({ ...shape, radiusMm }), 1),
      ]}
      {shape.kind === 'polygon' && <p className="quiet num pb-1 text-2xs">Outline of {shape.points.length} corners</p>}
      {shape.kind === 'height' && [
        length(shape.from === 'foot' ? 'From the foot' : 'From the level', shape.heightMm, (heightMm) => ({
          ...shape,
          heightMm,
        })),
        <div className="w-[92px]" key="side">
          <Select
            label="Covers"
            value={shape.side}
            options={[
              ['below', 'below it'],
              ['above', 'above it'],
            ]}
            onChange={(side) => set({ ...shape, side: side as HeightShape['side'] })}
          />
        </div>,
        <div className="w-[84px]" key="band">
          {shape.courses ? (
            <ValueField
              label="Courses"
              kind="number"
              decimals={0}
              value={shape.courses}
              min={1}
              max={100}
              onChange={(v, g) => set({ ...shape, courses: Math.round(v) }, g)}
            />
          ) : (
            shape.bandMm && (
              <ValueField
                label="As high as"
                kind="length"
                unit={unit}
                value={shape.bandMm}
                min={1}
                max={1e7}
                onChange={(bandMm, g) => set({ ...shape, bandMm }, g)}
              />
            )
          )}
        </div>,
        <div className="w-[104px]" key="sized">
          <Select
            label="Ends"
            value={shape.courses ? 'courses' : shape.bandMm ? 'height' : 'edge'}
            options={[
              ['edge', 'at the edge'],
              ['height', 'after a height'],
              ['courses', 'after courses'],
            ]}
            onChange={(v) => set({ ...shape, ...BANDS[v as keyof typeof BANDS] })}
          />
        </div>,
      ]}
      {shape.kind === 'inset' && length('Margin', shape.byMm, (byMm) => ({ ...shape, byMm }), 0.1)}
      {shape.kind === 'border' && <BorderFields zone={zone} shape={shape} unit={unit} set={set} />}
      {takesEdge(zone) && (
        <button
          type="button"
          className="tool tool-line"
          title="A band all round it, to be laid with a material of its own"
          onClick={() => void edgeZone(zone)}
        >
          <Frame size={13} /> Edge it
        </button>
      )}
      <div className="ml-auto flex">
        {base && (
          <button
            type="button"
            className="tool"
            title="Pick the surface it is drawn on"
            onClick={() => select([base.id])}
          >
            <CornerUpLeft size={13} /> {base.name}
          </button>
        )}
        <button
          type="button"
          className="tool"
          title="Take the zone away"
          aria-label="Remove zone"
          onClick={() => (run([{ kind: 'removeZone', id: zone.id }]), base && select([base.id]))}
        >
          <Trash2 size={13} />
        </button>
      </div>
    </div>
  );
}

/** Where a zone at a height ends. */
const BANDS = {
  edge: { bandMm: undefined, courses: undefined },
  height: { bandMm: 200, courses: undefined },
  courses: { bandMm: undefined, courses: 1 },
};

function BorderFields({
  zone,
  shape,
  unit,
  set,
}: {
  zone: Surface;
  shape: BorderShape;
  unit: LengthUnit;
  set: (s: ZoneShape, gesture?: string) => void;
}) {
  const inPieces = !!zone.spec?.pieces && zone.spec.pieces.layout.kind !== 'whole';
  const sheet = useSheet(zone.zone!.of)?.sheet ?? null;
  const [open, setOpen] = useState(false);
  const edges = open && sheet ? listEdges(sheet) : [];
  return (
    <>
      <div className="w-[84px]">
        {shape.courses === null ? (
          <ValueField
            label="Width"
            kind="length"
            unit={unit}
            value={shape.widthMm}
            min={1}
            max={1e6}
            onChange={(widthMm, g) => set({ ...shape, widthMm }, g)}
          />
        ) : (
          <ValueField
            label="Courses"
            kind="number"
            decimals={0}
            value={shape.courses}
            min={1}
            max={100}
            onChange={(v, g) => set({ ...shape, courses: Math.round(v) }, g)}
          />
        )}
      </div>
      <div className="w-[104px]">
        <Select
          label="Sized by"
          value={shape.courses === null ? 'width' : 'courses'}
          options={[['width', 'width'], ...(inPieces ? [['courses', 'courses'] as [string, string]] : [])]}
          onChange={(v) => set({ ...shape, courses: v === 'courses' ? 2 : null })}
        />
      </div>
      <div className="w-[92px]">
        <Select
          label="Corners"
          value={shape.corners}
          options={[
            ['mitred', 'mitred'],
            ['butted', 'butted'],
          ]}
          onChange={(v) => set({ ...shape, corners: v as BorderShape['corners'] })}
        />
      </div>
      <details className="pb-1 text-2xs" onToggle={(e) => setOpen(e.currentTarget.open)}>
        <summary className="cursor-pointer">{shape.edges ? `${shape.edges.length} edges` : 'all edges'}</summary>
        <div className="grid max-h-28 grid-cols-2 gap-x-3 overflow-auto py-1">
          {edges.map((e, i) => (
            <label key={i} className="num flex items-center gap-1.5">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={!shape.edges || shape.edges.includes(i)}
                onChange={(ev) => {
                  const now = shape.edges ?? edges.map((_, k) => k);
                  const next = ev.target.checked ? [...now, i].sort((a, b) => a - b) : now.filter((k) => k !== i);
                  if (next.length) set({ ...shape, edges: next.length === edges.length ? null : next });
                }}
              />
              {i + 1}: {Math.round(Math.hypot(e.to[0] - e.from[0], e.to[1] - e.from[1]))} mm
            </label>
          ))}
        </div>
      </details>
    </>
  );
}
