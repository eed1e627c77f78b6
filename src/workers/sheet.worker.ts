import { expose, transfer } from 'comlink';
import { LRUCache } from 'lru-cache';
import { BufferAttribute, BufferGeometry } from 'three';
import { MeshBVH, type SerializedBVH } from 'three-mesh-bvh';
import { fingerprint } from '../core/count/fingerprint';
import { listMaterials, type MaterialLaid } from '../core/count/materials';
import { type PiecesSummary, summarise } from '../core/count/summary';
import { drawPieces, drawSamples, type SampleSize, type SheetWindow, type Tint } from '../core/draw/pieces';
import { drawStart } from '../core/draw/start';
import { dressPieces } from '../core/dress/dressPieces';
import { layCoordinates, shapeSurface } from '../core/dress/dressSurface';
import type { PieceBuffers } from '../core/dress/pieceStore';
import { readMeshes } from '../core/formats/meshFile';
import type { Finding } from '../core/finding/finding';
import type { MaterialsById } from '../core/lay/arrange';
import { type FoundPiece, pieceAt } from '../core/lay/evaluate';
import { type Laid, lay } from '../core/lay/lay';
import {
  figuresOf,
  laidCost,
  proposeStarts,
  startNow,
  type StartOptions,
  type StartProposal,
} from '../core/lay/proposeStarts';
import { openSheet, type Region, type SheetSource } from '../core/lay/region';
import { type DrawnModule, drawnModule } from '../core/layout/modules';
import { judgeCoordinates, type OwnVerdict } from '../core/mapping/own';
import { cornerStretch, pointOnSheet, type Sheet, type SheetSummary } from '../core/mapping/sheet';
import { type Suggestion, suggestMapping } from '../core/mapping/suggest';
import { borderEdges } from '../core/mesh/borderEdges';
import { flipFaces } from '../core/mesh/flip';
import { followEdge } from '../core/mesh/followEdge';
import { type Grow, growFaces } from '../core/mesh/growFaces';
import { type FoundSurface, measureSurface } from '../core/mesh/measureSurface';
import { splitByCrease } from '../core/mesh/split';
import { bytesOfMesh, type FaceRuns, faceCount, listFaces, type PartMesh } from '../core/mesh/types';
import type { Placement } from '../core/setout/placement';
import type { StartFigures } from '../core/setout/startCost';
import type { Spec } from '../core/specification/schema';
import { paint, paintSamples, paintStart } from './paint';

/** One mesh of a model's file. */
export interface MeshAt {
  /** Where the model's meshes are fetched. */
  url: string;
  /** Which of them. */
  mesh: number;
}

/** What is laid flat, and how; the same key is the same sheet. */
export interface SheetRequest {
  key: string;
  /** One for each patch. */
  meshes: MeshAt[];
  source: SheetSource;
}

/** Some faces of a part. */
export interface FacesRequest extends MeshAt {
  faces: FaceRuns;
  flipped?: FaceRuns;
}

/** A region with everything its pieces depend on; the same key is the same pieces. */
export interface LaidRequest {
  key: string;
  sheet: SheetRequest;
  region: Region & { spec: Spec };
  materials: MaterialsById;
}

/** What the room needs to draw the pieces of a surface. */
export interface DressedPieces {
  buffers: PieceBuffers[];
  modules: readonly DrawnModule[];
  /** Half a joint along and across the pieces, mm. */
  inset: [number, number];
  /** Whether joints at ends and along pieces run straight on. */
  runOn: readonly [boolean, boolean];
  /** By how much the pictures of each material are brightened before tones darken them. */
  brightened: number[];
}

/** Starts that were found, and the figures as it starts now. */
export interface ProposedStarts {
  before: ReturnType<typeof figuresOf> & Partial<StartFigures> & Pick<StartProposal, 'laidCost'>;
  found: (Omit<StartProposal, 'laid'> & { picture: ImageBitmap })[];
}

export interface Shape {
  origin: [number, number, number];
  positions: Float32Array;
  normals: Float32Array;
  indices: Uint32Array;
  /** For each triangle the part's face it is, or is cut from. */
  source: Uint32Array;
  /** Sheet length per true length at each vertex. */
  stretch: Float32Array;
  /** Lines round the surface, six numbers each. */
  border: Float32Array;
  sheet: SheetSummary;
}

interface Held {
  sheet: Sheet;
  corner: Uint32Array;
}

/** Bytes that are kept for the next change: meshes of models, sheets, what was laid, pictures. */
const MOST_BYTES = { meshes: 512e6, sheets: 384e6, laid: 256e6, pictures: 192e6 };
/** What is larger than a cache is kept all the same, alone: it would be made again at every move. */
const atMost = (bytes: number, most: number) => Math.min(Math.ceil(bytes), most);
const models = new LRUCache<string, PartMesh[]>({
  maxSize: MOST_BYTES.meshes,
  sizeCalculation: (meshes) =>
    atMost(
      meshes.reduce((sum, mesh) => sum + bytesOfMesh(mesh), 1),
      MOST_BYTES.meshes,
    ),
});
const loadingModels = new Map<string, Promise<PartMesh[]>>();

const held = new LRUCache<string, Held>({
  maxSize: MOST_BYTES.sheets,
  sizeCalculation: ({ sheet, corner }) =>
    atMost(
      1000 + corner.byteLength + sheet.corners.byteLength + sheet.faces.byteLength * 3 + sheet.faceStretch.byteLength,
      MOST_BYTES.sheets,
    ),
});
/** Regions laid last: panning must not cut their outlines again. */
const regions = new LRUCache<string, Laid>({
  maxSize: MOST_BYTES.laid,
  // an outline, its numbers and its looks for each piece
  sizeCalculation: ({ sheet, arrangement }) =>
    atMost(1000 + (arrangement ? (sheet.area / arrangement.layout.cellArea) * 1200 : 0), MOST_BYTES.laid),
});

function meshes(url: string): Promise<PartMesh[]> {
  const known = models.get(url);
  if (known) return Promise.resolve(known);
  let loading = loadingModels.get(url);
  if (!loading) {
    loading = fetch(url).then(async (response) => {
      if (!response.ok) throw new Error(`the model’s meshes could not be fetched (${response.status})`);
      const read = readMeshes(new Uint8Array(await response.arrayBuffer()));
      models.set(url, read);
      return read;
    });
    loadingModels.set(url, loading);
    void loading.catch(() => undefined).finally(() => loadingModels.delete(url));
  }
  return loading;
}

const withFlips = (mesh: PartMesh, flipped: FaceRuns | undefined) =>
  flipped?.length ? flipFaces(mesh, flipped) : mesh;

async function open({ key, meshes: at, source }: SheetRequest): Promise<Held> {
  const known = held.get(key);
  if (known) return known;
  const own = await Promise.all(at.map(async ({ url, mesh }) => (await meshes(url))[mesh]));
  const sheet = openSheet(own, source);
  const made = { sheet, corner: shapeSurface(sheet).corner };
  held.set(key, made);
  return made;
}

async function layRegion({ key, sheet: request, region, materials }: LaidRequest): Promise<Laid> {
  const known = regions.get(key);
  if (known) return known;
  const { sheet } = await open(request);
  const made = lay(region, [], materials, { sheet });
  regions.set(key, made);
  return made;
}

const summary = ({
  mesh: _m,
  source: _s,
  faces: _f,
  corners: _c,
  chartOf: _o,
  faceStretch: _t,
  ...rest
}: Sheet): SheetSummary => rest;

const bitmaps = new LRUCache<string, ImageBitmap>({
  maxSize: MOST_BYTES.pictures,
  sizeCalculation: ({ width, height }) => width * height * 4 + 1,
});

/** Pictures as bitmaps; one that cannot be had is drawn as a plain colour. */
async function bitmap(url: string | null): Promise<ImageBitmap | null> {
  if (!url) return null;
  const known = bitmaps.get(url);
  if (known) return known;
  try {
    const response = await fetch(url);
    if (!response.ok) return null;
    const made = await createImageBitmap(await response.blob());
    bitmaps.set(url, made);
    return made;
  } catch {
    return null;
  }
}

const arraysOf = (b: PieceBuffers) => [
  b.positions,
  b.normals,
  b.uvs,
  b.local,
  b.half,
  b.sides,
  b.tones,
  b.places,
  b.indices,
];

const service = {
  /** Buffers of the pieces of a region, or null when it is laid as one whole picture. */
  async pieces(request: LaidRequest): Promise<DressedPieces | null> {
    const { sheet, arrangement, materials } = await layRegion(request);
    if (!arrangement) return null;
    const places = arrangement.joint.material !== null || arrangement.variation.maps !== null;
    const buffers = dressPieces(sheet, arrangement, { places });
    const out: DressedPieces = {
      buffers,
      modules: arrangement.layout.modules.map(drawnModule),
      inset: [...arrangement.layout.inset],
      runOn: arrangement.layout.runOn ?? [false, false],
      brightened: materials.map((m) => m.brightened),
    };
    return transfer(out, [...new Set(buffers.flatMap((b) => arraysOf(b).map((a) => a.buffer as ArrayBuffer)))]);
  },

  /** Counts of the pieces of a region, and what should be known of them. */
  async countPieces(
    request: LaidRequest,
  ): Promise<(PiecesSummary & { findings: Finding[]; fingerprint: string }) | null> {
    const laid = await layRegion(request);
    const summary = summarise(laid);
    return summary && { ...summary, findings: laid.findings, fingerprint: fingerprint(laid.pieces) };
  },

  /** The best starts for a region, each with a small drawing; and what it comes to as it starts now. */
  async proposeStarts(
    request: LaidRequest,
    options: StartOptions,
    most: { width: number; height: number },
  ): Promise<ProposedStarts> {
    const laid = await layRegion(request);
    const before = {
      ...figuresOf(laid.pieces),
      ...startNow(laid, request.materials, options),
      laidCost: laidCost(laid, options.hidden),
    };
    // a long wall needs no high drawing
    const { minX, maxX, minY, maxY } = laid.sheet.bounds;
    const height = Math.ceil(Math.min(most.height, (most.width * (maxY - minY)) / Math.max(1, maxX - minX)) + 1);
    const size = { width: most.width, height };
    const found = proposeStarts(laid, request.materials, options).map(({ laid: tried, ...figures }) => ({
      ...figures,
      picture: paintStart(drawStart(tried.pieces, tried.sheet.bounds, size), size),
    }));
    return transfer(
      { before, found },
      found.map((f) => f.picture),
    );
  },

  /** What lies on a region, by material and size. */
  async listMaterials(request: LaidRequest): Promise<MaterialLaid[]> {
    return listMaterials(await layRegion(request));
  },

  /** A window of the sheet with its pieces drawn; `pictures` are addresses, one for each material of the region. */
  async drawPieces(
    request: LaidRequest,
    view: SheetWindow,
    pictures: (string | null)[],
    colours: { ink: string; thread: string },
    tints: readonly Tint[],
  ): Promise<ImageBitmap | null> {
    const [laid, ...loaded] = await Promise.all([layRegion(request), ...pictures.map(bitmap)]);
    if (!laid.arrangement) return null;
    const bitmapOf = paint(drawPieces(laid, view, loaded, tints), view, loaded, colours);
    return transfer(bitmapOf, [bitmapOf]);
  },

  /** Some pieces as they come out. */
  async samplePieces(request: LaidRequest, size: SampleSize, pictures: (string | null)[]): Promise<ImageBitmap | null> {
    const [laid, ...loaded] = await Promise.all([layRegion(request), ...pictures.map(bitmap)]);
    if (!laid.arrangement) return null;
    const drawn = paintSamples(drawSamples(laid, size, loaded), size, loaded);
    return transfer(drawn, [drawn]);
  },

  /** The piece at a point of the sheet, or of a face of the region (counted in the order of its geometry). */
  async pieceAt(
    request: LaidRequest,
    at: { sheet: [number, number] } | { face: number; world: [number, number, number] },
  ): Promise<FoundPiece | null> {
    const { arrangement, sheet } = await layRegion(request);
    if (!arrangement) return null;
    return pieceAt(arrangement, 'sheet' in at ? at.sheet : pointOnSheet(sheet, at.face, at.world));
  },

  /** Geometry and sheet of many surfaces at once. */
  async shapes(requests: SheetRequest[]): Promise<Shape[]> {
    const out: Shape[] = [];
    for (const request of requests) {
      const { sheet } = await open(request);
      const { corner: _kept, ...shape } = shapeSurface(sheet);
      const border = borderEdges(shape.positions, shape.indices);
      out.push({
        origin: sheet.mesh.origin,
        ...shape,
        border,
        source: sheet.source.slice(),
        stretch: cornerStretch(sheet, shape.indices, shape.positions.length / 3),
        sheet: summary(sheet),
      });
    }
    return transfer(
      out,
      out.flatMap(
        (s) =>
          [
            s.positions.buffer,
            s.normals.buffer,
            s.indices.buffer,
            s.border.buffer,
            s.source.buffer,
            s.stretch.buffer,
          ] as ArrayBuffer[],
      ),
    );
  },

  /** Coordinates of many surfaces, each for a placement. */
  async coordinates(asked: { sheet: SheetRequest; placement: Placement }[]): Promise<Float32Array[]> {
    const out: Float32Array[] = [];
    for (const { sheet: request, placement } of asked) {
      const { sheet, corner } = await open(request);
      out.push(layCoordinates(sheet, corner, placement));
    }
    return transfer(
      out,
      out.map((uvs) => uvs.buffer as ArrayBuffer),
    );
  },

  /** Faces of the surfaces that a split by crease angle gives, measured. */
  async split(request: FacesRequest, creaseDeg: number): Promise<FoundSurface[]> {
    const mesh = withFlips((await meshes(request.url))[request.mesh], request.flipped);
    return splitByCrease(mesh, request.faces, creaseDeg).map((faces) => measureSurface(mesh, faces));
  },

  /** Which mappings suit some faces, and what their coordinates are worth. */
  async advise(request: FacesRequest): Promise<{ suggestions: Suggestion[]; own: OwnVerdict[] }> {
    const mesh = withFlips((await meshes(request.url))[request.mesh], request.flipped);
    const faces = listFaces(request.faces);
    const sets = Math.max(1, mesh.uvs.length);
    const own = Array.from({ length: sets }, (_, set) => judgeCoordinates(mesh, faces, set));
    return { suggestions: suggestMapping(mesh, faces), own };
  },

  /** A surface laid flat, without its geometry. */
  async summary(request: SheetRequest): Promise<SheetSummary> {
    return summary((await open(request)).sheet);
  },

  async measure(request: FacesRequest): Promise<FoundSurface> {
    const mesh = withFlips((await meshes(request.url))[request.mesh], request.flipped);
    return measureSurface(mesh, request.faces);
  },

  /** Picked faces, made more. */
  async growFaces(request: FacesRequest, grow: Grow): Promise<FaceRuns> {
    const mesh = withFlips((await meshes(request.url))[request.mesh], request.flipped);
    return growFaces(mesh, request.faces, grow);
  },

  /** Lines round some faces, relative to the part's origin, six numbers each. */
  async facesBorder(request: FacesRequest): Promise<Float32Array> {
    const mesh = (await meshes(request.url))[request.mesh];
    const indices = new Uint32Array(faceCount(request.faces) * 3);
    listFaces(request.faces).forEach((f, i) => indices.set(mesh.indices.subarray(f * 3, f * 3 + 3), i * 3));
    const lines = borderEdges(mesh.positions, indices, 180);
    return transfer(lines, [lines.buffer as ArrayBuffer]);
  },

  /**
   * The edge of a face nearest to a point, and on from it where the arris runs straight or bends little: face × 3 +
   * corner.
   */
  async edgeNear(request: FacesRequest, face: number, world: [number, number, number]): Promise<number[]> {
    return followEdge((await meshes(request.url))[request.mesh], listFaces(request.faces), face, world);
  },

  /** The search tree of a surface's geometry, so that picking does not build it between two frames. */
  tree(positions: Float32Array, indices: Uint32Array): SerializedBVH {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(positions, 3));
    geometry.setIndex(new BufferAttribute(indices, 1));
    const made = MeshBVH.serialize(new MeshBVH(geometry, { indirect: true }), { cloneBuffers: false });
    const tree = { ...made, index: null } as unknown as SerializedBVH;
    const buffers = [...made.roots, ...(made.indirectBuffer ? [made.indirectBuffer] : [])].map((b) =>
      ArrayBuffer.isView(b) ? b.buffer : b,
    );
    return transfer(tree, buffers as ArrayBuffer[]);
  },
};

export type SheetService = typeof service;
expose(service);
