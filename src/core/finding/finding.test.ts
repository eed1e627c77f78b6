import { type Finding, finding, type FindingCode, type FindingValues, sayFinding } from './finding';

/** One of every kind: a code that is missing here does not compile. */
const EXAMPLES: { [C in FindingCode]: FindingValues[C] } = {
  sidesOfRound: { sides: 24, shortPercent: 0.29 },
  tapers: { radiusMm: 230 },
  ballStretches: { parallelDeg: 30 },
  trueAtRadius: { radiusMm: 450 },
  noRound: {},
  noBall: {},
  noCentre: {},
  correctedByHand: {},
  linesOnArrises: { lines: 2 },
  tooManyForOnePiece: { faces: 30_000 },
  cutBeforeOnePiece: {},
  coordinatesMissing: { set: 1, sets: 1 },
  coordinatesEmpty: {},
  coordinatesFolded: { percent: 12 },
  coordinatesWild: { times: 7.4 },
  coordinatesMeasured: { widthMm: 1000, heightMm: 500, mirrored: true },
  laidFlatInstead: {},
  otherMappingBetter: {},
  loopCloses: { runMm: 4321.5 },
  patternTurns: { lengthMm: 900 },
  cutOpen: { lengthMm: 2400, apartMm: 310 },
  developmentCut: { lengthMm: 2400, apartMm: 18_000, why: 'inner' },
  cornerCutApart: { lengthMm: 2400, chosen: false },
  cornerCannotLieFlat: { lengthMm: 2400 },
  gaugeAslant: {},
  gaugeHasNoUnit: { layout: 'Crazy paving', along: true },
  gaugeOutOfTolerance: { lengthMm: 2412, count: 40 },
  leftAtCut: { mm: 85, pitchMm: 225 },
  setApart: {},
  facesEdgeOn: { areaMm2: 390_000 },
  noPolygons: {},
  sidesLost: { pieces: 2, of: 5 },
  endJointsTooNear: { pairs: 3, leastMm: 40, wantedMm: 250 },
  printEnlarged: { material: 'Smoked oak', lengthMm: 1200, widthMm: 190, times: 1.43 },
  pieceLargerThanPicture: { material: 'Smoked oak', widthMm: 800, heightMm: 400 },
  printsTooFew: { material: 'Smoked oak', prints: 4, needed: 7 },
  doesNotClose: {},
  aslantDoesNotClose: {},
  bodiesKeepSize: {},
  layoutCannotClose: { layout: 'Hexagon', thisWay: true },
};
const all = Object.entries(EXAMPLES).map(([code, values]) =>
  finding(code as FindingCode, values as never),
) as Finding[];

describe('findings', () => {
  test.each(all.map((f) => [f.code, f] as const))('%s is a sentence in every unit', (_code, f) => {
    for (const unit of ['mm', 'cm', 'm', 'in', 'ft-in'] as const) {
      const said = sayFinding(f, unit);
      expect(said).toMatch(/^[A-Z0-9“].*\.$/s);
      expect(said).not.toMatch(/undefined|NaN|\[object/);
    }
  });

  test('lengths and areas come in the project’s unit', () => {
    expect(sayFinding(finding('trueAtRadius', { radiusMm: 450 }), 'mm')).toContain('450 mm');
    expect(sayFinding(finding('trueAtRadius', { radiusMm: 450 }), 'm')).toContain('0.45 m');
    expect(sayFinding(finding('trueAtRadius', { radiusMm: 304.8 }), 'ft-in')).toContain("1'");
    expect(sayFinding(finding('facesEdgeOn', { areaMm2: 390_000 }), 'mm')).toContain('0.39 m²');
    expect(sayFinding(finding('facesEdgeOn', { areaMm2: 390_000 }), 'in')).toContain('sq ft');
  });

  test('millimetres of a large length are not told, one and many are told apart', () => {
    expect(sayFinding(finding('cutOpen', { lengthMm: 39_289.76, apartMm: 1661.8 }))).toMatch(/3[\d,]+ mm.*1[\d,]+ mm/);
    expect(sayFinding(finding('cutOpen', { lengthMm: 39_289.76, apartMm: 1661.8 }))).not.toContain('.76');
    expect(sayFinding(finding('linesOnArrises', { lines: 1 }))).toContain('1 line of the band lies on an arris');
    expect(sayFinding(finding('endJointsTooNear', { pairs: 1, leastMm: 2, wantedMm: 300 }))).toContain(
      '1 pair of rows',
    );
    expect(sayFinding(finding('printsTooFew', { material: 'A', prints: 1, needed: 5 }))).toContain('one print');
  });
});

test('places are listed, the first hundred of them, or none', () => {
  const many = Array.from({ length: 150 }, (_, n): [number, number] => [n, 0]);
  expect(finding('setApart', {}, many).where).toHaveLength(100);
  expect(finding('setApart', {}, [[1, 2]])).toEqual({ code: 'setApart', values: {}, where: [[1, 2]] });
  expect(finding('setApart', {}, [])).toEqual({ code: 'setApart', values: {} });
});
