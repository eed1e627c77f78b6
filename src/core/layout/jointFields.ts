import type { Field } from '../schema/fields';
import type { JointSpec } from './joint';

interface JointContext {
  /** Pieces found in the mesh have no joints, only edges. */
  plain: boolean;
}

type LengthOfJoint = 'alongMm' | 'acrossMm' | 'recessMm' | 'roundingMm';

const length = (label: string, key: LengthOfJoint, max: number): Field<JointSpec, JointContext> => ({
  kind: 'length',
  label,
  min: 0,
  max,
  step: 0.5,
  get: (joint) => joint[key],
  set: (joint, mm) => ({ ...joint, [key]: mm }),
  shown: (_joint, { plain }) => !plain || key === 'roundingMm',
});

/** What lies between pieces, as people set it. */
export const JOINT_FIELDS: Field<JointSpec, JointContext>[] = [
  length('At ends', 'alongMm', 1000),
  length('Between rows', 'acrossMm', 1000),
  length('Recess', 'recessMm', 100),
  length('Edges rounded', 'roundingMm', 50),
];
