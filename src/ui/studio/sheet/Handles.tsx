'use client';

import { type PointerEvent } from 'react';
import { type Placement } from '@/core/setout/placement';
import { turnOf } from '@/core/geometry/turn';
import type { Vec2 } from '@/core/geometry/vec';
import { pictureFrame } from '@/core/setout/handles';
import { RULE } from './drawSheet';
import { type SheetViewport, toScreen } from './view';

export type Handle = 'slide' | 'size' | 'turn' | 'pan';

/** Start mark, frame of one picture, and the handles; drawn as SVG so that they can be found and dragged. */
export function Handles({
  view,
  placement,
  sizable,
  piecing,
  outline,
  begin,
}: {
  view: SheetViewport;
  placement: Placement;
  sizable: boolean;
  /** A press is meant for a single piece. */
  piecing: boolean;
  outline: Vec2[][][];
  begin: (handle: Handle, e: PointerEvent) => void;
}) {
  const frame = pictureFrame(placement).map((p) => toScreen(view, p));
  const [start, along, far] = frame;
  const [c, s] = turnOf(placement.turnDeg);
  const sign = placement.mirrorX ? -1 : 1;
  // the turning handle lies on the picture's baseline, a fixed way beyond its right corner
  const lever: Vec2 = [along[0] + c * 26 * sign, along[1] - s * 26 * sign];
  const path = outline
    .flat()
    .map(
      (loop) =>
        `M${loop
          .map((p) =>
            toScreen(view, p)
              .map((v) => v.toFixed(1))
              .join(' '),
          )
          .join('L')}Z`,
    )
    .join('');
  const points = frame.map((p) => p.map((v) => v.toFixed(1)).join(',')).join(' ');
  return (
    <svg
      className="absolute inset-0 h-full w-full overflow-hidden"
      style={{ pointerEvents: 'none', clipPath: `inset(${RULE}px 0 0 ${RULE}px)` }}
    >
      <path
        d={path}
        fillRule="evenodd"
        fill="transparent"
        style={{ pointerEvents: 'fill', cursor: piecing ? 'crosshair' : 'move' }}
        data-testid="slide-area"
        onPointerDown={(e) => begin('slide', e)}
      >
        <title>Drag to slide; Alt for free values</title>
      </path>
      <polygon points={points} fill="none" stroke="var(--color-base-100)" strokeWidth="3" opacity="0.7" />
      <polygon points={points} fill="none" stroke="var(--color-primary)" strokeWidth="1" strokeDasharray="6 4" />
      <line x1={along[0]} y1={along[1]} x2={lever[0]} y2={lever[1]} stroke="var(--color-primary)" />
      <g stroke="var(--color-primary)" strokeWidth="2">
        <title>Start</title>
        <line x1={start[0] - 9} y1={start[1]} x2={start[0] + 9} y2={start[1]} />
        <line x1={start[0]} y1={start[1] - 9} x2={start[0]} y2={start[1] + 9} />
        <circle cx={start[0]} cy={start[1]} r="4.5" fill="var(--color-base-100)" />
      </g>
      {sizable && (
        <rect
          x={far[0] - 6}
          y={far[1] - 6}
          width="12"
          height="12"
          rx="2"
          fill="var(--color-base-100)"
          stroke="var(--color-primary)"
          strokeWidth="1.5"
          style={{ pointerEvents: 'all', cursor: 'nesw-resize' }}
          data-testid="size-handle"
          onPointerDown={(e) => begin('size', e)}
        >
          <title>Drag to size; lands on round values, Alt for free</title>
        </rect>
      )}
      <circle
        cx={lever[0]}
        cy={lever[1]}
        r="6.5"
        fill="var(--color-base-100)"
        stroke="var(--color-primary)"
        strokeWidth="1.5"
        style={{ pointerEvents: 'all', cursor: 'grab' }}
        data-testid="turn-handle"
        onPointerDown={(e) => begin('turn', e)}
      >
        <title>Drag to turn; snaps to 15°, Alt for free</title>
      </circle>
    </svg>
  );
}
