import type { Blend } from '../../picture/over';
import { oneOf } from '../../schema/choice';
import type { Field } from '../../schema/fields';
import type { StepContext } from './step';

/** How what is laid over a picture mixes with it. */
export const BlendMode = oneOf('mix', 'multiply', 'screen', 'overlay');

export const blendField = <S extends { blend: Blend }>(): Field<S, StepContext> => ({
  kind: 'choice',
  label: 'By',
  options: [
    ['multiply', 'multiplying'],
    ['overlay', 'overlaying'],
    ['screen', 'screening'],
    ['mix', 'covering'],
  ],
  get: (s) => s.blend,
  set: (s, blend) => ({ ...s, blend: blend as Blend }),
});
