'use client';

import type { ReadModule } from '@/api/answers';
import { formatLength, type LengthUnit } from '@/core/units/length';
import { boxOf, pathOf, tintOf } from './drawShapes';

type Read = ReadModule;

/** Repeats drawn round the one that is looked at. */
const AROUND = [-1, 0, 1, 2];

/** A drawing as it repeats, true to scale: its own shapes filled, copies in outline, flaws marked where they are. */
export function RepeatDrawing({ read, unit }: { read: Read; unit: LengthUnit }) {
  const { shapes, right, up, flaws } = read;
  const [x0, y0, x1, y1] = boxOf(shapes);
  const [w, h] = [Math.max(x1 - x0, Math.hypot(...right)), Math.max(y1 - y0, Math.hypot(...up))];
  const pad = 0.45 * Math.max(w, h);
  const view = [x0 - pad, -y1 - pad, x1 - x0 + 2 * pad, y1 - y0 + 2 * pad];
  const px = Math.max(view[2], view[3]) / 700;
  const roles = [...new Set(shapes.map((s) => s.role))];
  return (
    <svg viewBox={view.join(' ')} className="h-full w-full" role="img" aria-label="The drawing as it repeats">
      <g fill="none" stroke="var(--color-base-content)" strokeOpacity={0.28} strokeWidth={px}>
        {AROUND.flatMap((j) =>
          AROUND.map((i) =>
            i || j ? (
              <path
                key={`${i},${j}`}
                d={shapes.map((s) => pathOf(s.corners, i * right[0] + j * up[0], i * right[1] + j * up[1])).join('')}
              />
            ) : null,
          ),
        )}
      </g>
      {shapes.map((s, n) => (
        <path
          key={n}
          d={pathOf(s.corners)}
          fill={tintOf(roles, s.role)}
          stroke="var(--color-base-content)"
          strokeWidth={1.4 * px}
        >
          <title>{s.role}</title>
        </path>
      ))}
      {flaws.map((f, n) => (
        <g key={n} data-flaw={f.kind}>
          <path d={pathOf(f.outline)} fill="var(--color-error)" fillOpacity={0.55} />
          <circle
            cx={f.at[0]}
            cy={-f.at[1]}
            r={Math.max(9 * px, Math.max(...f.sizeMm) / 2 + 4 * px)}
            fill="none"
            stroke="var(--color-error)"
            strokeWidth={2 * px}
          />
        </g>
      ))}
      <StepArrow step={right} px={px} label={formatLength(Math.hypot(...right), unit)} />
      <StepArrow step={up} px={px} label={formatLength(Math.hypot(...up), unit)} />
    </svg>
  );
}

/** One of the two steps, from the corner where the module begins. */
function StepArrow({ step: [x, y], px, label }: { step: readonly [number, number]; px: number; label: string }) {
  const l = Math.hypot(x, y) || 1;
  const [ux, uy] = [x / l, -y / l];
  const head = 9 * px;
  const [hx, hy] = [head * ux, head * uy];
  const corners = [
    [x, -y],
    [x - hx - 0.45 * hy, -y - hy + 0.45 * hx],
    [x - hx + 0.45 * hy, -y - hy - 0.45 * hx],
  ];
  const tip = `M${corners.map((c) => c.join(' ')).join('L')}Z`;
  // beside the arrow: below one that runs level, left of one that stands
  const side = Math.abs(x) > Math.abs(y) ? [0, 20 * px] : [-10 * px, 0];
  return (
    <g stroke="var(--color-primary)" fill="var(--color-primary)">
      <path d={`M0 0L${x} ${-y}`} fill="none" strokeWidth={2.4 * px} />
      <path d={tip} strokeWidth={px} />
      <text
        x={x / 2 + side[0]}
        y={-y / 2 + side[1]}
        fontSize={13 * px}
        stroke="var(--color-base-100)"
        strokeWidth={4 * px}
        paintOrder="stroke"
        textAnchor={Math.abs(x) > Math.abs(y) ? 'middle' : 'end'}
        className="num"
      >
        {label}
      </text>
    </g>
  );
}
