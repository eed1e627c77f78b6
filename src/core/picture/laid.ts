import { type BondFound, findJointLines } from './jointLines';
import { findPeriod, type Period } from './period';
import { setTrue } from './lattice';
import type { Raster } from './raster';
import { straighten } from './straighten';

/** What lies laid in a picture: after what it comes round, and in what bond. */
export interface Laid {
  period: { x: Period | null; y: Period | null };
  /** Null where its joints do not run straight through: herringbone, octagons, checks. */
  bond: BondFound | null;
}

/** Bricks, tiles, boards, checks: whatever comes round along an axis at least; null where nothing does. */
export function findLaid(r: Raster): Laid | null {
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
export function wordsOfLaid({ period: { x, y }, bond }: Laid, mmPerPx: readonly [number, number] | null): string {
  const length = (p: Period | null, axis: 0 | 1) =>
    p && (mmPerPx ? Math.round(p.pixels * mmPerPx[axis]) : Math.round(p.pixels));
  const both = [length(x, 0), length(y, 1)];
  const unit = mmPerPx ? 'mm' : 'pixels';
  const again =
    both[0] && both[1]
      ? `${both[0]} × ${both[1]} ${unit}`
      : `${both[0] ?? both[1]} ${unit} ${both[0] ? 'across' : 'down'}`;
  return `laid${bond ? ` ${BONDS[bond]}` : ''}, again after ${again}`;
}
