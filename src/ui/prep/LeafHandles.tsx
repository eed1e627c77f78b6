'use client';

import { useState } from 'react';
import type { Vec2 } from '@/core/geometry/vec';
import { leafBorders, LEAST_LEAF, leafPlaces, moveLine } from '@/core/material/leaves';
import type { LeafPlace, Leaves } from '@/core/material/schema';
import { formatLength } from '@/core/units/length';
import type { Shown } from '@/workers/prep.worker';
import { Handle, type Handles, PlaceHandles } from './TableHandles';

interface Of extends Handles {
  leaves: Leaves;
  shown: Shown;
  onChange: (leaves: Leaves, gesture?: string) => void;
}

/** Where the leaves of a many-piece picture lie, to be set right. */
export const LeafHandles = (props: Of) =>
  props.leaves.places ? <PlacedLeaves {...props} /> : <GridHandles {...props} />;

/** Where leaves lie that follow from the picture. */
export const LeafOutlines = ({ leaves, shown, toScreen }: Omit<Of, 'onChange' | 'toShare'>) => (
  <g fill="none" stroke="var(--color-secondary)" strokeWidth="1.2">
    {leafPlaces(leaves).map((place, n) => (
      <rect key={n} {...rectOf(place, leaves, shown, toScreen)} />
    ))}
  </g>
);

/** A leaf less its inset, on the screen. */
function rectOf(
  place: LeafPlace,
  { insetMm }: Leaves,
  { mmPerPx, width, height }: Shown,
  toScreen: Handles['toScreen'],
) {
  const mm = mmPerPx ?? [1, 1];
  const [x, y] = [insetMm / (width * mm[0]), insetMm / (height * mm[1])];
  const a = toScreen([place.x + x, place.y + y]);
  const b = toScreen([place.x + place.width - x, place.y + place.height - y]);
  return { x: a[0], y: a[1], width: Math.max(0, b[0] - a[0]), height: Math.max(0, b[1] - a[1]) };
}

/** Leaves that lie in no grid: one is picked by a click, moved by its corners, and removed by Delete. */
function PlacedLeaves({ leaves, shown, onChange, toScreen, toShare }: Of) {
  const [picked, setPicked] = useState<number | null>(null);
  const places = leaves.places!;
  const put = (next: LeafPlace[], gesture?: string) =>
    onChange({ ...leaves, places: next.length ? next : undefined }, gesture);
  const own = picked === null ? null : places[picked];
  const remove = (n: number) => {
    put(places.filter((_, k) => k !== n));
    setPicked(null);
  };
  return (
    <g>
      {places.map((place, n) => (
        <rect
          key={n}
          role="button"
          tabIndex={0}
          aria-label={`Leaf ${n + 1}`}
          aria-pressed={n === picked}
          className="pointer-events-auto cursor-pointer"
          fill={n === picked ? 'var(--color-secondary)' : 'transparent'}
          fillOpacity="0.18"
          stroke="var(--color-secondary)"
          strokeWidth={n === picked ? 2 : 1.2}
          onClick={() => setPicked(n === picked ? null : n)}
          onKeyDown={(e) => {
            if (e.key === 'Enter' || e.key === ' ') setPicked(n);
            else if (e.key === 'Delete' || e.key === 'Backspace') remove(n);
            else return;
            e.preventDefault();
            e.stopPropagation();
          }}
          {...rectOf(place, leaves, shown, toScreen)}
        />
      ))}
      {own && (
        <PlaceHandles
          places={cornersOf(own, (place) => places.map((p, k) => (k === picked ? place : p)))}
          toScreen={toScreen}
          toShare={toShare}
          onChange={put}
        />
      )}
    </g>
  );
}

/** A leaf by its two corners, within the picture and never inside out. */
function cornersOf<S>({ x, y, width, height }: LeafPlace, moved: (place: LeafPlace) => S) {
  const [right, bottom] = [x + width, y + height];
  const within = (v: number, from: number, to: number) => Math.min(to, Math.max(from, v));
  return {
    shape: 'box' as const,
    through: [
      [x, y],
      [right, bottom],
    ] as Vec2[],
    points: [
      {
        at: [x, y] as Vec2,
        label: 'Upper left of the leaf',
        moved(to: Vec2) {
          const [left, top] = [within(to[0], 0, right - LEAST_LEAF), within(to[1], 0, bottom - LEAST_LEAF)];
          return moved({ x: left, y: top, width: right - left, height: bottom - top });
        },
      },
      {
        at: [right, bottom] as Vec2,
        label: 'Lower right of the leaf',
        moved: (to: Vec2) =>
          moved({ x, y, width: within(to[0], x + LEAST_LEAF, 1) - x, height: within(to[1], y + LEAST_LEAF, 1) - y }),
      },
    ],
  };
}

/** Leaves in columns and rows; the lines between them are dragged by their ends. */
function GridHandles({ leaves, shown, onChange, toScreen, toShare }: Of) {
  const { columnLines, rowLines } = leaves;
  const { x, y } = leafBorders(leaves);
  const mm = shown.mmPerPx ?? [1, 1];
  const [width, height] = [shown.width * mm[0], shown.height * mm[1]];
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
      <LeafOutlines leaves={leaves} shown={shown} toScreen={toScreen} />
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
