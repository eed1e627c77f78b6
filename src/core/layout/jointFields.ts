import type { Field, Option } from '../schema/fields';
import type { JointSpec } from './joint';

interface JointContext {
  /** Pieces found in the mesh have no joints, only edges. */
  plain: boolean;
  /** Joints have one width, that between rows. */
  one?: boolean;
  /** They are as wide as a drawing has them. */
  drawn?: boolean;
  /** What can lie in joints, by id, as [id, name]. */
  materials: readonly Option[];
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
  shown: (_joint, { plain, one, drawn }) => {
    const isWidth = key === 'alongMm' || key === 'acrossMm';
    if ((one && key === 'alongMm') || (drawn && isWidth)) return false;
    return !plain || key === 'roundingMm';
  },
});

/** What lies between pieces, as people set it. */
export const JOINT_FIELDS: Field<JointSpec, JointContext>[] = [
  length('At ends', 'alongMm', 1000),
  length('Between rows', 'acrossMm', 1000),
  length('Recess', 'recessMm', 100),
  length('Edges rounded', 'roundingMm', 50),
  {
    kind: 'colour',
    label: 'Joint colour',
    shown: (_joint, { plain }) => !plain,
    fixed: ({ material }) => material !== null,
    get: ({ colour }) => colour,
    set: (joint, colour) => ({ ...joint, colour }),
  },
  {
    kind: 'choice',
    label: 'Joint material',
    span: 3,
    shown: (_joint, { plain }) => !plain,
    optionsFor: (_joint, { materials }) => [['plain', 'the plain colour'], ...materials],
    get: ({ material }) => material ?? 'plain',
    set: (joint, material) => ({ ...joint, material: material === 'plain' ? null : material }),
  },
];
