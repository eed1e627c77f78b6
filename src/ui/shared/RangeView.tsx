'use client';

import { createContext, type PointerEvent, type ReactNode, useContext, useRef } from 'react';
import type { Range, SampleLook } from '@/core/schema/fields';
import type { LengthUnit } from '@/core/units/length';
import { MIXED, ValueField } from './ValueField';

/** Draws a sample piece, and says what a drag over one pixel changes. */
export interface Samples {
  draw(look: Partial<SampleLook>): ReactNode;
  /** Millimetres for each pixel of the screen on a sample. */
  mmPerPx: number;
}
export const SamplesContext = createContext<Samples | null>(null);

/** Percent for each pixel of a drag. */
const PERCENT_PER_PX = 0.25;

/**
 * A range by its two ends. Where samples can be drawn, a piece shows each end and is dragged: its print slides, grows
 * or changes tone under the hand; the numbers stand below and can be typed.
 */
export function RangeView({
  label,
  value,
  ends,
  of,
  look,
  unit,
  suffix,
  min = -Infinity,
  max = Infinity,
  onChange,
}: {
  label: string;
  /** Of the first picked. */
  value: Range;
  /** What stands in the fields: mixed where the picked differ. */
  ends: { from: number | typeof MIXED; to: number | typeof MIXED };
  of: 'length' | 'number';
  look?: keyof SampleLook;
  unit: LengthUnit;
  suffix?: string;
  min?: number;
  max?: number;
  onChange: (end: keyof Range, value: number, gesture?: string) => void;
}) {
  const samples = useContext(SamplesContext);
  const drag = useRef<{ x: number; from: number; gesture: string } | null>(null);
  const dragged = (end: keyof Range) => ({
    onPointerDown: (e: PointerEvent<HTMLElement>) => {
      e.currentTarget.setPointerCapture(e.pointerId);
      drag.current = { x: e.clientX, from: value[end], gesture: `range-${e.timeStamp}` };
    },
    onPointerMove: (e: PointerEvent<HTMLElement>) => {
      const at = drag.current;
      if (!at) return;
      const by = (e.clientX - at.x) * (of === 'length' ? samples!.mmPerPx : PERCENT_PER_PX);
      onChange(end, Math.round(Math.min(max, Math.max(min, at.from + by))), at.gesture);
    },
    onPointerUp: () => (drag.current = null),
  });
  return (
    <fieldset className="min-w-0">
      <legend className="quiet mb-0.5 text-2xs">{label}</legend>
      <div className="grid grid-cols-2 gap-1">
        {(['from', 'to'] as const).map((end) => (
          <div key={end} className="min-w-0">
            {samples && look && (
              <div
                className="mb-1 cursor-ew-resize touch-none overflow-hidden rounded-[3px] border border-base-300"
                title={`Drag: ${label.toLowerCase()}, ${end}`}
                data-testid={`${label}, ${end}`}
                {...dragged(end)}
              >
                {samples.draw({ [look]: value[end] })}
              </div>
            )}
            <ValueField
              label={`${label}, ${end}`}
              hideLabel
              kind={of}
              unit={unit}
              suffix={suffix}
              value={ends[end]}
              min={min}
              max={max}
              step={1}
              onChange={(v, g) => onChange(end, v, g)}
            />
          </div>
        ))}
      </div>
    </fieldset>
  );
}
