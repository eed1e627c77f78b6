'use client';

import { useRef } from 'react';
import type { Vec2 } from '@/core/geometry/vec';
import type { Places } from '@/core/prep/steps/places';
import { newId } from '../shared/ids';

export interface Handles {
  toScreen: (p: Vec2 | readonly number[]) => Vec2;
  toShare: (e: { clientX: number; clientY: number }) => Vec2;
}

/** A point that can be dragged; one drag is one gesture. */
export function Handle({
  at,
  label,
  toScreen,
  toShare,
  onMove,
}: Handles & { at: readonly number[]; label: string; onMove: (p: Vec2, gesture: string) => void }) {
  const gesture = useRef('');
  const [x, y] = toScreen(at);
  const step = (dx: number, dy: number) => onMove([at[0] + dx, at[1] + dy], newId('gesture'));
  return (
    <circle
      role="button"
      tabIndex={0}
      aria-label={label}
      className="pointer-events-auto cursor-move"
      cx={x}
      cy={y}
      r={7}
      fill="var(--color-base-100)"
      fillOpacity="0.7"
      stroke="var(--color-primary)"
      strokeWidth={2}
      onPointerDown={(e) => {
        e.stopPropagation();
        e.currentTarget.setPointerCapture(e.pointerId);
        gesture.current = newId('gesture');
      }}
      onPointerMove={(e) =>
        e.currentTarget.hasPointerCapture(e.pointerId) &&
        onMove(toShare(e).map((v) => Math.round(v * 1e5) / 1e5) as Vec2, gesture.current)
      }
      onKeyDown={(e) => {
        const by = e.altKey ? 0.0002 : e.shiftKey ? 0.01 : 0.001;
        const move = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, -by], ArrowDown: [0, by] }[e.key];
        if (!move) return;
        e.preventDefault();
        step(move[0], move[1]);
      }}
    />
  );
}

/** Places of a step or a mask, to be dragged, and what is drawn through them. */
export function PlaceHandles<S>({
  places: { shape, through, text, points },
  dashed,
  toScreen,
  toShare,
  onChange,
}: Handles & { places: Places<S>; dashed?: boolean; onChange: (changed: S, gesture: string) => void }) {
  const line = dashed
    ? { stroke: 'var(--color-secondary)', strokeWidth: 1.2, strokeDasharray: '5 4' }
    : { stroke: 'var(--color-primary)', strokeWidth: 1.5 };
  const screen = through.map(toScreen);
  const [a, b] = screen;
  const [width, height] = [Math.abs(b[0] - a[0]), Math.abs(b[1] - a[1])];
  return (
    <>
      {shape === 'line' && <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} {...line} />}
      {shape === 'path' && <polyline points={screen.map((p) => p.join(',')).join(' ')} fill="none" {...line} />}
      {shape === 'outline' && <polygon points={screen.map((p) => p.join(',')).join(' ')} fill="none" {...line} />}
      {shape === 'box' && (
        <rect x={Math.min(a[0], b[0])} y={Math.min(a[1], b[1])} width={width} height={height} fill="none" {...line} />
      )}
      {shape === 'ellipse' && <ellipse cx={a[0]} cy={a[1]} rx={width} ry={height} fill="none" {...line} />}
      {text && (
        <text
          x={(a[0] + b[0]) / 2}
          y={(a[1] + b[1]) / 2 - 8}
          textAnchor="middle"
          className="num"
          fontSize="12"
          fill="var(--color-primary)"
          stroke="var(--color-base-100)"
          strokeWidth="3"
          paintOrder="stroke"
        >
          {text}
        </text>
      )}
      {points.map(({ at, label, moved }) => (
        <Handle
          key={label}
          toScreen={toScreen}
          toShare={toShare}
          at={at}
          label={label}
          onMove={(to, gesture) => onChange(moved(to), gesture)}
        />
      ))}
    </>
  );
}
