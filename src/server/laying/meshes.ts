import { LRUCache } from 'lru-cache';
import { type MeshFile, openMeshFile } from '@/core/formats/meshFile';
import { bytesOfMesh, type PartMesh } from '@/core/mesh/types';
import { readBlobPart } from '../store/data';

/** Bytes of meshes that are kept for the next task on the same thread. */
const MOST_BYTES = 96e6;
const parts = new LRUCache<string, PartMesh>({
  maxSize: MOST_BYTES,
  sizeCalculation: (mesh) => bytesOfMesh(mesh) + 1,
});
/** What the files hold; no mesh is in it. */
const files = new LRUCache<string, Promise<MeshFile>>({ max: 4 });

/** One mesh of a model that is stored under a hash; of the others nothing is read. */
export async function readMesh(hash: string, index: number): Promise<PartMesh> {
  const key = `${hash} ${index}`;
  const known = parts.get(key);
  if (known) return known;
  let file = files.get(hash);
  if (!file) {
    file = openMeshFile((offset, length) => readBlobPart(hash, offset, length));
    files.set(hash, file);
    file.catch(() => files.delete(hash));
  }
  const mesh = await (await file).read(index);
  parts.set(key, mesh);
  return mesh;
}
