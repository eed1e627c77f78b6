import { finishOf } from '../material/finishes';
import type { Material } from '../material/schema';
import { layoutOf, type Layouts } from '../layout/registry';
import { mappingOf, type Mappings } from '../mapping/registry';
import type { MappingSpec } from '../mapping/schema';
import type { Plane } from '../geometry/plane';
import { type LengthUnit, trimNumber } from '../units/length';
import { isWorn } from '../wear/schema';
import { wearKindOf } from '../wear/registry';
import type { GaugeSide } from './gauge';
import { defaultSpec, liesInPieces, repeatOf, type Spec } from './schema';

/** The segments of the bench. */
export type SegmentName = 'material' | 'mapping' | 'repeat' | 'start' | 'pieces' | 'variation' | 'finish' | 'wear';

/** What a portion is put into words with. */
export interface About {
  spec: Spec;
  material: Material;
  unit: LengthUnit;
  /** A length in the project's unit. */
  length: Length;
  layouts?: Layouts;
  mappings?: Mappings;
}

/** A portion of a spec, which can be lifted and laid on its own: everything that is known of it but its segment. */
export interface PortionDefinition<K extends keyof Spec = keyof Spec> {
  key: K;
  /** The segment of the bench on which it is set, and the field there that its words lead to. */
  segment: SegmentName;
  field: string;
  /** As the history names it: “Set start of Hall floor”. */
  label: string;
  /** Where pieces come to lie depends on it; finish and light do not. */
  decidesPieces: boolean;
  /** Said before its words in the spec line. */
  lead: string;
  /** Its words in the spec line; null where it has no say. */
  words(about: About): string | null;
}

const portion = <const K extends keyof Spec>(definition: PortionDefinition<K>) => definition;

const DATUM_WORDS = {
  corner: 'the lower left corner',
  centre: 'the centre',
  part: 'the part’s origin',
  world: 'site zero',
  level: 'the level',
} as const;

type Length = (mm: number, withUnit?: boolean) => string;

function repeatWords(spec: Spec, material: Material, length: Length, unit: LengthUnit): string {
  const { own, once, band, percent } = spec.repeat;
  const inPieces = liesInPieces(spec);
  const size = repeatOf(spec, material);
  const guess = material.sizeAssumed ? ', a guess' : '';
  const follows = percent === undefined ? ' as the material' : `, ${trimNumber(percent, 2)}% of the material`;
  const followed = own ? '' : `${follows}${guess}`;
  const text = `${length(size.widthMm, unit === 'ft-in')} × ${length(size.heightMm)}${followed}`;
  if (inPieces) return `picture ${text}`;
  const share = (v: number) => Math.round(v * 1000) / 10;
  if (band)
    return (
      `a band of its picture, ${share(band.from)} to ` +
      `${share(band.to)}% of the height, ${length(size.widthMm)} long`
    );
  return `${once ? 'one picture' : 'repeat'} ${once?.fitted ? 'as large as there is room' : text}`;
}

function piecesWords(spec: Spec, length: Length, layouts?: Layouts): string {
  const { layout, joint, mix, margins } = spec.pieces!;
  const size = (a: number, b?: number) => (b === undefined ? length(a) : `${length(a, false)} × ${length(b)}`);
  const mixed = mix.entries.filter((e) => e.on).length;
  const { cells, describe, jointDrawn, course } = layoutOf(layout, layouts);
  const width =
    joint.alongMm === joint.acrossMm
      ? length(joint.acrossMm)
      : `${length(joint.alongMm, false)} and ${length(joint.acrossMm)}`;
  const joints = jointDrawn?.(layout) ? 'as drawn' : width;
  const isWhole = !!course?.(layout, joint) && !!(margins?.along ?? margins?.across);
  const whole = isWhole ? ', whole pieces only' : '';
  const arranged = `${describe(layout, size)}${cells === 'laid' ? `, joints ${joints}${whole}` : ''}`;
  return `${arranged}${mixed ? `, with ${mixed} more ${mixed === 1 ? 'material' : 'materials'}` : ''}`;
}

function variationWords({ variation }: Spec): string {
  if (variation && !variation.on) return 'no variation';
  const pins = variation?.pins.length ?? 0;
  return `shuffle ${variation?.shuffle ?? 1}${pins ? `, ${pins} pinned` : ''}`;
}

function startWords(spec: Spec, length: (mm: number) => string): string {
  if (spec.repeat.once?.fitted) return 'fitted into the middle';
  const { datum, level, middle, xMm, yMm } = spec.start;
  const from =
    datum === 'level' && level
      ? `level ${length(level.heightMm)}`
      : datum === 'centre' && middle === 'piece'
        ? `the centre with a ${liesInPieces(spec) ? 'piece' : 'picture'}`
        : DATUM_WORDS[datum];
  const steps = [
    xMm ? `${length(Math.abs(xMm))} ${xMm > 0 ? 'right' : 'left'}` : '',
    yMm ? `${length(Math.abs(yMm))} ${yMm > 0 ? 'up' : 'down'}` : '',
  ].filter(Boolean);
  return steps.length ? `${steps.join(' and ')} from ${from}` : `at ${from}`;
}

function directionWords(spec: Spec): string {
  const { turnDeg, mirrorX, mirrorY } = spec.direction;
  const mirror =
    mirrorX && mirrorY
      ? ', mirrored both ways'
      : mirrorX
        ? ', mirrored left to right'
        : mirrorY
          ? ', mirrored top to bottom'
          : '';
  return `turned ${trimNumber(turnDeg, 2)}°${mirror}`;
}

function gaugeWords({ gauge, direction }: Spec): string | null {
  const side = (of: GaugeSide | undefined, up: boolean) => {
    if (!of) return null;
    const courses = up === (Math.round(direction.turnDeg / 90) % 2 === 0);
    const what = courses ? 'courses' : 'pieces';
    return `${of.count === null ? `whole ${what}` : `${of.count} ${what}`} ${up ? 'up' : 'across'}`;
  };
  const said = [side(gauge?.up, true), side(gauge?.across, false)].filter(Boolean);
  return said.length ? `gauged to ${said.join(' and ')}` : null;
}

/** A plane as people name it: by the axis it is square to, or by its direction. */
export function describePlane({ normal, atMm }: Plane, length: (mm: number) => string): string {
  const axis = normal.findIndex((v) => Math.abs(v) > 0.999999);
  if (axis >= 0) return `${'xyz'[axis]} = ${length(atMm * Math.sign(normal[axis]) || 0)}`;
  return `a plane facing ${normal.map((v) => trimNumber(v, 3)).join(', ')}, ${length(atMm)} from site zero`;
}

function mappingWords({ mapping }: Spec, length: (mm: number) => string, mappings?: Mappings): string {
  const { mirror } = mapping;
  const upright = mirror?.prints === 'upright' ? ' but for its pictures' : '';
  const seen = mirror ? `, mirrored${upright} through ${describePlane(mirror, length)}` : '';
  return `${mappingOf(mapping, mappings).describe(mapping)}${seen}`;
}

function finishWords(spec: Spec, material: Material, length: (mm: number) => string): string {
  const kind = finishOf(spec.finish.kind ?? material.finish.kind).label.toLowerCase();
  const relief = spec.finish.reliefMm ?? material.finish.reliefMm;
  return relief > 0 ? `${kind}, relief ${length(relief)}` : kind;
}

function wearWords({ wear }: Spec, length: (mm: number) => string): string | null {
  if (!isWorn(wear)) return null;
  const layers = wear.layers.filter((l) => l.on && l.strength > 0).map((l) => wearKindOf(l).words(l, length));
  const marks = wear.marks.filter((m) => m.on && m.strength > 0).length;
  return [...layers, ...(marks ? [`${marks} ${marks === 1 ? 'mark' : 'marks'}`] : [])].join(' and ');
}

/** All portions of a spec, in the order in which the spec line says them. */
export const PORTIONS = [
  portion({
    key: 'material',
    segment: 'material',
    field: 'Find a material',
    label: 'material',
    decidesPieces: true,
    lead: ' is laid in ',
    words: ({ material }) => material.name,
  }),
  portion({
    key: 'pieces',
    segment: 'pieces',
    field: 'Layout',
    label: 'pieces',
    decidesPieces: true,
    lead: ', ',
    words: (about) => (liesInPieces(about.spec) ? piecesWords(about.spec, about.length, about.layouts) : null),
  }),
  portion({
    key: 'repeat',
    segment: 'repeat',
    field: 'Width',
    label: 'repeat',
    decidesPieces: true,
    lead: ', ',
    words: ({ spec, material, length, unit }) => repeatWords(spec, material, length, unit),
  }),
  portion({
    key: 'mapping',
    segment: 'mapping',
    field: 'Mappings',
    label: 'mapping',
    decidesPieces: true,
    lead: ', mapped ',
    words: ({ spec, length, mappings }) => mappingWords(spec, length, mappings),
  }),
  portion({
    key: 'start',
    segment: 'start',
    field: 'Datum',
    label: 'start',
    decidesPieces: true,
    lead: ', starting ',
    words: ({ spec, length }) => startWords(spec, length),
  }),
  portion({
    key: 'direction',
    segment: 'start',
    field: 'Turned',
    label: 'direction',
    decidesPieces: true,
    lead: ', ',
    words: ({ spec }) => directionWords(spec),
  }),
  portion({
    key: 'gauge',
    segment: 'start',
    field: 'Gauge',
    label: 'gauge',
    decidesPieces: true,
    lead: ', ',
    words: ({ spec }) => (liesInPieces(spec) ? gaugeWords(spec) : null),
  }),
  portion({
    key: 'variation',
    segment: 'variation',
    field: 'Shuffle',
    label: 'variation',
    decidesPieces: true,
    lead: ', ',
    words: ({ spec }) => (liesInPieces(spec) ? variationWords(spec) : null),
  }),
  portion({
    key: 'finish',
    segment: 'finish',
    field: 'Finish',
    label: 'finish',
    decidesPieces: false,
    lead: ', ',
    words: ({ spec, material, length }) => finishWords(spec, material, length),
  }),
  portion({
    key: 'wear',
    segment: 'wear',
    field: 'Add wear',
    label: 'wear',
    decidesPieces: false,
    lead: ', worn by ',
    words: ({ spec, length }) => wearWords(spec, length),
  }),
] as const;

export type Portion = (typeof PORTIONS)[number]['key'];

/** Every property of a spec is a portion: one that has no definition does not compile. */
type Missing = Exclude<keyof Spec, Portion>;
const _complete: Missing extends never ? true : Missing = true;

/**
 * Lays the chosen portions of `from` over `onto`. A bare surface takes defaults for what is not chosen. Whose mirror
 * image a surface is stays with that surface.
 */
export function layPortions(onto: Spec | null, lifted: Spec, portions: readonly Portion[]): Spec {
  const { mirror: _its, ...mapping } = lifted.mapping;
  const from: Spec = { ...lifted, mapping: mapping as MappingSpec };
  const base = { ...(onto ?? defaultSpec(from.material)) };
  // what the lifted spec does not have is taken away, not set to nothing
  const had = portions.filter((p) => from[p] !== undefined);
  for (const p of portions) if (from[p] === undefined) delete (base as Partial<Spec>)[p];
  return { ...base, ...Object.fromEntries(had.map((p) => [p, from[p]])) };
}

/** Portions in which two specs differ. */
export const changedPortions = (before: Spec, after: Spec) =>
  PORTIONS.filter(({ key }) => JSON.stringify(before[key]) !== JSON.stringify(after[key]));
