'use client';

import { useMemo, useState } from 'react';
import { courseShares, endPieces } from '@/core/setout/endPieces';
import type { PiecesSpec } from '@/core/layout/schema';
import {
  edgesAlong,
  type GaugeAxis,
  type GaugeRow,
  gaugeTable,
  isFinding,
  openGauge,
  wholeLengths,
} from '@/core/setout/gauge';
import { sayFinding } from '@/core/finding/finding';
import type { SheetSummary } from '@/core/mapping/sheet';
import { keepsLevels } from '@/core/setout/placement';
import { firstGauge, type GaugeEnd, type GaugeLimit, type GaugeSide } from '@/core/specification/gauge';
import { liesInPieces, type SpecInPieces } from '@/core/specification/schema';
import { formatLength, type LengthUnit, trimNumber } from '@/core/units/length';
import { DrivingContext } from '../../shared/driving';
import { Menu } from '../../shared/Menu';
import { ValueField } from '../../shared/ValueField';
import { type Laid, useBench } from '../useBench';

const ENDS: [GaugeEnd, string][] = [
  ['face', 'a face'],
  ['middle', 'a joint’s middle'],
  ['joint', 'a whole joint'],
];
const AXES: [GaugeAxis, string][] = [
  ['up', 'Up'],
  ['across', 'Across'],
];

/** Spreads whole courses or pieces between two limits: what is possible as a table, one click takes a count. */
export function GaugeMenu({ laid, sheet }: { laid: Laid[]; sheet: SheetSummary | null }) {
  const [first] = laid;
  const usable = !!first && !!sheet && liesInPieces(first.spec);
  const gauged = first?.spec.gauge;
  const said = [gauged?.up && 'up', gauged?.across && 'across'].filter(Boolean).join(' and ');
  return (
    <Menu
      up
      wide
      label={<>Gauge{said ? `d ${said}` : '…'}</>}
      title={
        usable ? 'Whole courses between two limits, by joints first, then by size' : 'Courses of pieces are gauged'
      }
      className="tool tool-line h-[22px] px-1.5 text-2xs"
    >
      {() =>
        usable ? (
          <Panel first={first} sheet={sheet} />
        ) : (
          <p className="quiet max-w-64 p-2 text-2xs">Lay something in pieces first: its courses are gauged here.</p>
        )
      }
    </Menu>
  );
}

function Panel({ first, sheet }: { first: Laid; sheet: SheetSummary }) {
  const { edit, unit } = useBench();
  const [axis, setAxis] = useState<GaugeAxis>(first.spec.gauge?.across && !first.spec.gauge.up ? 'across' : 'up');
  const spec = first.spec as SpecInPieces;
  const own = spec.gauge?.[axis];
  const { joint } = spec.pieces;
  // what is being tried is kept here until a count is taken
  const [tried, setTried] = useState<Partial<Record<GaugeAxis, GaugeSide>>>({});
  const side = own ?? tried[axis] ?? firstGauge(axis === 'up' ? joint.acrossMm : joint.alongMm);
  const change = (next: Partial<GaugeSide>, gesture?: string) => {
    const made = { ...side, ...next };
    if (!own && next.count === undefined) return setTried({ ...tried, [axis]: made });
    edit((l) => ({ ...l.spec, gauge: { ...l.spec.gauge, [axis]: made } }), gesture);
  };
  const letGo = () => {
    setTried({ ...tried, [axis]: side });
    edit(({ spec: s }) => {
      const { [axis]: _gone, ...rest } = s.gauge ?? {};
      const { gauge: _before, ...plain } = s;
      return Object.keys(rest).length ? { ...plain, gauge: rest } : plain;
    });
  };
  const open = openGauge(spec, axis, side, sheet);
  return (
    // what is tried here is kept here: nothing of it can follow a sum
    <DrivingContext.Provider value={null}>
      <div className="w-[420px] p-2" role="group" aria-label="Gauge">
        <div className="mb-1.5 flex items-center gap-1" role="group" aria-label="Direction of the gauge">
          {AXES.map(([a, label]) => (
            <button key={a} type="button" className="tool" aria-pressed={axis === a} onClick={() => setAxis(a)}>
              {label}
            </button>
          ))}
          <span className="quiet num ml-auto text-2xs">
            {!isFinding(open) && `${formatLength(open.to - open.from, unit)} between limits`}
          </span>
        </div>
        <div className="grid grid-cols-2 gap-x-2 gap-y-1">
          <LimitFields axis={axis} n={0} side={side} sheet={sheet} unit={unit} onChange={change} />
          <LimitFields axis={axis} n={1} side={side} sheet={sheet} unit={unit} onChange={change} />
          <div className="grid grid-cols-2 gap-1">
            <ValueField
              label="Joints from"
              kind="length"
              unit={unit}
              min={0}
              max={1000}
              value={side.jointFromMm}
              onChange={(jointFromMm, g) => change({ jointFromMm }, g)}
            />
            <ValueField
              label="to"
              kind="length"
              unit={unit}
              min={0}
              max={1000}
              value={side.jointToMm}
              onChange={(jointToMm, g) => change({ jointToMm }, g)}
            />
          </div>
          <ValueField
            label="Then sizes by up to"
            kind="number"
            suffix="%"
            min={0}
            max={50}
            step={0.5}
            value={side.sizePercent}
            onChange={(sizePercent, g) => change({ sizePercent }, g)}
          />
        </div>
        {isFinding(open) ? (
          <p className="mt-2 text-2xs">{sayFinding(open, unit)}</p>
        ) : (
          <Rows
            open={open}
            pieces={spec.pieces}
            side={side}
            taken={!!own}
            unit={unit}
            onTake={(count) => change({ count })}
          />
        )}
        {own && (
          <button type="button" className="tool mt-1" onClick={letGo}>
            Let go
          </button>
        )}
      </div>
    </DrivingContext.Provider>
  );
}

/** One limit: what it is, and what meets it. */
function LimitFields({
  axis,
  n,
  side,
  sheet,
  unit,
  onChange,
}: {
  axis: GaugeAxis;
  n: 0 | 1;
  side: GaugeSide;
  sheet: SheetSummary;
  unit: LengthUnit;
  onChange: (next: Partial<GaugeSide>) => void;
}) {
  const { project } = useBench();
  const key = n ? 'to' : 'from';
  const limit = side[key];
  const outermost = axis === 'up' ? ['Lowest edge', 'Highest edge'] : ['Left edge', 'Right edge'];
  const edges = edgesAlong(sheet, axis);
  const places = limit.kind === 'place' && !edges.includes(limit.mm) ? [...edges, limit.mm] : edges;
  const levels = axis === 'up' && keepsLevels(sheet) ? Object.values(project?.levels ?? {}) : [];
  const value =
    limit.kind === 'edge' ? 'edge' : limit.kind === 'place' ? `place:${limit.mm}` : `level:${limit.level.id}`;
  const set = (to: string) => {
    const level = levels.find((l) => `level:${l.id}` === to);
    const made: GaugeLimit = level
      ? { kind: 'level', level: { id: level.id, heightMm: level.heightMm } }
      : to === 'edge'
        ? { kind: 'edge' }
        : { kind: 'place', mm: Number(to.slice(6)) };
    onChange({ [key]: made });
  };
  const meet = (end: GaugeEnd) => onChange({ meets: n ? [side.meets[0], end] : [end, side.meets[1]] });
  return (
    <div>
      <span className="quiet text-2xs">{n ? 'To' : 'From'}</span>
      <select
        aria-label={n ? 'Gauge to' : 'Gauge from'}
        className="field"
        value={value}
        onChange={(e) => set(e.target.value)}
      >
        <option value="edge">{outermost[n]}</option>
        {places.map((mm) => (
          <option key={mm} value={`place:${mm}`}>
            Edge at {formatLength(mm, unit)}
          </option>
        ))}
        {levels.map((l) => (
          <option key={l.id} value={`level:${l.id}`}>
            Level: {l.name}, {formatLength(l.heightMm, unit)}
          </option>
        ))}
      </select>
      <select
        aria-label={n ? 'It ends on' : 'It begins on'}
        className="field mt-1"
        value={side.meets[n]}
        onChange={(e) => meet(e.target.value as GaugeEnd)}
      >
        {ENDS.map(([end, label]) => (
          <option key={end} value={end}>
            on {label}
          </option>
        ))}
      </select>
    </div>
  );
}

const signed = (v: number, decimals: number): string => {
  const text = trimNumber(Math.abs(v), decimals);
  return text === '0' ? '±0' : `${v < 0 ? '−' : '+'}${text}`;
};

/** What is possible, and what the building would have to be for nothing to change. */
function Rows({
  open,
  pieces,
  side,
  taken,
  unit,
  onTake,
}: {
  open: Exclude<ReturnType<typeof openGauge>, { code: unknown }>;
  pieces: PiecesSpec;
  side: GaugeSide;
  taken: boolean;
  unit: LengthUnit;
  onTake: (count: number | null) => void;
}) {
  const { unit: one, spare, along } = open;
  const lengthMm = open.to - open.from;
  const rows = gaugeTable(lengthMm, one, spare, side);
  const { below, above } = wholeLengths(lengthMm, one, spare);
  const { layout, joint } = pieces;
  const shares = useMemo(() => (along ? courseShares(layout, joint) : null), [along, layout, joint]);
  // only from face to face do courses end where they begin
  const ends = (row: GaugeRow) =>
    shares && spare === -1
      ? endPieces(shares, row)
          .map((mm) => formatLength(Math.round(mm * 10) / 10, unit))
          .join(', ')
      : null;
  const chosen = (row: GaugeRow) => taken && (side.count === row.count || (side.count === null && row === rows[0]));
  const what = along ? 'Pieces' : 'Courses';
  return (
    <>
      <table className="num mt-2 w-full text-2xs" aria-label="Counts that are possible">
        <thead>
          <tr className="quiet text-left">
            <th className="font-normal">{what}</th>
            <th className="font-normal">Joint</th>
            <th className="font-normal">Size</th>
            <th className="font-normal">Size by</th>
            {shares && spare === -1 && <th className="font-normal">Ends</th>}
            <th />
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.count} className={chosen(row) ? 'bg-secondary/15' : ''}>
              <td className="py-px">{row.count}</td>
              <td>
                {formatLength(row.jointMm, unit)} <span className="quiet">({signed(row.jointChangeMm, 2)})</span>
              </td>
              <td>{formatLength(row.pieceMm, unit)}</td>
              <td>{signed(row.sizeChangePercent, 2)}%</td>
              {ends(row) && <td>{ends(row)}</td>}
              <td className="text-right">
                <button
                  type="button"
                  className="tool tool-line h-5 px-1.5 text-2xs"
                  aria-pressed={chosen(row)}
                  aria-label={`Take ${row.count} ${what.toLowerCase()}`}
                  onClick={() => onTake(row.count)}
                >
                  Take
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {!rows.length && <p className="mt-1 text-2xs">No whole count comes out within these tolerances.</p>}
      {rows.length > 0 && (
        <button
          type="button"
          className="tool mt-1"
          aria-pressed={taken && side.count === null}
          title="Whatever the building becomes: the count that changes least"
          onClick={() => onTake(null)}
        >
          As many as change least
        </button>
      )}
      <p className="quiet num mt-1 text-2xs">
        Whole without any change: {below !== null && `${formatLength(below, unit)} (${signed(below - lengthMm, 1)} mm)`}
        {below !== null && above !== below && ' or '}
        {above !== below && `${formatLength(above, unit)} (${signed(above - lengthMm, 1)} mm)`}, to tell the designer.
      </p>
    </>
  );
}
