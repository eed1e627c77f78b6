'use client';

import { type PointerEvent, useState } from 'react';
import type { Vec2 } from '@/core/geometry/vec';
import type { SheetSummary } from '@/core/mapping/sheet';
import type { Material } from '@/core/material/schema';
import { formatLength, type LengthUnit } from '@/core/units/length';
import type { WearSpec } from '@/core/wear/schema';
import { type WearTool, useSelection } from '../../project/selection';
import { useKeys } from '../../shared/keys';
import { type SheetViewport, toScreen, toSheet } from '../sheet/view';
import { layMark, layPath } from './layWear';

const said = (view: SheetViewport, points: readonly Vec2[]) =>
  points
    .map((p) =>
      toScreen(view, p)
        .map((v) => v.toFixed(1))
        .join(','),
    )
    .join(' ');

/** Over the sheet while a path is drawn point by point, or a mark is put. */
export function WearDrawing({
  tool,
  surface,
  sheet,
  view,
  unit,
}: {
  tool: WearTool;
  surface: string;
  sheet: SheetSummary;
  view: SheetViewport;
  unit: LengthUnit;
}) {
  const setTool = useSelection((s) => s.setWearTool);
  const [points, setPoints] = useState<Vec2[]>([]);
  const [at, setAt] = useState<Vec2 | null>(null);
  const finish = (all: Vec2[]) => {
    if (tool.kind !== 'path') return;
    setPoints([]);
    setTool(null);
    if (all.length > 1) layPath(surface, tool.layer, all);
  };
  useKeys({
    Escape: () => setTool(null),
    Enter: () => finish(points),
    Backspace: () => setPoints((p) => p.slice(0, -1)),
  });
  const place = (e: PointerEvent): Vec2 => {
    const rect = e.currentTarget.getBoundingClientRect();
    return toSheet(view, [e.clientX - rect.left, e.clientY - rect.top]);
  };
  const line = [...points, ...(at && points.length ? [at] : [])];
  const length = (mm: number) => formatLength(mm, unit);
  const told = at && `${length(at[0] - sheet.bounds.minX)}, ${length(at[1] - sheet.bounds.minY)} from the lower left`;
  return (
    <div
      className="absolute inset-0 cursor-crosshair touch-none"
      data-testid="wear-drawing"
      onPointerDown={(e) => e.stopPropagation()}
      onPointerMove={(e) => setAt(place(e))}
      onPointerUp={(e) => {
        e.stopPropagation();
        if (e.button !== 0) return;
        const p = place(e);
        if (tool.kind === 'mark') layMark(surface, tool.material, p);
        else setPoints([...points, p]);
      }}
      onDoubleClick={() => finish(points.slice(0, -1))}
    >
      <svg className="pointer-events-none absolute inset-0 h-full w-full">
        {tool.kind === 'mark' && at && <polygon points={said(view, cornersOf(tool.material, at))} {...LINE} />}
        {line.length > 1 && <polyline points={said(view, line)} {...LINE} />}
      </svg>
      <output className="num card-panel on-canvas left-1/2 -translate-x-1/2">
        {tool.kind === 'mark'
          ? `Click where ${tool.material.name} lies · ${told ?? ''}`
          : points.length
            ? `${points.length} points; Enter ends the path`
            : 'Click along the path'}
      </output>
    </div>
  );
}

const LINE = { fill: 'none', stroke: 'var(--color-primary)', strokeWidth: 1.5 };

/** A mark's outline at its true size. */
function cornersOf(
  { widthMm: w, heightMm: h }: Pick<Material, 'widthMm' | 'heightMm'>,
  [x, y]: Vec2,
  turnDeg = 0,
): Vec2[] {
  const [c, s] = [Math.cos((turnDeg * Math.PI) / 180), Math.sin((turnDeg * Math.PI) / 180)];
  return [
    [-w, -h],
    [w, -h],
    [w, h],
    [-w, h],
  ].map(([a, b]) => [x + (a * c - b * s) / 2, y + (a * s + b * c) / 2]);
}

/** Where paths and marks lie, thin, so that they can be found on the sheet. */
export function WearOutlines({
  wear,
  materials,
  view,
}: {
  wear: WearSpec;
  materials: Readonly<Record<string, Material>>;
  view: SheetViewport;
}) {
  const paths = wear.layers.flatMap((l) => (l.kind === 'rubbed' && l.on && l.points.length > 1 ? [l.points] : []));
  const marks = wear.marks.flatMap(({ material, on, percent, xMm, yMm, turnDeg }) => {
    const of = materials[material];
    if (!of || !on) return [];
    const scaled = { widthMm: (of.widthMm * percent) / 100, heightMm: (of.heightMm * percent) / 100 };
    const corners = cornersOf(scaled, [xMm, yMm], turnDeg);
    return [[...corners, corners[0]]];
  });
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" data-testid="wear-outlines">
      {[...paths, ...marks].map((points, n) => (
        <g key={n}>
          <polyline
            points={said(view, points)}
            {...LINE}
            stroke="var(--color-base-100)"
            strokeWidth={3}
            opacity={0.7}
          />
          <polyline points={said(view, points)} {...LINE} />
        </g>
      ))}
    </svg>
  );
}
