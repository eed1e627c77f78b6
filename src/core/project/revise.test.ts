import { nameSurfaces } from '../mesh/naming';
import type { PartMesh } from '../mesh/types';
import { faceCount, listFaces, packFaces } from '../mesh/types';
import type { Spec } from '../specification/schema';
import { boxTriangles, preparedFrom } from '../testing/fixtures';
import { laidSpec, oak } from '../testing/surfaces';
import { lay } from '../lay/lay';
import { applyCommand } from './commands';
import { regionsOf } from './regions';
import { carryPart, type NewPart, proposeParts } from './revise';
import { emptyProject, type Part, type Project, type Surface } from './schema';

interface File {
  parts: NewPart[];
  meshes: PartMesh[];
}

/** A file as an import prepares it; metres. */
async function read(parts: Parameters<typeof preparedFrom>[0]): Promise<File> {
  const model = await preparedFrom(parts);
  return {
    meshes: model.parts.map((p) => p.mesh),
    parts: model.parts.map((p) => {
      const names = nameSurfaces(p.surfaces, 0);
      return {
        name: p.name,
        path: p.path,
        origin: p.pivot,
        min: p.bounds.min,
        max: p.bounds.max,
        surfaces: p.surfaces.map((s, i) => ({
          name: names[i],
          faces: s.faces,
          slot: s.slot,
          areaMm2: s.area,
          normal: s.normal,
        })),
      };
    }),
  };
}

function projectOf(file: File): Project {
  const parts: Part[] = [];
  const surfaces: Surface[] = [];
  file.parts.forEach(({ surfaces: own, ...p }, mesh) => {
    const id = `part-${p.name}`;
    parts.push({ id, model: 'm', mesh, locked: false, ...p });
    own.forEach((s, i) =>
      surfaces.push({ id: `${id}-${i}`, part: id, hidden: false, leftBare: false, spec: null, ...s }),
    );
  });
  const model = {
    id: 'm',
    name: 'M',
    file: 'm.glb',
    mesh: 'a'.repeat(64),
    unitMm: 1000,
    upAxis: 'y' as const,
    triangles: 0,
    slots: [],
    remarks: [],
    missingPictures: [],
    missingBySlot: [],
  };
  return applyCommand(emptyProject('x', 'X'), { kind: 'addModel', model, parts, surfaces, materials: [oak()] }).project;
}

const wall = (length: number, x = 0) => boxTriangles([x, 0, 0], [x + length, 2.6, 0.3]);
const bricks = (rest: Partial<Spec> = {}): Spec => ({
  ...laidSpec({
    layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
    joint: 10,
    variation: { pins: [{ course: 3, index: 2, print: 1, seed: 77 }] },
  }),
  start: { datum: 'world', xMm: 0, yMm: 0 },
  ...rest,
});

/** Carries every matched part over and applies it. */
function revise(project: Project, before: File, after: File): { project: Project; lost: string[] } {
  const proposal = proposeParts(Object.values(project.parts), after.parts);
  let n = 0;
  const carried = proposal.parts.map((match, i) => {
    const old = match.old ? project.parts[match.old] : null;
    if (!old) {
      const { surfaces: own, ...rest } = after.parts[i];
      const part: Part = { id: `new-${i}`, model: 'm', mesh: i, locked: false, ...rest };
      return {
        part,
        surfaces: own.map((s): Surface => ({
          id: `new-s${n++}`,
          part: part.id,
          hidden: false,
          leftBare: false,
          spec: null,
          ...s,
        })),
        lost: [],
      };
    }
    const own = Object.values(project.surfaces).filter((s) => s.part === old.id);
    return carryPart(old, own, before.meshes[old.mesh], after.parts[i], after.meshes[i], i, () => `new-s${n++}`);
  });
  const next = applyCommand(project, {
    kind: 'reviseModel',
    model: project.models.m,
    parts: carried.map((c) => c.part),
    surfaces: carried.flatMap((c) => c.surfaces),
    materials: [],
  }).project;
  return { project: next, lost: carried.flatMap((c) => c.lost) };
}

test('a wall that grew from 4.8 to 5.9 m keeps its bricks, its first brick, its pins and its zone', async () => {
  const before = await read([{ name: 'Wall', triangles: wall(4.8) }]);
  const after = await read([{ name: 'Wall', triangles: wall(5.9) }]);
  const start = projectOf(before);
  const front = Object.values(start.surfaces).find((s) => s.normal[2] > 0.9)!;
  const laid = applyCommand(start, { kind: 'setSpecs', specs: { [front.id]: bricks() } }).project;
  const zone: Surface = {
    ...front,
    id: 'niche',
    name: 'Niche',
    faces: [],
    spec: null,
    zone: { of: front.id, rank: 0, shape: { kind: 'rectangle', xMm: 600, yMm: 800, widthMm: 900, heightMm: 1000 } },
  };
  const zoned = applyCommand(laid, { kind: 'addZone', zone }).project;
  expect(proposeParts(Object.values(zoned.parts), after.parts).parts[0]).toMatchObject({
    how: 'name',
    others: [],
    changed: ['larger by 1100 mm east to west'],
  });

  const { project, lost } = revise(zoned, before, after);
  expect(lost).toEqual([]);
  expect(project.surfaces[front.id].areaMm2).toBeCloseTo(5900 * 2600, -2);
  expect(project.surfaces.niche.zone).toEqual(zone.zone);
  const piecesOf = (p: Project, mesh: PartMesh) => {
    const [region] = regionsOf(p, p.surfaces[front.id]);
    return new Map(lay(region, [mesh], { oak: oak() }).pieces.map((b) => [`${b.course},${b.index}`, b]));
  };
  const [old, now] = [piecesOf(zoned, before.meshes[0]), piecesOf(project, after.meshes[0])];
  expect(now.size).toBeGreaterThan(old.size);
  for (const [key, piece] of old) {
    const same = now.get(key)!;
    expect(same.middle[0]).toBeCloseTo(piece.middle[0], 3);
    expect(same.middle[1]).toBeCloseTo(piece.middle[1], 3);
    expect([same.length, same.width]).toEqual([piece.length, piece.width]);
    expect(same.appearance.seed).toBe(piece.appearance.seed);
  }
  // the zone's hole is where it was
  expect(now.has('14,4')).toBe(old.has('14,4'));
});

test('a part that was renamed and moved is found by its shape, a new one is new, a deleted one is listed', async () => {
  const before = await read([
    { name: 'Wall', triangles: wall(4.8) },
    { name: 'Bench', triangles: boxTriangles([1, 0, 1], [2.8, 0.45, 1.5]) },
    { name: 'Stool', triangles: boxTriangles([4, 0, 1], [4.4, 0.45, 1.4]) },
  ]);
  const after = await read([
    { name: 'Wall', triangles: wall(4.8) },
    { name: 'Seat 01', triangles: boxTriangles([2, 0, 2], [3.8, 0.45, 2.5]) },
    { name: 'Rug', triangles: boxTriangles([0, 0, 3], [2, 0.01, 5]) },
  ]);
  const start = projectOf(before);
  const proposal = proposeParts(Object.values(start.parts), after.parts);
  expect(proposal.parts.map((p) => [p.name, p.old, p.how])).toEqual([
    ['Wall', 'part-Wall', 'name'],
    ['Seat 01', 'part-Bench', 'shape'],
    ['Rug', null, 'new'],
  ]);
  expect(proposal.parts[1].changed).toEqual(['was “Bench”', 'moved by 1414 mm']);
  expect(proposal.gone).toEqual(['part-Stool']);
  // what was laid on the bench is on the seat, side by side
  const top = Object.values(start.surfaces).find((s) => s.part === 'part-Bench' && s.normal[1] > 0.9)!;
  const laid = applyCommand(start, { kind: 'setSpecs', specs: { [top.id]: bricks() } }).project;
  const { project } = revise(laid, before, after);
  expect(project.surfaces[top.id]).toMatchObject({ part: 'part-Bench', normal: [0, 1, 0] });
  expect(project.parts['part-Bench'].name).toBe('Seat 01');
  expect(project.parts['part-Stool']).toBeUndefined();
  expect(Object.values(project.surfaces).every((s) => project.parts[s.part])).toBe(true);
});

test('of several parts of one name each takes the nearest; decisions come first', async () => {
  const lamps = (xs: number[]) =>
    xs.map((x) => ({ name: 'Lamp', triangles: boxTriangles([x, 2, 0], [x + 0.2, 2.2, 0.2]) }));
  const before = await read(lamps([1, 3, 5]));
  const parts = before.parts.map(({ surfaces: _s, ...p }, i): Part => ({
    id: `lamp-${i}`,
    model: 'm',
    mesh: i,
    locked: false,
    ...p,
  }));
  const after = await read(lamps([5.1, 1.1, 3.1]));
  expect(proposeParts(parts, after.parts).parts.map((p) => p.old)).toEqual(['lamp-2', 'lamp-0', 'lamp-1']);
  expect(proposeParts(parts, after.parts, { 0: null }).parts.map((p) => p.old)).toEqual([null, 'lamp-0', 'lamp-1']);
  expect(proposeParts(parts, after.parts, { 0: 'lamp-0' }).parts[0].old).toBe('lamp-0');
});

test('surfaces made by hand stay made by hand', async () => {
  const before = await read([{ name: 'Wall', triangles: wall(4.8) }]);
  const after = await read([{ name: 'Wall', triangles: wall(5.9) }]);
  const start = projectOf(before);
  const of = (n: (s: Surface) => boolean) => Object.values(start.surfaces).find(n)!;
  const [front, east] = [of((s) => s.normal[2] > 0.9), of((s) => s.normal[0] > 0.9)];
  const faces = packFaces([...listFaces(front.faces), ...listFaces(east.faces)]);
  const merged = applyCommand(start, {
    kind: 'mergeSurfaces',
    ids: [front.id, east.id],
    into: { ...front, id: 'corner', faces },
  }).project;
  const { project } = revise(merged, before, after);
  expect(faceCount(project.surfaces.corner.faces)).toBe(4);
  expect(project.surfaces.corner.areaMm2).toBeCloseTo((5900 + 300) * 2600, -2);
  // every face of the newer mesh belongs to one surface
  const all = Object.values(project.surfaces).flatMap((s) => [...listFaces(s.faces)]);
  expect(all.sort((a, b) => a - b)).toEqual(Array.from({ length: 12 }, (_, i) => i));
});

test('a changed model keeps every field of what is laid: corrections and “in one piece” among them', async () => {
  const before = await read([{ name: 'Wall', triangles: wall(4.8) }]);
  const after = await read([{ name: 'Wall', triangles: wall(5.9) }]);
  const start = projectOf(before);
  const front = Object.values(start.surfaces).find((s) => s.normal[2] > 0.9)!;
  const [face] = listFaces(front.faces);
  const correction = { shearDeg: 3, taperPercent: 0, alignMm: 2, pulls: [] };
  const mapping = { kind: 'unroll' as const, from: face, inOnePiece: true, correction };
  const spec: Spec = {
    ...bricks(),
    mapping,
    repeat: { own: { widthMm: 900, heightMm: 450 }, locked: false },
    direction: { turnDeg: 12, mirrorX: true, mirrorY: false },
    finish: { kind: 'gloss', reliefMm: 2 },
  };
  const laid = applyCommand(start, { kind: 'setSpecs', specs: { [front.id]: spec } }).project;
  const { project, lost } = revise(laid, before, after);
  const kept = project.surfaces[front.id].spec!;
  expect(lost).toEqual([]);
  expect({ ...kept, mapping: null }).toEqual({ ...spec, mapping: null });
  // the face is another number; where it lies it is the same one
  expect(kept.mapping).toMatchObject({ kind: 'unroll', inOnePiece: true, correction });
  expect(typeof (kept.mapping as typeof mapping).from).toBe('number');
  // cuts cannot be found again: that is said, and everything else stays
  const cut: Spec = { ...spec, mapping: { ...mapping, cuts: [0, 4] } };
  const again = revise(applyCommand(start, { kind: 'setSpecs', specs: { [front.id]: cut } }).project, before, after);
  expect(again.lost.join()).toMatch(/cuts chosen for unrolling/);
  expect(again.project.surfaces[front.id].spec!.mapping).toMatchObject({ inOnePiece: true, correction });
  expect(again.project.surfaces[front.id].spec!.mapping).not.toHaveProperty('cuts');
});
