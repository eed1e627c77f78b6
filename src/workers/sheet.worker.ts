import { expose, transfer } from 'comlink';
import { BufferAttribute, BufferGeometry } from 'three';
import { MeshBVH, type SerializedBVH } from 'three-mesh-bvh';
import type { Placement } from '../core/setout/placement';
import { layCoordinates, shapeSurface } from '../core/dress/dressSurface';
import { readMeshes } from '../core/formats/meshFile';
import { cornerStretch, pointOnSheet, type Sheet, type SheetSummary } from '../core/mapping/sheet';
import { borderEdges } from '../core/mesh/borderEdges';
import { type FoundSurface, measureSurface } from '../core/mesh/measureSurface';
import { splitByCrease } from '../core/mesh/split';
import { flipFaces } from '../core/mesh/flip';
import { type FaceRuns, faceCount, listFaces, type PartMesh } from '../core/mesh/types';
import { followEdge } from '../core/mesh/followEdge';
import { type Grow, growFaces } from '../core/mesh/growFaces';
import { judgeCoordinates, type OwnVerdict } from '../core/mapping/own';
import { type Suggestion, suggestMapping } from '../core/mapping/suggest';
import { dressPieces } from '../core/dress/dressPieces';
import type { PieceBuffers } from '../core/dress/pieceStore';
import { type CutPiece, cutPieces } from '../core/lay/cutPieces';
import { fingerprint } from '../core/count/fingerprint';
import { findPiece, type FoundPiece } from '../core/lay/findPiece';
import { type MaterialsById, type OpenPieces, openPieces } from '../core/lay/openPieces';
import { type PiecesSummary, summarise } from '../core/count/summary';
import { liesInPieces, type Spec } from '../core/specification/schema';
import { openSheet, type SheetSource } from '../core/lay/region';
import { drawPieces, drawSamples, type PiecesView } from './drawPieces';

/** Which faces of which mesh, laid flat how. */
export interface SheetRequest extends SheetSource {
  /** Where the model's meshes are fetched. */
  url: string;
  /** Which of them. */
  mesh: number;
}

/** Some faces of a part. */
export type FacesRequest = Omit<SheetRequest, 'mapping' | 'cuts'>;

/** A surface with everything its pieces depend on. */
export interface PiecesRequest extends SheetRequest {
  spec: Spec;
  materials: MaterialsById;
  partOrigin: [number, number, number];
}

/** What the room needs to draw the pieces of a surface. */
export interface DressedPieces {
  buffers: PieceBuffers[];
  shape: number;
  /** Half a joint along and across the pieces, mm. */
  inset: [number, number];
  /** By how much the pictures of each material are brightened before tones darken them. */
  brightened: number[];
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

const models = new Map<string, Promise<PartMesh[]>>();
const held = new Map<string, Held>();
/** Sheets kept for the next change; a sheet is about as large as its mesh. */
const MOST_HELD = 4000;

function meshes(url: string): Promise<PartMesh[]> {
  let loading = models.get(url);
  if (!loading) {
    loading = fetch(url).then(async (response) => {
      if (!response.ok) throw new Error(`the model’s meshes could not be fetched (${response.status})`);
      return readMeshes(new Uint8Array(await response.arrayBuffer()));
    });
    models.set(url, loading);
    loading.catch(() => models.delete(url));
  }
  return loading;
}

const withFlips = (mesh: PartMesh, flipped: FaceRuns | undefined) =>
  flipped?.length ? flipFaces(mesh, flipped) : mesh;

const keyOf = (r: SheetRequest) =>
  `${r.url}#${r.mesh}#${r.faces.join()}#${JSON.stringify([r.mapping, r.cuts, r.flipped])}`;

function hold(key: string, value: Held): Held {
  if (held.size >= MOST_HELD) held.delete(held.keys().next().value!);
  held.set(key, value);
  return value;
}

async function open(request: SheetRequest): Promise<Held> {
  const key = keyOf(request);
  const known = held.get(key);
  if (known) return known;
  const mesh = (await meshes(request.url))[request.mesh];
  const sheet = openSheet(mesh, request);
  return hold(key, { sheet, corner: shapeSurface(sheet).corner });
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

async function openRequest(request: PiecesRequest): Promise<{ held: Held; open: OpenPieces | null }> {
  const held = await open(request);
  return { held, open: openPieces(request.spec, held.sheet, request.materials, request.partOrigin) };
}

/** Outlines of the last surfaces looked at: panning must not cut them again. */
const cuts = new Map<string, { open: OpenPieces; pieces: CutPiece[] }>();
const MOST_CUTS = 6;

async function cut(request: PiecesRequest): Promise<{ open: OpenPieces; pieces: CutPiece[]; sheet: Sheet } | null> {
  const { held, open: opened } = await openRequest(request);
  if (!opened) return null;
  const key = `${keyOf(request)}#${JSON.stringify([request.spec, request.materials, request.partOrigin])}`;
  let known = cuts.get(key);
  if (!known) {
    known = { open: opened, pieces: cutPieces(opened, held.sheet) };
    if (cuts.size >= MOST_CUTS) cuts.delete(cuts.keys().next().value!);
    cuts.set(key, known);
  }
  return { ...known, sheet: held.sheet };
}

const bitmaps = new Map<string, Promise<ImageBitmap | null>>();

/** Pictures as bitmaps; one that cannot be had is drawn as a plain colour. */
function bitmap(url: string | null): Promise<ImageBitmap | null> {
  if (!url) return Promise.resolve(null);
  let loading = bitmaps.get(url);
  if (!loading) {
    loading = fetch(url)
      .then(async (r) => (r.ok ? createImageBitmap(await r.blob()) : null))
      .catch(() => null);
    if (bitmaps.size > 40) bitmaps.delete(bitmaps.keys().next().value!);
    bitmaps.set(url, loading);
  }
  return loading;
}

const service = {
  /** Buffers of the pieces of a surface, or null when it is laid as one whole picture. */
  async pieces(request: PiecesRequest): Promise<DressedPieces | null> {
    const { held, open: opened } = await openRequest(request);
    if (!opened) return null;
    const whole = opened.joint.material !== null || opened.variation.maps !== null;
    const buffers = dressPieces(held.sheet, opened, { whole });
    const out: DressedPieces = {
      buffers,
      shape: opened.layout.shape,
      inset: [...opened.layout.inset],
      brightened: opened.materials.map((m) => m.tones.most),
    };
    const used = new Set(
      buffers.flatMap((b) =>
        [b.positions, b.normals, b.uvs, b.local, b.half, b.tones, b.whole, b.indices].map(
          (a) => a.buffer as ArrayBuffer,
        ),
      ),
    );
    return transfer(out, [...used]);
  },

  /** Counts and warnings of the pieces of a surface. */
  async countPieces(request: PiecesRequest): Promise<(PiecesSummary & { fingerprint: string }) | null> {
    if (!liesInPieces(request.spec)) return null;
    const made = await cut(request);
    return made && { ...summarise(made.open, made.pieces, made.sheet.area), fingerprint: fingerprint(made.pieces) };
  },

  /** A window of the sheet with its pieces drawn; `pictures` are addresses, one for each material of the surface. */
  async drawPieces(
    request: PiecesRequest,
    view: PiecesView,
    pictures: (string | null)[],
    colours: { ink: string; thread: string },
  ): Promise<ImageBitmap | null> {
    const [made, ...loaded] = await Promise.all([cut(request), ...pictures.map(bitmap)]);
    if (!made) return null;
    const drawn = drawPieces(made.open, made.pieces, view, loaded, colours);
    return transfer(drawn, [drawn]);
  },

  /** Some pieces as they come out. */
  async samplePieces(
    request: PiecesRequest,
    size: Parameters<typeof drawSamples>[2],
    pictures: (string | null)[],
  ): Promise<ImageBitmap | null> {
    const [made, ...loaded] = await Promise.all([cut(request), ...pictures.map(bitmap)]);
    if (!made) return null;
    const drawn = drawSamples(made.open, made.pieces, size, loaded);
    return transfer(drawn, [drawn]);
  },

  /** The piece at a point of the sheet, or of a face of the surface (counted in the order of its geometry). */
  async pieceAt(
    request: PiecesRequest,
    at: { sheet: [number, number] } | { face: number; world: [number, number, number] },
  ): Promise<FoundPiece | null> {
    const { held, open: opened } = await openRequest(request);
    if (!opened) return null;
    const point = 'sheet' in at ? at.sheet : pointOnSheet(held.sheet, at.face, at.world);
    return findPiece(opened, held.sheet, point);
  },

  /** Geometry and sheet of many surfaces at once. */
  async shapes(requests: SheetRequest[]): Promise<Shape[]> {
    const out: Shape[] = [];
    for (const request of requests) {
      const mesh = (await meshes(request.url))[request.mesh];
      const sheet = held.get(keyOf(request))?.sheet ?? openSheet(mesh, request);
      const { corner, ...shape } = shapeSurface(sheet);
      hold(keyOf(request), { sheet, corner });
      const border = borderEdges(shape.positions, shape.indices);
      out.push({
        origin: mesh.origin,
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

  /** Coordinates of one surface for a placement. */
  async coordinates(request: SheetRequest, placement: Placement): Promise<Float32Array> {
    const { sheet, corner } = await open(request);
    const uvs = layCoordinates(sheet, corner, placement);
    return transfer(uvs, [uvs.buffer as ArrayBuffer]);
  },

  /** Faces of the surfaces that a split by crease angle gives, measured. */
  async split(request: Omit<SheetRequest, 'mapping'>, creaseDeg: number): Promise<FoundSurface[]> {
    const mesh = (await meshes(request.url))[request.mesh];
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
