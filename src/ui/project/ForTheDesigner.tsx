'use client';

import { scale } from '@/core/geometry/vec';
import { facingOf } from '@/core/mesh/naming';
import type { Project } from '@/core/project/schema';
import { formatLength } from '@/core/units/length';

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
            {name}: {formatLength(Math.abs(byMm), project.unit)} further{' '}
            {facingOf(scale(along, Math.sign(byMm)), project.northDeg)}
          </li>
        ))}
      </ul>
    </section>
  );
}
