'use client';

import { type PointerEvent, useState } from 'react';
import type { Vec2 } from '@/core/geometry/vec';
import { noCorrection, type Pull } from '@/core/mapping/correctionSchema';
import type { SheetSummary } from '@/core/mapping/sheet';
import type { Spec } from '@/core/specification/schema';
import type { MappingSpec } from '@/core/mapping/schema';
import { formatLength, type LengthUnit } from '@/core/units/length';
import { type PullTool, useSelection } from '../../project/selection';
import { useKeys } from '../../shared/keys';
import { type SheetViewport, toScreen, toSheet } from '../sheet/view';

/** How far a pull reaches, as a share of the sheet's larger side. */
const REACH = 0.15;

/** Over the sheet while a point or a row is pulled. */
export function PullDrawing({
  tool,
  sheet,
  view,
  unit,
  onPull,
}: {
  tool: PullTool;
  sheet: SheetSummary;
  view: SheetViewport;
  unit: LengthUnit;
  onPull: (pull: Pull) => void;
}) {
  const setTool = useSelection((s) => s.setPullTool);
  const [from, setFrom] = useState<Vec2 | null>(null);
  const [at, setAt] = useState<Vec2 | null>(null);
  useKeys({ Escape: () => setTool(null) });
  const place = (e: PointerEvent): Vec2 => {
    const rect = e.currentTarget.getBoundingClientRect();
    return toSheet(view, [e.clientX - rect.left, e.clientY - rect.top]);
  };
  const { minX, minY, maxX, maxY } = sheet.bounds;
  const tidy = (v: number) => Math.round(v * 10) / 10;
  const reachMm = tidy(Math.max(maxX - minX, maxY - minY) * REACH);
  const [s, t] = [from && toScreen(view, from), at && toScreen(view, at)];
  const movedBy = (a: Vec2, b: Vec2) => {
    const [right, up] = [0, 1].map((c) => formatLength(tidy(b[c] - a[c]), unit));
    return tool === 'row' ? `${up} up` : `${right} right, ${up} up`;
  };
  return (
    <div
      className="absolute inset-0 cursor-crosshair touch-none"
      data-testid="pull-drawing"
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
        setFrom(place(e));
      }}
      onPointerMove={(e) => setAt(place(e))}
      onPointerUp={(e) => {
        e.stopPropagation();
        const to = place(e);
        const start = from;
        setFrom(null);
        if (!start) return;
        const [xMm, yMm] = [tidy(start[0] - minX), tidy(start[1] - minY)];
        const [rightMm, upMm] = [tidy(to[0] - start[0]), tidy(to[1] - start[1])];
        if (Math.hypot(rightMm, upMm) * view.scale < 2) return;
        onPull(
          tool === 'row' ? { kind: 'row', yMm, upMm, reachMm } : { kind: 'point', xMm, yMm, rightMm, upMm, reachMm },
        );
      }}
    >
      <svg className="pointer-events-none absolute inset-0 h-full w-full">
        {tool === 'row' && (s ?? t) && (
          <line
            x1={0}
            x2={view.width}
            y1={(s ?? t)![1]}
            y2={(s ?? t)![1]}
            stroke="var(--color-primary)"
            strokeDasharray="6 4"
          />
        )}
        {s && t && (
          <line
            x1={s[0]}
            y1={s[1]}
            x2={tool === 'row' ? s[0] : t[0]}
            y2={t[1]}
            stroke="var(--color-primary)"
            strokeWidth="1.5"
          />
        )}
        {s && tool === 'point' && (
          <circle
            cx={s[0]}
            cy={s[1]}
            r={reachMm * view.scale}
            fill="none"
            stroke="var(--color-primary)"
            strokeDasharray="3 4"
          />
        )}
      </svg>
      <output className="num card-panel on-canvas left-1/2 -translate-x-1/2">
        {from && at ? movedBy(from, at) : `Drag a ${tool} to where it belongs; Esc ends`}
      </output>
    </div>
  );
}

/** The spec with one more pull. */
export function withPull(spec: Spec, pull: Pull): Spec {
  const correction = spec.mapping.correction ?? noCorrection();
  return {
    ...spec,
    mapping: { ...spec.mapping, correction: { ...correction, pulls: [...correction.pulls, pull] } } as MappingSpec,
  };
}
