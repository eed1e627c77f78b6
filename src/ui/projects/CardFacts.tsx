import { TriangleAlert } from 'lucide-react';
import type { ProjectCard } from '@/api/answers';
import { formatLength } from '@/core/units/length';

/** What a project's card says below its name. */
export function CardFacts({ project: { damaged, sizeMm, surfaces, dressed, updated } }: { project: ProjectCard }) {
  const day = new Date(updated).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' });
  // nothing is known of what cannot be read, not even that it has no model
  if (damaged)
    return (
      <>
        <p className="mt-0.5 flex items-center gap-1 text-2xs text-warning">
          <TriangleAlert size={13} /> What is stored of it cannot be read
        </p>
        <p className="quiet text-2xs">“npm run restore” brings a backup back, {day}</p>
      </>
    );
  return (
    <>
      <p className="num quiet mt-0.5 text-2xs">
        {sizeMm
          ? sizeMm.map((s) => formatLength(s, 'm', { decimals: 1, withUnit: false })).join(' × ') + ' m'
          : 'No model yet'}
      </p>
      <p className="quiet text-2xs">
        {surfaces ? `${dressed} of ${surfaces} surfaces dressed` : 'Open it to bring a model in'}
        {`, ${day}`}
      </p>
    </>
  );
}
