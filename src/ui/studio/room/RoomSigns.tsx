import { useMemo } from 'react';
import { allRegions } from '@/core/project/regions';
import type { Project } from '@/core/project/schema';
import { groupsOf, isLoud, isRamp, legendOf, type Loud } from './measures';
import { FACING, ON_SCREEN } from './overlayShaders';
import type { ShownMap } from './settings';

/** What the colours of an overlay mean. */
export function Legend({ shown, project }: { shown: ShownMap; project: Project }) {
  if (isRamp(shown)) return <Ramp {...legendOf(shown)} />;
  if (shown === 'onScreen') return <Ramp {...ON_SCREEN} />;
  if (shown === 'facing')
    return (
      <Named
        entries={[
          [FACING.front, 'seen from before'],
          [FACING.back, 'seen from behind'],
        ]}
      />
    );
  return isLoud(shown) ? <Groups by={shown} project={project} /> : null;
}

/** More names than this nobody reads. */
const MOST_NAMES = 14;

function Groups({ by, project }: { by: Loud; project: Project }) {
  const entries = useMemo(
    () =>
      [...groupsOf(allRegions(project), project, by).values()].map(({ name, colour }): [string, string] => [
        `#${colour.getHexString()}`,
        name,
      ]),
    [by, project],
  );
  const more = entries.length - MOST_NAMES;
  const none = by === 'byRun' ? 'There is no run.' : 'Nothing is laid.';
  return (
    <Named entries={entries.slice(0, MOST_NAMES)} more={more > 0 ? `and ${more} more` : entries.length ? '' : none} />
  );
}

function Named({ entries, more = '' }: { entries: [string, string][]; more?: string }) {
  return (
    <ul
      className="card-panel pointer-events-none absolute right-2 bottom-2 max-w-72 px-2 py-1 text-2xs"
      aria-label="Legend"
    >
      {entries.map(([colour, name]) => (
        <li key={colour} className="flex items-center gap-1.5">
          <span className="h-2.5 w-2.5 shrink-0 rounded-[2px]" style={{ background: colour }} />
          <span className="truncate">{name}</span>
        </li>
      ))}
      {more && <li className="quiet">{more}</li>}
    </ul>
  );
}

function Ramp({ colours, low, middle, high }: { colours: string[]; low: string; middle: string; high: string }) {
  return (
    <div className="card-panel pointer-events-none absolute right-2 bottom-2 w-72 px-2 py-1 text-2xs">
      <div className="h-2 rounded-[3px]" style={{ background: `linear-gradient(to right, ${colours.join(',')})` }} />
      <p className="num flex justify-between">
        <span>{low}</span>
        <span>{middle}</span>
        <span>{high}</span>
      </p>
    </div>
  );
}

/** Which way north lies in the picture. */
export function Compass({ deg }: { deg: number }) {
  return (
    <svg
      viewBox="-20 -20 40 40"
      role="img"
      aria-label="North"
      className="pointer-events-none absolute top-2 right-2 h-10 w-10"
      style={{ transform: `rotate(${deg}deg)` }}
    >
      <circle r="17" fill="var(--color-base-100)" opacity="0.72" />
      <circle r="17" fill="none" stroke="var(--color-base-300)" />
      <path d="M0-12 4.5 3H-4.5z" fill="var(--color-primary)" />
      <path d="M0 12 4.5 3H-4.5z" fill="var(--color-base-content)" opacity="0.4" />
      <text y="-12.5" textAnchor="middle" fontSize="6" fill="var(--color-base-content)">
        N
      </text>
    </svg>
  );
}
