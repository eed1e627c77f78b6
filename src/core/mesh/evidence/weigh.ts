import { boxSize, type Vec3 } from '../../geometry/vec';
import type { UpAxis } from '../clean';
import type { RawModel } from '../types';
import { formOf, turnForm } from './form';
import { drawnIn, logDrawn, ODD_STEP } from './grid';
import { levelsOf } from './levels';
import { isUsual, logLikely, sharesOf } from './likely';
import { heard } from './said';
import { reasonsForUp, type Standing } from './upAxis';
import { OVERALL_SIZE, type Witness, witnessesOf } from './witnesses';

export interface UnitGuess {
  unit: 'mm' | 'cm' | 'm' | 'in' | 'ft';
  unitMm: number;
  /** 0..1, the share of what is likely; those of all units add up to 1. */
  confidence: number;
  /** What speaks for it and against it, in sentences. */
  evidence: string[];
}

export interface SizeEvidence {
  /** Best guess first. */
  guesses: UnitGuess[];
  /** Whether nothing is left to ask: the best guess is far before all others. */
  certain: boolean;
  /** Whether another unit is nearly as likely: to be asked, not guessed. */
  tie: boolean;
  up: { axis: UpAxis; confidence: number; certain: boolean; tie: boolean; evidence: string[] };
  /** Overall size in units of the file, along east, up and south after the proposed up-axis. */
  size: Vec3;
  /** Tell-tale lengths in units of the file. */
  telltales: { what: string; length: number }[];
}

/** With how often files are in each that say nothing. */
const UNITS: readonly (readonly [UnitGuess['unit'], mm: number, share: number])[] = [
  ['m', 1000, 0.26],
  ['mm', 1, 0.24],
  ['cm', 10, 0.2],
  ['in', 25.4, 0.16],
  ['ft', 304.8, 0.14],
];

/** What a standard that fixes the unit counts for; evidence beyond it wins. */
const STANDARD = Math.log(3000);
const SAID = Math.log(2000);
const WRITER = Math.log(4);
const STANDARD_UP = 6;
/** Files that say nothing more often have y up. */
const USUAL_UP = 0.35;
/** Witnesses tell of the same thing: their word is not taken for as many as they are. */
const TRUST = 0.8;
/** From here on nothing is asked, where more than one thing speaks for it. */
const CERTAIN = 0.97;
/** What is not certain says so, however the numbers came out. */
const ASKED = 0.9;
/** With less than this something else is nearly as likely. */
const TIE = 0.75;

const lengthOf = (mm: number) => (mm >= 1000 ? `${(mm / 1000).toFixed(2)} m` : `${Number(mm.toPrecision(3))} mm`);

/**
 * Proposes the unit and the up-axis of a model, with the evidence for them: several witnesses (what things are called,
 * storeys, steps, openings, thickness, bricks, wheels, the step it was drawn in, what its comments say, where it lies),
 * each weighed by how usual the lengths would be. A standard that fixes them counts for much, and not for everything.
 */
export function weighSizes(raw: RawModel): SizeEvidence {
  const formY = formOf(raw);
  const y: Standing = { form: formY, levels: levelsOf(raw, formY) };
  const formZ = turnForm(formY);
  const z: Standing = { form: formZ, levels: levelsOf(raw, formZ) };
  const said = heard(raw.notes);
  const up = weighUp(raw, y, z, said.up);
  const { form, levels } = up.axis === 'z' ? z : y;

  const witnesses = witnessesOf(form, levels, raw.name);
  const drawn = drawnIn(
    raw,
    form.bodies,
    UNITS.map(([, mm]) => mm),
  );
  const farOff = Math.max(...[0, 2].map((c) => Math.max(Math.abs(form.all.min[c]), Math.abs(form.all.max[c]))));
  const logs = UNITS.map(([unit, mm, share]) => {
    let log = Math.log(share);
    for (const w of witnesses) log += TRUST * w.weight * logLikely(w.length * mm, w.ranges);
    if (drawn) log += drawn.weight * TRUST * logDrawn(drawn.step * mm);
    log += TRUST * logPlaced(farOff * mm, Math.max(...form.size) * mm);
    if (raw.format === 'gltf' && unit === 'm') log += STANDARD;
    if (said.unit === unit) log += SAID;
    if (!said.unit && said.usual?.unit === unit) log += WRITER;
    return log;
  });
  const shares = sharesOf(logs);
  const guesses = UNITS.map(([unit, unitMm], n): UnitGuess => {
    const evidence = [];
    if (raw.format === 'gltf' && unit === 'm') evidence.push('glTF files are in metres by their standard');
    if (said.unit === unit) evidence.push('the file says so');
    else if (said.usual?.unit === unit) evidence.push(`${said.usual.by} usually writes it`);
    evidence.push(...witnesses.map((w) => sentence(w, unitMm)));
    if (drawn) evidence.push(`drawn in steps of ${lengthOf(drawn.step * unitMm)}`);
    return { unit, unitMm, confidence: Math.min(shares[n], 0.99), evidence };
  }).sort((a, b) => b.confidence - a.confidence);
  const [best] = guesses;
  const speaking =
    witnesses.filter((w) => w.what !== OVERALL_SIZE && isUsual(w.length * best.unitMm, w.ranges)).length +
    (drawn && logDrawn(drawn.step * best.unitMm) > ODD_STEP ? 1 : 0) +
    (said.unit === best.unit || (raw.format === 'gltf' && best.unit === 'm') ? 2 : 0);
  const certain = best.confidence >= CERTAIN && speaking >= 2;
  if (!certain) best.confidence = Math.min(best.confidence, ASKED);
  return {
    guesses,
    certain,
    tie: best.confidence < TIE,
    up,
    size: boxSize(form.all),
    telltales: witnesses.filter((w) => w.what !== OVERALL_SIZE).map(({ what, length }) => ({ what, length })),
  };
}

function sentence({ what, length, ranges }: Witness, unitMm: number): string {
  const mm = length * unitMm;
  const even = Math.log(0.3 / 18);
  const words = isUsual(mm, ranges) ? '' : logLikely(mm, ranges) > even ? ' (unusual)' : ' (not likely)';
  return `${what} ${lengthOf(mm)}${words}`;
}

/**
 * How likely a place is: things lie at the origin, sites where a country's grid has them (up to 10,000 km in metres),
 * nothing lies beyond the earth.
 */
function logPlaced(far: number, size: number): number {
  if (far < size * 20) return 0;
  if (far > 2.5e10) return Math.log(1e-4);
  return Math.log(far > 8e7 && far < 1.1e10 ? 0.5 : 0.1);
}

function weighUp(raw: RawModel, y: Standing, z: Standing, said: UpAxis | null): SizeEvidence['up'] {
  const reasons = reasonsForUp(y, z, raw.name);
  if (said) reasons.unshift({ axis: said, weight: 5, words: 'the file says so' });
  const standard = raw.format === 'gltf';
  if (standard) reasons.unshift({ axis: 'y', weight: STANDARD_UP, words: 'glTF files have y up by their standard' });
  const sum = (of: UpAxis) => reasons.reduce((n, r) => n + (r.axis === of ? r.weight : 0), 0);
  const lead = sum('y') - sum('z') + USUAL_UP;
  const axis: UpAxis = lead >= 0 ? 'y' : 'z';
  const own = reasons.filter((r) => r.axis === axis).map((r) => r.words);
  const share = 1 / (1 + Math.exp(-Math.abs(lead)));
  const certain = share >= CERTAIN && (own.length > 1 || standard || said === axis);
  const confidence = Math.min(share, certain ? 0.99 : ASKED);
  if (!own.length) own.push('nothing speaks for either; y is usual');
  return { axis, confidence, certain, tie: confidence < TIE, evidence: own };
}
