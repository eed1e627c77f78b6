'use client';

import { MapPin } from 'lucide-react';
import { PercentField } from '../../shared/fields';
import { ValueField } from '../../shared/ValueField';
import { patchOf, usePrep } from '../prepStore';
import type { Of } from './of';

const BRUSHES: [string, string, string][] = [
  ['patch', 'Cover', 'Covered by a piece from elsewhere that meets what lies around'],
  ['copy', 'Copy', 'Set the pin where to take from, then paint'],
  ['paint', 'Paint', 'With a colour, or with one picked from the picture'],
  ['sharpen', 'Sharpen', 'Where mending left it soft'],
];

/** What is painted with, and what is painted at once. */
export function Brushes({ step: s, run, onChange }: Of<'heal'>) {
  const { brush, setBrush, pinning, setPinning } = usePrep();
  const blotches = run?.blotches.blotches ?? [];
  return (
    <>
      <div className="flex flex-wrap gap-1" role="group" aria-label="Brush">
        {BRUSHES.map(([kind, label, what]) => (
          <button
            key={kind}
            type="button"
            className="tool tool-line h-[24px] px-1.5"
            aria-pressed={brush.kind === kind}
            title={what}
            onClick={() => setBrush({ kind: kind as typeof brush.kind })}
          >
            {label}
          </button>
        ))}
      </div>
      <div className="grid grid-cols-3 gap-1.5">
        <ValueField
          label="Radius"
          kind="number"
          suffix=" %"
          decimals={1}
          min={0.2}
          max={40}
          value={Math.round(brush.radius * 1000) / 10}
          onChange={(v) => setBrush({ radius: v / 100 })}
        />
        {(['hardness', 'opacity'] as const).map((key) => (
          <PercentField
            key={key}
            label={key === 'hardness' ? 'Hardness' : 'Opacity'}
            value={brush[key]}
            onChange={(share) => setBrush({ [key]: share })}
          />
        ))}
      </div>
      {(brush.kind === 'copy' || brush.kind === 'paint') && (
        <button
          type="button"
          className="tool tool-line h-[24px] px-1.5 text-2xs"
          aria-pressed={pinning}
          title={
            brush.kind === 'copy'
              ? 'Then click the picture where to take from'
              : 'Then click the picture where the colour is'
          }
          onClick={() => setPinning(!pinning)}
        >
          <MapPin size={12} /> {brush.kind === 'copy' ? 'Set the pin' : 'Take a colour'}
        </button>
      )}
      {brush.kind === 'paint' && (
        <label className="flex items-center gap-2 text-2xs">
          Colour{' '}
          <input
            type="color"
            value={brush.colour ?? '#808080'}
            onChange={(e) => setBrush({ colour: e.target.value })}
          />
        </label>
      )}
      <div className="flex flex-wrap gap-1">
        <button
          type="button"
          className="tool tool-line h-[22px] px-1.5 text-2xs"
          disabled={!blotches.length}
          onClick={() =>
            onChange({
              ...s,
              strokes: [...s.strokes, ...blotches.slice(0, 6).map(patchOf)],
            })
          }
        >
          Cover what stands out ({Math.min(6, blotches.length)})
        </button>
        <button
          type="button"
          className="tool h-[22px] px-1 text-2xs"
          disabled={!s.strokes.length}
          onClick={() => onChange({ ...s, strokes: s.strokes.slice(0, -1) })}
        >
          Last stroke off
        </button>
      </div>
    </>
  );
}
