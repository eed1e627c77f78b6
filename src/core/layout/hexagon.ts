import { type Static, Type } from '@sinclair/typebox';
import { Side } from '../schema/sizes';
import { openRows } from './rows';
import { defaultJoint } from './joint';
import { shapeOfCell } from './modules';
import type { Layout } from './types';
import { pieceIn } from './words';

export const HexagonLayout = Type.Object({
  kind: Type.Literal('hexagon'),
  acrossFlatsMm: Side,
  /** A corner at the top, or a flat side. */
  pointUp: Type.Boolean(),
});
export type HexagonLayout = Static<typeof HexagonLayout>;

const hex = (acrossFlatsMm: number, pointUp = true): HexagonLayout => ({ kind: 'hexagon', acrossFlatsMm, pointUp });
const ROOT3 = Math.sqrt(3);

/** Regular hexagons. Their joints are all of one width, the one between rows. */
export const hexagon: Layout<HexagonLayout> = {
  kind: 'hexagon',
  label: 'Hexagon',
  trade: 'tile',
  also: ['honeycomb', 'six-sided tiles'],
  schema: HexagonLayout,
  cells: 'laid',
  preset: { spec: hex(200), joint: { ...defaultJoint(2, '#cfc8bb'), recessMm: 1, roundingMm: 1 } },
  formats: [
    { label: 'Hexagon 100 across flats', spec: hex(100) },
    { label: 'Hexagon 200 across flats', spec: hex(200) },
    { label: 'Hexagon 200, flat side up', spec: hex(200, false) },
    { label: 'Hexagon 45 on a net', spec: hex(45) },
  ],
  oneJoint: true,
  roles: ['tile'],
  size: {
    label: 'Across flats',
    sorted: false,
    get: (s) => [s.acrossFlatsMm, s.acrossFlatsMm],
    set: (s, [acrossFlatsMm]) => ({ ...s, acrossFlatsMm }),
  },
  pitch: (s, joint) => (s.pointUp ? s.acrossFlatsMm + joint.acrossMm : null),
  // the other way round only every second column lies in line
  round: (s, joint, pitch, standing) =>
    s.pointUp !== standing ? { ...s, acrossFlatsMm: pieceIn(pitch, joint.acrossMm) } : null,
  fields: [
    {
      kind: 'choice',
      label: 'At the top',
      options: [
        ['point', 'a corner'],
        ['flat', 'a flat side'],
      ],
      get: (s) => (s.pointUp ? 'point' : 'flat'),
      set: (s, v) => ({ ...s, pointUp: v === 'point' }),
    },
  ],
  describe: (s, size) => `hexagons ${size(s.acrossFlatsMm)} across flats${s.pointUp ? '' : ', flat side up'}`,
  open({ acrossFlatsMm, pointUp }, { acrossMm }) {
    const flats = acrossFlatsMm + acrossMm;
    const corners = (2 * flats) / ROOT3;
    const size = [acrossFlatsMm, (2 * acrossFlatsMm) / ROOT3] as const;
    // rows of hexagons that stand on a flat side are columns: the lattice is turned, the tiles are not
    return openRows({
      pitch: [flats, corners * 0.75],
      first: pointUp ? [size[0] / 2, size[1] / 2] : [size[0] / 2, -size[1] / 2],
      offset: (c) => (c & 1) / 2,
      wraps: (c) => c >> 1,
      turn: pointUp ? [1, 0] : [0, 1],
      axis: [1, 0],
      halfLength: (pointUp ? flats : corners) / 2,
      halfWidth: (pointUp ? corners : flats) / 2,
      module: { name: 'hexagon', shape: hexagonShape(flats / 2, corners / 2, pointUp, acrossMm / 2) },
      inset: [acrossMm / 2, acrossMm / 2],
      largest: pointUp ? size : [size[1], size[0]],
      role: 'tile',
    });
  },
};

function hexagonShape(flats: number, corners: number, pointUp: boolean, joint: number) {
  const cell = hexagonCorners(flats, corners, pointUp);
  const piece = hexagonCorners(flats - joint, corners - (2 * joint) / ROOT3, pointUp);
  return shapeOfCell(cell, Array(6).fill(joint) as number[], piece).shape;
}

/** @param f half across the flats, mm @param c half from corner to corner */
const hexagonCorners = (f: number, c: number, pointUp: boolean): number[] =>
  pointUp
    ? [0, -c, f, -c / 2, f, c / 2, 0, c, -f, c / 2, -f, -c / 2]
    : [-c / 2, -f, c / 2, -f, c, 0, c / 2, f, -c / 2, f, -c, 0];
