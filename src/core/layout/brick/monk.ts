import { type Static, Type } from '@sinclair/typebox';
import { BRICK, brickBond } from './bond';
import { severalToAHeader } from './flemishGarden';

export const MonkLayout = Type.Object({ kind: Type.Literal('monk'), ...BRICK });
type MonkLayout = Static<typeof MonkLayout>;

/** Two stretchers and a header in every course; each header is centred over the joint of two stretchers. */
export const monk = brickBond<MonkLayout>({
  kind: 'monk',
  label: 'Monk bond',
  also: ['yorkshire bond', 'flying bond', 'nordic'],
  schema: MonkLayout,
  roles: ['stretcher', 'header'],
  words: () => 'monk bond',
  courses: (s, { alongMm }) => severalToAHeader(s, 2, alongMm),
});
