import { LRUCache } from 'lru-cache';
import { shapeSurface } from '../core/dress/dressSurface';
import { readMeshes } from '../core/formats/meshFile';
import type { MaterialsById } from '../core/lay/arrange';
import { type Laid, lay } from '../core/lay/lay';
import { RayGrid } from '../core/mesh/RayGrid';
import { bakeWear, type BakedWear } from '../core/wear/bake';
import { joinPictures } from '../core/wear/pictures';
import type { WearAsked } from '../core/project/wearOf';
import { openRaster } from './openRaster';
import { openSheet, type Region, type SheetSource } from '../core/lay/region';
import type { Sheet } from '../core/mapping/sheet';
import type { Raster } from '../core/picture/raster';
import { flipFaces } from '../core/mesh/flip';
import { bytesOfMesh, type FaceRuns, type PartMesh } from '../core/mesh/types';
import type { Spec } from '../core/specification/schema';

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

/** Wear over a region, with everything it depends on; the same key is the same pictures. */
export interface WearRequest {
  key: string;
  sheet: SheetRequest;
  asked: WearAsked;
  /** Where all meshes round about are fetched, and where pictures are, by hash. */
  around: MeshAt[];
  pictureUrls: Record<string, string>;
}

interface Held {
  sheet: Sheet;
  corner: Uint32Array;
}

/** Bytes that are kept for the next change: meshes of models, sheets, what was laid. */
const MOST_BYTES = { meshes: 512e6, sheets: 384e6, laid: 256e6 };
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

/** The mesh some faces belong to, as its file has it. */
export const fileMeshOf = async ({ url, mesh }: MeshAt): Promise<PartMesh> => (await meshes(url))[mesh];

/** The same, with the faces turned that are turned in the project. */
export async function meshOf({ flipped, ...at }: FacesRequest): Promise<PartMesh> {
  const mesh = await fileMeshOf(at);
  return flipped?.length ? flipFaces(mesh, flipped) : mesh;
}

/** One for each patch. */
export const meshesOf = ({ meshes: at }: Pick<SheetRequest, 'meshes'>): Promise<PartMesh[]> =>
  Promise.all(at.map(fileMeshOf));

export async function open({ key, meshes: at, source }: SheetRequest): Promise<Held> {
  const known = held.get(key);
  if (known) return known;
  const sheet = openSheet(await meshesOf({ meshes: at }), source);
  const made = { sheet, corner: shapeSurface(sheet).corner };
  held.set(key, made);
  return made;
}

export async function layRegion({ key, sheet: request, region, materials }: LaidRequest): Promise<Laid> {
  const known = regions.get(key);
  if (known) return known;
  const { sheet } = await open(request);
  const made = lay(region, [], materials, { sheet });
  regions.set(key, made);
  return made;
}

/** Of the scene asked about last: it changes when a model comes or goes. */
let lastAround: { key: string; grid: RayGrid } | null = null;

async function around(meshes: MeshAt[]): Promise<RayGrid> {
  const key = meshes.map(({ url, mesh }) => `${url}#${mesh}`).join();
  if (lastAround?.key !== key) lastAround = { key, grid: new RayGrid(await meshesOf({ meshes })) };
  return lastAround.grid;
}

const rasters = new LRUCache<string, Promise<Raster>>({ max: 12 });

function raster(url: string): Promise<Raster> {
  let known = rasters.get(url);
  if (!known) {
    known = openRaster(url);
    rasters.set(url, known);
    known.catch(() => rasters.delete(url));
  }
  return known;
}

/** The wear over a region as pictures; null where none of it is to be seen. */
export async function wearOver(request: WearRequest): Promise<{ baked: BakedWear; held: Held } | null> {
  const { asked, pictureUrls } = request;
  const shown = await open(request.sheet);
  const picture = async (hash: string | null) => (hash ? raster(pictureUrls[hash]) : null);
  const pictures = await Promise.all(
    Object.entries(asked.pictures).map(async ([id, p]) => {
      const [colours, opacity] = await Promise.all([picture(p.colours), picture(p.opacity)]);
      return [id, joinPictures(colours, opacity, p.plain, p)] as const;
    }),
  );
  const baked = bakeWear(shown.sheet, asked.wear, {
    surroundings: request.around.length ? await around(request.around) : null,
    northDeg: asked.northDeg,
    pictures: Object.fromEntries(pictures),
  });
  return baked && { baked, held: shown };
}
