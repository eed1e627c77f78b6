'use client';

import type { Project } from '@/core/project/schema';
import { formatLength } from '@/core/units/length';

const DIRECTIONS: [axis: 0 | 1 | 2, positive: string, negative: string][] = [
  [0, 'east', 'west'],
  [1, 'up', 'down'],
  [2, 'south', 'north'],
];

/** The way a direction points, in a word; as the file has north. */
function wayOf(along: readonly number[]): string {
  const [axis, positive, negative] = DIRECTIONS.reduce((a, b) =>
    Math.abs(along[b[0]]) > Math.abs(along[a[0]]) ? b : a,
  );
  return along[axis] > 0 ? positive : negative;
}

/** Sides that were pushed to try a dimension: what the designer is to change in the model. */
export function ForTheDesigner({ project }: { project: Project }) {
  const pushed = Object.values(project.parts).flatMap((p) => (p.pushes ?? []).map((push) => ({ part: p.id, ...push })));
  if (!pushed.length) return null;
  return (
    <section aria-label="For the designer">
      <h2 className="quiet text-2xs">For the designer</h2>
      <ul className="list-disc pl-4 text-2xs">
        {pushed.map(({ part, name, byMm, along }, n) => (
          <li key={`${part}${n}`}>
            {name}: {formatLength(Math.abs(byMm), project.unit)} further {wayOf(along.map((v) => v * Math.sign(byMm)))}
          </li>
        ))}
      </ul>
    </section>
  );
}
