'use client';

import { Minus, Plus } from 'lucide-react';
import { type PointerEvent, useRef, useState } from 'react';
import type { Vec2 } from '@/core/geometry/vec';
import { addPoint, curveAt, LEAST_POINTS, MOST_POINTS, movePoint, widestGap } from '@/core/picture/curve';
import type { Curve } from '@/core/prep/schema';
import { PercentField } from '../../shared/fields';
import { Handle } from '../TableHandles';
import { ReadFrom } from './ReadFrom';

const WIDTH = 232;
const HEIGHT = 104;
/** Room for the handles of points at the rim, px. */
const ROOM = 9;

/**
 * What lightness or height becomes: points that are dragged, moved by arrow keys or typed. A double click sets one
 * more, and so does _Add_, where there is most room.
 */
export function CurveField({
  role,
  curve,
  inJoints,
  taken,
  onChange,
}: {
  /** What it gives, as a word. */
  role: string;
  curve: Curve;
  inJoints: string;
  /** After which step it is taken, as a field. */
  taken: React.ReactNode;
  onChange: (change: Partial<Curve>, gesture?: string) => void;
}) {
  const [chosen, setChosen] = useState(0);
  const picture = useRef<SVGSVGElement>(null);
  const { points } = curve;
  const picked = Math.min(chosen, points.length - 1);
  const [least, most] = curve.of === 'height' || curve.patches ? ['low', 'high'] : ['dark', 'light'];
  const toScreen = ([at, down]: Vec2 | readonly number[]): Vec2 => [
    ROOM + at * (WIDTH - 2 * ROOM),
    ROOM + down * (HEIGHT - 2 * ROOM),
  ];
  const toShare = ({ clientX, clientY }: { clientX: number; clientY: number }): Vec2 => {
    const box = picture.current!.getBoundingClientRect();
    return [(clientX - box.left - ROOM) / (WIDTH - 2 * ROOM), (clientY - box.top - ROOM) / (HEIGHT - 2 * ROOM)];
  };
  const move = (n: number, to: readonly [number, number], gesture?: string) =>
    onChange({ points: movePoint(points, n, to) }, gesture);
  const add = (at: number, value?: number) => {
    if (points.length === MOST_POINTS) return;
    const [next, n] = addPoint(points, Math.min(1, Math.max(0, at)), value);
    onChange({ points: next });
    setChosen(n);
  };
  const addUnder = (e: PointerEvent | React.MouseEvent) => {
    const [at, down] = toShare(e);
    add(at, 1 - down);
  };
  const line = [[0, curveAt(points, 0)], ...points, [1, curveAt(points, 1)]]
    .map(([at, value]) => toScreen([at, 1 - value]).join(','))
    .join(' ');
  const [left, top] = toScreen([0, 0]);
  const [right, bottom] = toScreen([1, 1]);
  return (
    <div className="mt-1.5 flex gap-3">
      <div className="flex shrink-0 flex-col justify-between">
        <figure>
          <svg
            ref={picture}
            width={WIDTH}
            height={HEIGHT}
            className="block border border-base-300 bg-base-100"
            role="group"
            aria-label={`${role} by what is ${least} or ${most}`}
            onDoubleClick={addUnder}
          >
            {[0.25, 0.5, 0.75].map((share) => {
              const [x, y] = toScreen([share, share]);
              return (
                <g key={share} stroke="var(--color-base-300)">
                  <line x1={x} x2={x} y1={top} y2={bottom} />
                  <line x1={left} x2={right} y1={y} y2={y} />
                </g>
              );
            })}
            <polyline points={line} fill="none" stroke="var(--color-primary)" strokeWidth={1.5} />
            {points.map(([at, value], n) => (
              <g key={n} onFocus={() => setChosen(n)} onDoubleClick={(e) => e.stopPropagation()}>
                <Handle
                  at={[at, 1 - value]}
                  label={`Point ${n + 1} of the curve`}
                  toScreen={toScreen}
                  toShare={toShare}
                  onMove={([x, down], g) => move(n, [x, 1 - down], g)}
                />
                {n === picked && (
                  <circle
                    cx={toScreen([at, 0])[0]}
                    cy={toScreen([0, 1 - value])[1]}
                    r={3}
                    fill="var(--color-primary)"
                    pointerEvents="none"
                  />
                )}
              </g>
            ))}
          </svg>
          <figcaption className="quiet flex justify-between text-2xs">
            <span>{least}</span>
            <span>{most}</span>
          </figcaption>
        </figure>
        {taken}
      </div>
      <div className="grid flex-1 grid-cols-[repeat(auto-fill,minmax(96px,1fr))] content-start items-end gap-1.5">
        <ReadFrom
          patches={curve.patches}
          of={curve.of}
          others={[['height', 'heights']]}
          onChange={({ of, patches }, g) => onChange({ of: of as Curve['of'], patches }, g)}
        />
        <PercentField
          label={`Where ${least} or ${most}`}
          value={points[picked][0]}
          onChange={(at, g) => move(picked, [at, points[picked][1]], g)}
        />
        <PercentField
          label={`${role} there`}
          value={points[picked][1]}
          onChange={(value, g) => move(picked, [points[picked][0], value], g)}
        />
        <PercentField label={inJoints} value={curve.joints} onChange={(joints, g) => onChange({ joints }, g)} />
        <div className="flex gap-1">
          <button
            type="button"
            className="tool h-[26px] px-1.5 text-2xs"
            disabled={points.length === MOST_POINTS}
            title="One more point, where there is most room"
            onClick={() => add(widestGap(points))}
          >
            <Plus size={12} /> Add
          </button>
          <button
            type="button"
            className="tool h-[26px] px-1.5 text-2xs"
            disabled={points.length === LEAST_POINTS}
            title="Take the picked point out"
            onClick={() => onChange({ points: points.filter((_, n) => n !== picked) })}
          >
            <Minus size={12} /> Take out
          </button>
        </div>
      </div>
    </div>
  );
}
