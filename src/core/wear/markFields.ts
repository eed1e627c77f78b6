import type { Field } from '../schema/fields';
import { fieldsOf } from '../schema/fieldMakers';
import type { WearMark } from './schema';

const make = fieldsOf<WearMark>();
const FAR = { min: -1e7, max: 1e7, step: 10 };

/** A single mark as people set it. */
export const MARK_FIELDS: readonly Field<WearMark>[] = [
  make.length('Right of zero', 'xMm', FAR),
  make.length('Above zero', 'yMm', FAR),
  make.angle('Turned', 'turnDeg', { min: -360, max: 360, step: 5 }),
  make.number('Size', 'percent', { min: 1, max: 2000, step: 5, suffix: ' %' }),
  { ...make.share('Strength', 'strength'), further: true },
];

/** A mark where it was put, at its material's own size. */
export const newMark = (material: string, [xMm, yMm]: readonly [number, number]): WearMark => ({
  material,
  on: true,
  strength: 0.9,
  xMm,
  yMm,
  turnDeg: 0,
  percent: 100,
});
