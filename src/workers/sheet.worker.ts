import { expose, transfer } from 'comlink';
import type { Placement } from '../core/dress/placement';
import { layCoordinates, shapeSurface } from '../core/dress/dressSurface';
import { readMeshes } from '../core/formats/meshFile';
import { buildSheet, type Sheet, type SheetSummary } from '../core/mapping/sheet';
import { borderEdges } from '../core/mesh/borderEdges';
import { type FoundSurface, measureSurface } from '../core/mesh/measureSurface';
import { splitByCrease } from '../core/mesh/split';
import type { FaceRuns, PartMesh } from '../core/mesh/types';
import type { MappingSpec } from '../core/spec/schema';

/** Which faces of which mesh, laid flat how. */
export interface SheetRequest {
  /** Where the model's meshes are fetched. */
  url: string;
  /** Which of them. */
  mesh: number;
  faces: FaceRuns;
  mapping: MappingSpec;
}

export interface Shape {
  origin: [number, number, number];
  positions: Float32Array;
  normals: Float32Array;
  indices: Uint32Array;
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

const keyOf = (r: SheetRequest) => `${r.url}#${r.mesh}#${r.faces.join()}#${JSON.stringify(r.mapping)}`;

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
  const sheet = buildSheet(mesh, request.faces, request.mapping);
  return hold(key, { sheet, corner: shapeSurface(mesh, sheet).corner });
}

const summary = ({ faces: _f, corners: _c, chartOf: _o, ...rest }: Sheet): SheetSummary => rest;

const service = {
  /** Geometry and sheet of many surfaces at once. */
  async shapes(requests: SheetRequest[]): Promise<Shape[]> {
    const out: Shape[] = [];
    for (const request of requests) {
      const mesh = (await meshes(request.url))[request.mesh];
      const sheet = held.get(keyOf(request))?.sheet ?? buildSheet(mesh, request.faces, request.mapping);
      const { corner, ...shape } = shapeSurface(mesh, sheet);
      hold(keyOf(request), { sheet, corner });
      const border = borderEdges(shape.positions, shape.indices);
      out.push({ origin: mesh.origin, ...shape, border, sheet: summary(sheet) });
    }
    return transfer(out, out.flatMap((s) => [s.positions.buffer, s.normals.buffer, s.indices.buffer, s.border.buffer] as ArrayBuffer[])); // prettier-ignore
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

  /** A surface laid flat, without its geometry. */
  async summary(request: SheetRequest): Promise<SheetSummary> {
    return summary((await open(request)).sheet);
  },

  async measure(request: Omit<SheetRequest, 'mapping'>): Promise<FoundSurface> {
    return measureSurface((await meshes(request.url))[request.mesh], request.faces);
  },
};

export type SheetService = typeof service;
expose(service);
