import { isModelFile } from '@/core/formats/readers';
import draco3d from 'draco3dgltf';
import { MeshoptDecoder } from 'meshoptimizer';
import { writeMeshes } from '@/core/formats/meshFile';
import { readModel } from '@/core/formats/readModel';
import type { UpAxis } from '@/core/mesh/clean';
import { DEFAULT_CREASE_DEG } from '@/core/mesh/creases';
import { joinsOf } from '@/core/mesh/joins';
import { DEFAULT_WELD_MM, prepareModel } from '@/core/mesh/prepare';
import { nameSurfaces } from '@/core/mesh/naming';
import type { RawModel, RawPicture, Remark, Slot } from '@/core/mesh/types';
import { type SizeEvidence, weighSizes } from '@/core/mesh/evidence/weigh';
import { measureSlotCoordinates } from '@/core/mesh/coordinateSize';
import { filesOnDisk, type Upload } from './uploads';

/** What the reader found, for people to look at before anything is saved. */
export interface ModelPreview {
  name: string;
  file: string;
  format: RawModel['format'];
  scenes: string[];
  scene: number;
  evidence: SizeEvidence;
  remarks: Remark[];
  missingPictures: string[];
  parts: number;
  surfaces: number;
  triangles: number;
  slots: { name: string; pictures: number }[];
  joins: {
    creaseDeg: number;
    weldMm: number;
    /** Distinct corners, and those the file writes. */
    corners: [joined: number, written: number];
    openEdges: number;
    arrises: number;
  };
}

/** What can be chosen of a model before it comes in. */
export interface ModelChoice {
  scene?: number;
  unitMm?: number;
  upAxis?: UpAxis;
  creaseDeg?: number;
  weldMm?: number;
}

export interface PreparedForStore {
  name: string;
  /** The file of meshes, in pieces. */
  meshes: Uint8Array[];
  parts: {
    name: string;
    path: string[];
    origin: [number, number, number];
    min: [number, number, number];
    max: [number, number, number];
    surfaces: { name: string; faces: number[]; slot: number; areaMm2: number; normal: [number, number, number] }[];
  }[];
  slots: (Slot & { repeatMm: [number, number] | null })[];
  pictures: RawPicture[];
  missingPictures: string[];
  triangles: number;
  remarks: Remark[];
}

type Source = Pick<Upload, 'folder' | 'files'>;

async function open(source: Source, scene: number | undefined): Promise<RawModel> {
  const needsDraco = { 'draco3d.decoder': null as unknown, 'meshopt.decoder': MeshoptDecoder };
  await MeshoptDecoder.ready;
  needsDraco['draco3d.decoder'] = await draco3d.createDecoderModule();
  return readModel(filesOnDisk(source), { scene, decoders: needsDraco });
}

/** Reads and weighs a model without saving anything; `unitMm` and `upAxis` show what a choice would make of it. */
export async function previewModel(
  source: Source,
  choice: ModelChoice,
): Promise<{ preview: ModelPreview; meshes: Uint8Array[] }> {
  const raw = await open(source, choice.scene);
  const evidence = weighSizes(raw);
  const prepared = prepareModel(raw, {
    ...choice,
    unitMm: choice.unitMm ?? evidence.guesses[0].unitMm,
    upAxis: choice.upAxis ?? evidence.up.axis,
  });
  const joins = prepared.parts.map((p) => joinsOf(p.mesh, p.surfaces));
  const edges = (of: 'open' | 'arrises') => joins.reduce((n, j) => n + j[of].length / 6, 0);
  const corners = (n: 0 | 1) => prepared.parts.reduce((sum, p) => sum + p.corners[n], 0);
  return {
    preview: {
      name: raw.name,
      file: source.files.find((f) => isModelFile(f)) ?? raw.name,
      format: raw.format,
      scenes: raw.scenes,
      scene: raw.scene,
      evidence,
      remarks: prepared.remarks,
      missingPictures: raw.missingPictures,
      parts: prepared.parts.length,
      surfaces: prepared.parts.reduce((n, p) => n + p.surfaces.length, 0),
      triangles: prepared.triangles,
      slots: raw.slots.map((s) => ({ name: s.name, pictures: Object.keys(s.pictures).length })),
      joins: {
        creaseDeg: choice.creaseDeg ?? DEFAULT_CREASE_DEG,
        weldMm: choice.weldMm ?? DEFAULT_WELD_MM,
        corners: [corners(0), corners(1)],
        openEdges: edges('open'),
        arrises: edges('arrises'),
      },
    },
    meshes: writeMeshes(
      prepared.parts.map((p) => p.mesh),
      joins,
    ),
  };
}

/** The unit and the up-axis: as chosen, else as the evidence has them; what was not certain is said. */
function settle(raw: RawModel, { unitMm, upAxis }: ModelChoice): { unitMm: number; upAxis: UpAxis } {
  if (unitMm !== undefined && upAxis !== undefined) return { unitMm, upAxis };
  const { guesses, certain, up } = weighSizes(raw);
  const [best, second] = guesses;
  if (unitMm === undefined && !certain)
    raw.remarks.push({
      kind: 'note',
      text: `its unit is not certain: ${best.unit} was taken, ${second.unit} is possible; check a length you know`,
    });
  if (upAxis === undefined && !up.certain)
    raw.remarks.push({ kind: 'note', text: `which axis is up is not certain: ${up.axis} was taken` });
  return { unitMm: unitMm ?? best.unitMm, upAxis: upAxis ?? up.axis };
}

/** Reads a model and makes everything that is stored of it. */
export async function prepareForStore(
  source: Source,
  choice: ModelChoice & { northDeg: number },
): Promise<PreparedForStore & { unitMm: number; upAxis: UpAxis }> {
  const raw = await open(source, choice.scene);
  const { unitMm, upAxis } = settle(raw, choice);
  const prepared = prepareModel(raw, { ...choice, unitMm, upAxis });
  const repeats = measureSlotCoordinates(
    prepared.parts.map((p) => p.mesh),
    raw.slots.length,
  );
  return {
    unitMm,
    upAxis,
    name: raw.name,
    meshes: writeMeshes(prepared.parts.map((p) => p.mesh)),
    parts: prepared.parts.map((part) => {
      const names = nameSurfaces(part.surfaces, choice.northDeg);
      return {
        name: part.name,
        path: part.path,
        origin: part.pivot,
        min: part.bounds.min,
        max: part.bounds.max,
        surfaces: part.surfaces.map((s, i) => ({
          name: names[i],
          faces: s.faces,
          slot: s.slot,
          areaMm2: s.area,
          normal: s.normal,
        })),
      };
    }),
    slots: raw.slots.map((slot, i) => ({ ...slot, repeatMm: scaled(repeats[i], slot.textureScale) })),
    pictures: raw.pictures,
    missingPictures: raw.missingPictures,
    triangles: prepared.triangles,
    remarks: prepared.remarks,
  };
}

/** A texture transform that shows the picture n times in one unit makes each copy n times smaller. */
function scaled(size: [number, number] | null, by: [number, number] | undefined): [number, number] | null {
  if (!size || !by) return size;
  return [size[0] / Math.abs(by[0] || 1), size[1] / Math.abs(by[1] || 1)];
}

/** A slot's colour as it is stored. */
export const hex = (c: readonly number[]) =>
  `#${c
    .slice(0, 3)
    .map((v) =>
      Math.round(Math.max(0, Math.min(1, v)) * 255)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
