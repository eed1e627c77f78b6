import { sayFinding } from '../finding/finding';
import { FIRST_MAPPING, type MappingSpec } from './schema';
import type { PartMesh } from '../mesh/types';
import { summedNormal } from './flat';
import { findRing } from './fan';
import { judgeCoordinates } from './own';
import { type Barrel, findBall, findBarrel, sampleFaces } from './round';
import { buildSheet } from './sheet';
import { packFaces } from '../mesh/types';
import { normalise, type Vec3 } from '../geometry/vec';

/** A mapping that suits a surface, and why. */
export interface Suggestion {
  mapping: MappingSpec;
  /** Such as “round, radius 230 mm, 98% of faces agree”. */
  reason: string;
}

/** Share of the area from which a shape counts as found. */
const AGREED = 0.9;
/** Faces that lie within this of a direction lie along it, cosine of 1.5°. */
const STRAIGHT = 0.99966;
/** Above so many faces the unrolled sheet is not tried, since trying takes as long as laying. */
const MOST_TRIED = 60_000;

/**
 * What suits the shape, best first; the last resort is always there. Every mapping can still be chosen.
 * @param faces faces of the part
 */
export function suggestMapping(mesh: PartMesh, faces: Uint32Array): Suggestion[] {
  const found: Suggestion[] = [];
  const suggest = (mapping: MappingSpec, reason: string) => found.push({ mapping, reason });
  const percent = (share: number) => `${Math.floor(share * 100 + 1e-6)}%`;
  const length = (mm: number) => `${(Math.round(mm * 10) / 10).toLocaleString('en')} mm`;

  const { normals, areas, count } = sampleFaces(mesh, faces);
  const total = areas.reduce((sum, a) => sum + a, 0);
  const sum = summedNormal(mesh, faces);
  const facing = Math.hypot(...sum) > 1e-9 ? normalise(sum) : null;
  const along = (d: Vec3) => {
    let area = 0;
    for (let i = 0; i < count; i++) {
      if (normals[i * 3] * d[0] + normals[i * 3 + 1] * d[1] + normals[i * 3 + 2] * d[2] > STRAIGHT) area += areas[i];
    }
    return total > 0 ? area / total : 1;
  };
  const flatShare = facing ? along(facing) : 0;
  if (facing && flatShare > 0.999) {
    const ring = findRing(mesh, faces, facing);
    if (ring && ring.agrees > AGREED && ring.round > 0.6 && ring.inner > ring.outer * 0.1) {
      suggest(
        FIRST_MAPPING.fan,
        `a ring, radius ${length(ring.inner)} to ${length(ring.outer)}, ${percent(ring.agrees)} of its outline agrees`,
      );
    }
    suggest(FIRST_MAPPING.flat, 'all of it lies in one plane');
    if (ring && ring.agrees > AGREED && ring.round > 0.6 && ring.inner <= ring.outer * 0.1) {
      suggest({ ...FIRST_MAPPING.fan, reference: 'outer' }, `a round of radius ${length(ring.outer)}`);
    }
    return found;
  }

  const barrel = findBarrel(mesh, faces, null);
  if (barrel && barrel.agrees >= AGREED && barrel.ends < 0.5 && barrel.coversDeg >= 15) {
    // a cone lies true when it is unrolled, a cylinder either way
    if (Math.abs(barrel.slope) > 0.02) {
      suggest(FIRST_MAPPING.unroll, `a cone, ${percent(barrel.agrees)} of faces agree: unrolled it lies true`);
      suggest(FIRST_MAPPING.cylinder, 'a cone: stretched round, but courses run level');
    } else
      suggest(cylinderFor(barrel), `round, radius ${length(barrel.radius)}, ${percent(barrel.agrees)} of faces agree`);
  } else {
    const ball = findBall(mesh, faces);
    if (ball && ball.agrees >= AGREED)
      suggest(FIRST_MAPPING.sphere, `a ball, radius ${length(ball.radius)}, ${percent(ball.agrees)} of faces agree`);
  }

  const boxed = boxShare(normals, areas, total);
  if (boxed > 0.98) suggest(FIRST_MAPPING.box, `square sides, ${percent(boxed)} of faces agree`);
  if (faces.length <= MOST_TRIED && !found.some((s) => s.mapping.kind === 'unroll')) {
    const { breaks } = buildSheet(mesh, packFaces(faces), FIRST_MAPPING.unroll);
    const cut = breaks.reduce((sum, b) => sum + b.length, 0);
    // a tube or a box opened along one side lies flat; what must be cut all over does not
    const closes = cut < 1.5 * Math.sqrt(total);
    if (cut < 1) suggest(FIRST_MAPPING.unroll, 'it bends but can lie flat: every size stays true');
    else if (closes) suggest(FIRST_MAPPING.unroll, `unfolded with ${length(cut)} of cuts: every size stays true`);
  }
  const verdict = judgeCoordinates(mesh, faces, 0);
  if (verdict.usable)
    suggest(
      FIRST_MAPPING.own,
      sayFinding(verdict.finding)
        .replace(/\.$/, '')
        .replace(/^One unit/, 'one unit'),
    );
  if (!found.some((s) => s.mapping.kind === 'box'))
    suggest(FIRST_MAPPING.box, 'it bends both ways: each face from the side it faces');
  return found;
}

const cylinderFor = (barrel: Barrel): MappingSpec => ({
  ...FIRST_MAPPING.cylinder,
  // an upright column stays upright when a later model leaves less of it to find the axis from
  axis: Math.abs(barrel.axis.along[1]) > 1 - 1e-7 ? 'vertical' : 'found',
});

/** The largest share of the area that faces along three directions square to each other, one of them upright. */
function boxShare(normals: Float64Array, areas: Float64Array, total: number): number {
  let c = 0;
  let s = 0;
  for (let i = 0; i < areas.length; i++) {
    const [x, z] = [normals[i * 3], normals[i * 3 + 2]];
    if (x * x + z * z < 0.25) continue;
    const angle = Math.atan2(z, x) * 4;
    c += Math.cos(angle) * areas[i];
    s += Math.sin(angle) * areas[i];
  }
  const turn = Math.hypot(c, s) > 1e-9 ? Math.atan2(s, c) / 4 : 0;
  const [ux, uz] = [Math.cos(turn), Math.sin(turn)];
  let area = 0;
  for (let i = 0; i < areas.length; i++) {
    const [x, y, z] = [normals[i * 3], normals[i * 3 + 1], normals[i * 3 + 2]];
    if (Math.max(Math.abs(y), Math.abs(x * ux + z * uz), Math.abs(z * ux - x * uz)) > STRAIGHT) area += areas[i];
  }
  return total > 0 ? area / total : 0;
}
