import { boxSize, length, type Vec3 } from '../geometry/vec';
import type { FoundSurface } from './measureSurface';

/** Where a surface faces: what “all floors” and “all walls facing north” ask for. */
export type Facing = 'up' | 'down' | 'north' | 'east' | 'south' | 'west' | 'round';

/**
 * @param normal area-weighted mean normal; y is up, −z is north when `northDeg` is 0
 * @param northDeg clockwise angle from −z to north, seen from above
 */
export function facingOf(normal: Vec3, northDeg: number): Facing {
  if (length(normal) < 0.7) return 'round';
  if (normal[1] > 0.7) return 'up';
  if (normal[1] < -0.7) return 'down';
  // compass bearing of the normal: 0 north, 90 east
  const bearing = (Math.atan2(normal[0], -normal[2]) * 180) / Math.PI - northDeg;
  const quarter = ((Math.round(bearing / 90) % 4) + 4) % 4;
  return (['north', 'east', 'south', 'west'] as const)[quarter];
}

/** Names the surfaces of one part by where they face; namesakes are numbered from the largest. */
export function nameSurfaces(surfaces: FoundSurface[], northDeg: number): string[] {
  const plain = surfaces.map((s) => {
    const facing = facingOf(s.normal, northDeg);
    const [width, height, depth] = boxSize(s.bounds);
    const large = s.area > 1.5e6;
    if (facing === 'round') return 'Curved face';
    if (length(s.normal) < 0.985) return facing === 'up' || facing === 'down' ? 'Curved face' : `Curved face ${facing}`;
    if (facing === 'up') return large && Math.min(width, depth) > 900 ? 'Floor' : 'Top';
    if (facing === 'down') return large && Math.min(width, depth) > 900 ? 'Ceiling' : 'Underside';
    return large && height > 1800 ? `Wall ${facing}` : `Side ${facing}`;
  });
  const rank = surfaces.map((_, i) => i).sort((a, b) => surfaces[b].area - surfaces[a].area || a - b);
  const seen = new Map<string, number>();
  const names = new Array<string>(surfaces.length);
  for (const i of rank) {
    const n = (seen.get(plain[i]) ?? 0) + 1;
    seen.set(plain[i], n);
    names[i] = n === 1 ? plain[i] : `${plain[i]} ${n}`;
  }
  return names;
}
