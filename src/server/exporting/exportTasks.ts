import { exportLaid } from '@/core/dress/exportLaid';
import { dressWear } from '@/core/dress/dressWear';
import { lay } from '@/core/lay/lay';
import type { LaidMaterial } from '@/core/lay/materials';
import { type ExportMaterial, type ExportSurface, type SceneOut, TooLargeError } from '@/core/formats/exportScene';
import { type ExportFormat, exportFormatOf, type ExportKind } from '@/core/formats/exportFormats';
import { regionsOf } from '@/core/project/regions';
import type { Project, Surface } from '@/core/project/schema';
import { Problem } from '../http/problem';
import { readMesh } from '../laying/meshes';
import { checkArea, checkByStandard } from './checks';
import type { ExportFolder } from './exportFolder';
import { WearMaker, wearMaterial } from './exportWear';
import { PictureMaker } from './PictureMaker';

export interface ExportOptions {
  format: ExportKind;
  /** Longest side of pictures in the file, px; null keeps their own size. */
  pictureSize: number | null;
  /** Equal whole pieces share geometry, in a format that can. */
  share: boolean;
}

export type Progress = (share: number, message: string) => void;

/** The share of the way at which all parts are dressed and written, and at which the file is checked. */
const [DRESSED, CHECKED] = [0.85, 0.97];

/**
 * Writes the dressed scene of a project part by part: memory follows the largest part.
 * @param target where the one file is put when it is found to be sound
 */
export async function exportProject(
  project: Project,
  options: ExportOptions,
  files: ExportFolder,
  target: string,
  progress: Progress,
): Promise<{ bytes: number; file: string; mime: string }> {
  if (!Object.keys(project.parts).length) {
    throw new Problem(422, 'Nothing to hand over', 'The project has no model yet; bring one in first.');
  }
  const stem =
    project.name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'scene';
  const format = exportFormatOf(options.format);
  const materials: ExportMaterial[] = [];
  const out = await format.open({ name: project.name, materials }, stem, files);
  await dressParts(project, options, materials, out, progress);
  progress(DRESSED, 'Finishing the file');
  await finished(out);
  const checking = 'Checking it by the standard';
  progress(DRESSED, checking);
  await checkByStandard(format, files, (share) => progress(DRESSED + share * (CHECKED - DRESSED), checking));
  progress(CHECKED, 'Packing');
  const bytes = await files.pack(target);
  return { bytes, file: `${stem}${format.ending}`, mime: format.mime };
}

/** What a format cannot hold is said as a problem of what was asked, not of the server. */
async function finished(out: SceneOut): Promise<void> {
  try {
    await out.finish();
  } catch (error) {
    if (error instanceof TooLargeError)
      throw new Problem(422, 'Too large for one file', `${error.message}. Nothing was kept.`, { field: 'format' });
    throw error;
  }
}

/** Every part of a project as it goes out, one after the other. */
export async function dressParts(
  project: Project,
  options: ExportOptions,
  materials: ExportMaterial[],
  out: SceneOut,
  progress: Progress,
): Promise<void> {
  const materialIndex = new Map<string, number>();
  const { plainMaps = false } = exportFormatOf(options.format) as ExportFormat;
  const pictures = new PictureMaker(options.pictureSize, plainMaps);
  const worn = new WearMaker(project);
  const byPart = new Map<string, Surface[]>();
  for (const s of Object.values(project.surfaces)) {
    const own = byPart.get(s.part);
    if (own) own.push(s);
    else byPart.set(s.part, [s]);
  }

  const put = async ({
    material,
    finish: look,
    widthMm,
    heightMm,
    brightened,
    still,
  }: LaidMaterial): Promise<number> => {
    const key = JSON.stringify([
      material.id,
      material.version,
      material.maps,
      widthMm,
      heightMm,
      look,
      brightened,
      still,
    ]);
    let index = materialIndex.get(key);
    if (index === undefined) {
      index = materials.length;
      materialIndex.set(key, index);
      const made = await pictures.make(material, look, brightened);
      materials.push({ material, look, widthMm, heightMm, brightened, still, pictures: made });
    }
    return index;
  };
  const parts = Object.values(project.parts);
  for (const [n, part] of parts.entries()) {
    progress((n / parts.length) * DRESSED, `${part.name}, part ${n + 1} of ${parts.length}`);
    const model = project.models[part.model];
    const { origin } = await readMesh(model.mesh, part.mesh);
    const surfaces: ExportSurface[] = [];
    // beside their part, which stays as large as it is
    const skins: ExportSurface[] = [];
    for (const region of (byPart.get(part.id) ?? []).flatMap((s) => regionsOf(project, s))) {
      const { surface } = region;
      const slot = model.slots[surface.slot]?.colour ?? '#cccccc';
      const meshes = await Promise.all(region.parts.map((p) => readMesh(project.models[p.model].mesh, p.mesh)));
      const laid = lay(region, meshes, project.materials);
      const made = exportLaid(laid, { share: options.share && exportFormatOf(options.format).shares });
      checkArea(`${part.name}, ${surface.name}`, laid, made);
      for (const { what, dressed, stands, material, colour } of made) {
        const name = what === 'surface' || what === 'pieces' ? surface.name : `${surface.name}, ${what}`;
        surfaces.push({ name, dressed, stands, material: material ? await put(material) : (colour ?? slot) });
      }
      const baked = await worn.over(region, laid.sheet);
      if (baked) {
        const name = `${surface.name}, wear`;
        materials.push(await wearMaterial(baked, `${part.name}, ${name}`, plainMaps));
        skins.push({ name, dressed: dressWear(laid, baked), material: materials.length - 1 });
      }
    }
    const where = { path: part.path, origin, pivot: part.origin };
    if (surfaces.length) await out.put({ ...where, name: part.name, surfaces });
    if (skins.length) await out.put({ ...where, name: `${part.name}, wear`, surfaces: skins });
  }
}
