import type { Vec2 } from '../geometry/vec';
import { formatArea, formatLength, type LengthUnit, trimNumber } from '../units/length';

/** What each kind of finding carries: lengths in mm, areas in mm², angles in degrees, shares in percent. */
export interface FindingValues {
  // how a surface lies flat
  sidesOfRound: { sides: number; shortPercent: number };
  tapers: { radiusMm: number };
  ballStretches: { parallelDeg: number };
  trueAtRadius: { radiusMm: number };
  noRound: object;
  noBall: object;
  noCentre: object;
  correctedByHand: object;
  linesOnArrises: { lines: number };
  tooManyForOnePiece: { faces: number };
  cutBeforeOnePiece: object;
  coordinatesMissing: { set: number; sets: number };
  coordinatesEmpty: object;
  coordinatesFolded: { percent: number };
  coordinatesWild: { times: number };
  coordinatesMeasured: { widthMm: number; heightMm: number; mirrored: boolean };
  laidFlatInstead: object;
  otherMappingBetter: object;
  // where a sheet breaks
  loopCloses: { runMm: number };
  patternTurns: { lengthMm: number };
  cutOpen: { lengthMm: number; apartMm: number };
  developmentCut: { lengthMm: number; apartMm: number; why: 'chosen' | 'inner' | 'seen' | 'none' };
  cornerCutApart: { lengthMm: number; chosen: boolean };
  cornerCannotLieFlat: { lengthMm: number };
  leftAtCut: { mm: number; pitchMm: number };
  setApart: object;
  // what pieces meet
  facesEdgeOn: { areaMm2: number };
  noPolygons: object;
  sidesLost: { pieces: number; of: number };
  endJointsTooNear: { pairs: number; leastMm: number; wantedMm: number };
  printEnlarged: { material: string; lengthMm: number; widthMm: number; times: number };
  pieceLargerThanPicture: { material: string; widthMm: number; heightMm: number };
  printsTooFew: { material: string; prints: number; needed: number };
  // exactly so many around
  gaugeAslant: object;
  gaugeHasNoUnit: { layout: string; along: boolean };
  gaugeOutOfTolerance: { lengthMm: number; count: number };
  doesNotClose: object;
  aslantDoesNotClose: object;
  bodiesKeepSize: object;
  layoutCannotClose: { layout: string; thisWay: boolean };
}
export type FindingCode = keyof FindingValues;

/** Something the program noticed, as data: what it is, how much, and where. */
export type Finding = {
  [C in FindingCode]: {
    code: C;
    values: FindingValues[C];
    /** Places on the sheet, mm; the first hundred where there are more. Absent where it is of the whole. */
    where?: readonly Vec2[];
  };
}[FindingCode];

/** No more places are listed: enough to go and look. */
const MOST_PLACES = 100;

/**
 * Makes a finding; the values its code asks for are checked by the compiler.
 * @param where on the sheet, mm
 * @example sayFinding(finding('patternTurns', { lengthMm: 1250 })) // 'Along 1250 mm of arris the pattern turns.'
 */
export const finding = <C extends FindingCode>(code: C, values: FindingValues[C], where?: readonly Vec2[]): Finding =>
  ({ code, values, ...(where?.length ? { where: where.slice(0, MOST_PLACES) } : {}) }) as Finding;

interface Say {
  length(mm: number): string;
  area(mm2: number): string;
}

const number = (v: number, decimals = 1) => trimNumber(v, decimals);

/** Why a development is cut where it is. */
const CUT_WORDS = {
  chosen: 'where it was asked for',
  inner: 'at an inner corner',
  seen: 'where least of it is seen in the saved views',
  none: 'at its last corner: no saved view tells which is seen least',
};

/** The sentence of each finding. */
const WORDS: { [C in FindingCode]: (values: FindingValues[C], say: Say) => string } = {
  sidesOfRound: ({ sides, shortPercent }) =>
    `${sides} sides to a full round: the straight sides fall ` +
    `${shortPercent < 0.01 ? 'less than 0.01' : number(shortPercent, 2)}% short of the true round; ` +
    'sizes are true on the round.',
  tapers: ({ radiusMm }, { length }) =>
    `It tapers: the distance round is true at radius ${length(radiusMm)} and stretched above and below; ` +
    'Unroll lays a cone true.',
  ballStretches: ({ parallelDeg }) =>
    'A ball cannot lie flat: heights are true everywhere, ' +
    `distances round at ${number(parallelDeg, 0)}° above and below the middle.`,
  trueAtRadius: ({ radiusMm }, { length }) => `Lengths along the arc are true at radius ${length(radiusMm)}.`,
  noRound: () => 'Nothing round was found here: it is laid flat instead.',
  noBall: () => 'No ball was found here: it is laid flat instead.',
  noCentre: () => 'No round was found in the outline: the middle of the surface is taken as the centre.',
  correctedByHand: () => 'Corrected by hand.',
  linesOnArrises: ({ lines }) =>
    lines === 1 ? '1 line of the band lies on an arris.' : `${lines} lines of the band lie on arrises.`,
  tooManyForOnePiece: ({ faces }) =>
    `It has more than ${faces.toLocaleString('en')} faces: too many to lay in one piece, so it is cut.`,
  cutBeforeOnePiece: () => 'It closes round: choose where it is cut, then it can lie in one piece.',
  coordinatesMissing: ({ set, sets }) =>
    sets ? `The model has no coordinate set ${set + 1} here.` : 'The model has no coordinates here.',
  coordinatesEmpty: () => 'The model’s coordinates are empty here: many faces share one point of the picture.',
  coordinatesFolded: ({ percent }) =>
    `The model’s coordinates are folded over: ${number(percent, 0)}% of the area is mirrored against the rest.`,
  coordinatesWild: ({ times }) =>
    `The model’s coordinates are wild: one picture is up to ${number(times)} times as large ` +
    'in one place as in another.',
  coordinatesMeasured: ({ widthMm, heightMm, mirrored }, { length }) =>
    `One unit of the model’s coordinates measures ${length(widthMm)} × ${length(heightMm)} here` +
    `${mirrored ? '; they are mirrored' : ''}.`,
  laidFlatInstead: () => 'It is laid flat instead.',
  otherMappingBetter: () => 'Another mapping will serve better.',
  loopCloses: ({ runMm }, { length }) => `Where the loop closes, the sheet has run ${length(runMm)} round.`,
  patternTurns: ({ lengthMm }, { length }) => `Along ${length(lengthMm)} of arris the pattern turns.`,
  cutOpen: ({ lengthMm, apartMm }, { length }) =>
    `It is cut along ${length(lengthMm)}, where it closes or cannot lie flat; ` +
    `the two sides lie up to ${length(apartMm)} apart on the sheet.`,
  developmentCut: ({ lengthMm, apartMm, why }, { length }) =>
    `It closes after ${length(apartMm)} and is cut along ${length(lengthMm)} ${CUT_WORDS[why]}.`,
  cornerCutApart: ({ lengthMm, chosen }, { length }) =>
    chosen
      ? `It is cut along ${length(lengthMm)} where it was asked for.`
      : `Along ${length(lengthMm)} a face does not fit beside the others: it would lie on them, and lies apart.`,
  cornerCannotLieFlat: ({ lengthMm }, { length }) =>
    `Along ${length(lengthMm)} it cannot lie flat beside both its neighbours, and is cut.`,
  leftAtCut: ({ mm, pitchMm }, { length }) =>
    `Where it closes ${length(mm)} are left of a piece of ${length(pitchMm)} with its joint.`,
  setApart: () => 'A separate area is set beside the others on the sheet.',
  facesEdgeOn: ({ areaMm2 }, { area }) =>
    `Faces of ${area(areaMm2)} are seen edge-on by this mapping: no piece can lie on them, and they stay bare, ` +
    'in the colour of the joints. Box or Unroll lays them, too.',
  noPolygons: () => 'The file has triangles alone here, no polygons: each flat face is a piece.',
  sidesLost: ({ pieces, of }) =>
    `In ${pieces} of ${of} shapes of this pattern the joints are as wide as the piece or one of its sides: ` +
    'make the joints narrower or the pieces larger.',
  endJointsTooNear: ({ pairs, leastMm, wantedMm }, { length }) =>
    `In ${pairs} ${pairs === 1 ? 'pair' : 'pairs'} of rows end joints come nearer than ${length(wantedMm)}, ` +
    `down to ${length(leastMm)}: no board of these lengths keeps them apart.`,
  printEnlarged: ({ material, lengthMm, widthMm, times }, { length }) =>
    `A piece of ${length(lengthMm)} × ${length(widthMm)} is larger than what is seamless of “${material}”; ` +
    `it is shown ${number(times, 2)} times as large.`,
  pieceLargerThanPicture: ({ material, widthMm, heightMm }, { length }) =>
    `A piece is larger than the picture of “${material}” (${length(widthMm)} × ${length(heightMm)}): ` +
    'within one piece it repeats.',
  printsTooFew: ({ material, prints, needed }) =>
    `“${material}” has ${prints === 1 ? 'one print' : `${prints} different prints`} of this size; ` +
    `${needed} are needed for neighbours never to look alike.`,
  gaugeAslant: () => 'It is turned aslant: courses are gauged where they lie level or upright.',
  gaugeHasNoUnit: ({ layout, along }) =>
    `${layout} has no one length ${along ? 'along' : 'across'} its courses that could be gauged this way.`,
  gaugeOutOfTolerance: ({ lengthMm, count }, { length }) =>
    `Between limits ${length(lengthMm)} apart ${count ? `exactly ${count} do` : 'no whole count does'} not come out ` +
    'within the tolerances: nothing is gauged.',
  doesNotClose: () => 'It does not close, so nothing goes once round it.',
  aslantDoesNotClose: () => 'What lies aslant does not close: turn it by quarters.',
  bodiesKeepSize: () => 'Bodies of the model keep the size they have.',
  layoutCannotClose: ({ layout, thisWay }) =>
    `${layout}${thisWay ? ', laid this way,' : ''} cannot be sized to close, and keeps its own size.`,
};

/** A finding as a sentence, its lengths and areas in the project's unit. */
export function sayFinding({ code, values }: Finding, unit: LengthUnit = 'mm'): string {
  // millimetres of a large length say nothing
  const length = (mm: number) => formatLength(mm, unit, unit === 'mm' ? { decimals: mm < 100 ? 1 : 0 } : {});
  const say: Say = { length, area: (mm2) => formatArea(mm2, unit) };
  return (WORDS[code] as (v: typeof values, s: Say) => string)(values, say);
}
