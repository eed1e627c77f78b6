import { type Static, Type } from '@sinclair/typebox';
import { countOf } from '../pattern';
import { BRICK, brickBond, centred, halfOn, headers, stretchers } from './bond';

export const EnglishGardenLayout = Type.Object({
  kind: Type.Literal('englishGarden'),
  ...BRICK,
  /** Courses of stretchers to one of headers. */
  courses: Type.Integer({ minimum: 2, maximum: 9 }),
});
type EnglishGardenLayout = Static<typeof EnglishGardenLayout>;

/** Several courses of stretchers in half bond, then one of headers. */
export const englishGarden = brickBond<EnglishGardenLayout>({
  kind: 'englishGarden',
  label: 'English garden wall bond',
  also: ['american bond', 'common bond', 'scottish bond'],
  schema: EnglishGardenLayout,
  roles: ['stretcher', 'header'],
  more: { courses: 3 },
  fields: [
    countOf(
      'Stretcher courses',
      'courses',
      [2, 3, 4, 5, 6, 7].map((n) => [n, String(n)] as const),
    ),
  ],
  words: (s) => `English garden wall bond, ${s.courses} courses to a header course,`,
  courses: (s, joint) => [
    ...Array.from({ length: s.courses }, (_, n) => stretchers(s, n % 2 ? halfOn(s, joint) : 0)),
    headers(s, centred(s)),
  ],
});
