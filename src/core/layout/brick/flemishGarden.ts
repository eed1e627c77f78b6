import { type Static, Type } from '@sinclair/typebox';
import { countOf } from '../pattern';
import { BRICK, brickBond, type Course } from './bond';

export const FlemishGardenLayout = Type.Object({
  kind: Type.Literal('flemishGarden'),
  ...BRICK,
  /** Stretchers to a header in every course: two of them are monk bond. */
  stretchers: Type.Integer({ minimum: 2, maximum: 7 }),
});
type FlemishGardenLayout = Static<typeof FlemishGardenLayout>;

/** Several stretchers and a header in every course, headers centred between those of the course below. */
export const flemishGarden = brickBond<FlemishGardenLayout>({
  kind: 'flemishGarden',
  label: 'Flemish garden wall bond',
  also: ['sussex bond'],
  schema: FlemishGardenLayout,
  roles: ['stretcher', 'header'],
  more: { stretchers: 3 },
  fields: [
    countOf(
      'Stretchers to a header',
      'stretchers',
      [3, 4, 5].map((n) => [n, String(n)] as const),
    ),
  ],
  words: (s) => `Flemish garden wall bond, ${s.stretchers} stretchers to a header,`,
  courses: (s, joint) => severalToAHeader(s, s.stretchers, joint.alongMm),
});

/** Two courses of so many stretchers and a header, the second moved by half of what repeats. */
export function severalToAHeader(
  { stretcherMm, headerMm, heightMm }: { stretcherMm: number; headerMm: number; heightMm: number },
  count: number,
  joint: number,
): Course[] {
  const bricks: Course['bricks'] = [
    ...Array.from({ length: count }, () => ({ role: 'stretcher' as const, mm: stretcherMm })),
    { role: 'header', mm: headerMm },
  ];
  const repeat = count * (stretcherMm + joint) + headerMm + joint;
  return [
    { bricks, from: 0, heightMm },
    { bricks, from: repeat / 2, heightMm },
  ];
}
