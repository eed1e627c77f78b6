import { writeMeshes } from '@/core/formats/meshFile';
import type { Model } from '@/core/project/schema';
import { model } from '@/core/testing/project';
import { rectangle, wallMesh } from '@/core/testing/surfaces';
import { putBlob } from './data';

/** A model of one wall of two faces, whose mesh is stored in the data folder; for tests. */
export const storedModel = async (rest: Partial<Model> = {}): Promise<Model> =>
  model({ mesh: await putBlob(writeMeshes([wallMesh([rectangle(1000, 1000)])])), ...rest });
