import { FINISHES, type FinishKind } from '../material/finishes';
import { type Material, MIXED_ROLES, ROLE_LABELS } from '../material/schema';
import { MAP_SHARE } from '../material/settings';
import type { Field } from '../schema/fields';
import { finishOn } from './finish';
import type { FinishSpec } from './schema';

/** A finish as it is set on a surface, with the material it follows where it says nothing. */
export interface FinishOfMaterial {
  finish: FinishSpec;
  material: Material;
}

const having = (of: FinishOfMaterial, values: FinishSpec): FinishOfMaterial => ({
  ...of,
  finish: { ...of.finish, ...values },
});

const rounded = (v: number) => Math.round(v * 1000) / 1000;

/** How the face of a surface meets light, as people set it. */
export const FINISH_FIELDS: readonly Field<FinishOfMaterial>[] = [
  {
    kind: 'choice',
    label: 'Finish',
    options: FINISHES.map(({ kind, label }) => [kind, label] as const),
    get: ({ finish, material }) => finish.kind ?? material.finish.kind,
    // a kind brings numbers of its own
    set: (of, kind) =>
      having(of, {
        kind: kind as FinishKind,
        roughness: undefined,
        reflection: undefined,
        coat: undefined,
        deepen: undefined,
      }),
  },
  {
    kind: 'length',
    label: 'Relief',
    min: 0,
    max: 500,
    step: 0.1,
    get: ({ finish, material }) => finish.reliefMm ?? material.finish.reliefMm,
    set: (of, reliefMm) => having(of, { reliefMm }),
  },
  {
    kind: 'number',
    label: 'Relief ×',
    min: 0,
    max: 8,
    step: 0.05,
    suffix: ' ×',
    fixed: ({ material }) => !material.maps.normal,
    get: ({ finish, material }) => finish.normalStrength ?? material.finish.normalStrength,
    set: (of, normalStrength) => having(of, { normalStrength }),
  },
  {
    kind: 'number',
    label: 'Roughness',
    min: 0,
    max: 1,
    step: 0.05,
    get: ({ finish, material }) => rounded(finishOn(finish, material).roughness),
    set: (of, roughness) => having(of, { roughness }),
  },
  ...(
    [
      ['Reflection', 'reflection', 'What is mirrored straight on: 0 none, 1 as common materials do'],
      ['Clear coat', 'coat', 'A clear layer over it, as lacquer is'],
      ['Deepening', 'deepen', 'How far its colour is deepened, as oil does'],
    ] as const
  ).map(([label, key, title]): Field<FinishOfMaterial> => ({
    kind: 'number',
    label,
    title,
    min: 0,
    max: 1,
    step: 0.05,
    further: true,
    get: ({ finish, material }) => rounded(finishOn(finish, material)[key]),
    set: (of, value) => having(of, { [key]: value }),
  })),
  ...MIXED_ROLES.map((role): Field<FinishOfMaterial> => ({
    kind: 'number',
    label: `${ROLE_LABELS[role]} map`,
    title: MAP_SHARE,
    min: 0,
    max: 1,
    step: 0.05,
    further: true,
    shown: ({ material }) => !!material.maps[role],
    get: ({ finish, material }) => rounded(finishOn(finish, material).mixed[role].times),
    set: (of, share) => having(of, { mapShares: { ...of.finish.mapShares, [role]: share } }),
  })),
];
