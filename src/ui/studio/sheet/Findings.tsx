'use client';

import { type Finding, sayFinding } from '@/core/finding/finding';
import type { SheetSummary } from '@/core/mapping/sheet';
import type { LengthUnit } from '@/core/units/length';
import { type SheetViewport, toScreen } from './view';

/** What was noticed of what is laid, and where the sheet breaks; each list opens on its first line. */
export function Findings({
  findings,
  breaks,
  unit,
  onLook,
}: {
  findings: Finding[];
  breaks: SheetSummary['breaks'];
  unit: LengthUnit;
  /** While the findings are open their places are marked on the sheet. */
  onLook: (open: boolean) => void;
}) {
  const [first, ...others] = findings;
  return (
    <>
      {first && (
        <details
          className="hair border-t bg-base-100 px-2 py-1 text-2xs"
          data-testid="findings"
          onToggle={(e) => onLook(e.currentTarget.open)}
        >
          <summary className="truncate">{sayFinding(first, unit)}</summary>
          <ul className="quiet max-h-20 list-disc overflow-auto pl-5">
            {others.map((f, i) => (
              <li key={i}>{sayFinding(f, unit)}</li>
            ))}
          </ul>
        </details>
      )}
      {breaks.length > 0 && (
        <details className="hair border-t bg-base-100 px-2 py-1 text-2xs">
          <summary>
            {breaks.length === 1 ? 'The sheet breaks in one place' : `The sheet breaks in ${breaks.length} places`}
            {breaks[0].kind === 'loop' && `: ${sayFinding(breaks[0].finding, unit)}`}
          </summary>
          <ul className="quiet max-h-20 list-disc overflow-auto pl-5">
            {breaks.map((b, i) => (
              <li key={i}>{sayFinding(b.finding, unit)}</li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

/** A ring round every place that is named. */
export function FindingMarks({ findings, view }: { findings: Finding[]; view: SheetViewport }) {
  const places = findings.flatMap((f) => f.where ?? []);
  if (!places.length) return null;
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden data-testid="finding-marks">
      {places.map((place, i) => {
        const [x, y] = toScreen(view, [place[0], place[1]]);
        return <circle key={i} cx={x} cy={y} r={8} fill="none" stroke="var(--color-primary)" strokeWidth={2} />;
      })}
    </svg>
  );
}
