'use client';

import type { JointSpec } from '@/core/layout/joint';
import { JOINT_FIELDS } from '@/core/layout/jointFields';
import type { LengthUnit } from '@/core/units/length';
import { useProject } from '../../project/projectStore';
import { FieldSet } from '../../shared/FieldSet';
import { FieldViews, type OnEach } from '../../shared/FieldView';

/** What lies between pieces, and how their edges are made. */
export function JointFields({
  joints,
  unit,
  plain,
  one = false,
  drawn = false,
  onEach,
}: {
  joints: JointSpec[];
  unit: LengthUnit;
  /** Pieces found in the mesh have no joints, only edges. */
  plain: boolean;
  /** They have one width. */
  one?: boolean;
  /** They are as wide as a drawing has them. */
  drawn?: boolean;
  onEach: OnEach<JointSpec>;
}) {
  const materials = Object.values(useProject((s) => s.project?.materials) ?? {}).map((m) => [m.id, m.name] as const);
  return (
    <FieldSet title="Joints and edges">
      <FieldViews
        fields={JOINT_FIELDS}
        specs={joints}
        context={{ plain, one, drawn, materials }}
        unit={unit}
        onEach={onEach}
      />
    </FieldSet>
  );
}
