import type { Field } from './fields';

interface NumberLimits {
  min: number;
  max: number;
  step?: number;
}

/** Keys of a spec whose values are of a type. */
type KeysOf<S, V> = { [K in keyof S]-?: S[K] extends V ? K : never }[keyof S];

const put = <S, K extends keyof S>(spec: S, key: K, value: unknown): S => ({ ...spec, [key]: value }) as S;

/** Makers of fields that are one property of a spec, as it is. */
export const fieldsOf = <S extends object, C = unknown>() => ({
  number: (label: string, key: KeysOf<S, number>, limits: NumberLimits & { suffix?: string }): Field<S, C> => ({
    kind: 'number',
    label,
    ...limits,
    get: (s) => s[key] as number,
    set: (s, v) => put(s, key, v),
  }),
  angle: (label: string, key: KeysOf<S, number>, limits: NumberLimits): Field<S, C> => ({
    kind: 'angle',
    label,
    ...limits,
    get: (s) => s[key] as number,
    set: (s, v) => put(s, key, v),
  }),
  length: (label: string, key: KeysOf<S, number>, limits: NumberLimits): Field<S, C> => ({
    kind: 'length',
    label,
    ...limits,
    get: (s) => s[key] as number,
    set: (s, v) => put(s, key, v),
  }),
  /** A share of 1, read as percent. @param most, least in percent */
  share: (label: string, key: KeysOf<S, number>, least = 0, most = 100): Field<S, C> => ({
    kind: 'number',
    label,
    suffix: ' %',
    min: least,
    max: most,
    step: 5,
    get: (s) => Math.round((s[key] as number) * 1e4) / 100,
    set: (s, percent) => put(s, key, percent / 100),
  }),
  toggle: (label: string, key: KeysOf<S, boolean>): Field<S, C> => ({
    kind: 'toggle',
    label,
    get: (s) => s[key] as boolean,
    set: (s, on) => put(s, key, on),
  }),
});
