'use client';

import type { PieceRole } from '@/core/layout/roles';
import type { MixEntry, MixSpec } from '@/core/layout/mix';
import type { Material } from '@/core/material/schema';
import { trimNumber } from '@/core/units/length';
import { useLibrary } from '../../materials/useLibrary';
import { useProject } from '../../project/projectStore';
import { Select } from '../../shared/fields';
import { ValueField } from '../../shared/ValueField';

/** Further materials among the pieces; each can be switched off and keeps its settings. */
export function MixFields({
  mix,
  mixed,
  main,
  roles,
  onEach,
}: {
  /** Of the first picked. */
  mix: MixSpec;
  /** Others are mixed otherwise: a change of the list gives all the same list. */
  mixed: boolean;
  main: string;
  roles: readonly PieceRole[];
  onEach: (change: (own: MixSpec) => MixSpec, materials: Material[], gesture?: string) => void;
}) {
  const onChange = (next: MixSpec, materials: Material[], gesture?: string) => onEach(() => next, materials, gesture);
  const project = useProject((s) => s.project)!;
  const library = useLibrary().data ?? [];
  const choices = [...new Map([...library, ...Object.values(project.materials)].map((m) => [m.id, m])).values()];
  const named = (id: string) => choices.find((m) => m.id === id)?.name ?? id;
  /** The project's own version where it has one, else the library's. */
  const bring = (id: string): Material[] => (project.materials[id] ? [] : library.filter((m) => m.id === id));
  /** On each that mixes the same material in this place. */
  const put = (i: number, values: Partial<MixEntry>, gesture?: string) => {
    const { material } = mix.entries[i];
    const change = (own: MixSpec) => ({
      ...own,
      entries: own.entries.map((e, k) => (k === i && e.material === material ? { ...e, ...values } : e)),
    });
    onEach(change, values.material ? bring(values.material) : [], gesture);
  };
  const add = () => {
    const next = choices.find((m) => m.id !== main && !mix.entries.some((e) => e.material === m.id));
    if (!next) return;
    onChange(
      {
        ...mix,
        entries: [
          ...mix.entries,
          { material: next.id, on: true, share: 0.2, every: 4, first: 3, role: roles[roles.length - 1] },
        ],
      },
      bring(next.id),
    );
  };
  const on = mix.entries.filter((e) => e.on);
  const rest = Math.max(0, 1 - on.reduce((n, e) => n + e.share, 0));
  return (
    <fieldset className="col-span-2 space-y-1 border-t border-base-300 pt-1.5">
      <legend className="sr-only">Materials among the pieces</legend>
      {mixed && <p className="quiet text-2xs">mixed: those of the first picked are shown</p>}
      <div className="flex items-end gap-2">
        <div className="w-40">
          <Select
            label="Further materials"
            value={mix.by}
            options={[
              ['share', 'by share of the pieces'],
              ['course', 'by course'],
              ['role', 'by role'],
            ]}
            onChange={(by) => onEach((own) => ({ ...own, by: by as MixSpec['by'] }), [])}
          />
        </div>
        <button type="button" className="tool tool-line" disabled={mix.entries.length >= 12} onClick={add}>
          Add a material
        </button>
      </div>
      {mix.entries.map((e, i) => (
        <div key={i} className="grid grid-cols-[16px_1fr_1fr_24px] items-end gap-1">
          <input
            type="checkbox"
            className="checkbox checkbox-xs mb-1.5"
            aria-label={`${named(e.material)} laid`}
            checked={e.on}
            onChange={(c) => put(i, { on: c.target.checked })}
          />
          <Select
            label={`Material ${i + 2}`}
            value={e.material}
            options={choices.map((m) => [m.id, m.name])}
            onChange={(material) => put(i, { material })}
          />
          {mix.by === 'share' && (
            <ValueField
              label="Share, %"
              kind="number"
              value={e.share * 100}
              min={0}
              max={100}
              onChange={(v, g) => put(i, { share: v / 100 }, g)}
            />
          )}
          {mix.by === 'course' && (
            <div className="grid grid-cols-2 gap-1">
              <ValueField
                label="Every"
                kind="number"
                decimals={0}
                value={e.every}
                min={1}
                max={1000}
                onChange={(v, g) => put(i, { every: Math.round(v) }, g)}
              />
              <ValueField
                label="From course"
                kind="number"
                decimals={0}
                value={e.first}
                min={0}
                max={1000}
                onChange={(v, g) => put(i, { first: Math.round(v) }, g)}
              />
            </div>
          )}
          {mix.by === 'role' && (
            <Select
              label="Role"
              value={e.role}
              options={roles.map((r) => [r, r])}
              onChange={(role) => put(i, { role: role as PieceRole })}
            />
          )}
          <button
            type="button"
            className="tool px-1"
            aria-label={`Take ${named(e.material)} out`}
            onClick={() => onChange({ ...mix, entries: mix.entries.filter((_, k) => k !== i) }, [])}
          >
            ×
          </button>
        </div>
      ))}
      {mix.entries.length > 0 && (
        <p className="quiet text-2xs leading-tight">
          {mix.by === 'share'
            ? `${named(main)} has the other ${trimNumber(rest * 100, 1)}%.`
            : `All others are ${named(main)}.`}
          {mix.entries.some((e) => !e.on) &&
            ` ${mix.entries
              .filter((e) => !e.on)
              .map((e) => named(e.material))
              .join(', ')} is switched off: ${named(main)} fills its place.`}
        </p>
      )}
    </fieldset>
  );
}
