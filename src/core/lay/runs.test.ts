import { areaInCommon } from '../geometry/booleans';
import type { Vec2, Vec3 } from '../geometry/vec';
import { FIRST_MAPPING } from '../mapping/schema';
import type { PartMesh } from '../mesh/types';
import { facesOf, looseMesh, patch } from '../testing/shapes';
import { laidSpec, oak } from '../testing/surfaces';
import { lay } from './lay';
import type { Region } from './region';

/** A room of 5.2 × 3.8 m, seen from within, a chimney breast of 1.4 × 0.45 m on its north side; 2.6 m high. */
const ROOM: Vec2[] = [
  [0, 0],
  [1900, 0],
  [1900, 450],
  [3300, 450],
  [3300, 0],
  [5200, 0],
  [5200, 3800],
  [0, 3800],
  [0, 0],
];
const HIGH = 2600;
const PERIMETER = 2 * (5200 + 3800) + 2 * 450;

/** Every wall a part of its own, with an origin of its own; so far apart at the corners. */
const walls = (apart = 0): PartMesh[] =>
  ROOM.slice(1).map(([x, z], i) => {
    const [u, w] = ROOM[i];
    const long = Math.hypot(x - u, z - w);
    const [dx, dz] = [(x - u) / long, (z - w) / long];
    const at = (s: number): Vec2 => [
      u + dx * (apart + s * (long - 2 * apart)),
      w + dz * (apart + s * (long - 2 * apart)),
    ];
    return looseMesh(
      patch(1 + (i % 3), 1 + (i % 2), (s, t) => [at(s)[0], t * HIGH, at(s)[1]] as Vec3),
      [u, 100 * i, w],
    );
  });

function laidRoom(parts: readonly PartMesh[], rest: Partial<Region['spec']> = {}, toleranceMm = 2) {
  const layout = { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false } as const;
  const mapping = { ...FIRST_MAPPING.develop, toleranceMm };
  const region: Region = {
    id: 'run',
    patches: parts.map((part) => ({ faces: [0, facesOf(part).length] })),
    mapping,
    cuts: [],
    origin: [0, 0, 0],
    spec: { ...laidSpec({ layout, joint: 10 }), mapping, ...rest },
    colour: null,
  };
  return lay(region, parts, { oak: oak() });
}

describe('four walls and a chimney breast as one run, over eight parts', () => {
  const laid = laidRoom(walls());
  const { sheet, pieces } = laid;

  test('course lengths add to the perimeter, and every bed joint meets itself at every corner', () => {
    expect(sheet.charts).toHaveLength(1);
    expect(sheet.bounds.maxX - sheet.bounds.minX).toBeCloseTo(PERIMETER, 2);
    expect(sheet.ring).toBeCloseTo(PERIMETER, 2);
    const { mesh, faces, corners, bounds } = sheet;
    for (let i = 0; i < faces.length; i++)
      for (let k = 0; k < 3; k++) {
        const y = mesh.positions[mesh.indices[faces[i] * 3 + k] * 3 + 1] + mesh.origin[1];
        // so courses, which lie level on the sheet, lie level in space
        expect(Math.abs(corners[i * 6 + k * 2 + 1] - bounds.minY - y)).toBeLessThan(0.01);
      }
  });

  test('what is left at the cut is the perimeter less whole pitches', () => {
    const found = laid.findings.find((f) => f.code === 'leftAtCut');
    expect(found!.values).toMatchObject({ pitchMm: 225 });
    // 84 pitches of 225 are 18,900: nothing is left; of 250 there are 75, and 150 are left
    expect((found!.values as { mm: number }).mm).toBeCloseTo(0, 2);
    const longer = { kind: 'stretcher', lengthMm: 240, heightMm: 65, lap: 0.5, raking: false } as const;
    const other = laidRoom(walls(), { pieces: laidSpec({ layout: longer, joint: 10 }).pieces });
    const left = other.findings.find((f) => f.code === 'leftAtCut')!.values as { mm: number };
    expect(left.mm).toBeCloseTo(150, 2);
    expect(sheet.breaks.map((b) => b.finding.code)).toEqual(['developmentCut']);
  });

  test('pieces are counted once, go round corners whole, and lie on nothing else', () => {
    expect(new Set(pieces.map((p) => `${p.course},${p.index}`)).size).toBe(pieces.length);
    // by area: as many bricks as 225 × 75 go into the walls, but for half a course and the ends
    const expected = (PERIMETER * HIGH) / (225 * 75);
    expect(Math.abs(pieces.length - expected)).toBeLessThan(80);
    const corners = [1900, 2350, 3750, 4200, 6100, 9900, 15_100];
    const offsets = corners.map((x) => sheet.bounds.minX + x);
    // the cut lies at one of the inner corners: corners are counted from there, either way round
    const over = pieces.filter(
      (p) => p.outline.length === 1 && p.whole && offsets.some((x) => covers(p.outline[0], x)),
    );
    expect(over.length).toBeGreaterThan(0);
    for (const row of [0, 7, 20]) {
      const own = pieces.filter((p) => p.course === row);
      own.forEach((p, n) =>
        own.slice(n + 1).forEach((q) => expect(areaInCommon(p.outline, q.outline)).toBeLessThan(0.5)),
      );
    }
  });

  test('exactly so many around closes it: the pieces give way', () => {
    const mapping = { ...FIRST_MAPPING.develop, around: 84 };
    const closed = laidRoom(walls(), { mapping });
    expect(closed.findings.map((f) => f.code)).not.toContain('leftAtCut');
    expect(new Set(closed.pieces.filter((p) => p.course === 3).map((p) => p.index)).size).toBe(84);
    expect(closed.pieces.every((p) => p.length - (PERIMETER / 84 - 10) < 0.01)).toBe(true);
  });
});

test('walls drawn 1.5 mm short at every corner are still one, within the tolerance, and level', () => {
  const { sheet } = laidRoom(walls(1.5), {}, 4);
  expect(sheet.charts).toHaveLength(1);
  expect(sheet.bounds.maxY - sheet.bounds.minY).toBeCloseTo(HIGH, 2);
  expect(laidRoom(walls(1.5), {}, 1).sheet.charts.length).toBeGreaterThan(1);
});

const covers = (loop: Vec2[], x: number): boolean => {
  const xs = loop.map((p) => p[0]);
  return Math.min(...xs) < x - 15 && Math.max(...xs) > x + 15;
};
