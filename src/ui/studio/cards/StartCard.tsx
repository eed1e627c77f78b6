'use client';

import { FlipHorizontal2, FlipVertical2, RotateCcw, RotateCw } from 'lucide-react';
import type { Datum } from '@/core/spec/schema';
import { MIXED, ValueField } from '../../shared/ValueField';
import { Card } from '../Card';
import { shared, useBench } from '../useBench';
import { wrapTurn } from './turn';

const DATUMS: [Datum, string][] = [
  ['corner', 'Lower left corner'],
  ['centre', 'Centre'],
  ['part', 'The part’s origin'],
  ['world', 'The world’s origin'],
];

/** Where the picture starts, and which way it runs. */
export function StartCard() {
  const { laid, edit, unit } = useBench();
  const none = !laid.length;
  const of = <T,>(read: Parameters<typeof shared<T>>[1], otherwise: T) => (none ? otherwise : shared(laid, read));
  const datum = of((l) => l.spec.start.datum, 'corner' as Datum);
  const mirrorX = of((l) => l.spec.direction.mirrorX, false) === true;
  const mirrorY = of((l) => l.spec.direction.mirrorY, false) === true;
  const turnBy = (deg: number) =>
    edit((l) => ({ ...l.spec, direction: { ...l.spec.direction, turnDeg: wrapTurn(l.spec.direction.turnDeg + deg) } }));
  return (
    <Card id="start" title="Start and direction" share={1.04}>
      <div className="grid grid-cols-2 gap-1">
        <label className="col-span-2 block">
          <span className="quiet sr-only">Datum</span>
          <select
            aria-label="Datum"
            className="field"
            disabled={none}
            value={datum === MIXED ? '' : datum}
            onChange={(e) => edit((l) => ({ ...l.spec, start: { ...l.spec.start, datum: e.target.value as Datum } }))}
          >
            {datum === MIXED && <option value="">mixed</option>}
            {DATUMS.map(([d, label]) => (
              <option key={d} value={d}>
                {label}
              </option>
            ))}
          </select>
        </label>
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
    </Card>
  );
}
