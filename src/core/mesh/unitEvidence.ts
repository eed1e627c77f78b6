import { boxSize, emptyBox, growBox, type Box3, type Vec3 } from '../geometry/vec';
import { turnUp, type UpAxis } from './clean';
import type { RawModel, RawPart } from './types';

export interface UnitGuess {
  unit: 'mm' | 'cm' | 'm' | 'in' | 'ft';
  unitMm: number;
  /** 0..1, the share of the evidence that speaks for it. */
  confidence: number;
  /** What speaks for it, in sentences. */
  evidence: string[];
}

export interface SizeEvidence {
  /** Best guess first. */
  guesses: UnitGuess[];
  up: { axis: UpAxis; confidence: number; evidence: string[] };
  /** Overall size in units of the file, along east, up and south after the proposed up-axis. */
  size: Vec3;
  /** Tell-tale lengths in units of the file. */
  telltales: { what: string; length: number }[];
}

const UNITS: [UnitGuess['unit'], number][] = [
  ['mm', 1],
  ['cm', 10],
  ['m', 1000],
  ['in', 25.4],
  ['ft', 304.8],
];

/** Sizes that things of a building have, millimetres: [least, usual least, usual most, most]. */
const USUAL = {
  door: [1500, 1950, 2500, 4000],
  storey: [2000, 2350, 4200, 7000],
  overall: [400, 2500, 80_000, 600_000],
} as const;

const metres = (mm: number) => (mm >= 1000 ? `${(mm / 1000).toFixed(2)} m` : `${Math.round(mm)} mm`);

/** 1 inside the usual range, falling to 0 at the outer limits (on a log scale). */
function plausibility(mm: number, [least, low, high, most]: readonly number[]): number {
  if (!(mm > least && mm < most)) return 0;
  if (mm < low) return Math.log(mm / least) / Math.log(low / least);
  if (mm > high) return Math.log(most / mm) / Math.log(most / high);
  return 1;
}

/**
 * Proposes the unit and the up-axis of a model with the evidence for them. glTF is metres by its standard, with y up;
 * an OBJ says nothing, so doors, storey heights and the overall size decide.
 */
export function weighSizes(raw: RawModel): SizeEvidence {
  const up = weighUp(raw);
  const boxes = raw.parts.map((p) => boundsOf(p, up.axis));
  const all = emptyBox();
  for (const box of boxes) {
    growBox(all, ...box.min);
    growBox(all, ...box.max);
  }
  const size = boxSize(all);
  const telltales: SizeEvidence['telltales'] = [];
  const doors = boxes.map((b) => boxSize(b)[1]).filter((h, i) => /door/i.test(raw.parts[i].name) && h > 0);
  if (doors.length) telltales.push({ what: 'door height', length: median(doors) });
  const storey = storeyHeight(raw, up.axis, all);
  if (storey) telltales.push({ what: 'storey height', length: storey });

  const guesses = UNITS.map(([unit, unitMm]): UnitGuess => {
    const evidence: string[] = [];
    let score = 0;
    let weight = 0;
    const weigh = (length: number, what: string, range: readonly number[], importance: number) => {
      const p = plausibility(length * unitMm, range);
      score += p * importance;
      weight += importance;
      evidence.push(`${what} ${metres(length * unitMm)}${p > 0.95 ? '' : p > 0.3 ? ' (unusual)' : ' (not likely)'}`);
    };
    for (const { what, length } of telltales) {
      weigh(length, what, what === 'door height' ? USUAL.door : USUAL.storey, what === 'door height' ? 3 : 2);
    }
    weigh(Math.max(...size), 'overall', USUAL.overall, 1);
    return { unit, unitMm, confidence: score / weight, evidence };
  });
  if (raw.format === 'gltf') {
    const metre = guesses.find((g) => g.unit === 'm')!;
    metre.evidence.unshift('glTF files are in metres by their standard');
    // a slip in the exporter still shows: metres only give way to overwhelming evidence
    metre.confidence = Math.max(metre.confidence, 0.05) + 1;
  }
  // of equally likely units, the commoner first
  const habit = ['m', 'mm', 'cm', 'ft', 'in'];
  guesses.sort((a, b) => b.confidence - a.confidence || habit.indexOf(a.unit) - habit.indexOf(b.unit));
  for (const g of guesses) g.confidence = Math.min(1, g.confidence);
  return { guesses, up, size, telltales };
}

function weighUp(raw: RawModel): SizeEvidence['up'] {
  if (raw.format === 'gltf') return { axis: 'y', confidence: 1, evidence: ['glTF files have y up by their standard'] };
  // level faces: floors and ceilings outweigh walls seen from any one side
  const areas = [0, 0, 0];
  const named = { y: 0, z: 0 };
  for (const part of raw.parts) {
    const own = areasSeen(part);
    own.forEach((a, c) => (areas[c] += a));
    if (/floor|ceiling|slab|roof|ground|paving|deck/i.test(part.name)) {
      if (own[1] > own[2] * 2) named.y++;
      if (own[2] > own[1] * 2) named.z++;
    }
  }
  const box = emptyBox();
  for (const part of raw.parts) {
    const b = boundsOf(part, 'y');
    growBox(box, ...b.min);
    growBox(box, ...b.max);
  }
  const size = boxSize(box);
  const evidence: string[] = [];
  let z = 0;
  let y = 0;
  if (named.y || named.z) {
    const axis = named.z > named.y ? 'z' : 'y';
    if (axis === 'z') z += 3;
    else y += 3;
    evidence.push(`floors and ceilings by name lie level when ${axis} is up`);
  }
  if (areas[2] > areas[1] * 1.15) {
    z += 1;
    evidence.push('more faces are level when z is up');
  } else if (areas[1] > areas[2] * 1.15) {
    y += 1;
    evidence.push('more faces are level when y is up');
  }
  if (size[2] < size[1] * 0.8) {
    z += 1;
    evidence.push('the model is lowest along z');
  } else if (size[1] < size[2] * 0.8) {
    y += 1;
    evidence.push('the model is lowest along y');
  }
  if (Math.abs(box.min[2]) < size[2] * 0.02 && Math.abs(box.min[1]) > size[1] * 0.1) {
    z += 0.5;
    evidence.push('it stands on z = 0');
  }
  const axis = z > y ? 'z' : 'y';
  if (!evidence.length) evidence.push('nothing speaks for either; y is usual in OBJ files');
  return { axis, confidence: z + y ? Math.max(z, y) / (z + y) : 0.5, evidence };
}

/** Box of a part's faces, in the file's unit with y up. */
function boundsOf({ positions: p, indices, origin }: RawPart, upAxis: UpAxis): Box3 {
  let [x0, y0, z0, x1, y1, z1] = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (let i = 0; i < indices.length; i++) {
    const v = indices[i] * 3;
    const x = p[v];
    const y = p[v + 1];
    const z = p[v + 2];
    if (x < x0) x0 = x;
    if (x > x1) x1 = x;
    if (y < y0) y0 = y;
    if (y > y1) y1 = y;
    if (z < z0) z0 = z;
    if (z > z1) z1 = z;
  }
  const low = turnUp([x0 + origin[0], y0 + origin[1], z0 + origin[2]], upAxis);
  const high = turnUp([x1 + origin[0], y1 + origin[1], z1 + origin[2]], upAxis);
  const box = emptyBox();
  growBox(box, ...low);
  growBox(box, ...high);
  return box;
}

/** Areas of a part's faces as seen along each of the file's axes, twice. */
function areasSeen({ positions: p, indices }: RawPart): Vec3 {
  const seen: Vec3 = [0, 0, 0];
  for (let i = 0; i < indices.length; i += 3) {
    for (let c = 0; c < 3; c++) seen[c] += Math.abs(crossAlong(p, indices, i, (c + 1) % 3, (c + 2) % 3));
  }
  return seen;
}

/** The part along one axis of the cross product of a face's sides; `u` and `v` are the axes that follow it. */
function crossAlong(p: Float32Array, indices: Uint32Array, i: number, u: number, v: number): number {
  const a = indices[i] * 3;
  const b = indices[i + 1] * 3;
  const c = indices[i + 2] * 3;
  return (p[b + u] - p[a + u]) * (p[c + v] - p[a + v]) - (p[b + v] - p[a + v]) * (p[c + u] - p[a + u]);
}

/** From the largest level area facing up to the next large one facing down above it. */
function storeyHeight(raw: RawModel, upAxis: UpAxis, all: Box3): number | null {
  const height = all.max[1] - all.min[1];
  if (!(height > 0)) return null;
  const bins = 400;
  const floors = new Float64Array(bins + 1);
  const ceilings = new Float64Array(bins + 1);
  const up = upAxis === 'z' ? 2 : 1;
  const [u, v] = [(up + 1) % 3, (up + 2) % 3];
  for (const { positions: p, indices, origin } of raw.parts) {
    const lift = origin[up] - all.min[1];
    for (let i = 0; i < indices.length; i += 3) {
      const along = crossAlong(p, indices, i, u, v);
      const across = crossAlong(p, indices, i, v, up);
      const aside = crossAlong(p, indices, i, up, u);
      const whole = Math.sqrt(along * along + across * across + aside * aside);
      if (!whole || Math.abs(along) < 0.95 * whole) continue;
      const at = Math.round(((p[indices[i] * 3 + up] + lift) / height) * bins);
      (along > 0 ? floors : ceilings)[Math.max(0, Math.min(bins, at))] += whole;
    }
  }
  let floor = 0;
  for (let i = 1; i <= bins; i++) if (floors[i] > floors[floor]) floor = i;
  let ceiling = -1;
  for (let i = floor + 1; i <= bins; i++)
    if (ceilings[i] > floors[floor] * 0.25 && (ceiling < 0 || ceilings[i] > ceilings[ceiling])) ceiling = i;
  return ceiling < 0 ? null : ((ceiling - floor) / bins) * height;
}

const median = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
