'use client';

import type { JointSpec } from '@/core/layout/schema';
import type { LengthUnit } from '@/core/units/length';
import { useProject } from '../../project/projectStore';
import { Select } from '../../shared/fields';
import { ValueField } from '../../shared/ValueField';

/** What lies between pieces, and how their edges are made. */
export function JointFields({
  joint,
  unit,
  plain,
  onChange,
}: {
  joint: JointSpec;
  unit: LengthUnit;
  /** Pieces found in the mesh have no joints, only edges. */
  plain: boolean;
  onChange: (joint: JointSpec, gesture?: string) => void;
}) {
  const materials = useProject((s) => s.project?.materials) ?? {};
  const length = (label: string, key: 'alongMm' | 'acrossMm' | 'recessMm' | 'roundingMm', max: number) => (
    <ValueField
      label={label}
      kind="length"
      unit={unit}
      value={joint[key]}
      min={0}
      max={max}
      step={0.5}
      onChange={(v, g) => onChange({ ...joint, [key]: v }, g)}
    />
  );
  return (
    <fieldset className="col-span-2 grid grid-cols-4 gap-1 border-t border-base-300 pt-1.5">
      <legend className="sr-only">Joints</legend>
      {!plain && (
        <>
          {length('At ends', 'alongMm', 1000)}
          {length('Between rows', 'acrossMm', 1000)}
          {length('Recess', 'recessMm', 100)}
        </>
      )}
      {length('Edges rounded', 'roundingMm', 50)}
      {!plain && (
        <>
          <label className="block">
            <span className="quiet mb-0.5 block text-2xs">Joint colour</span>
            <input
              type="color"
              className="field p-0.5"
              value={joint.colour}
              disabled={joint.material !== null}
              onChange={(e) => onChange({ ...joint, colour: e.target.value }, 'joint-colour')}
            />
          </label>
          <div className="col-span-3">
            <Select
              label="Joint material"
              value={joint.material ?? ''}
              options={[
                ['', 'the plain colour'],
                ...Object.values(materials).map((m): [string, string] => [m.id, m.name]),
              ]}
              onChange={(v) => onChange({ ...joint, material: v || null })}
            />
          </div>
        </>
      )}
    </fieldset>
  );
}
