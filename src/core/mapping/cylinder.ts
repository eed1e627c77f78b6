import { type Finding, finding } from '../finding/finding';
import { type Static, Type } from '@sinclair/typebox';
import { everyMapping, SeamDeg, Around, aroundField, seamField, aroundWords } from './parts';
import { oneOf } from '../schema/choice';
import type { Vec3 } from '../geometry/vec';
import type { PartMesh } from '../mesh/types';
import { frameFacing, placeFace, summedNormal } from './flat';
import { AroundAxis, Coverage, END, findBarrel, shortfallNote, turned } from './round';
import type { Frame, LaidFaces, Mapping } from './types';

/** Distance round the true radius, and height. */
export const CylinderMapping = Type.Object({
  ...everyMapping,
  kind: Type.Literal('cylinder'),
  axis: oneOf('found', 'vertical', 'eastWest', 'northSouth'),
  seamDeg: SeamDeg,
  around: Around,
});
export type CylinderMapping = Static<typeof CylinderMapping>;

const DIRECTIONS: Record<Exclude<CylinderMapping['axis'], 'found'>, Vec3> = {
  vertical: [0, 1, 0],
  eastWest: [1, 0, 0],
  northSouth: [0, 0, -1],
};

/**
 * Distance round the true radius against height along the side. Faces across the ends lie flat. On a cone the distance
 * round is that of its mean radius: what the stretch says is what it costs.
 */
export const cylinder: Mapping<CylinderMapping> = {
  kind: 'cylinder',
  label: 'Cylinder',
  also: ['round', 'column', 'drum', 'pipe', 'barrel'],
  schema: CylinderMapping,
  first: { kind: 'cylinder', axis: 'found', seamDeg: null, around: null },
  fields: [
    aroundField(),
    {
      kind: 'choice',
      label: 'Its axis',
      further: true,
      options: [
        ['found', 'as found'],
        ['vertical', 'upright'],
        ['eastWest', 'east to west'],
        ['northSouth', 'north to south'],
      ],
      get: (s) => s.axis,
      set: (s, axis) => ({ ...s, axis: axis as CylinderMapping['axis'] }),
    },
    seamField(),
  ],
  describe: (s) => `round a cylinder${aroundWords(s)}`,
  drawing: [
    { as: 'face', d: 'M12 9v20c0 6 24 6 24 0V9' },
    { as: 'face', d: 'M12 9a12 4 0 1 0 24 0a12 4 0 1 0 -24 0' },
    { as: 'arrow', d: 'M9 20c4 8 26 8 30 0m-4 0 4 0v4' },
  ],
  lay(mesh: PartMesh, faces: Uint32Array, options: CylinderMapping): LaidFaces {
    const direction = options.axis === 'found' ? null : DIRECTIONS[options.axis];
    const found = findBarrel(mesh, faces, direction);
    if (!found) return asFlat(mesh, faces, finding('noRound', {}));
    const { axis, slope } = found;
    const around = new AroundAxis(mesh, axis);
    const coverage = new Coverage();
    const kind = new Uint8Array(faces.length);
    const a = new Float64Array(3);
    const { positions: p, indices } = mesh;
    const { along, point } = axis;
    const [ax, ay, az] = [0, 1, 2].map((c) => mesh.origin[c] - point[c]);
    // angles first, in the places where lengths will be
    const corners = new Float64Array(faces.length * 6);
    let distances = 0;
    let corners3 = 0;
    for (let i = 0; i < faces.length; i++) {
      const f = faces[i] * 3;
      const i0 = indices[f] * 3;
      const i1 = indices[f + 1] * 3;
      const i2 = indices[f + 2] * 3;
      const ux = p[i1] - p[i0];
      const uy = p[i1 + 1] - p[i0 + 1];
      const uz = p[i1 + 2] - p[i0 + 2];
      const vx = p[i2] - p[i0];
      const vy = p[i2 + 1] - p[i0 + 1];
      const vz = p[i2 + 2] - p[i0 + 2];
      const nx = uy * vz - uz * vy;
      const ny = uz * vx - ux * vz;
      const nz = ux * vy - uy * vx;
      const l = Math.sqrt(nx * nx + ny * ny + nz * nz);
      const rise = nx * along[0] + ny * along[1] + nz * along[2];
      if (Math.abs(rise) > END * l) {
        kind[i] = rise > 0 ? TOP : FOOT;
        continue;
      }
      around.face(faces[i], a);
      coverage.add(a);
      corners[i * 6] = a[0];
      corners[i * 6 + 2] = a[1];
      corners[i * 6 + 4] = a[2];
      // from the axis to the middle of the face
      const rx = (p[i0] + p[i1] + p[i2]) / 3 + ax;
      const ry = (p[i0 + 1] + p[i1 + 1] + p[i2 + 1]) / 3 + ay;
      const rz = (p[i0 + 2] + p[i1 + 2] + p[i2 + 2]) / 3 + az;
      const outwards = nx * rx + ny * ry + nz * rz - rise * (rx * along[0] + ry * along[1] + rz * along[2]);
      kind[i] = outwards >= 0 ? OUTSIDE : INSIDE;
      for (let k = 0; k < 3; k++) distances += around.distances[indices[f + k]];
      corners3 += 3;
    }
    // a barrel has one radius, wherever its vertices crowd; only a cone needs a mean
    const radius = Math.abs(slope) < 1e-4 || !corners3 ? found.radius : distances / corners3;
    const seam = coverage.seam(options.seamDeg, 0);
    const steep = Math.sqrt(1 + slope * slope);
    // on an upright barrel y is the world's height, so that courses keep the levels of the walls around
    const lift =
      Math.abs(slope) < 1e-4 ? axis.point[0] * along[0] + axis.point[1] * along[1] + axis.point[2] * along[2] : 0;
    const ends = { [TOP]: frameFacing(along), [FOOT]: frameFacing([-along[0], -along[1], -along[2]]) };
    for (let i = 0; i < faces.length; i++) {
      if (kind[i] === TOP || kind[i] === FOOT) {
        placeFace(mesh, faces[i], ends[kind[i] as typeof TOP], corners, i * 6);
        continue;
      }
      const o = i * 6;
      const mean = (corners[o] + corners[o + 2] + corners[o + 4]) / 3;
      // seen from inside, going round the other way is going right
      const sign = kind[i] === OUTSIDE ? 1 : -1;
      const start = sign * (turned(mean - seam) - mean);
      const f = faces[i] * 3;
      for (let k = 0; k < 3; k++) {
        corners[o + k * 2] = radius * (start + sign * corners[o + k * 2]);
        corners[o + k * 2 + 1] = steep * around.heights[indices[f + k]] + lift;
      }
    }
    const used = [OUTSIDE, INSIDE, TOP, FOOT].filter((k) => kind.includes(k));
    const side: Frame = { x: [0, 0, 0], y: [...along], offset: [0, 0] };
    const notes = corners3 ? [shortfallNote(coverage.widest)] : [];
    if (Math.abs(slope) > 1e-3) notes.push(finding('tapers', { radiusMm: radius }));
    return {
      corners,
      chartOf: chartsOf(kind, used),
      frames: used.map((k) => (k === TOP || k === FOOT ? ends[k] : side)),
      groupOf: used.map((_, n) => n),
      breaks: [],
      ring: coverage.closed && corners3 ? 2 * Math.PI * radius : null,
      notes,
    };
  },
};

const OUTSIDE = 0;
const INSIDE = 1;
const TOP = 2;
const FOOT = 3;

/** Where a mapping does not apply, the surface is laid flat and that is said. */
export function asFlat(mesh: PartMesh, faces: Uint32Array, ...notes: Finding[]): LaidFaces {
  const sum = summedNormal(mesh, faces);
  const frame = frameFacing(Math.hypot(...sum) > 1e-9 ? sum : [0, 1, 0]);
  const corners = new Float64Array(faces.length * 6);
  for (let i = 0; i < faces.length; i++) placeFace(mesh, faces[i], frame, corners, i * 6);
  return { corners, chartOf: new Uint32Array(faces.length), frames: [frame], groupOf: [0], breaks: [], notes };
}

/** For each face the place of its kind among those there are. */
function chartsOf(kind: Uint8Array, used: readonly number[]): Uint32Array {
  const at = new Uint32Array(4);
  used.forEach((k, n) => (at[k] = n));
  const out = new Uint32Array(kind.length);
  for (let i = 0; i < kind.length; i++) out[i] = at[kind[i]];
  return out;
}
