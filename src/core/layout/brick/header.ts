import { type Static, Type } from '@sinclair/typebox';
import { BRICK, brickBond, headers } from './bond';

export const HeaderLayout = Type.Object({ kind: Type.Literal('header'), ...BRICK });
type HeaderLayout = Static<typeof HeaderLayout>;

/** Headers alone, each course moved by half of one. */
export const header = brickBond<HeaderLayout>({
  kind: 'header',
  label: 'Header bond',
  also: ['heading bond', 'curved walls'],
  schema: HeaderLayout,
  roles: ['header'],
  fitted: false,
  words: () => 'header bond',
  courses: (s, { alongMm }) => [headers(s), headers(s, (s.headerMm + alongMm) / 2)],
});
