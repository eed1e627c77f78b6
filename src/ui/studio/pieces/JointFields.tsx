'use client';

import type { JointSpec } from '@/core/layout/joint';
import { JOINT_FIELDS } from '@/core/layout/jointFields';
import type { LengthUnit } from '@/core/units/length';
import { useProject } from '../../project/projectStore';
import { FieldViews, type OnEach } from '../../shared/FieldView';
import { Select } from '../../shared/fields';

/** What lies between pieces, and how their edges are made. */
export function JointFields({
  joints,
  unit,
  plain,
  onEach,
}: {
  joints: JointSpec[];
  unit: LengthUnit;
  /** Pieces found in the mesh have no joints, only edges. */
  plain: boolean;
  onEach: OnEach<JointSpec>;
}) {
  const materials = useProject((s) => s.project?.materials) ?? {};
  const [first] = joints;
  const alike = joints.every((j) => j.material === first.material);
  const choices = Object.values(materials).map((m): [string, string] => [m.id, m.name]);
  return (
    <fieldset className="col-span-2 grid grid-cols-4 gap-1 border-t border-base-300 pt-1.5">
      <legend className="sr-only">Joints</legend>
      <FieldViews fields={JOINT_FIELDS} specs={joints} context={{ plain }} unit={unit} onEach={onEach} />
      {!plain && (
        <>
          <label className="block">
            <span className="quiet mb-0.5 block text-2xs">Joint colour</span>
            <input
              type="color"
              className="field p-0.5"
              value={first.colour}
              disabled={joints.every((j) => j.material !== null)}
              onChange={({ target }) => onEach((j) => ({ ...j, colour: target.value }), 'joint-colour')}
            />
          </label>
          <div className="col-span-3">
            <Select
              label="Joint material"
              value={alike ? (first.material ?? '') : 'mixed'}
              options={[
                ...(alike ? [] : ([['mixed', 'mixed']] as [string, string][])),
                ['', 'the plain colour'],
                ...choices,
              ]}
              onChange={(v) => v !== 'mixed' && onEach((j) => ({ ...j, material: v || null }))}
            />
          </div>
        </>
      )}
    </fieldset>
  );
}
