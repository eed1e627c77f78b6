'use client';

import { useEffect, useState } from 'react';
import { allRegions, regionsOf } from '@/core/project/regions';
import type { Project, Surface } from '@/core/project/schema';
import type { Spec } from '@/core/specification/schema';
import { trimNumber } from '@/core/units/length';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { laidRequest, sheetService } from '../../project/sheetService';
import type { Laid } from '../useBench';

interface OtherSize {
  id: string;
  largerBy: number;
  alike: Spec;
}

/** Those that meet a surface and show the same picture at another size. */
async function otherSizes(project: Project, surface: Surface, spec: Spec): Promise<OtherSize[]> {
  const [own] = regionsOf(project, surface);
  if (!own?.spec) return [];
  const others = allRegions(project).filter(
    (r) => r.surface.id !== surface.id && r.id === r.surface.id && r.spec?.material === spec.material,
  );
  const requests = others.map((r) => laidRequest(project, r, r.spec!));
  return sheetService().otherSizes(laidRequest(project, own, own.spec), requests);
}

/** Neighbours that show the picture at another size, and the way to make them alike. */
export function EvenDensity({ first }: { first: Laid }) {
  const project = useProject((s) => s.project)!;
  const run = useProject((s) => s.run);
  const { select, foresee } = useSelection.getState();
  const [found, setFound] = useState<{ of: Spec; list: OtherSize[] } | null>(null);
  const { surface, spec } = first;
  useEffect(() => {
    let stale = false;
    otherSizes(project, surface, spec).then(
      (list) => stale || setFound({ of: spec, list }),
      () => stale || setFound({ of: spec, list: [] }),
    );
    return () => void (stale = true);
  }, [project, surface, spec]);
  useEffect(() => () => foresee([]), [foresee]);
  if (found?.of !== spec) return <p className="quiet text-2xs">Comparing with what it meets…</p>;
  const { list } = found;
  if (!list.length) return <p className="quiet text-2xs">What it meets shows this picture as large.</p>;
  const ids = list.map((o) => o.id);
  const alike = () => run([{ kind: 'setSpecs', specs: Object.fromEntries(list.map((o) => [o.id, o.alike])) }]);
  return (
    <div role="group" aria-label="Neighbours at another size">
      <p className="text-2xs">Beside it the picture is shown at another size:</p>
      <ul className="num text-2xs">
        {list.slice(0, 6).map(({ id, largerBy }) => (
          <li key={id}>
            {project.surfaces[id]?.name}, {trimNumber(Math.abs(largerBy) * 100, 1)}%{' '}
            {largerBy > 0 ? 'larger' : 'smaller'}
          </li>
        ))}
        {list.length > 6 && <li>and {list.length - 6} more</li>}
      </ul>
      <div className="mt-1 flex gap-1" onMouseEnter={() => foresee(ids)} onMouseLeave={() => foresee([])}>
        <button type="button" className="tool tool-line h-[22px] px-1.5 text-2xs" onClick={alike}>
          Show {list.length === 1 ? 'it' : 'them'} alike
        </button>
        <button type="button" className="tool h-[22px] px-1.5 text-2xs" onClick={() => select([surface.id, ...ids])}>
          Pick with {list.length === 1 ? 'it' : 'them'}
        </button>
      </div>
    </div>
  );
}
