'use client';

import { useRef } from 'react';
import type { Vec2 } from '@/core/geometry/vec';
import { leafBorders, moveLine } from '@/core/material/leaves';
import type { Leaves } from '@/core/material/schema';
import type { Mask } from '@/core/prep/steps/mask';
import type { Step } from '@/core/prep/steps/registry';
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

/** What of a step lies on the picture. */
export function StepHandles({
  step: s,
  toScreen,
  toShare,
  onChange,
}: Handles & { step: Step; onChange: (s: Step, gesture?: string) => void }) {
  const line = { stroke: 'var(--color-primary)', strokeWidth: 1.5 };
  const common = { toScreen, toShare };
  if (s.kind === 'size' && (s.by.kind === 'line' || s.by.kind === 'count')) {
    const { by } = s;
    const [a, b] = [toScreen(by.from), toScreen(by.to)];
    return (
      <>
        <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} {...line} />
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
          {formatLength(by.kind === 'line' ? by.lengthMm : by.count * by.pieceMm, 'mm')}
        </text>
        <Handle
          {...common}
          at={by.from}
          label="Start of the line"
          onMove={(from, g) => onChange({ ...s, by: { ...by, from } }, g)}
        />
        <Handle
          {...common}
          at={by.to}
          label="End of the line"
          onMove={(to, g) => onChange({ ...s, by: { ...by, to } }, g)}
        />
      </>
    );
  }
  if (s.kind === 'corners') {
    return (
      <>
        <polygon points={s.corners.map((c) => toScreen(c).join(',')).join(' ')} fill="none" {...line} />
        {s.corners.map((c, i) => (
          <Handle
            key={i}
            {...common}
            at={c}
            label={['Upper left corner', 'Upper right corner', 'Lower right corner', 'Lower left corner'][i]}
            onMove={(p, g) => onChange({ ...s, corners: s.corners.map((q, k) => (k === i ? p : q)) }, g)}
          />
        ))}
      </>
    );
  }
  if (s.kind === 'crop') {
    const [a, b] = [toScreen(s.from), toScreen(s.to)];
    return (
      <>
        <rect
          x={Math.min(a[0], b[0])}
          y={Math.min(a[1], b[1])}
          width={Math.abs(b[0] - a[0])}
          height={Math.abs(b[1] - a[1])}
          fill="none"
          {...line}
        />
        <Handle
          {...common}
          at={s.from}
          label="Upper left of what is kept"
          onMove={(from, g) => onChange({ ...s, from }, g)}
        />
        <Handle
          {...common}
          at={s.to}
          label="Lower right of what is kept"
          onMove={(to, g) => onChange({ ...s, to }, g)}
        />
      </>
    );
  }
  return null;
}

/** Where a step works. */
export function MaskHandles({
  mask: m,
  toScreen,
  toShare,
  onChange,
}: Handles & { mask: Mask; onChange: (m: Mask, gesture?: string) => void }) {
  const common = { toScreen, toShare };
  const line = { stroke: 'var(--color-secondary)', strokeWidth: 1.2, strokeDasharray: '5 4' };
  if (m.kind === 'gradient') {
    const [a, b] = [toScreen(m.from), toScreen(m.to)];
    return (
      <>
        <line x1={a[0]} y1={a[1]} x2={b[0]} y2={b[1]} {...line} />
        <Handle
          {...common}
          at={m.from}
          label="All of the step here"
          onMove={(from, g) => onChange({ ...m, from }, g)}
        />
        <Handle {...common} at={m.to} label="None of the step here" onMove={(to, g) => onChange({ ...m, to }, g)} />
      </>
    );
  }
  const [c, e] = [toScreen(m.centre), toScreen([m.centre[0] + m.radius[0], m.centre[1] + m.radius[1]])];
  return (
    <>
      <ellipse cx={c[0]} cy={c[1]} rx={Math.abs(e[0] - c[0])} ry={Math.abs(e[1] - c[1])} fill="none" {...line} />
      <Handle
        {...common}
        at={m.centre}
        label="Middle of the ellipse"
        onMove={(centre, g) => onChange({ ...m, centre }, g)}
      />
      <Handle
        {...common}
        at={[m.centre[0] + m.radius[0], m.centre[1]]}
        label="Width of the ellipse"
        onMove={(p, g) => onChange({ ...m, radius: [Math.max(0.01, Math.abs(p[0] - m.centre[0])), m.radius[1]] }, g)}
      />
      <Handle
        {...common}
        at={[m.centre[0], m.centre[1] + m.radius[1]]}
        label="Height of the ellipse"
        onMove={(p, g) => onChange({ ...m, radius: [m.radius[0], Math.max(0.01, Math.abs(p[1] - m.centre[1]))] }, g)}
      />
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
