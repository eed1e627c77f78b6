'use client';

import { type PointerEvent, useState } from 'react';
import type { Vec2 } from '@/core/geometry/vec';
import type { SheetSummary } from '@/core/mapping/sheet';
import type { Surface } from '@/core/project/schema';
import { formatLength, type LengthUnit } from '@/core/units/length';
import { drawnShape, drawStep, shapeOutline, snapPoint } from '@/core/zones/draw';
import { useSelection, type ZoneTool } from '../../project/selection';
import { useKeys } from '../../shared/keys';
import { type SheetViewport, toScreen, toSheet } from '../sheet/view';
import { addZones, zoneBases } from './addZone';

/** Over the sheet while a zone is drawn: a rectangle or a circle by dragging, an outline corner by corner. */
export function ZoneDrawing({
  tool,
  surface,
  sheet,
  view,
  unit,
}: {
  tool: ZoneTool;
  surface: Surface;
  sheet: SheetSummary;
  view: SheetViewport;
  unit: LengthUnit;
}) {
  const setTool = useSelection((s) => s.setZoneTool);
  const [points, setPoints] = useState<Vec2[]>([]);
  const [at, setAt] = useState<Vec2 | null>(null);

  const place = (e: PointerEvent): Vec2 => {
    const rect = e.currentTarget.getBoundingClientRect();
    const raw = toSheet(view, [e.clientX - rect.left, e.clientY - rect.top]);
    return snapPoint(raw, sheet, e.altKey ? 0 : 8 / view.scale, e.altKey ? 0 : drawStep(view.scale));
  };
  const finish = (all: Vec2[]) => {
    const shape = drawnShape(tool, all, sheet);
    setPoints([]);
    if (!shape) return;
    setTool(null);
    void addZones(zoneBases(surface), shape);
  };

  useKeys({
    Escape: () => setTool(null),
    Enter: () => tool === 'polygon' && finish(points),
    Backspace: () => setPoints((p) => p.slice(0, -1)),
  });

  const trial = points.length ? drawnShape(tool, [...points, ...(at ? [at] : [])], sheet) : null;
  const outline = trial ? shapeOutline(trial, sheet) : points.length && at ? [...points, at] : [];
  const path = outline
    .map((p) =>
      toScreen(view, p)
        .map((v) => v.toFixed(1))
        .join(','),
    )
    .join(' ');
  const length = (mm: number) => formatLength(mm, unit);
  const told =
    trial?.kind === 'rectangle'
      ? `${length(trial.widthMm)} × ${length(trial.heightMm)}`
      : trial?.kind === 'circle'
        ? `radius ${length(trial.radiusMm)}`
        : at && tool === 'polygon' && points.length
          ? length(Math.hypot(at[0] - points[points.length - 1][0], at[1] - points[points.length - 1][1]))
          : at
            ? `${length(at[0] - sheet.bounds.minX)}, ${length(at[1] - sheet.bounds.minY)} from the lower left corner`
            : '';

  return (
    <div
      className="absolute inset-0 cursor-crosshair touch-none"
      data-testid="zone-drawing"
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        e.stopPropagation();
        const p = place(e);
        if (tool !== 'polygon') {
          e.currentTarget.setPointerCapture(e.pointerId);
          return setPoints([p]);
        }
        // back on the first corner closes the outline
        const first = points[0];
        if (first && points.length > 2 && Math.hypot(p[0] - first[0], p[1] - first[1]) < 10 / view.scale)
          return finish(points);
        setPoints([...points, p]);
      }}
      onPointerMove={(e) => setAt(place(e))}
      onPointerUp={(e) => {
        e.stopPropagation();
        if (tool !== 'polygon' && points.length) finish([...points, place(e)]);
      }}
      onDoubleClick={() => tool === 'polygon' && finish(points.slice(0, -1))}
    >
      <svg className="pointer-events-none absolute inset-0 h-full w-full">
        {path && (
          <polygon
            points={path}
            fill="var(--color-primary)"
            fillOpacity="0.08"
            stroke="var(--color-primary)"
            strokeWidth="1.5"
          />
        )}
        {at && <circle cx={toScreen(view, at)[0]} cy={toScreen(view, at)[1]} r="3.5" fill="var(--color-primary)" />}
      </svg>
      <output className="num card-panel on-canvas left-1/2 -translate-x-1/2">
        {told ||
          (tool === 'polygon'
            ? 'Click the corners; Enter or the first corner closes'
            : tool === 'circle'
              ? 'Drag from the centre'
              : 'Drag from corner to corner')}
      </output>
    </div>
  );
}
