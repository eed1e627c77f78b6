'use client';

import { Pencil, Trash2 } from 'lucide-react';
import { MOST_LINES } from '@/core/prep/steps/seamless';
import { usePrep } from '../prepStore';
import type { Of } from './of';

/** A line to begin with, shares of the picture. */
const STRAIGHT: [number, number][] = [0, 0.25, 0.5, 0.75, 1].map((y) => [0.1, y]);

/** Lines that the seam is led along: drawn on the picture before it closes, corrected by their places. */
export function SeamLines({ step, onChange }: Of<'seamless'>) {
  const { before, showBefore, pinning, setPinning } = usePrep();
  const { lines = [], mode } = step;
  if (mode === 'mirror' && !lines.length) return null;
  return (
    <div className="space-y-1" role="group" aria-label="Led along">
      {lines.map((line, n) => (
        // they have no name but their number
        <div key={n} className="flex items-center gap-1">
          <span className="quiet num flex-1 text-2xs">
            Line {n + 1}, {line.length} places
          </span>
          <button
            type="button"
            className="tool h-[22px] px-1"
            aria-label={`Remove line ${n + 1}`}
            onClick={() => onChange({ ...step, lines: lines.filter((_, k) => k !== n) })}
          >
            <Trash2 size={12} />
          </button>
        </div>
      ))}
      <div className="flex flex-wrap items-center gap-1.5">
        <button
          type="button"
          className="tool tool-line h-[22px] px-1.5 text-2xs"
          aria-pressed={pinning}
          title="Where the seam runs: along a dark line of the grain it is not seen"
          onClick={() => {
            if (!pinning) showBefore(true);
            setPinning(!pinning);
          }}
        >
          <Pencil size={12} /> Draw a line for the seam
        </button>
        <button
          type="button"
          className="tool h-[22px] px-1.5 text-2xs"
          disabled={lines.length >= MOST_LINES}
          title="A straight one near the left edge, whose places are then moved by hand or by the arrow keys"
          onClick={() => {
            showBefore(true);
            onChange({ ...step, lines: [...lines, STRAIGHT] });
          }}
        >
          Straight line
        </button>
        {lines.length > 0 && (
          <button type="button" className="tool h-[22px] px-1.5 text-2xs" onClick={() => showBefore(!before)}>
            {before ? 'Show it closed' : 'Show the lines'}
          </button>
        )}
      </div>
      {pinning && (
        <p className="quiet text-2xs leading-tight">
          Draw on the picture: up and down near the left or right edge, or side to side near the upper or lower one.
        </p>
      )}
    </div>
  );
}
