'use client';

import type { PieceRole } from '@/core/layout/roles';
import type { MixEntry, MixSpec } from '@/core/layout/mix';
import { firstEntry, MIX_ENTRY_FIELDS, MIX_FIELDS } from '@/core/layout/mixFields';
import type { Material } from '@/core/material/schema';
import { type LengthUnit, trimNumber } from '@/core/units/length';
import { useLibrary } from '../../materials/useLibrary';
import { useProject } from '../../project/projectStore';
import { FieldViews } from '../../shared/FieldView';

/** Materials that can be mixed in. */
const MOST = 12;

/** Further materials among the pieces; each can be switched off and keeps its settings. */
export function MixFields({
  mixes,
  main,
  roles,
  unit,
  onEach,
}: {
  /** Of all that is picked, the first picked first. */
  mixes: MixSpec[];
  main: string;
  roles: readonly PieceRole[];
  unit: LengthUnit;
  onEach: (change: (own: MixSpec) => MixSpec, materials: Material[], gesture?: string) => void;
}) {
  const [mix] = mixes;
  const project = useProject((s) => s.project)!;
  const library = useLibrary().data ?? [];
  const choices = [...new Map([...library, ...Object.values(project.materials)].map((m) => [m.id, m])).values()];
  const named = (id: string) => choices.find((m) => m.id === id)?.name ?? id;
  /** The project's own version where it has one, else the library's. */
  const bring = (ids: string[]): Material[] => library.filter((m) => ids.includes(m.id) && !project.materials[m.id]);
  const entriesOnEach = (change: (own: MixEntry[]) => MixEntry[], materials: Material[] = []) =>
    onEach((own) => ({ ...own, entries: change(own.entries) }), materials);
  const add = (id: string) =>
    entriesOnEach(
      (own) => (own.length < MOST && !own.some((e) => e.material === id) ? [...own, firstEntry(id, roles)] : own),
      bring([id]),
    );
  const next = choices.find((m) => m.id !== main && !mix.entries.some((e) => e.material === m.id));
  const on = mix.entries.filter((e) => e.on);
  const off = mix.entries.filter((e) => !e.on);
  const rest = Math.max(0, 1 - on.reduce((n, e) => n + e.share, 0));
  const context = { by: mix.by, materials: choices.map((m) => [m.id, m.name] as const), roles };
  return (
    <fieldset className="col-span-full space-y-1 border-t border-base-300 pt-0.5">
      <legend className="pr-2 text-2xs font-semibold">Materials among the pieces</legend>
      {mixes.some((m) => JSON.stringify(m.entries) !== JSON.stringify(mix.entries)) && (
        <p className="quiet text-2xs">mixed: those of the first picked are listed</p>
      )}
      <div className="flex items-end gap-2">
        <div className="grid w-40 gap-1">
          <FieldViews
            fields={MIX_FIELDS}
            specs={mixes}
            context={undefined}
            unit={unit}
            onEach={(change, g) => onEach(change, [], g)}
          />
        </div>
        <button
          type="button"
          className="tool tool-line"
          disabled={mix.entries.length >= MOST || !next}
          onClick={() => next && add(next.id)}
        >
          Add a material
        </button>
      </div>
      {mix.entries.map(({ material }, i) => {
        // each that mixes the same material in this place
        const same = mixes.flatMap((m) => (m.entries[i]?.material === material ? [m.entries[i]] : []));
        return (
          <div key={i} role="group" aria-label={named(material)} className="flex items-end gap-1">
            <div className="grid flex-1 grid-cols-[52px_1fr_1fr_1fr_1fr] items-end gap-1">
              <FieldViews
                fields={MIX_ENTRY_FIELDS}
                specs={same}
                context={context}
                unit={unit}
                onEach={(change, gesture) => {
                  const changed = change(mix.entries[i]);
                  const entries = (own: MixSpec) =>
                    own.entries.map((e, k) => (k === i && e.material === material ? change(e) : e));
                  onEach((own) => ({ ...own, entries: entries(own) }), bring([changed.material]), gesture);
                }}
              />
            </div>
            <button
              type="button"
              className="tool px-1"
              aria-label={`Take ${named(material)} out`}
              onClick={() => entriesOnEach((own) => own.filter((e, k) => k !== i || e.material !== material))}
            >
              ×
            </button>
          </div>
        );
      })}
      {mix.entries.length > 0 && (
        <p className="quiet text-2xs leading-tight">
          {mix.by === 'share'
            ? `${named(main)} has the other ${trimNumber(rest * 100, 1)}%.`
            : `All others are ${named(main)}.`}
          {off.length > 0 &&
            ` ${off.map((e) => named(e.material)).join(', ')} is switched off: ${named(main)} fills its place.`}
        </p>
      )}
    </fieldset>
  );
}
