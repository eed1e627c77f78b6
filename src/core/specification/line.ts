import type { Material } from '../material/schema';
import { FINISHES } from '../material/schema';
import { formatLength, type LengthUnit, trimNumber } from '../units/length';
import { layoutOf, type Layouts } from '../layout/registry';
import { mappingOf, type Mappings } from '../mapping/registry';
import { liesInPieces, type Portion, type Spec } from './schema';

/** A stretch of the spec line; where `portion` is set, it leads to that card of the bench. */
export interface LinePart {
  text: string;
  portion?: Portion;
}

const DATUM_WORDS = {
  corner: 'the lower left corner',
  centre: 'the centre',
  part: 'the part’s origin',
  world: 'the world’s origin',
  level: 'the level',
} as const;

/** Layouts and mappings a spec may be of, where they are not the application's alone. */
export interface Definitions {
  layouts?: Layouts;
  mappings?: Mappings;
}

/** The spec of a surface read aloud as one sentence. */
export function specLine(
  surface: string,
  spec: Spec | null,
  material: Material | null,
  unit: LengthUnit,
  { layouts, mappings }: Definitions = {},
): LinePart[] {
  if (!spec || !material) return [{ text: `${surface} has nothing laid on it yet.` }];
  const length = (mm: number, withUnit = true) => formatLength(mm, unit, { withUnit });
  const inPieces = liesInPieces(spec);
  const parts: LinePart[] = [
    { text: `${surface} is laid in ` },
    { text: material.name, portion: 'material' },
    { text: ', ' },
    ...(inPieces ? piecesWords(spec, length, layouts) : []),
    { text: repeatWords(spec, material, length, unit), portion: 'repeat' },
    { text: ', mapped ' },
    {
      text: mappingOf(spec.mapping, mappings).describe(spec.mapping),
      portion: 'mapping',
    },
    { text: ', starting ' },
    { text: startWords(spec, length), portion: 'start' },
    { text: ', ' },
    { text: directionWords(spec), portion: 'direction' },
    { text: ', ' },
    ...(inPieces ? [{ text: variationWords(spec), portion: 'variation' as const }, { text: ', ' }] : []),
    { text: finishWords(spec, material, length), portion: 'finish' },
    { text: '.' },
  ];
  return parts;
}

type Length = (mm: number, withUnit?: boolean) => string;

function repeatWords(spec: Spec, material: Material, length: Length, unit: LengthUnit): string {
  const { own, once, band } = spec.repeat;
  const inPieces = liesInPieces(spec);
  const size = own ?? material;
  const text = `${length(size.widthMm, unit === 'ft-in')} × ${length(size.heightMm)}${own ? '' : ' as the material'}`;
  if (inPieces) return `picture ${text}`;
  const percent = (v: number) => Math.round(v * 1000) / 10;
  if (band)
    return (
      `a band of its picture, ${percent(band.from)} to ` +
      `${percent(band.to)}% of the height, ${length(size.widthMm)} long`
    );
  return `${once ? 'one picture' : 'repeat'} ${once?.fitted ? 'as large as there is room' : text}`;
}

function piecesWords(spec: Spec, length: Length, layouts?: Layouts): LinePart[] {
  const { layout, joint, mix } = spec.pieces!;
  const size = (a: number, b?: number) => (b === undefined ? length(a) : `${length(a, false)} × ${length(b)}`);
  const mixed = mix.entries.filter((e) => e.on).length;
  const joints =
    joint.alongMm === joint.acrossMm
      ? length(joint.acrossMm)
      : `${length(joint.alongMm, false)} and ${length(joint.acrossMm)}`;
  const { cells, describe } = layoutOf(layout, layouts);
  const arranged = `${describe(layout, size)}${cells === 'laid' ? `, joints ${joints}` : ''}`;
  return [
    {
      text: `${arranged}${mixed ? `, with ${mixed} more ${mixed === 1 ? 'material' : 'materials'}` : ''}`,
      portion: 'pieces',
    },
    { text: ', ' },
  ];
}

function variationWords({ variation }: Spec): string {
  if (variation && !variation.on) return 'no variation';
  const pins = variation?.pins.length ?? 0;
  return `shuffle ${variation?.shuffle ?? 1}${pins ? `, ${pins} pinned` : ''}`;
}

function startWords(spec: Spec, length: (mm: number) => string): string {
  if (spec.repeat.once?.fitted) return 'fitted into the middle';
  const { datum, level, xMm, yMm } = spec.start;
  const from = datum === 'level' && level ? `level ${length(level.heightMm)}` : DATUM_WORDS[datum];
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

function finishWords(spec: Spec, material: Material, length: (mm: number) => string): string {
  const kind = FINISHES[spec.finish.kind ?? material.finish.kind].label.toLowerCase();
  const relief = spec.finish.reliefMm ?? material.finish.reliefMm;
  return relief > 0 ? `${kind}, relief ${length(relief)}` : kind;
}

export const lineText = (parts: LinePart[]): string => parts.map((p) => p.text).join('');
