'use client';

import { useRef } from 'react';
import type { Vec2 } from '@/core/geometry/vec';
import { leafBorders, moveLine } from '@/core/material/leaves';
import type { Leaves } from '@/core/material/schema';
import type { Places } from '@/core/prep/steps/places';
import { formatLength } from '@/core/units/length';
import type { Shown } from '@/workers/prep.worker';
import { newId } from '../shared/ids';

export interface Handles {
  toScreen: (p: Vec2 | readonly number[]) => Vec2;
  toShare: (e: { clientX: number; clientY: number }) => Vec2;
}

/** A point that can be dragged; one drag is one gesture. */
function Handle({
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

/** Where the leaves of a many-piece picture lie; the lines between them are dragged by their ends. */
export function LeafHandles({
  leaves,
  shown,
  onChange,
  toScreen,
  toShare,
}: Handles & { leaves: Leaves; shown: Shown; onChange: (leaves: Leaves, gesture?: string) => void }) {
  const { columns, rows, insetMm, columnLines, rowLines } = leaves;
  const { x, y } = leafBorders(leaves);
  const mm = shown.mmPerPx ?? [1, 1];
  const [width, height] = [shown.width * mm[0], shown.height * mm[1]];
  const inset = [insetMm / width, insetMm / height];
  const size = (share: number, of: number) => formatLength(share * of, 'mm', { decimals: 0 });
  const label = {
    className: 'num',
    fontSize: 11,
    fill: 'var(--color-secondary)',
    stroke: 'var(--color-base-100)',
    strokeWidth: 3,
    paintOrder: 'stroke',
  };
  return (
    <g>
      <g fill="none" stroke="var(--color-secondary)" strokeWidth="1.2">
        {Array.from({ length: columns * rows }, (_, n) => {
          const [i, j] = [n % columns, Math.floor(n / columns)];
          const [a, b] = [
            toScreen([x[i] + inset[0], y[j] + inset[1]]),
            toScreen([x[i + 1] - inset[0], y[j + 1] - inset[1]]),
          ];
          return <rect key={n} x={a[0]} y={a[1]} width={Math.max(0, b[0] - a[0])} height={Math.max(0, b[1] - a[1])} />;
        })}
      </g>
      {shown.mmPerPx &&
        rowLines &&
        y.slice(1).map((to, j) => {
          const [px, py] = toScreen([1, (y[j] + to) / 2]);
          return (
            <text key={j} x={px - 6} y={py + 4} textAnchor="end" {...label}>
              {size(to - y[j], height)}
            </text>
          );
        })}
      {shown.mmPerPx &&
        columnLines &&
        x.slice(1).map((to, i) => {
          const [px, py] = toScreen([(x[i] + to) / 2, 1]);
          return (
            <text key={i} x={px} y={py - 6} textAnchor="middle" {...label}>
              {size(to - x[i], width)}
            </text>
          );
        })}
      {x.slice(1, -1).map((at, n) => (
        <Handle
          key={`x${n}`}
          toScreen={toScreen}
          toShare={toShare}
          at={[at, 0]}
          label={`Line ${n + 1} between columns`}
          onMove={(p, g) => onChange(moveLine(leaves, 'columnLines', n, p[0]), g)}
        />
      ))}
      {y.slice(1, -1).map((at, n) => (
        <Handle
          key={`y${n}`}
          toScreen={toScreen}
          toShare={toShare}
          at={[0, at]}
          label={`Line ${n + 1} between rows`}
          onMove={(p, g) => onChange(moveLine(leaves, 'rowLines', n, p[1]), g)}
        />
      ))}
    </g>
  );
}
