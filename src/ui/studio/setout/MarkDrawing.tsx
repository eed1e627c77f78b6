'use client';

import { type PointerEvent, useState } from 'react';
import type { Vec2 } from '@/core/geometry/vec';
import type { SheetSummary } from '@/core/mapping/sheet';
import { type EdgeMark, edgeNear, type Mark, markNear } from '@/core/setout/marks';
import { type MarkTool, useSelection } from '../../project/selection';
import { useKeys } from '../../shared/keys';
import { type SheetViewport, toScreen, toSheet } from '../sheet/view';

/** How near to a corner or an edge a click counts, px. */
const REACH = 14;
const WORDS: Record<Mark['kind'], string> = {
  corner: 'on this corner',
  middle: 'on this middle',
  edge: 'on this edge',
};

/** Over the sheet while a place is picked to start on, or an edge to run along. */
export function MarkDrawing({
  tool,
  sheet,
  view,
  onStart,
  onAlong,
}: {
  tool: MarkTool;
  sheet: SheetSummary;
  view: SheetViewport;
  onStart: (at: Vec2) => void;
  onAlong: (turnDeg: number) => void;
}) {
  const setTool = useSelection((s) => s.setMarkTool);
  const [mark, setMark] = useState<Mark | null>(null);
  const [edge, setEdge] = useState<EdgeMark | null>(null);
  useKeys({ Escape: () => setTool(null) });
  const loops = sheet.charts.flatMap((c) => c.outline);
  const reach = REACH / view.scale;
  const placeOf = (e: PointerEvent): Vec2 => {
    const rect = e.currentTarget.getBoundingClientRect();
    return toSheet(view, [e.clientX - rect.left, e.clientY - rect.top]);
  };
  const look = (e: PointerEvent) => {
    const at = placeOf(e);
    if (tool === 'start') setMark(markNear(loops, at, reach) ?? { at, kind: 'edge' });
    else setEdge(edgeNear(loops, at, reach));
  };
  const point = tool === 'start' && mark ? toScreen(view, mark.at) : null;
  const line = tool === 'along' && edge ? [toScreen(view, edge.from), toScreen(view, edge.to)] : null;
  return (
    <div
      className="absolute inset-0 cursor-crosshair touch-none"
      data-testid="mark-drawing"
      onPointerMove={look}
      onPointerDown={(e) => e.stopPropagation()}
      onPointerUp={(e) => {
        e.stopPropagation();
        const at = placeOf(e);
        if (tool === 'start') onStart(markNear(loops, at, reach)?.at ?? at);
        else {
          const found = edgeNear(loops, at, reach);
          if (!found) return;
          onAlong(found.turnDeg);
        }
        setTool(null);
      }}
    >
      <svg className="pointer-events-none absolute inset-0 h-full w-full">
        {point && (
          <circle cx={point[0]} cy={point[1]} r="6" fill="none" stroke="var(--color-primary)" strokeWidth="2" />
        )}
        {line && (
          <line
            x1={line[0][0]}
            y1={line[0][1]}
            x2={line[1][0]}
            y2={line[1][1]}
            stroke="var(--color-primary)"
            strokeWidth="3"
          />
        )}
      </svg>
      <output className="card-panel absolute bottom-3 left-3 px-2 py-1 text-2xs">
        {tool === 'along'
          ? edge
            ? `Courses along this edge, turned ${edge.turnDeg}°`
            : 'Click an edge that courses are to run along'
          : mark && markNear(loops, mark.at, reach)
            ? `Start ${WORDS[mark.kind]}`
            : 'Click a corner, a middle or an edge to start on'}
      </output>
    </div>
  );
}
