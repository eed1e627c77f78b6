import type { Field, Option } from '../schema/fields';
import type { MixEntry, MixSpec } from './mix';
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
    ],
    get: ({ by }) => by,
    set: (mix, by) => ({ ...mix, by: by as MixSpec['by'] }),
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
    kind: 'choice',
    label: 'Role',
    span: 2,
    shown: (_entry, { by }) => by === 'role',
    optionsFor: (_entry, { roles }) => roles.map((r) => [r, r] as const),
    get: ({ role }) => role,
    set: (entry, role) => ({ ...entry, role: role as PieceRole }),
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
