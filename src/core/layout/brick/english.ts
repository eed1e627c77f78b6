import { type Static, Type } from '@sinclair/typebox';
import { BRICK, brickBond, centred, headers, stretchers } from './bond';

export const EnglishLayout = Type.Object({ kind: Type.Literal('english'), ...BRICK });
type EnglishLayout = Static<typeof EnglishLayout>;

/** A course of stretchers, a course of headers, in turn; stretchers lie straight over stretchers. */
export const english = brickBond<EnglishLayout>({
  kind: 'english',
  label: 'English bond',
  also: ['stretchers and headers'],
  schema: EnglishLayout,
  roles: ['stretcher', 'header'],
  words: () => 'English bond',
  courses: (s) => [stretchers(s), headers(s, centred(s))],
});
