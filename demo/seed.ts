import { mkdir, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import Piscina from 'piscina';
import type { Command } from '@/core/project/commands';
import { type Material, defaultFinish } from '@/core/material/schema';
import { closeDatabase, database } from '@/server/store/database';
import { dataFolder, folder, newId } from '@/server/store/data';
import { OwnedError, ownFolder } from '@/server/store/owner';
import { importModel } from '@/server/importing/importModel';
import { storeImage } from '@/server/store/images';
import { createMaterial } from '@/server/library/materials';
import { changeProject, createProject } from '@/server/store/projects';
import { readDrawing } from '@/core/drawing/readDrawing';
import { createModule } from '@/server/library/modules';
import { dressDemo } from './dress';
import { RECIPES } from './materials/index';
import { DEMO_DRAWINGS } from './modules';
import { writePellowLanding } from './model/glb';
import type { PaintedFiles } from './paintTask';

/** Fills an empty data folder: the library, then the demo project through the same import as any user's file. */
async function seed(): Promise<void> {
  const have = await database().selectFrom('materials').select('id').limit(1).executeTakeFirst();
  if (have) return;
  console.log(`Making ${RECIPES.length} materials …`);
  const pool = new Piscina({ filename: path.resolve('dist', 'paint.mjs'), maxThreads: 2 });
  const materials = await Promise.all(
    RECIPES.map(async (recipe) => {
      const painted = (await pool.run(recipe.id)) as PaintedFiles;
      const maps: Material['maps'] = {};
      for (const [role, bytes] of Object.entries(painted.files)) {
        const file = `${recipe.id}_${role.toLowerCase()}.png`;
        const image = await storeImage(bytes, file);
        maps[role as keyof Material['maps']] = {
          image: image.hash,
          widthPx: image.width,
          heightPx: image.height,
          file,
        };
      }
      return createMaterial({
        id: recipe.id,
        name: recipe.name,
        kind: recipe.kind,
        tags: recipe.tags,
        widthMm: recipe.widthMm,
        heightMm: recipe.heightMm,
        maps,
        colour: painted.colour,
        grain: recipe.grain,
        seamless: true,
        twoSided: recipe.twoSided ?? false,
        sampling: recipe.sampling ?? 'soft',
        finish: {
          ...defaultFinish(recipe.finish?.kind),
          roughnessShift: 0,
          reliefMm: painted.reliefMm,
          ...recipe.finish,
        },
        ...(recipe.leaves ? { leaves: recipe.leaves } : {}),
        source: 'Made by code with Jute Grid',
        licence: 'MIT',
        credit: 'The Jute Grid founders',
        repetition: painted.repetition,
        builtIn: true,
      });
    }),
  );
  await pool.destroy();

  for (const { id, name, ...drawing } of DEMO_DRAWINGS) {
    const { module, fault } = readDrawing(drawing);
    if (!module) throw new Error(`${name}: ${fault}`);
    await createModule({ ...module, name }, id);
  }

  console.log('Building Pellow Landing …');
  const id = newId('upload');
  const at = path.join(folder('uploads'), id);
  await mkdir(at, { recursive: true });
  const glb = await writePellowLanding();
  await writeFile(path.join(at, 'pellow-landing.glb'), glb);
  const { project } = await createProject('Pellow Landing', 'pellow-landing');
  try {
    const upload = { id, folder: at, fields: {}, files: ['pellow-landing.glb'], bytes: glb.length };
    const imported = await importModel(project.id, upload, {});
    let revision = imported.revision;
    const steps: Command[] = dressDemo(imported.project, materials);
    for (const step of steps) revision = (await changeProject(project.id, revision, [step])).revision;
  } finally {
    await rm(at, { recursive: true, force: true });
  }
}

try {
  ownFolder(dataFolder(), 'Seeding the demo');
  await seed();
} catch (error) {
  console.error(error instanceof OwnedError ? error.message : error);
  process.exit(1);
}
await closeDatabase();
// worker pools keep a process alive for a while; the work is done
process.exit(0);
