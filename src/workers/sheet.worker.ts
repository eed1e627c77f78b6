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
import type { Finding } from '../core/finding/finding';
import type { Plane } from '../core/geometry/plane';
import { largerBy, showAlike, sizeShown, touches } from '../core/lay/evenDensity';
import { type FoundPiece, pieceAt } from '../core/lay/evaluate';
import { findMirrors, type FoundMirror, mirrorShape, mirrorThrough } from '../core/lay/findMirrors';
import { mirrorMapping, mirrorSpec, offImage } from '../core/lay/mirrorSpec';
import {
  figuresOf,
  laidCost,
  proposeStarts,
  startNow,
  type StartOptions,
  type StartProposal,
} from '../core/lay/proposeStarts';
import { openSheet } from '../core/lay/region';
import type { MirrorSpec } from '../core/mapping/mirrorSchema';
import { type DrawnModule, drawnModule } from '../core/layout/modules';
import { judgeCoordinates, type OwnVerdict } from '../core/mapping/own';
import { cornerStretch, pointOnSheet, type Sheet, type SheetSummary } from '../core/mapping/sheet';
import { type Suggestion, suggestMapping } from '../core/mapping/suggest';
import { borderEdges } from '../core/mesh/borderEdges';
import { followEdge } from '../core/mesh/followEdge';
import { type Grow, growFaces } from '../core/mesh/growFaces';
import { type FoundSurface, measureSurface } from '../core/mesh/measureSurface';
import { splitByCrease } from '../core/mesh/split';
import { type FaceRuns, faceCount, listFaces, type PartMesh } from '../core/mesh/types';
import { findJointLines, type JointLines } from '../core/picture/jointLines';
import type { Placement } from '../core/setout/placement';
import type { StartFigures } from '../core/setout/startCost';
import type { Spec } from '../core/specification/schema';
import type { BakedWear } from '../core/wear/bake';
import {
  type FacesRequest,
  fileMeshOf,
  type LaidRequest,
  layRegion,
  meshesOf,
  meshOf,
  open,
  type SheetRequest,
  wearOver,
  type WearRequest,
} from './held';
import { openRaster } from './openRaster';
import { paint, paintSamples, paintStart } from './paint';

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
  /** From places of the pieces to the sheet's: x and y of its steps right and up, then of its beginning. */
  toSheet: [number, number, number, number, number, number];
}

/** Wear over a region, as the room draws it. */
export interface ShownWear extends BakedWear {
  /** Of each vertex of the region's shape, sheet mm. */
  places: Float32Array<ArrayBuffer>;
}

/** A surface and its image, and all that is laid on the surface: its own spec and those of its zones. */
export interface MirrorRequest {
  from: SheetRequest;
  onto: SheetRequest;
  mirror: MirrorSpec;
  laid: { id: string; spec: Spec; sheet: SheetRequest }[];
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

const summary = ({
  mesh: _m,
  source: _s,
  faces: _f,
  corners: _c,
  chartOf: _o,
  faceStretch: _t,
  ...rest
}: Sheet): SheetSummary => rest;

/** Surfaces no farther apart than this meet, mm. */
const TOUCHING = 5;

/** Bytes of pictures that are kept. */
const MOST_PICTURES = 192e6;

const bitmaps = new LRUCache<string, ImageBitmap>({
  maxSize: MOST_PICTURES,
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
    const { sheet, arrangement, materials, region } = await layRegion(request);
    if (!arrangement) return null;
    const { m, at } = arrangement.frame;
    const places = arrangement.joint.material !== null || arrangement.variation.maps !== null || !!region.wear;
    const buffers = dressPieces(sheet, arrangement, { places });
    const out: DressedPieces = {
      buffers,
      modules: arrangement.layout.modules.map(drawnModule),
      inset: [...arrangement.layout.inset],
      runOn: arrangement.layout.runOn ?? [false, false],
      brightened: materials.map((m) => m.brightened),
      toSheet: [m[0], m[1], m[2], m[3], at[0], at[1]],
    };
    return transfer(out, [...new Set(buffers.flatMap((b) => arraysOf(b).map((a) => a.buffer as ArrayBuffer)))]);
  },

  /** The wear over a region; null where none of it is to be seen. */
  async wear(request: WearRequest): Promise<ShownWear | null> {
    const found = await wearOver(request);
    if (!found) return null;
    const { baked, held } = found;
    const { corners } = held.sheet;
    const places = new Float32Array(held.corner.length * 2);
    held.corner.forEach((k, n) => places.set([corners[k * 2], corners[k * 2 + 1]], n * 2));
    return transfer({ ...baked, places }, [baked.colour.buffer, baked.relief.buffer, places.buffer]);
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

  /** Planes through which surfaces have images among others, the best first; or what one plane comes to. */
  async findMirrors(
    picked: string[],
    all: { id: string; sheet: SheetRequest }[],
    withinMm: number,
    plane: Plane | null,
  ): Promise<FoundMirror[]> {
    const shapes = await Promise.all(
      all.map(async ({ id, sheet }) => mirrorShape(id, await meshesOf(sheet), sheet.source.patches, withinMm)),
    );
    const own = shapes.filter((s) => picked.includes(s.id));
    return plane ? [mirrorThrough(plane, own, shapes, withinMm)] : findMirrors(own, shapes, withinMm);
  },

  /**
   * Which of some regions meet one and show its picture at another size: by how much larger, as a share, and the spec
   * that shows it alike.
   */
  async otherSizes(of: LaidRequest, others: LaidRequest[]): Promise<{ id: string; largerBy: number; alike: Spec }[]> {
    const shownBy = async ({ region: { spec }, materials, sheet: request }: LaidRequest) => {
      const { sheet } = await open(request);
      const material = materials[spec.material]!;
      return { spec, material, sheet, shown: sizeShown(spec, material, sheet) };
    };
    const own = await shownBy(of);
    const out: { id: string; largerBy: number; alike: Spec }[] = [];
    for (const request of others) {
      const { spec, material, sheet, shown } = await shownBy(request);
      const by = largerBy(shown, own.shown);
      if (by && touches(own.sheet, sheet, TOUCHING))
        out.push({ id: request.region.id, largerBy: by, alike: showAlike(spec, material, own, sheet) });
    }
    return out;
  },

  /** The specs as they lie on the image, and how far its sheet is from being the same, mm. */
  async mirrorOnto({ from, onto, mirror, laid }: MirrorRequest): Promise<{ specs: Spec[]; offMm: number }> {
    const [own, image] = await Promise.all([meshesOf(from), meshesOf(onto)]);
    const faces = (meshes: PartMesh[], { source: { patches } }: SheetRequest) =>
      patches.length === 1 ? { mesh: meshes[0], faces: patches[0].faces } : null;
    const mapping = mirrorMapping(from.source.mapping, mirror, faces(own, from), faces(image, onto));
    const sheet = openSheet(image, { ...onto.source, mapping });
    const specs: Spec[] = [];
    for (const { spec, sheet: request } of laid) {
      specs.push(mirrorSpec(spec, mapping, (await open(request)).sheet, request.source.origin));
    }
    return { specs, offMm: offImage((await open(from)).sheet, sheet, mirror) };
  },

  /** The joints of what lies laid in a picture, and the pixels in which they count. */
  async jointLines(url: string): Promise<{ lines: JointLines | null; width: number; height: number }> {
    const raster = await openRaster(url);
    return { lines: findJointLines(raster), width: raster.width, height: raster.height };
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

  /** Where a point of a face (counted in the order of the region's geometry) lies on its sheet. */
  async sheetPoint(request: SheetRequest, face: number, world: [number, number, number]): Promise<[number, number]> {
    return pointOnSheet((await open(request)).sheet, face, world);
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
    const mesh = await meshOf(request);
    return splitByCrease(mesh, request.faces, creaseDeg).map((faces) => measureSurface(mesh, faces));
  },

  /** Which mappings suit some faces, and what their coordinates are worth. */
  async advise(request: FacesRequest): Promise<{ suggestions: Suggestion[]; own: OwnVerdict[] }> {
    const mesh = await meshOf(request);
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
    const mesh = await meshOf(request);
    return measureSurface(mesh, request.faces);
  },

  /** Picked faces, made more. */
  async growFaces(request: FacesRequest, grow: Grow): Promise<FaceRuns> {
    const mesh = await meshOf(request);
    return growFaces(mesh, request.faces, grow);
  },

  /** Lines round some faces, relative to the part's origin, six numbers each. */
  async facesBorder(request: FacesRequest): Promise<Float32Array> {
    const mesh = await fileMeshOf(request);
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
    return followEdge(await fileMeshOf(request), listFaces(request.faces), face, world);
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
