import { BufferAttribute, BufferGeometry, Group, type Material as ThreeMaterial, Mesh, Sphere } from 'three';
import { acceleratedRaycast, MeshBVH } from 'three-mesh-bvh';
import { allRegions, type Region, type SpecOf } from '@/core/project/regions';
import type { Project } from '@/core/project/schema';
import { type Placement, placeSpec } from '@/core/setout/placement';
import { liesInPieces } from '@/core/specification/schema';
import type { WearRequest } from '@/workers/held';
import type { DressedPieces, Shape } from '@/workers/sheet.worker';
import { laidRequest, sheetRequest, sheetService, wearRequest, wearService } from '../../project/sheetService';
import type { Entry, PiecesEntry } from './entry';
import { farthestFirst, nearest, Sight } from './nearness';
import { geometryOfPieces } from './pieceGeometry';
import { SMALL } from './Picker';
import type { RoomCamera } from './RoomCamera';
import { dropWorn, makeWorn, type Worn } from './worn';

const METRES = 0.001;
/** Surfaces asked for at a time, so that the first are seen soon and no answer takes long to be put in place. */
const BATCH = 48;
/** Pieces asked for at a time: while one answer is put in place the worker lays the next. */
const LAID_AT_A_TIME = 3;
const WORN_AT_A_TIME = 24;
/** Bytes of pieces that are kept, on the graphics card and beside it. */
const MOST_BYTES = 640e6;

const COORDINATES_FOR_BARE: Placement = {
  widthMm: 1000,
  heightMm: 1000,
  at: [0, 0],
  turnDeg: 0,
  mirrorX: false,
  mirrorY: false,
};

/** Waits for all of them, whatever becomes of any; then throws what went wrong first. */
async function settledAll(all: Promise<void>[]): Promise<void> {
  for (const { status, ...rest } of await Promise.allSettled(all))
    if (status === 'rejected') throw (rest as PromiseRejectedResult).reason;
}

/** What is supplied: a project as it is shown. */
export interface Wanted {
  project: Project;
  /** As shown, which may be a preview; absent where all is as it is stored. */
  specOf?: SpecOf;
}

/** Whom the supply tells. */
export interface Told {
  /** An entry came, or has other pieces or another spec: it is to be dressed anew. */
  changed(entry: Entry): void;
  gone(entry: Entry): void;
  /** Some of what was asked for is there: worth a picture. */
  step(): void;
  busy(busy: boolean): void;
  problem(error: unknown): void;
  canvasHeight(): number;
}

/**
 * Brings what the room draws from the worker, the most needed first: shapes of all regions in the order in which the
 * camera sees them, then pieces of those that are near enough to tell one from the next. What was laid before stays
 * until the new is there. Regions that are the same object as before cost nothing.
 */
export class Supply {
  readonly entries = new Map<string, Entry>();
  readonly pieces = new Group();
  private wanted: Wanted | null = null;
  private materials: Project['materials'] | null = null;
  /** Regions without a shape, the farthest first. */
  private shapeless: Region[] = [];
  /** Entries whose coordinates may be others. */
  private readonly misplaced = new Set<Entry>();
  private known = new Set<string>();
  private near: Entry[] | null = null;
  /** Large surfaces whose trees have not grown. */
  private readonly treeless = new Set<Entry>();
  /** Entries whose pieces are those of this region: they need not be asked about again. */
  private laid = new WeakMap<Entry, Region>();
  /** What could not be laid, by key: it is not asked for again and again. */
  private readonly failed = new Set<string>();
  /** Entries that are worn, or were. */
  private readonly wearing = new Set<Entry>();
  private pumping = false;
  private weathering = false;
  private disposed = false;

  constructor(
    private readonly view: RoomCamera,
    private readonly told: Told,
  ) {}

  update(wanted: Wanted): void {
    const { project } = (this.wanted = wanted);
    const all = allRegions(project, wanted.specOf);
    // other materials can lie on a region that is the same
    const same = this.materials === project.materials;
    if (!same) this.laid = new WeakMap();
    this.materials = project.materials;
    const missing: Region[] = [];
    for (const region of all) {
      const entry = this.entries.get(region.id);
      if (entry && entry.region === region && same) continue;
      if (!this.take(region, project)) missing.push(region);
    }
    this.known = new Set(all.map((r) => r.id));
    for (const id of [...this.entries.keys()]) if (!this.known.has(id)) this.remove(id);
    this.shapeless = farthestFirst(missing, project.parts, this.view.world(this.view.camera.position));
    this.look();
  }

  /** Where one looks from is another, or what there is to see. */
  look(): void {
    this.near = null;
    void this.pump();
  }

  /** A region whose shape is there: only what lies on it can be another. */
  private take(region: Region, project: Project): boolean {
    const entry = this.entries.get(region.id);
    if (entry?.shapeKey !== sheetRequest(project, region).key) return false;
    entry.region = region;
    if (region.wear) this.wearing.add(entry);
    this.misplaced.add(entry);
    this.told.changed(entry);
    return true;
  }

  /** Works through everything that is missing, always asking for what is needed most now. */
  private async pump(): Promise<void> {
    void this.weather();
    if (this.pumping) return;
    this.pumping = true;
    this.told.busy(true);
    while (!this.disposed && this.wanted) {
      const next = this.next(this.wanted);
      if (!next) break;
      await this.does(next);
      void this.weather();
    }
    this.pumping = false;
    this.rest();
  }

  /** Wear has a worker of its own: it is worked out while pieces are laid. */
  private async weather(): Promise<void> {
    if (this.weathering) return;
    while (!this.disposed && this.wanted && !this.shapeless.length) {
      const batch = this.unworn(this.wanted);
      if (!batch.length) break;
      this.weathering = true;
      this.told.busy(true);
      await this.does(() => settledAll(batch.map((b) => this.fetchWear(b.entry, b.request))));
    }
    if (!this.weathering) return;
    this.weathering = false;
    this.rest();
  }

  private async does(work: () => Promise<void>): Promise<void> {
    try {
      await work();
    } catch (error) {
      if (!this.disposed) this.told.problem(error);
    }
    if (!this.disposed) this.told.step();
  }

  private rest(): void {
    if (this.pumping || this.weathering || this.disposed) return;
    this.told.busy(false);
    void this.growTrees();
  }

  private next(wanted: Wanted): (() => Promise<void>) | null {
    const batch: Region[] = [];
    while (this.shapeless.length && batch.length < BATCH) {
      const region = this.shapeless.pop()!;
      // it may have come meanwhile, for an older document
      if (!this.take(region, wanted.project)) batch.push(region);
    }
    if (batch.length) return () => this.shape(wanted, batch);
    if (this.misplaced.size) {
      const moved = [...this.misplaced].slice(0, BATCH * 4);
      for (const entry of moved) this.misplaced.delete(entry);
      return () => this.place(wanted, moved);
    }
    const unlaid = this.unlaid(wanted);
    return unlaid.length ? () => this.lay(wanted, unlaid) : null;
  }

  private async shape(wanted: Wanted, batch: Region[]): Promise<void> {
    const requests = batch.map((r) => sheetRequest(wanted.project, r));
    const shapes = await sheetService().shapes(requests);
    if (this.disposed) return;
    // while they were made, some may have gone
    const made = shapes.flatMap((shape, k) =>
      this.known.has(batch[k].id) ? [this.put(batch[k], shape, requests[k].key)] : [],
    );
    await this.place(wanted, made);
    this.near = null;
  }

  private put(region: Region, shape: Shape, shapeKey: string): Entry {
    this.remove(region.id);
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(shape.positions, 3));
    geometry.setAttribute('normal', new BufferAttribute(shape.normals, 3));
    geometry.setAttribute('stretch', new BufferAttribute(shape.stretch, 1));
    geometry.setIndex(new BufferAttribute(shape.indices, 1));
    geometry.computeBoundingSphere();
    const mesh = new Mesh<BufferGeometry, ThreeMaterial>(geometry);
    mesh.raycast = acceleratedRaycast;
    mesh.scale.setScalar(METRES);
    const [x, y, z] = this.view.middle;
    mesh.position.set((shape.origin[0] - x) * METRES, (shape.origin[1] - y) * METRES, (shape.origin[2] - z) * METRES);
    mesh.updateMatrixWorld();
    mesh.matrixAutoUpdate = false;
    mesh.userData.region = region.id;
    mesh.castShadow = mesh.receiveShadow = true;
    const entry: Entry = {
      region,
      mesh,
      sphere: new Sphere().copy(geometry.boundingSphere!).applyMatrix4(mesh.matrixWorld),
      border: shape.border,
      source: shape.source,
      sheet: shape.sheet,
      shapeKey,
      placementKey: '',
      near: false,
      pieces: null,
      lamp: null,
      worn: null,
      dropped: false,
    };
    this.entries.set(region.id, entry);
    if (region.wear) this.wearing.add(entry);
    if (shape.indices.length / 3 > SMALL) this.treeless.add(entry);
    this.told.changed(entry);
    return entry;
  }

  private remove(id: string): void {
    const entry = this.entries.get(id);
    if (!entry) return;
    this.removePieces(entry);
    this.misplaced.delete(entry);
    this.treeless.delete(entry);
    this.wearing.delete(entry);
    dropWorn(entry.worn);
    this.told.gone(entry);
    entry.mesh.geometry.dispose();
    this.entries.delete(id);
    this.near = null;
  }

  /** Lays the coordinates of some entries, where they are others than before. */
  private async place({ project }: Wanted, batch: Entry[]): Promise<void> {
    const moved = batch.flatMap((entry) => {
      const { spec, part } = entry.region;
      const material = spec ? project.materials[spec.material] : null;
      const placement = spec && material ? placeSpec(spec, material, entry.sheet, part.origin) : COORDINATES_FOR_BARE;
      const key = JSON.stringify(placement);
      return key === entry.placementKey ? [] : [{ entry, placement, key }];
    });
    if (!moved.length) return;
    const laid = await sheetService().coordinates(
      moved.map(({ entry, placement }) => ({ sheet: sheetRequest(project, entry.region), placement })),
    );
    if (this.disposed) return;
    moved.forEach(({ entry, key }, k) => {
      const { geometry } = entry.mesh;
      if (laid[k].length / 2 !== geometry.getAttribute('position').count) return;
      geometry.setAttribute('uv', new BufferAttribute(laid[k], 2));
      entry.placementKey = key;
      this.told.changed(entry);
    });
  }

  /** The entries that are near and lack their pieces, the most needed first. */
  private unlaid({ project }: Wanted): Entry[] {
    if (!this.near) {
      this.near = nearest(this.entries.values(), new Sight(this.view.camera, this.told.canvasHeight()), MOST_BYTES);
      this.tellNear(new Set(this.near));
    }
    const out: Entry[] = [];
    for (const entry of this.near) {
      const { region } = entry;
      if (this.laid.get(entry) === region) continue;
      const { spec } = region;
      if (spec && liesInPieces(spec)) {
        const { key } = laidRequest(project, region, spec);
        if (entry.pieces?.key !== key && !this.failed.has(key)) out.push(entry);
      }
      if (out.at(-1) !== entry) this.laid.set(entry, region);
      if (out.length === LAID_AT_A_TIME) break;
    }
    return out;
  }

  /** Those that have come near or gone far are drawn the other way; of what is kept for later, too much is let go. */
  private tellNear(near: Set<Entry>): void {
    let bytes = 0;
    const spare: Entry[] = [];
    for (const entry of this.entries.values()) {
      const { spec } = entry.region;
      if (entry.pieces && (!spec || !liesInPieces(spec))) {
        this.removePieces(entry);
        this.told.changed(entry);
      }
      if (entry.near !== near.has(entry)) {
        entry.near = !entry.near;
        this.told.changed(entry);
      }
      bytes += entry.pieces?.bytes ?? 0;
      if (entry.pieces && !entry.near) spare.push(entry);
    }
    for (const entry of spare) {
      if (bytes <= MOST_BYTES) break;
      bytes -= entry.pieces!.bytes;
      this.removePieces(entry);
      this.told.changed(entry);
    }
  }

  /** Entries whose wear is another than what is shown of it; all come in one go, so that one picture shows them. */
  private unworn({ project }: Wanted): { entry: Entry; request: WearRequest }[] {
    const batch: { entry: Entry; request: WearRequest }[] = [];
    for (const entry of this.wearing) {
      const request = wearRequest(project, entry.region);
      if (!request) {
        this.wearing.delete(entry);
        if (entry.worn) this.putWear(entry, null);
      } else if (entry.worn?.key !== request.key && !this.failed.has(request.key)) batch.push({ entry, request });
      if (batch.length === WORN_AT_A_TIME) break;
    }
    return batch;
  }

  private async fetchWear(entry: Entry, request: WearRequest): Promise<void> {
    // whatever comes of it, it is not asked for again and again
    this.failed.add(request.key);
    const shown = await wearService().wear(request);
    // one that took its place meanwhile may ask the same
    if (this.disposed || this.entries.get(entry.region.id) !== entry) return void this.failed.delete(request.key);
    this.putWear(entry, makeWorn(entry.mesh.geometry, request.key, shown));
    if (entry.worn) this.failed.delete(request.key);
  }

  private putWear(entry: Entry, worn: Worn | null): void {
    dropWorn(entry.worn);
    entry.worn = worn;
    this.told.changed(entry);
  }

  private async lay({ project }: Wanted, batch: Entry[]): Promise<void> {
    const laid = batch.map(async (entry) => {
      const request = laidRequest(project, entry.region, entry.region.spec!);
      try {
        const dressed = await sheetService().pieces(request);
        if (this.disposed || this.entries.get(entry.region.id) !== entry) return;
        if (dressed) this.putPieces(entry, request.key, dressed);
        else this.failed.add(request.key);
      } catch (error) {
        this.failed.add(request.key);
        throw error;
      }
    });
    await settledAll(laid);
  }

  private putPieces(entry: Entry, key: string, { buffers, ...rest }: DressedPieces): void {
    this.removePieces(entry);
    let bytes = 0;
    const meshes: PiecesEntry['meshes'] = buffers.map((b) => {
      const geometry = geometryOfPieces(b);
      for (const array of [b.positions, b.normals, b.uvs, b.local, b.half, b.sides, b.tones, b.places, b.indices])
        bytes += array.byteLength * 2;
      const mesh = new Mesh<BufferGeometry, ThreeMaterial>(geometry);
      mesh.matrix.copy(entry.mesh.matrix);
      mesh.matrixAutoUpdate = false;
      mesh.matrixWorldNeedsUpdate = true;
      mesh.castShadow = mesh.receiveShadow = true;
      this.pieces.add(mesh);
      return { mesh, material: b.material, module: b.module, share: b.share, cellArea: b.cellArea };
    });
    entry.pieces = { key, meshes, bytes, ...rest };
    this.told.changed(entry);
  }

  private removePieces(entry: Entry): void {
    this.laid.delete(entry);
    for (const { mesh } of entry.pieces?.meshes ?? []) {
      this.pieces.remove(mesh);
      mesh.geometry.dispose();
    }
    entry.pieces = null;
  }

  /** Has the trees of large surfaces made, one after the other, while nobody waits. */
  private async growTrees(): Promise<void> {
    for (const entry of this.treeless) {
      this.treeless.delete(entry);
      const { geometry } = entry.mesh;
      const index = geometry.getIndex()!;
      const tree = await sheetService().tree(
        geometry.getAttribute('position').array as Float32Array,
        index.array as Uint32Array,
      );
      if (this.disposed || this.entries.get(entry.region.id) !== entry) continue;
      geometry.boundsTree = MeshBVH.deserialize(tree, geometry, { setIndex: false });
    }
  }

  /** Every material something is drawn with. */
  drawnWith(): Set<ThreeMaterial> {
    const used = new Set<ThreeMaterial>();
    for (const { mesh, pieces } of this.entries.values()) {
      used.add(mesh.material);
      for (const p of pieces?.meshes ?? []) used.add(p.mesh.material);
    }
    return used;
  }

  dispose(): void {
    this.disposed = true;
    for (const id of [...this.entries.keys()]) this.remove(id);
  }
}
