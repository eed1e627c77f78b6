'use client';

import { useMemo } from 'react';
import { areaOf } from '@/core/layout/area';
import { Cells } from '@/core/layout/cells';
import { openLayout } from '@/core/layout/registry';
import type { JointSpec } from '@/core/layout/joint';
import type { LayoutSpec } from '@/core/layout/schema';

/** A layout in line drawing, its proportions true: about four pieces of it. */
export function BondDrawing({
  layout,
  joint,
  turnDeg = 0,
}: {
  layout: LayoutSpec;
  joint: JointSpec;
  turnDeg?: number;
}) {
  const { paths, size } = useMemo(() => draw(layout, joint), [layout, joint]);
  return (
    <svg
      viewBox={`${-size / 2} ${-size / 2} ${size} ${size}`}
      className="h-full w-full rounded-[4px] border border-base-300 bg-base-300/40"
      role="img"
      aria-label="The layout in line drawing"
    >
      <g transform={`rotate(${-turnDeg}) scale(1 -1)`}>
        {paths.map((d, i) => (
          <path
            key={i}
            d={d}
            fill="var(--color-base-100)"
            stroke="var(--color-base-content)"
            strokeWidth={size / 130}
          />
        ))}
      </g>
    </svg>
  );
}

/** Piece outlines round the origin, covering a square of `size` mm however it is turned. */
function draw(layout: LayoutSpec, joint: JointSpec): { paths: string[]; size: number } {
  const probe = openLayout(layout, joint, areaOf([square(4000)]));
  const [length, width] = probe.largest;
  const size = Math.max(width * 3.2, Math.min(length * 1.7, width * 9));
  const area = areaOf([square(size * 1.5)]);
  const opened = openLayout(layout, joint, area);
  const paths: string[] = [];
  const cells = new Cells((c) => {
    for (let n = 0; n < c.count && paths.length < 400; n++) {
      const { corners: shape } = opened.modules[c.kind[n].module];
      const [ax, ay] = opened.axes[c.axis[n]];
      const a = c.halfLength[n] - opened.inset[0];
      const b = c.halfWidth[n] - opened.inset[1];
      const points: string[] = [];
      for (let k = 0; k < shape.length; k += 2) {
        const [l, w] = [shape[k] * a, shape[k + 1] * b];
        points.push(`${(c.x[n] + l * ax - w * ay).toFixed(1)} ${(c.y[n] + l * ay + w * ax).toFixed(1)}`);
      }
      paths.push(`M${points.join('L')}Z`);
    }
  });
  opened.fill(area.bounds, cells);
  return { paths, size };
}

const square = (side: number): [number, number][] => {
  const h = side / 2;
  return [
    [-h, -h],
    [h, -h],
    [h, h],
    [-h, h],
  ];
};
