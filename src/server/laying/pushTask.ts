import { readMeshes, writeMeshes } from '@/core/formats/meshFile';
import { boxSize, emptyBox, growBox, type Vec3 } from '@/core/geometry/vec';
import { measureSurface } from '@/core/mesh/measureSurface';
import { pushFaces, PushError } from '@/core/mesh/push';
import type { FaceRuns } from '@/core/mesh/types';
import { badField } from '../http/problem';
import { putBlob, readBlob } from '../store/data';

export interface PushTask {
  /** Of the model's meshes. */
  hash: string;
  mesh: number;
  faces: FaceRuns;
  byMm: number;
  /** Faces of every surface of the part. */
  surfaces: Record<string, FaceRuns>;
}

export interface Pushed {
  mesh: string;
  min: Vec3;
  max: Vec3;
  along: Vec3;
  measured: Record<string, { areaMm2: number; normal: Vec3 }>;
}

/**
 * Pushes faces of a stored mesh.
 * @throws Problem where they lie in no one plane, or nothing of the part would be left
 */
export async function pushStored({ hash, mesh: index, faces, byMm, surfaces }: PushTask): Promise<Pushed> {
  const meshes = readMeshes(await readBlob(hash));
  let pushed: ReturnType<typeof pushFaces>;
  try {
    pushed = pushFaces(meshes[index], faces, byMm);
  } catch (error) {
    if (error instanceof PushError) throw badField('faces', `Nothing was pushed: ${error.message}.`);
    throw error;
  }
  const box = emptyBox();
  const measured: Pushed['measured'] = {};
  for (const [id, runs] of Object.entries(surfaces)) {
    const { area, normal, bounds } = measureSurface(pushed.mesh, runs);
    if (!(area > 0)) throw badField('byMm', 'Pushed so far, a surface beside it would have nothing left.');
    measured[id] = { areaMm2: area, normal };
    growBox(box, ...bounds.min);
    growBox(box, ...bounds.max);
  }
  if (boxSize(box).some((v) => !Number.isFinite(v))) throw badField('faces', 'There is nothing to push.');
  meshes[index] = pushed.mesh;
  return { mesh: await putBlob(writeMeshes(meshes)), min: box.min, max: box.max, along: pushed.along, measured };
}
