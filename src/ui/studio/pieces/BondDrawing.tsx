'use client';

import { useMemo } from 'react';
import { areaOf } from '@/core/layout/area';
import { Cells, shapeOfKind } from '@/core/layout/cells';
import { pieceAbout, putCorners } from '@/core/layout/modules';
import { layoutOf, openLayout } from '@/core/layout/registry';
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
  // all of what repeats, where that is more
  const repeat = 1.1 * (layoutOf(layout).pitch?.(layout, joint) ?? 0);
  const size = Math.max(width * 3.2, Math.min(length * 1.7, width * 9), Math.min(repeat, width * 16));
  const area = areaOf([square(size * 1.5)]);
  const opened = openLayout(layout, joint, area);
  const paths: string[] = [];
  const cells = new Cells((c) => {
    for (let n = 0; n < c.count && paths.length < 600; n++) {
      const shape = shapeOfKind(c.kind[n], opened.modules);
      const about = pieceAbout(shape, c.halfLength[n], c.halfWidth[n], opened.inset);
      const corners = new Float64Array(about.length);
      putCorners(about, c.x[n], c.y[n], opened.axes[c.axis[n]], corners);
      const points: string[] = [];
      for (let k = 0; k < corners.length; k += 2) points.push(`${corners[k].toFixed(1)} ${corners[k + 1].toFixed(1)}`);
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
