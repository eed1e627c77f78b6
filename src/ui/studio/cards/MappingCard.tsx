'use client';

import type { MappingSpec } from '@/core/spec/schema';
import { MIXED } from '../../shared/ValueField';
import { Card } from '../Card';
import { shared, useBench } from '../useBench';

type Direction = Extract<MappingSpec, { kind: 'flat' }>['direction'];
const DIRECTIONS: [Direction, string][] = [
  ['auto', 'its own face'],
  ['up', 'above'],
  ['down', 'below'],
  ['north', 'north'],
  ['east', 'east'],
  ['south', 'south'],
  ['west', 'west'],
];

/** How the surface becomes its sheet. */
export function MappingCard() {
  const { laid, edit } = useBench();
  const kind = laid.length ? shared(laid, (l) => l.spec.mapping.kind) : null;
  const first = laid[0]?.spec.mapping;
  const set = (mapping: MappingSpec) => edit((l) => ({ ...l.spec, mapping }));
  const round = laid[0] && Math.hypot(...laid[0].surface.normal) < 0.985;
  return (
    <Card id="mapping" title="Mapping" share={0.98}>
      <div className="flex gap-1">
        <Choice
          on={kind === 'flat'}
          disabled={!laid.length}
          label="Flat"
          onClick={() => set({ kind: 'flat', direction: 'auto' })}
        >
          <path d="M6 26 22 32 40 22 24 16z" className="face" />
          <path d="M23 4v9m-4-4 4 4 4-4" className="arrow" />
        </Choice>
        <Choice
          on={kind === 'box'}
          disabled={!laid.length}
          label="Box"
          onClick={() => set({ kind: 'box', axes: 'surface' })}
        >
          <path d="M10 14 24 8 38 14 24 20z" className="face" />
          <path d="M10 14v13l14 6V20zM38 14v13l-14 6V20z" className="face" />
          <path d="M12 31c6 5 18 5 24 0m-3-1 3 1v3" className="arrow" />
        </Choice>
        <Choice on={kind === 'unroll'} disabled={!laid.length} label="Unroll" onClick={() => set({ kind: 'unroll' })}>
          <path d="M8 12v16c8 6 14 4 16 0V12c-2 4-8 6-16 0z" className="face" />
          <path d="M24 12v16l16 3V15z" className="face" />
          <path d="M25 7c6-2 10 0 12 4m1-3-1 3-3-1" className="arrow" />
        </Choice>
      </div>
      {kind === MIXED && <p className="quiet mt-1 text-2xs">mixed</p>}
      {kind === 'flat' && first?.kind === 'flat' && (
        <label className="mt-1.5 block">
          <span className="quiet mb-0.5 block text-2xs">Thrown on from</span>
          <select
            className="field"
            value={first.direction}
            onChange={(e) => set({ kind: 'flat', direction: e.target.value as Direction })}
          >
            {DIRECTIONS.map(([d, label]) => (
              <option key={d} value={d}>
                {label}
              </option>
            ))}
          </select>
        </label>
      )}
      {kind === 'box' && first?.kind === 'box' && (
        <label className="mt-1.5 block">
          <span className="quiet mb-0.5 block text-2xs">Sides lie along</span>
          <select
            className="field"
            value={first.axes}
            onChange={(e) => set({ kind: 'box', axes: e.target.value as 'surface' | 'world' })}
          >
            <option value="surface">the surface’s main direction</option>
            <option value="world">north and east</option>
          </select>
        </label>
      )}
      {laid.length > 0 && (
        <p className="quiet mt-1.5 text-2xs leading-tight">
          {kind === 'unroll'
            ? 'Unfolded over its edges: every face keeps its true size.'
            : round
              ? 'It is not flat: Unroll is true on what bends, Box goes round corners.'
              : 'It lies in one plane: Flat is true to size.'}
        </p>
      )}
    </Card>
  );
}

function Choice({
  on,
  disabled,
  label,
  onClick,
  children,
}: {
  on: boolean;
  disabled: boolean;
  label: string;
  onClick: () => void;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      aria-pressed={on}
      disabled={disabled}
      onClick={onClick}
      className={`flex min-w-0 flex-1 flex-col items-center rounded-[6px] border px-0 pt-1 pb-0.5 disabled:opacity-40 ${on ? 'border-primary' : 'border-base-300 hover:bg-base-200'}`}
    >
      <svg
        viewBox="0 0 48 38"
        className="h-8 max-w-full [&_.arrow]:fill-none [&_.arrow]:stroke-primary [&_.arrow]:stroke-[1.6] [&_.face]:fill-base-200 [&_.face]:stroke-base-content [&_.face]:stroke-[1.2]"
        aria-hidden
      >
        {children}
      </svg>
      <span>{label}</span>
    </button>
  );
}
