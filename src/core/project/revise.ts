import { faceNormals } from '../mesh/creases';
import { measureSurface } from '../mesh/measureSurface';
import { type FaceRuns, listFaces, packFaces, type PartMesh } from '../mesh/types';
import type { Part, Surface } from './schema';

/*
 * A model brought in again: which of its parts and surfaces are those the project knows. Parts are matched by name,
 * then by shape and place; surfaces face by face, so that what was split, merged or picked by hand stays so.
 */

/** A part of the newer file, as an import prepares it. */
export interface NewPart {
  name: string;
  path: string[];
  origin: [number, number, number];
  min: [number, number, number];
  max: [number, number, number];
  surfaces: { name: string; faces: FaceRuns; slot: number; areaMm2: number; normal: [number, number, number] }[];
}

export interface PartMatch {
  /** Number of the part in the newer file. */
  next: number;
  name: string;
  /** The project's part it is; null where it is new. */
  old: string | null;
  how: 'name' | 'shape' | 'place' | 'new';
  /** Others it could be, when it is not sure. */
  others: string[];
  /** What is different, for people: “longer by 1100 mm”, “moved by 300 mm”, “was “Wall north””. */
  changed: string[];
}

export interface Proposal {
  parts: PartMatch[];
  /** Parts of the project that are not in the newer file. */
  gone: string[];
}

type Box = Pick<Part, 'min' | 'max'>;
const sizeOf = ({ min, max }: Box) => [0, 1, 2].map((c) => max[c] - min[c]);
const middleOf = ({ min, max }: Box) => [0, 1, 2].map((c) => (max[c] + min[c]) / 2);
const apart = (a: Box, b: Box) => Math.hypot(...middleOf(a).map((v, c) => v - middleOf(b)[c]));
/** Sizes that differ by less are the same, mm. */
const SAME = 1;
const sameSize = (a: Box, b: Box) => sizeOf(a).every((v, c) => Math.abs(v - sizeOf(b)[c]) < SAME + v * 1e-3);

/** Share of the smaller box that both have in common, flat ones thickened a little. */
function overlap(a: Box, b: Box): number {
  let common = 1;
  for (let c = 0; c < 3; c++) {
    const [low, high] = [Math.max(a.min[c], b.min[c]), Math.min(a.max[c], b.max[c])];
    const least = Math.min(a.max[c] - a.min[c], b.max[c] - b.min[c]);
    if (high + 5 < low) return 0;
    common *= (high - low + 10) / (least + 10);
  }
  return Math.min(1, common);
}

/**
 * Which parts of the newer file are which of the project's.
 * @param decided what people have settled: number of the newer part → the project's part, or null for a new one
 */
export function proposeParts(old: Part[], next: NewPart[], decided: Record<number, string | null> = {}): Proposal {
  const free = new Map(old.map((p) => [p.id, p]));
  const matches = new Map<number, PartMatch>();
  const take = (n: number, part: Part | null, how: PartMatch['how'], others: string[] = []) => {
    if (part) free.delete(part.id);
    matches.set(n, {
      next: n,
      name: next[n].name,
      old: part?.id ?? null,
      how,
      others,
      changed: part ? differences(part, next[n]) : [],
    });
  };
  for (const [n, id] of Object.entries(decided)) {
    const part = id === null ? null : free.get(id);
    if (part !== undefined && next[Number(n)]) take(Number(n), part, part ? 'name' : 'new');
  }
  const open = () => next.map((_, n) => n).filter((n) => !matches.has(n));

  // by name and the names above; parts of one name are numbered as the file happens to list them, so that of several
  // alike each takes the nearest
  const byName = (
    keyOf: (p: { name: string; path: string[] }) => string,
    fits: (part: Part, now: NewPart) => boolean,
  ) => {
    const byKey = new Map<string, Part[]>();
    for (const p of free.values()) byKey.set(keyOf(p), [...(byKey.get(keyOf(p)) ?? []), p]);
    const pairs = open().flatMap((n) =>
      (byKey.get(keyOf(next[n])) ?? [])
        .filter((part) => fits(part, next[n]))
        .map((part) => ({ n, part, d: apart(part, next[n]) })),
    );
    for (const { n, part } of pairs.sort((a, b) => a.d - b.d || a.n - b.n)) {
      if (!matches.has(n) && free.has(part.id)) take(n, part, 'name');
    }
  };
  const exact = (p: { name: string; path: string[] }) => JSON.stringify([...p.path, p.name]);
  const numbered = (p: { name: string; path: string[] }) =>
    JSON.stringify([...p.path, p.name.replace(/[ ._-]*\d+$/, '')]);
  byName(exact, (part, now) => overlap(part, now) > 0.2);
  byName(numbered, sameSize);
  byName(exact, () => true);

  // by shape: the same size and as many surfaces; the nearest, and unsure where another is as near
  const alike = open().flatMap((n) =>
    [...free.values()].filter((p) => sameSize(p, next[n])).map((part) => ({ n, part, d: apart(part, next[n]) })),
  );
  for (const { n, part, d } of alike.sort((a, b) => a.d - b.d || a.n - b.n)) {
    if (matches.has(n) || !free.has(part.id)) continue;
    const rivals = alike
      .filter((a) => a.n === n && a.part !== part && free.has(a.part.id) && a.d < d * 1.5 + 10)
      .map((a) => a.part.id);
    take(n, part, 'shape', rivals);
  }

  // by place: most of it lies where the other lay; people should look at these
  const placed = open().flatMap((n) =>
    [...free.values()].map((part) => ({ n, part, share: overlap(part, next[n]) })).filter((p) => p.share > 0.5),
  );
  for (const { n, part } of placed.sort((a, b) => b.share - a.share || a.n - b.n)) {
    if (!matches.has(n) && free.has(part.id))
      take(n, part, 'place', [...free.keys()].filter((id) => id !== part.id).slice(0, 8));
  }
  for (const n of open()) take(n, null, 'new', [...free.keys()].slice(0, 8));
  return { parts: next.map((_, n) => matches.get(n)!), gone: [...free.keys()] };
}

function differences(old: Part, now: NewPart): string[] {
  const out: string[] = [];
  if (old.name !== now.name) out.push(`was “${old.name}”`);
  const axes = ['east to west', 'in height', 'north to south'];
  sizeOf(now).forEach((v, c) => {
    const by = Math.round((v - sizeOf(old)[c]) * 10) / 10;
    if (Math.abs(by) >= SAME) out.push(`${by > 0 ? 'larger' : 'smaller'} by ${Math.abs(by)} mm ${axes[c]}`);
  });
  const moved = apart(old, now);
  if (sameSize(old, now) && moved >= SAME) out.push(`moved by ${Math.round(moved)} mm`);
  return out;
}

export interface CarriedPart {
  part: Part;
  surfaces: Surface[];
  /** What could not be carried over, for people. */
  lost: string[];
}

/** Above so many pairs of faces, surfaces are matched by name and facing alone. */
const MOST_PAIRS = 40_000_000;

/**
 * A part of the newer file with what was decided about the older one. Every face goes to the surface whose faces it
 * lies nearest to and looks the same way as; faces near none stay in the surfaces the import found.
 * @param ids makes the ids of new surfaces
 */
export function carryPart(
  old: Part,
  oldSurfaces: Surface[],
  oldMesh: PartMesh,
  now: NewPart,
  mesh: PartMesh,
  meshNumber: number,
  ids: () => string,
): CarriedPart {
  // runs have no faces of their own: they follow their members
  const own = oldSurfaces.filter((s) => !s.zone && !s.run);
  const onOwn = new Set(own.map((s) => s.id));
  const zones = oldSurfaces.filter((s) => s.zone && onOwn.has(s.zone.of));
  const matched = matchFaces(own, oldMesh, mesh, shiftOf(old, now));
  const lost: string[] = [];
  const groups = new Map<string, number[]>();
  const surfaces: Surface[] = [];
  for (const found of now.surfaces) {
    const left: number[] = [];
    for (const f of listFaces(found.faces)) {
      const id = matched ? (matched.surface[f] ?? null) : (byName(own, found)?.id ?? null);
      if (id === null) left.push(f);
      else if (groups.has(id)) groups.get(id)!.push(f);
      else groups.set(id, [f]);
    }
    if (!left.length) continue;
    const faces = packFaces(left);
    const m = measureSurface(mesh, faces);
    surfaces.push({
      id: ids(),
      part: old.id,
      name: found.name,
      faces,
      slot: found.slot,
      areaMm2: m.area,
      normal: m.normal,
      hidden: false,
      leftBare: false,
      spec: null,
    });
  }
  const placeOf = (face: number) => (matched ? matched.nearest.indexOf(face) : -1);
  for (const s of own) {
    const faces = groups.get(s.id);
    if (!faces) {
      lost.push(`${old.name}, ${s.name}`);
      continue;
    }
    const runs = packFaces(faces);
    const m = measureSurface(mesh, runs);
    surfaces.push({
      ...s,
      faces: runs,
      slot: m.slot,
      areaMm2: m.area,
      normal: m.normal,
      spec: s.spec && carrySpec(s, placeOf, lost, old.name),
    });
  }
  const kept = new Set(surfaces.map((s) => s.id));
  for (const z of zones) {
    if (kept.has(z.zone!.of)) surfaces.push(z);
    else lost.push(`${old.name}, zone ${z.name}`);
  }
  const flippedBefore = new Set(listFaces(old.flipped ?? []));
  const flipped =
    matched && flippedBefore.size
      ? packFaces(matched.nearest.flatMap((g, f) => (flippedBefore.has(g) ? [f] : [])))
      : [];
  // what was tried on the older mesh is the designer's to answer: the newer file has it, or has not
  for (const { name, byMm } of old.pushes ?? []) lost.push(`${old.name}: ${name} pushed by ${byMm} mm`);
  const { flipped: _before, pushes: _pushed, ...rest } = old;
  const part: Part = {
    ...rest,
    name: now.name,
    path: now.path,
    mesh: meshNumber,
    origin: now.origin,
    min: now.min,
    max: now.max,
    ...(flipped.length ? { flipped } : {}),
  };
  return { part, surfaces, lost };
}

/** Faces named in an unrolling are found again by place; cuts chosen on the older mesh cannot be. */
function carrySpec(s: Surface, placeOf: (face: number) => number, lost: string[], part: string): Surface['spec'] {
  const { mapping } = s.spec!;
  if (mapping.kind !== 'unroll' || (mapping.from === undefined && !mapping.cuts?.length)) return s.spec;
  const { from: before, cuts, ...kept } = mapping;
  const from = before === undefined ? -1 : placeOf(before);
  if (cuts?.length) lost.push(`${part}, ${s.name}: the cuts chosen for unrolling`);
  if (before !== undefined && from < 0) lost.push(`${part}, ${s.name}: where unrolling starts`);
  return { ...s.spec!, mapping: from >= 0 ? { ...kept, from } : kept };
}

/** A part that only moved is compared where it lay. */
function shiftOf(old: Part, now: NewPart): [number, number, number] {
  if (!sameSize(old, now)) return [0, 0, 0];
  return [0, 1, 2].map((c) => old.min[c] - now.min[c]) as [number, number, number];
}

function byName(own: Surface[], found: NewPart['surfaces'][0]): Surface | undefined {
  const facing = own.filter(
    (s) =>
      s.normal[0] * found.normal[0] + s.normal[1] * found.normal[1] + s.normal[2] * found.normal[2] > 0.9 ||
      Math.hypot(...found.normal) < 0.5,
  );
  return facing.find((s) => s.name === found.name) ?? facing.find((s) => s.slot === found.slot);
}

/** Faces that look further apart than this are not the same, cosine of 25°. */
const FACING = 0.9;
/** How far off the plane of its older face a face may lie, mm, before it is another; walls do move. */
const FARTHEST = 2000;

/** For every face of the newer mesh the older face it lies nearest to, and that one's surface. */
function matchFaces(
  own: Surface[],
  oldMesh: PartMesh,
  mesh: PartMesh,
  shift: [number, number, number],
): { surface: (string | null)[]; nearest: number[] } | null {
  const oldFaces = own.flatMap((s) => [...listFaces(s.faces)].map((face) => ({ face, id: s.id })));
  const total = mesh.indices.length / 3;
  if (oldFaces.length * total > MOST_PAIRS) return null;
  const before = centresOf(oldMesh, [0, 0, 0]);
  const after = centresOf(mesh, shift);
  const surface: (string | null)[] = [];
  const nearest: number[] = [];
  for (let f = 0; f < total; f++) {
    let best = Infinity;
    let at = -1;
    for (let i = 0; i < oldFaces.length; i++) {
      const g = oldFaces[i].face;
      const turn =
        after.normals[f * 3] * before.normals[g * 3] +
        after.normals[f * 3 + 1] * before.normals[g * 3 + 1] +
        after.normals[f * 3 + 2] * before.normals[g * 3 + 2];
      if (turn < FACING) continue;
      const [dx, dy, dz] = [0, 1, 2].map((c) => after.centres[f * 3 + c] - before.centres[g * 3 + c]);
      const off = Math.abs(
        dx * before.normals[g * 3] + dy * before.normals[g * 3 + 1] + dz * before.normals[g * 3 + 2],
      );
      if (off > FARTHEST) continue;
      // off the plane counts more than along it: a wall that grew is still that wall
      const score = off * 8 + Math.hypot(dx, dy, dz) + (1 - turn) * 1000;
      if (score < best) [best, at] = [score, i];
    }
    surface.push(at < 0 ? null : oldFaces[at].id);
    nearest.push(at < 0 ? -1 : oldFaces[at].face);
  }
  return { surface, nearest };
}

function centresOf(mesh: PartMesh, shift: [number, number, number]) {
  const { normals } = faceNormals(mesh.positions, mesh.indices);
  const centres = new Float64Array(mesh.indices.length);
  for (let f = 0; f < mesh.indices.length / 3; f++) {
    for (let c = 0; c < 3; c++) {
      let sum = 0;
      for (let k = 0; k < 3; k++) sum += mesh.positions[mesh.indices[f * 3 + k] * 3 + c];
      centres[f * 3 + c] = sum / 3 + mesh.origin[c] + shift[c];
    }
  }
  return { normals, centres };
}
