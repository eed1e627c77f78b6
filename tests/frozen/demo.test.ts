import path from 'node:path';
import { fileSetOf } from '@/core/formats/fileSet';
import { readModel } from '@/core/formats/readModel';
import { defaultFinish, type Material } from '@/core/material/schema';
import { nameSurfaces } from '@/core/mesh/naming';
import { prepareModel } from '@/core/mesh/prepare';
import { applyCommands } from '@/core/project/commands';
import { emptyProject, type Project } from '@/core/project/schema';
import { freezeSurface } from './freeze';
import { findChanged, type Lists, readFrozen, refreezing, writeFrozen } from './store';
import { dressDemo } from '@demo/dress';
import { RECIPES } from '@demo/materials/index';
import { writePellowLanding } from '@demo/model/glb';

const materials = RECIPES.map((r): Material => ({
  id: r.id,
  version: 1,
  name: r.name,
  kind: r.kind,
  tags: r.tags,
  widthMm: r.widthMm,
  heightMm: r.heightMm,
  maps: {},
  colour: '#8a7a66',
  grain: r.grain,
  seamless: true,
  twoSided: r.twoSided ?? false,
  sampling: 'soft',
  finish: defaultFinish(),
  ...(r.leaves ? { leaves: r.leaves } : {}),
  source: '',
  licence: '',
  credit: '',
  repetition: null,
  builtIn: true,
}));

/** The demo as an import would store it, with ids that stay the same. */
async function demoProject() {
  const glb = await writePellowLanding();
  const raw = await readModel(fileSetOf({ 'pellow-landing.glb': glb }));
  const prepared = prepareModel(raw, { unitMm: 1000, upAxis: 'y' });
  const project: Project = emptyProject('pellow-landing', 'Pellow Landing');
  project.models.m = {
    id: 'm',
    name: 'Pellow Landing',
    file: 'pellow-landing.glb',
    mesh: '0'.repeat(64),
    unitMm: 1000,
    upAxis: 'y',
    triangles: prepared.triangles,
    slots: raw.slots.map((s) => ({ name: s.name, colour: '#cccccc' })),
    remarks: [],
    missingPictures: [],
    missingBySlot: [],
  };
  prepared.parts.forEach((p, mesh) => {
    const id = `part-${mesh}`;
    const { name, path: at, pivot: origin } = p;
    project.parts[id] = { id, model: 'm', mesh, name, path: at, origin, ...p.bounds, locked: false };
    const names = nameSurfaces(p.surfaces, 0);
    p.surfaces.forEach((s, i) => {
      project.surfaces[`${id}-${i}`] = {
        id: `${id}-${i}`,
        part: id,
        name: names[i],
        faces: s.faces,
        slot: s.slot,
        areaMm2: s.area,
        normal: s.normal,
        hidden: false,
        leftBare: false,
        spec: null,
      };
    });
  });
  const dressed = applyCommands(project, dressDemo(project, materials)).project;
  return { project: dressed, meshes: prepared.parts.map((p) => p.mesh) };
}

/** Of long lists one number in so many is frozen, a prime, so that all kinds of numbers are among them. */
const thinned = (list: number[]) =>
  list.length < 20_000 ? list : [list.length, ...list.filter((_, i) => i % 37 === 0)];

test('what is laid in the demo is what was frozen', async () => {
  const { project, meshes } = await demoProject();
  const lists: Lists = new Map();
  for (const surface of Object.values(project.surfaces)) {
    const part = project.parts[surface.part];
    const { pieces, exported } = freezeSurface(project, surface, meshes[part.mesh], true);
    lists.set(`${part.name}, ${surface.name} (${surface.id}): pieces`, thinned(pieces));
    lists.set(`${part.name}, ${surface.name} (${surface.id}): geometry`, thinned(exported));
  }
  const file = path.join(__dirname, 'demo.br');
  if (refreezing) writeFrozen(file, lists);
  expect(findChanged(readFrozen(file), lists)).toEqual([]);
}, 120_000);
