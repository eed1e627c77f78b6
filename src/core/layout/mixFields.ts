import type { Field, Option } from '../schema/fields';
import { ACCENT, type MixEntry, type MixSpec } from './mix';
import type { PieceRole } from './roles';

/** What further materials are dealt by, as people set it. */
export const MIX_FIELDS: readonly Field<MixSpec>[] = [
  {
    kind: 'choice',
    label: 'Further materials',
    options: [
      ['share', 'by share of the pieces'],
      ['course', 'by course'],
      ['role', 'by role'],
      ['sequence', 'in a sequence'],
      ['accent', 'as a rare accent'],
    ],
    get: ({ by }) => by,
    set: (mix, by) => ({ ...mix, by: by as MixSpec['by'] }),
  },
  {
    kind: 'choice',
    label: 'The sequence runs',
    options: [
      ['along', 'along courses'],
      ['across', 'from course to course'],
    ],
    shown: ({ by }) => by === 'sequence',
    get: ({ runs = 'along' }) => runs,
    set: (mix, runs) => ({ ...mix, runs: runs as NonNullable<MixSpec['runs']> }),
  },
  {
    kind: 'number',
    label: 'Main material, times',
    integer: true,
    min: 1,
    max: 100,
    shown: ({ by }) => by === 'sequence',
    get: ({ times = 1 }) => times,
    set: (mix, n) => ({ ...mix, times: Math.round(n) }),
  },
];

interface EntryContext {
  by: MixSpec['by'];
  /** What can be mixed in, as [id, name]. */
  materials: readonly Option[];
  /** That pieces of the layout have. */
  roles: readonly PieceRole[];
}

const whole = (label: string, key: 'every' | 'first', min: number): Field<MixEntry, EntryContext> => ({
  kind: 'number',
  label,
  integer: true,
  min,
  max: 1000,
  shown: (_entry, { by }) => by === 'course',
  get: (entry) => entry[key],
  set: (entry, n) => ({ ...entry, [key]: Math.round(n) }),
});

/** One of the further materials, as people set it. */
export const MIX_ENTRY_FIELDS: readonly Field<MixEntry, EntryContext>[] = [
  { kind: 'toggle', label: 'laid', get: ({ on }) => on, set: (entry, on) => ({ ...entry, on }) },
  {
    kind: 'choice',
    label: 'Material',
    span: 2,
    optionsFor: (_entry, { materials }) => materials,
    get: ({ material }) => material,
    set: (entry, material) => ({ ...entry, material }),
  },
  {
    kind: 'number',
    label: 'Share',
    suffix: '%',
    min: 0,
    max: 100,
    step: 1,
    span: 2,
    shown: (_entry, { by }) => by === 'share',
    get: ({ share }) => share * 100,
    set: (entry, percent) => ({ ...entry, share: percent / 100 }),
  },
  whole('Every', 'every', 1),
  whole('From course', 'first', 0),
  {
    kind: 'number',
    label: 'Times',
    integer: true,
    min: 1,
    max: 100,
    shown: (_entry, { by }) => by === 'sequence',
    get: ({ times = 1 }) => times,
    set: (entry, n) => ({ ...entry, times: Math.round(n) }),
  },
  {
    kind: 'number',
    label: 'One in',
    integer: true,
    min: 2,
    max: 100_000,
    shown: (_entry, { by }) => by === 'accent',
    get: ({ oneIn = ACCENT.oneIn }) => oneIn,
    set: (entry, n) => ({ ...entry, oneIn: Math.round(n) }),
  },
  {
    kind: 'number',
    label: 'Between two, at least',
    title: 'Pieces that lie between two accents at least',
    integer: true,
    min: 0,
    max: 1000,
    shown: (_entry, { by }) => by === 'accent',
    get: ({ apart = ACCENT.apart }) => apart,
    set: (entry, n) => ({ ...entry, apart: Math.round(n) }),
  },
  {
    kind: 'choice',
    label: 'Role',
    span: 2,
    shown: (_entry, { by }) => by === 'role',
    optionsFor: (_entry, { roles }) => roles.map((r) => [r, r] as const),
    get: ({ role }) => role,
    set: (entry, role) => ({ ...entry, role }),
  },
];

/** What a material starts with when it is mixed in. */
export const firstEntry = (material: string, roles: readonly PieceRole[]): MixEntry => ({
  material,
  on: true,
  share: 0.2,
  every: 4,
  first: 3,
  role: roles[roles.length - 1],
});
