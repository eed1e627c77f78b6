import { finding } from '../finding/finding';
import { type Static, Type } from '@sinclair/typebox';
import { everyMapping, SeamDeg, Around, aroundField, seamField, aroundWords } from './parts';
import { faceNormals } from '../mesh/creases';
import type { PartMesh } from '../mesh/types';
import { weldFaces } from '../mesh/weld';
import { asFlat } from './cylinder';
import { AroundAxis, axisThrough, Coverage, findBall, shortfallNote, turned } from './round';
import type { LaidFaces, Mapping } from './types';

export const SphereMapping = Type.Object({
  ...everyMapping,
  kind: Type.Literal('sphere'),
  seamDeg: SeamDeg,
  around: Around,
});
export type SphereMapping = Static<typeof SphereMapping>;

/**
 * Distance round against distance up, both along the ball (equidistant cylindrical projection). A ball cannot lie flat:
 * heights are true everywhere, distances round on two parallels, chosen so that as much area lies inside as outside
 * them.
 */
export const sphere: Mapping<SphereMapping> = {
  kind: 'sphere',
  label: 'Sphere',
  also: ['ball', 'globe', 'dome'],
  schema: SphereMapping,
  first: { kind: 'sphere', seamDeg: null, around: null },
  fields: [aroundField(), seamField()],
  describe: (s) => `round a ball${aroundWords(s)}`,
  drawing: [
    { as: 'face', d: 'M10 19a14 14 0 1 0 28 0a14 14 0 1 0 -28 0' },
    { as: 'line', d: 'M10 19c4 6 24 6 28 0M24 5c-7 5-7 23 0 28' },
    { as: 'arrow', d: 'M30 8c5 4 7 9 6 14m-3-2 3 2 3-3' },
  ],
  lay(mesh: PartMesh, faces: Uint32Array, options: SphereMapping): LaidFaces {
    const ball = findBall(mesh, faces);
    if (!ball) return asFlat(mesh, faces, finding('noBall', {}));
    const { centre, radius } = ball;
    const around = new AroundAxis(mesh, axisThrough(centre, [0, 1, 0]));
    const coverage = new Coverage();
    const a = new Float64Array(3);
    const { indices } = mesh;
    // |sine of the latitude| weighed by area: on a ball, equal steps of it are equal areas
    const { areas } = faceNormals(mesh.positions, weldFaces(mesh, faces));
    let area = 0;
    let sines = 0;
    for (let i = 0; i < faces.length; i++) {
      around.face(faces[i], a);
      coverage.add(a);
      let h = 0;
      for (let k = 0; k < 3; k++) h += around.heights[indices[faces[i] * 3 + k]] / 3;
      sines += Math.min(1, Math.abs(h) / radius) * areas[i];
      area += areas[i];
    }
    const sine = area > 0 ? sines / area : 0;
    const round = radius * Math.sqrt(1 - sine * sine);
    const seam = coverage.seam(options.seamDeg, 0);
    const corners = new Float64Array(faces.length * 6);
    for (let i = 0; i < faces.length; i++) {
      around.face(faces[i], a);
      const mean = (a[0] + a[1] + a[2]) / 3;
      const start = turned(mean - seam);
      for (let k = 0; k < 3; k++) {
        const v = indices[faces[i] * 3 + k];
        corners[i * 6 + k * 2] = round * (start + a[k] - mean);
        corners[i * 6 + k * 2 + 1] = radius * Math.atan2(around.heights[v], around.distances[v]);
      }
    }
    const parallel = Math.round((Math.asin(sine) * 180) / Math.PI);
    return {
      corners,
      chartOf: new Uint32Array(faces.length),
      frames: [{ x: [0, 0, 0], y: [0, 1, 0], offset: [0, -centre[1]] }],
      groupOf: [0],
      breaks: [],
      ring: coverage.closed ? 2 * Math.PI * round : null,
      notes: [shortfallNote(coverage.widest), finding('ballStretches', { parallelDeg: parallel })],
    };
  },
};
