import { type Static, Type } from '@sinclair/typebox';
import { BRICK, brickBond, centred, halfOn, headers, stretchers } from './bond';

export const EnglishCrossLayout = Type.Object({ kind: Type.Literal('englishCross'), ...BRICK });
type EnglishCrossLayout = Static<typeof EnglishCrossLayout>;

/** English bond in which every other course of stretchers is moved by half, so that joints make crosses. */
export const englishCross = brickBond<EnglishCrossLayout>({
  kind: 'englishCross',
  label: 'English cross bond',
  also: ['cross bond', 'dutch bond'],
  schema: EnglishCrossLayout,
  roles: ['stretcher', 'header'],
  words: () => 'English cross bond',
  courses: (s, joint) => [
    stretchers(s),
    headers(s, centred(s)),
    stretchers(s, halfOn(s, joint)),
    headers(s, centred(s)),
  ],
});
