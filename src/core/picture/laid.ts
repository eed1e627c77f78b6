import { type BondFound, findJointLines } from './jointLines';
import { findGrain } from './direction';
import { findPeriod, type Period } from './period';
import { setTrue } from './lattice';
import { type Raster, shrinkBy, shrinkFor } from './raster';
import { straighten, turnAndShear } from './straighten';

/** What lies laid in a picture: after what it comes round, and in what bond. */
export interface Laid {
  period: { x: Period | null; y: Period | null };
  /** By how much it has to be turned first, degrees, for courses to lie level; 0 where it comes round as it is. */
  turnDeg: number;
  /** Null where its joints do not run straight through: herringbone, octagons, checks. */
  bond: BondFound | null;
}

/** Bricks, tiles, boards, checks: whatever comes round along an axis at least; null where nothing does. */
export function findLaid(of: Raster): Laid | null {
  const before = known.get(of);
  if (before !== undefined) return before;
  const found = lookFor(of);
  known.set(of, found);
  return found;
}
/** A picture is looked through once, however often a step after it is set anew. */
const known = new WeakMap<Raster, Laid | null>();

function lookFor(of: Raster): Laid | null {
  const by = shrinkFor(of, SIDE);
  const found = laidIn(shrinkBy(of, by));
  const inPixels = (p: Period | null) => p && { ...p, pixels: p.pixels * by };
  return found && { ...found, period: { x: inPixels(found.period.x), y: inPixels(found.period.y) } };
}
/** Longer side of the picture it is looked for in, pixels, at least. */
const SIDE = 512;

function laidIn(r: Raster): Laid | null {
  const level = laidLevel(r);
  const asItIs = level && { ...level, turnDeg: 0 };
  const { deg } = findGrain(r);
  // upright joints lead as well as level ones
  const turnDeg = deg > 45 ? 90 - deg : deg < -45 ? -90 - deg : -deg;
  if (Math.abs(turnDeg) < LEAST_TURN) return asItIs;
  const { h, width, height } = turnAndShear(r, turnDeg, 0, 0);
  if (Math.min(width, height) < LEAST_SIDE) return asItIs;
  // askew it may seem to come round, too, since periods are looked for a little aside
  const turned = laidLevel(straighten(r, h, width, height));
  const better = turned && (!asItIs || (turned.period.x && turned.period.y));
  return better ? { ...turned, turnDeg } : asItIs;
}
/** What is turned by less comes round as it is; what is smaller after turning tells nothing. */
const LEAST_TURN = 1.5;
const LEAST_SIDE = 64;

function laidLevel(r: Raster): Omit<Laid, 'turnDeg'> | null {
  const period = findPeriod(r);
  if (!period.x && !period.y) return null;
  // joints that lean or draw together do not run straight through
  const trued = setTrue(r, { x: period.x?.pixels ?? null, y: period.y?.pixels ?? null });
  const upright = trued ? straighten(r, trued.h, r.width, r.height) : r;
  return { period, bond: findJointLines(upright)?.ends?.bond ?? null };
}

const BONDS: Record<BondFound, string> = {
  'in line': 'in line',
  half: 'in half bond',
  third: 'in third bond',
  'stretchers and headers': 'stretchers and headers in turn',
  'courses in turn': 'in courses of two kinds',
  irregular: 'with irregular ends',
};

/** “laid in half bond, again after 230 × 144 mm”. */
export function wordsOfLaid(
  { period: { x, y }, bond, turnDeg }: Laid,
  mmPerPx: readonly [number, number] | null,
): string {
  const length = (p: Period | null, axis: 0 | 1) =>
    p && (mmPerPx ? Math.round(p.pixels * mmPerPx[axis]) : Math.round(p.pixels));
  const both = [length(x, 0), length(y, 1)];
  const unit = mmPerPx ? 'mm' : 'pixels';
  const again =
    both[0] && both[1]
      ? `${both[0]} × ${both[1]} ${unit}`
      : `${both[0] ?? both[1]} ${unit} ${both[0] ? 'across' : 'down'}`;
  const turned = turnDeg ? `, turned by ${(-turnDeg).toFixed(1)}°` : '';
  return `laid${bond ? ` ${BONDS[bond]}` : ''}, again after ${again}${turned}`;
}
