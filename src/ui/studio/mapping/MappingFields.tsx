'use client';

import type { MappingSpec } from '@/core/mapping/schema';
import type { LengthUnit } from '@/core/units/length';
import { useSelection } from '../../project/selection';
import { Select } from '../../shared/fields';
import { ValueField } from '../../shared/ValueField';
import type { ShapeAdvice } from '../useSuggestions';

type Of<K extends MappingSpec['kind']> = Extract<MappingSpec, { kind: K }>;
type Change = (mapping: MappingSpec, gesture?: string) => void;

const DIRECTIONS: [string, string][] = [
  ['auto', 'its own face'],
  ['up', 'above'],
  ['down', 'below'],
  ['north', 'north'],
  ['east', 'east'],
  ['south', 'south'],
  ['west', 'west'],
];

/** What can be set about a mapping: the one or two things used all the time, or, with `all`, the rest. */
export function MappingFields({
  mapping: m,
  unit,
  advice,
  closed,
  onChange,
  all,
}: {
  mapping: MappingSpec;
  unit: LengthUnit;
  advice: ShapeAdvice | null;
  /** The sheet goes once round something. */ closed: boolean;
  onChange: Change;
  all: boolean;
}) {
  switch (m.kind) {
    case 'flat':
      return all ? null : (
        <Select
          label="Thrown on from"
          value={m.direction}
          options={DIRECTIONS}
          onChange={(v) => onChange({ ...m, direction: v as Of<'flat'>['direction'] })}
        />
      );
    case 'box':
      return all ? null : (
        <Select
          label="Sides lie along"
          value={m.axes}
          options={[
            ['surface', 'the surface’s main direction'],
            ['world', 'north and east'],
          ]}
          onChange={(v) => onChange({ ...m, axes: v as Of<'box'>['axes'] })}
        />
      );
    case 'cylinder':
      return all ? (
        <div className="grid grid-cols-2 gap-2">
          <Select
            label="Its axis"
            value={m.axis}
            options={[
              ['found', 'as found'],
              ['vertical', 'upright'],
              ['eastWest', 'east to west'],
              ['northSouth', 'north to south'],
            ]}
            onChange={(v) => onChange({ ...m, axis: v as Of<'cylinder'>['axis'] })}
          />
          <SeamField mapping={m} onChange={onChange} />
        </div>
      ) : (
        <AroundField mapping={m} closed={closed} onChange={onChange} />
      );
    case 'sphere':
      return all ? (
        <SeamField mapping={m} onChange={onChange} />
      ) : (
        <AroundField mapping={m} closed={closed} onChange={onChange} />
      );
    case 'fan':
      return all ? (
        <div className="grid grid-cols-2 gap-2">
          <Select
            label="True length at"
            value={m.referenceMm === null ? m.reference : 'own'}
            options={[
              ['inner', 'the inner edge'],
              ['middle', 'the middle'],
              ['outer', 'the outer edge'],
              ...(m.referenceMm === null ? [] : [['own', 'a radius of its own'] as [string, string]]),
            ]}
            onChange={(v) =>
              v !== 'own' && onChange({ ...m, reference: v as Of<'fan'>['reference'], referenceMm: null })
            }
          />
          <ValueField
            label="A radius of its own"
            kind="length"
            unit={unit}
            value={m.referenceMm}
            min={1}
            max={1e6}
            onChange={(referenceMm, g) => onChange({ ...m, referenceMm }, g)}
          />
          <SeamField mapping={m} onChange={onChange} />
          {(['East', 'Up', 'South'] as const).map((label, c) => (
            <ValueField
              key={label}
              label={`Centre, ${label.toLowerCase()}`}
              kind="length"
              unit={unit}
              value={m.centre?.[c] ?? null}
              min={-1e7}
              max={1e7}
              onChange={(v, g) => {
                const centre: [number, number, number] = m.centre ? [...m.centre] : [0, 0, 0];
                centre[c] = v;
                onChange({ ...m, centre }, g);
              }}
            />
          ))}
          <div className="flex items-end">
            <button
              type="button"
              className="tool tool-line"
              disabled={!m.centre && m.referenceMm === null}
              onClick={() => onChange({ ...m, centre: null, referenceMm: null })}
            >
              Find them
            </button>
          </div>
        </div>
      ) : (
        <AroundField mapping={m} closed={closed} onChange={onChange} />
      );
    case 'unroll':
      return all ? (
        <div className="space-y-1">
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={!!m.whole}
              onChange={(e) => {
                const { whole: _before, ...rest } = m;
                onChange(e.target.checked ? { ...rest, whole: true } : rest);
              }}
            />
            In one piece, with the least stretch
          </label>
          <p className="quiet text-2xs">
            {m.cuts?.length ? `Cut along ${m.cuts.length} chosen edges.` : 'Cut only where it must be.'}
          </p>
        </div>
      ) : (
        <UnrollTools mapping={m} onChange={onChange} />
      );
    case 'own': {
      const measured = advice?.own[m.set]?.unit ?? null;
      const size = m.unit ?? measured;
      const sets = Math.max(advice?.own.length ?? 1, m.set + 1);
      return all ? (
        <Select
          label="Coordinate set"
          value={String(m.set)}
          options={Array.from({ length: sets }, (_, i): [string, string] => [
            String(i),
            `${i + 1}${advice?.own[i]?.usable === false ? ', not usable' : ''}`,
          ])}
          onChange={(v) => onChange({ ...m, set: Number(v), unit: null })}
        />
      ) : (
        <div className="grid grid-cols-2 gap-1">
          {(['widthMm', 'heightMm'] as const).map((side) => (
            <ValueField
              key={side}
              label={side === 'widthMm' ? 'One unit, wide' : 'One unit, high'}
              kind="length"
              unit={unit}
              value={size?.[side] ?? null}
              min={0.01}
              max={1e6}
              onChange={(v, g) =>
                onChange({ ...m, unit: { ...(size ?? { widthMm: 1000, heightMm: 1000 }), [side]: v } }, g)
              }
            />
          ))}
        </div>
      );
    }
  }
}

/** Exactly so many pieces or pictures once round; empty for their own size. */
function AroundField({
  mapping,
  closed,
  onChange,
}: {
  mapping: Of<'cylinder'> | Of<'sphere'> | Of<'fan'>;
  closed: boolean;
  onChange: Change;
}) {
  return (
    <div className="flex items-end gap-1">
      <ValueField
        label="Exactly … around"
        kind="number"
        value={mapping.around}
        min={1}
        max={10_000}
        decimals={0}
        onChange={(v, g) => onChange({ ...mapping, around: Math.max(1, Math.round(v)) }, g)}
        disabled={!closed && mapping.around === null}
        title={closed ? 'So many pieces, or pictures, once round' : 'It does not close, so nothing goes once round it'}
      />
      {mapping.around !== null && (
        <button
          type="button"
          className="tool h-[26px] px-1 text-2xs"
          title="Back to their own size"
          onClick={() => onChange({ ...mapping, around: null })}
        >
          Free
        </button>
      )}
    </div>
  );
}

function SeamField({ mapping, onChange }: { mapping: Of<'cylinder'> | Of<'sphere'> | Of<'fan'>; onChange: Change }) {
  return (
    <ValueField
      label="Seam at"
      kind="angle"
      value={mapping.seamDeg}
      min={-360}
      max={360}
      step={5}
      title="Degrees round from north, or from straight down; empty where it suits best"
      onChange={(seamDeg, g) => onChange({ ...mapping, seamDeg }, g)}
    />
  );
}

/** Where to start and where to cut, picked in the room. */
function UnrollTools({ mapping, onChange }: { mapping: Of<'unroll'>; onChange: Change }) {
  const tool = useSelection((s) => s.unrollTool);
  const setTool = useSelection((s) => s.setUnrollTool);
  const own = mapping.from !== undefined || (mapping.cuts?.length ?? 0) > 0;
  return (
    <div className="flex flex-wrap gap-1">
      <button
        type="button"
        className="tool tool-line h-[22px] px-1.5 text-2xs"
        aria-pressed={tool === 'start'}
        title="Then click a face in the room: unrolling starts there"
        onClick={() => setTool(tool === 'start' ? null : 'start')}
      >
        Start at…
      </button>
      <button
        type="button"
        className="tool tool-line h-[22px] px-1.5 text-2xs"
        aria-pressed={tool === 'cut'}
        title="Then click near an edge in the room: it is cut there, or joined again"
        onClick={() => setTool(tool === 'cut' ? null : 'cut')}
      >
        Cut along…
      </button>
      {own && (
        <button
          type="button"
          className="tool h-[22px] px-1 text-2xs"
          title="Start at the largest face, cut only where it must be"
          onClick={() => onChange({ kind: 'unroll' })}
        >
          Let go
        </button>
      )}
    </div>
  );
}
