import { BatchedMesh, BufferAttribute, BufferGeometry, Group, type Material as ThreeMaterial } from 'three';
import type { Entry } from './entry';

/** Surfaces with more vertices than this are drawn by themselves: copying them would cost more than a call saves. */
const MOST_VERTICES = 4096;
/** Room in a batch at first; it doubles. */
const FIRST = { instances: 64, vertices: 4096, indices: 12_288 };
/** Surfaces in a batch: taking one out looks through all that are in it. */
const MOST_INSTANCES = 256;

/** Where an entry is drawn. */
interface Place {
  batch: BatchedMesh;
  geometry: number;
  instance: number;
  /** What was copied: another attribute is another picture. */
  copied: unknown[];
}

/**
 * Draws many surfaces with few calls: those of one material are one batch, from which what is out of sight is left out.
 * Their own meshes stay outside the scene, to be picked.
 */
export class Batches {
  readonly group = new Group();
  private readonly batches = new Map<ThreeMaterial, Set<BatchedMesh>>();
  private readonly places = new Map<Entry, Place>();
  private readonly alone = new Set<Entry>();

  /** Draws an entry as it is dressed now. */
  show(entry: Entry): void {
    const { mesh } = entry;
    const { geometry, material } = mesh;
    if (!mesh.visible || !material.visible) return this.remove(entry);
    const place = this.places.get(entry);
    const wanted = attributesOf(entry);
    if (place && place.batch.material === material && wanted.every((a, i) => a === place.copied[i])) return;
    this.remove(entry);
    // wear is a picture of its own, and needs places that a batch does not have
    if (entry.worn || geometry.getAttribute('position').count > MOST_VERTICES) {
      this.alone.add(entry);
      this.group.add(mesh);
    } else this.put(entry, wanted);
  }

  private put(entry: Entry, copied: unknown[]): void {
    const { material } = entry.mesh;
    const baked = bake(entry);
    const [vertices, indices] = [baked.getAttribute('position').count, baked.getIndex()!.count];
    const batch = this.batchFor(material, vertices, indices);
    if (batch.instanceCount >= batch.maxInstanceCount) batch.setInstanceCount(batch.maxInstanceCount * 2);
    if (batch.unusedVertexCount < vertices || batch.unusedIndexCount < indices) {
      // what was taken out leaves gaps
      batch.optimize();
      if (batch.unusedVertexCount < vertices || batch.unusedIndexCount < indices) {
        const { position } = batch.geometry.attributes;
        const index = batch.geometry.getIndex()!;
        batch.setGeometrySize(position.count * 2 + vertices, index.count * 2 + indices);
      }
    }
    const geometry = batch.addGeometry(baked);
    this.places.set(entry, { batch, geometry, instance: batch.addInstance(geometry), copied });
  }

  /** One of a material's batches that is not full, or a new one with room for what is to come. */
  private batchFor(material: ThreeMaterial, vertices: number, indices: number): BatchedMesh {
    let own = this.batches.get(material);
    if (!own) this.batches.set(material, (own = new Set()));
    for (const batch of own) if (batch.instanceCount < MOST_INSTANCES) return batch;
    const room = [Math.max(FIRST.vertices, vertices), Math.max(FIRST.indices, indices)];
    const batch = new BatchedMesh(FIRST.instances, room[0], room[1], material);
    batch.sortObjects = false;
    batch.castShadow = batch.receiveShadow = true;
    batch.frustumCulled = false;
    batch.matrixAutoUpdate = false;
    own.add(batch);
    this.group.add(batch);
    return batch;
  }

  remove(entry: Entry): void {
    if (this.alone.delete(entry)) this.group.remove(entry.mesh);
    const place = this.places.get(entry);
    if (!place) return;
    place.batch.deleteInstance(place.instance);
    place.batch.deleteGeometry(place.geometry);
    this.places.delete(entry);
    if (place.batch.instanceCount) return;
    const material = place.batch.material as ThreeMaterial;
    const own = this.batches.get(material)!;
    own.delete(place.batch);
    if (!own.size) this.batches.delete(material);
    this.group.remove(place.batch);
    place.batch.dispose();
  }

  dispose(): void {
    for (const own of this.batches.values()) for (const batch of own) batch.dispose();
    this.batches.clear();
    this.places.clear();
    this.group.clear();
  }
}

const COPIED = ['position', 'normal', 'uv'];
function attributesOf({ mesh: { geometry, material } }: Entry): unknown[] {
  const names = material.vertexColors ? [...COPIED, 'color'] : COPIED;
  return names.map((name) => geometry.attributes[name]);
}

/** The entry's geometry where it stands, in metres, with what its material needs. */
function bake({ mesh: { geometry, material, matrix } }: Entry): BufferGeometry {
  const out = new BufferGeometry();
  const position = geometry.getAttribute('position').clone();
  out.setAttribute('position', position.applyMatrix4(matrix));
  out.setAttribute('normal', geometry.getAttribute('normal'));
  out.setAttribute('uv', geometry.getAttribute('uv') ?? new BufferAttribute(new Float32Array(position.count * 2), 2));
  if (material.vertexColors) out.setAttribute('color', geometry.getAttribute('color'));
  out.setIndex(geometry.getIndex());
  return out;
}
