import { type Box3, boxSize, emptyBox, growBox, type Vec3 } from '../../geometry/vec';
import { turnUp, type UpAxis } from '../clean';
import { type RawModel, type RawPart, reachOf } from '../types';
import { weldPositions } from '../weld';

/** Parts larger than this are not taken apart into bodies; what small ones say is enough. */
const BODY_TRIANGLES = 20_000;
const ALL_BODY_TRIANGLES = 20_000;

/** What hangs together, in file units with y up. */
export interface Body {
  box: Box3;
  size: Vec3;
  /** Distinct corners. */
  corners: number;
}

export interface NamedBox {
  name: string;
  box: Box3;
  size: Vec3;
  bodies: Body[];
}

/** A model as it would stand with one axis up: boxes of its parts and what hangs together. File units, y up. */
export interface Form {
  up: UpAxis;
  all: Box3;
  size: Vec3;
  parts: NamedBox[];
  bodies: Body[];
  triangles: number;
}

/** Parts by themselves, without an up-axis: made once, turned for each axis. */
export function formOf(raw: RawModel): Form {
  const all = emptyBox();
  let left = ALL_BODY_TRIANGLES;
  const parts = raw.parts.map((part): NamedBox => {
    const box = boundsOf(part);
    grow(all, box);
    const count = part.indices.length / 3;
    const few = count <= BODY_TRIANGLES && count <= left;
    if (few) left -= count;
    return { name: part.name, box, size: boxSize(box), bodies: few ? bodiesOf(part) : [] };
  });
  return {
    up: 'y',
    all,
    size: boxSize(all),
    parts,
    bodies: parts.flatMap((p) => p.bodies),
    triangles: raw.parts.reduce((n, p) => n + p.indices.length / 3, 0),
  };
}

/** The same with z up. */
export function turnForm(form: Form): Form {
  const turn = (box: Box3): Box3 => {
    const turned = emptyBox();
    growBox(turned, ...turnUp(box.min, 'z'));
    growBox(turned, ...turnUp(box.max, 'z'));
    return turned;
  };
  const sized = <T extends { box: Box3 }>(thing: T): T => {
    const box = turn(thing.box);
    return { ...thing, box, size: boxSize(box) };
  };
  const all = turn(form.all);
  const parts = form.parts.map((p) => ({ ...sized(p), bodies: p.bodies.map(sized) }));
  return { ...form, up: 'z', all, size: boxSize(all), parts, bodies: parts.flatMap((p) => p.bodies) };
}

const grow = (box: Box3, by: Box3) => {
  growBox(box, ...by.min);
  growBox(box, ...by.max);
};

/** Box of a part's corners, file units and axes. */
const boundsOf = ({ box, origin }: RawPart): Box3 => ({
  min: [0, 1, 2].map((c) => box.min[c] + origin[c]) as Vec3,
  max: [0, 1, 2].map((c) => box.max[c] + origin[c]) as Vec3,
});

function bodiesOf(part: RawPart): Body[] {
  const { positions, indices, origin } = part;
  const welded = weldPositions(positions, Math.max(reachOf(part), 1e-9) * 2e-6);
  const parent = new Uint32Array(welded.length);
  for (let v = 0; v < parent.length; v++) parent[v] = v;
  const find = (v: number): number => {
    while (parent[v] !== v) v = parent[v] = parent[parent[v]];
    return v;
  };
  for (let i = 0; i < indices.length; i += 3) {
    const a = find(welded[indices[i]]);
    for (let k = 1; k < 3; k++) {
      const b = find(welded[indices[i + k]]);
      if (a !== b) parent[b] = find(a);
    }
  }
  const bodies: { box: Box3; corners: number }[] = [];
  const numberOf = new Int32Array(welded.length).fill(-1);
  const counted = new Uint8Array(welded.length);
  for (let i = 0; i < indices.length; i++) {
    const v = welded[indices[i]];
    if (counted[v]) continue;
    counted[v] = 1;
    const root = find(v);
    if (numberOf[root] < 0) numberOf[root] = bodies.push({ box: emptyBox(), corners: 0 }) - 1;
    const body = bodies[numberOf[root]];
    growBox(body.box, positions[v * 3] + origin[0], positions[v * 3 + 1] + origin[1], positions[v * 3 + 2] + origin[2]);
    body.corners++;
  }
  return bodies.map((body) => ({ ...body, size: boxSize(body.box) }));
}
