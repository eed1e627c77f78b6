'use client';

import { placeSpec } from '@/core/setout/placement';
import { centredStart, slidAway } from '@/core/setout/once';
import type { OnceSpec } from '@/core/specification/schema';
import { useProject } from '../../project/projectStore';
import { useLibrary } from '../../materials/useLibrary';
import { Select } from '../../shared/fields';
import { layBefore } from '../lay';
import { type Laid, useBench } from '../useBench';
import { useSheet } from '../useSheet';

/** A picture that is laid once, and what covers the rest. */
export function OnceFields() {
  const { laid, edit } = useBench();
  const library = useLibrary();
  const parts = useProject((s) => s.project?.parts);
  const first = laid[0];
  const sheet = useSheet(first?.surface.id ?? null)?.sheet ?? null;
  const once = first?.spec.repeat.once ?? null;
  const origin = first && parts ? parts[first.surface.part].origin : null;
  const placement = once && sheet && origin ? placeSpec(first.spec, first.material, sheet, origin) : null;
  const away = placement && sheet ? slidAway(placement, sheet) : false;
  const inPieces = !!first?.spec.pieces && first.spec.pieces.layout.kind !== 'whole';

  const set = (next: OnceSpec | null, materials: Parameters<typeof edit>[2] = []) =>
    edit((l) => ({ ...l.spec, repeat: { ...l.spec.repeat, once: next } }), undefined, materials);
  /** What lay there before this material came is seen beside it again. */
  const restOf = (l: Laid): OnceSpec['rest'] => {
    const below = layBefore(l.surface.id);
    if (!below) return { kind: 'bare' };
    const { once: _once, ...repeat } = below.repeat;
    return { kind: 'below', spec: { ...below, repeat } };
  };
  const begin = () =>
    edit((l) => ({ ...l.spec, repeat: { ...l.spec.repeat, once: { fitted: false, rest: restOf(l) } } }));
  const rest = once?.rest;
  const restValue = rest ? (rest.kind === 'material' ? `material:${rest.material}` : rest.kind) : 'bare';
  const setRest = (v: string) => {
    if (!once) return;
    if (v === 'below') return begin();
    if (v.startsWith('material:')) {
      const m = library.data?.find((x) => x.id === v.slice(9));
      if (m) set({ ...once, rest: { kind: 'material', material: m.id } }, [m]);
    } else
      set({ ...once, rest: v === 'colour' ? { kind: 'colour', colour: first.material.colour } : { kind: 'bare' } });
  };
  return (
    <div className="mt-1">
      <div className="flex items-center gap-2">
        <label className="flex h-6 items-center gap-1.5">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={!!once}
            disabled={!first || inPieces}
            onChange={(e) => (e.target.checked ? begin() : set(null))}
          />
          <span
            title={
              inPieces ? 'For what is laid as a whole picture, not in pieces' : 'One copy, nothing beyond its edge'
            }
          >
            Once only
          </span>
        </label>
        {once && (
          <label className="flex h-6 items-center gap-1.5">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={once.fitted}
              onChange={(e) => set({ ...once, fitted: e.target.checked })}
            />
            Fitted
          </label>
        )}
      </div>
      {away && placement && sheet && origin && (
        <p className="pb-0.5 text-2xs leading-tight text-error">
          It has slid off the surface.{' '}
          <button
            type="button"
            className="underline"
            onClick={() => edit((l) => ({ ...l.spec, start: centredStart(l.spec, placement, sheet) }))}
          >
            Bring it back
          </button>
        </p>
      )}
      {once && (
        <div className="flex items-end gap-1">
          <Select
            label="Beside it"
            hideLabel
            value={restValue}
            options={[
              ...(once.rest.kind === 'below' || layBefore(first.surface.id)
                ? [['below', 'Beside it: what lay there before'] as [string, string]]
                : []),
              ['bare', 'Beside it: nothing'],
              ['colour', 'Beside it: a colour'],
              ...(library.data ?? []).map((m): [string, string] => [`material:${m.id}`, `Beside it: ${m.name}`]),
            ]}
            onChange={setRest}
          />
          {rest?.kind === 'colour' && (
            <input
              type="color"
              aria-label="Colour beside it"
              className="h-[26px] w-8 shrink-0"
              value={rest.colour}
              onChange={(e) => set({ ...once, rest: { kind: 'colour', colour: e.target.value } })}
            />
          )}
        </div>
      )}
    </div>
  );
}
