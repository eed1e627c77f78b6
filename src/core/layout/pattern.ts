import type { TSchema } from '@sinclair/typebox';
import type { Field } from '../schema/fields';
import { defaultJoint, type JointSpec } from './joint';
import { endsAndSides, evenJoint, openPeriod, type Period } from './period';
import type { PieceRole } from './roles';
import type { AnyLayoutSpec, Layout, OpenLayout, Trade } from './types';

/** What tells one periodic layout from another. */
export interface Pattern<Spec extends AnyLayoutSpec> {
  kind: Spec['kind'];
  label: string;
  trade: Trade;
  also: readonly string[];
  schema: TSchema & { static: Spec };
  /** What it starts with, and named sizes of the trade made from that. */
  first: Omit<Spec, 'kind'>;
  joint: JointSpec;
  formats: readonly { label: string; spec: Partial<Spec>; joint?: Partial<JointSpec> }[];
  roles: readonly PieceRole[];
  rolesOf?: Layout<Spec>['rolesOf'];
  jointDrawn?: Layout<Spec>['jointDrawn'];
  takenFrom?: Layout<Spec>['takenFrom'];
  faultOf?: Layout<Spec>['faultOf'];
  size: Layout<Spec>['size'];
  fields: Layout<Spec>['fields'];
  describe: Layout<Spec>['describe'];
  /** Its joints have one width, or differ at the ends of pieces. */
  ends?: boolean;
  /** Numbers of the spec that are lengths: they grow together where it is sized to close round a ring. */
  lengths: readonly (keyof Spec)[];
  period(spec: Spec, joint: { alongMm: number; acrossMm: number }): Period;
}

/** A layout that repeats a period. */
export function pattern<Spec extends AnyLayoutSpec>(def: Pattern<Spec>): Layout<Spec> {
  const { first, formats, ends = false, lengths, period, joint, ...said } = def;
  const spec = { kind: def.kind, ...first } as unknown as Spec;
  const opened = new Map<string, OpenLayout>();
  const jointOf = ({ alongMm, acrossMm }: JointSpec) => ({ alongMm: ends ? alongMm : acrossMm, acrossMm });
  /** Along its courses, where its steps run level; null where they run aslant. */
  const pitchOf = (s: Spec, j: JointSpec): number | null => {
    const { right } = period(s, jointOf(j));
    return Math.abs(right[1]) < 1e-9 ? right[0] : null;
  };
  return {
    ...said,
    cells: 'laid',
    oneJoint: !ends,
    preset: { spec, joint },
    formats: formats.map((f) => ({ ...f, spec: { ...spec, ...f.spec } })),
    pitch: pitchOf,
    perPitch: (s, j) => period(s, jointOf(j)).cells.length,
    // all its lengths grow by one factor; its step grows with them, less what is joint
    round(s, j, pitch, standing) {
      const at = (factor: number) => {
        const scaled = { ...s };
        for (const key of lengths) scaled[key] = ((s[key] as number) * factor) as Spec[keyof Spec];
        return scaled;
      };
      const step = (of: Spec) => {
        const { right, up } = period(of, jointOf(j));
        if (Math.abs(right[1]) > 1e-9 || (standing && Math.abs(up[0]) > 1e-9)) return null;
        return standing ? up[1] : right[0];
      };
      const [one, two] = [step(s), step(at(2))];
      if (one === null || two === null || two - one < 1e-9) return null;
      const factor = 1 + (pitch - one) / (two - one);
      return factor > 0.01 ? at(factor) : null;
    },
    open(s, j) {
      const { alongMm, acrossMm } = jointOf(j);
      const key = JSON.stringify([s, alongMm, acrossMm]);
      const known = opened.get(key);
      if (known) return known;
      const joints = ends ? endsAndSides(alongMm, acrossMm) : evenJoint(acrossMm);
      const made = openPeriod(period(s, { alongMm, acrossMm }), joints);
      if (opened.size >= MOST_KEPT) opened.clear();
      opened.set(key, made);
      return made;
    },
  };
}

/** Opened layouts that are kept: the same few are asked for again and again. */
const MOST_KEPT = 16;

/** A field for a length of the spec, mm. */
export const lengthOf = <Spec>(label: string, key: keyof Spec): Field<Spec> => ({
  kind: 'length',
  label,
  get: (s) => s[key] as number,
  set: (s, mm) => ({ ...s, [key]: mm }),
});

/** The number behind a layout that is itself random. */
export const layoutNumberOf = <Spec extends { layoutNumber: number }>(): Field<Spec> => ({
  kind: 'number',
  label: 'Layout number',
  integer: true,
  min: 0,
  get: (s) => s.layoutNumber,
  set: (s, n) => ({ ...s, layoutNumber: Math.round(n) }),
});

/** Whole numbers of the spec to choose from, each with its word. */
export const countOf = <Spec>(
  label: string,
  key: keyof Spec,
  options: readonly (readonly [number, string])[],
): Field<Spec> => ({
  kind: 'choice',
  label,
  options: options.map(([n, word]) => [String(n), word] as const),
  get: (s) => String(s[key]),
  set: (s, v) => ({ ...s, [key]: Number(v) }),
});

/** Length and width in one field, the longer first. */
export const sidesOf = <Spec>(
  label: string,
  long: keyof Spec,
  wide: keyof Spec,
): Layout<AnyLayoutSpec & Spec>['size'] => ({
  label,
  sorted: true,
  get: (s) => [s[long] as number, s[wide] as number],
  set: (s, [l, w]) => ({ ...s, [long]: l, [wide]: w }),
});

/** One size that says all. */
export const oneSize = <Spec>(label: string, key: keyof Spec): Layout<AnyLayoutSpec & Spec>['size'] => ({
  label,
  sorted: false,
  get: (s) => [s[key] as number, s[key] as number],
  set: (s, [mm]) => ({ ...s, [key]: mm }),
});

export const woodJoint = defaultJoint(1, '#3a2c20');
export const mortar: JointSpec = { ...defaultJoint(10, '#b9b2a4'), recessMm: 3, roundingMm: 2 };
export const grout = (mm = 2): JointSpec => ({ ...defaultJoint(mm, '#d8d4cb'), recessMm: 1, roundingMm: 1 });

/** A rectangle's corners. */
export const box = (x: number, y: number, w: number, h: number): number[] => [x, y, x + w, y, x + w, y + h, x, y + h];

/**
 * Chords along an arc, its start left out, at most `sagittaMm` off the true arc.
 * @param count chords, where neighbours must have the same; else as many as that takes
 */
export function arc(
  cx: number,
  cy: number,
  r: number,
  fromDeg: number,
  toDeg: number,
  count = chordsOf(r, toDeg - fromDeg),
) {
  const out: number[] = [];
  for (let k = 1; k <= count; k++) {
    const at = ((fromDeg + ((toDeg - fromDeg) * k) / count) * Math.PI) / 180;
    out.push(cx + r * Math.cos(at), cy + r * Math.sin(at));
  }
  return out;
}

/** How far chords lie off their arc at most in the views, mm. */
const SAGITTA = 0.25;

/** More than so many a full round are not seen. */
const MOST_CHORDS = 240;

/** Chords that an arc needs. */
export const chordsOf = (r: number, deg: number): number => {
  const step = 2 * Math.acos(Math.max(0, 1 - SAGITTA / Math.max(r, 2 * SAGITTA)));
  const most = Math.ceil((MOST_CHORDS * Math.abs(deg)) / 360);
  return Math.max(2, Math.min(most, Math.ceil((Math.abs(deg) * Math.PI) / 180 / step)));
};
