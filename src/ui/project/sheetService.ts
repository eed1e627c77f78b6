'use client';

import { type Remote, wrap } from 'comlink';
import { type Region, regionsAt } from '@/core/project/regions';
import type { Project } from '@/core/project/schema';
import { PORTIONS } from '@/core/specification/portions';
import { materialsOf, type Spec } from '@/core/specification/schema';
import { wearOf, WEAR_PICTURE_PX } from '@/core/project/wearOf';
import { imageUrl, urlOf } from '../shared/api';
import type { LaidRequest, SheetRequest, WearRequest } from '@/workers/held';
import type { SheetService } from '@/workers/sheet.worker';

let service: Remote<SheetService> | null = null;

const openWorker = (name: string): Worker =>
  new Worker(new URL('../../workers/sheet.worker.ts', import.meta.url), { type: 'module', name });

/** The worker that lays surfaces flat and dresses them. */
export function sheetService(): Remote<SheetService> {
  service ??= wrap<SheetService>(openWorker('sheets'));
  return service;
}

let wears: Remote<SheetService> | null = null;

/** The worker that works out wear: it asks rays and paints pictures, which nobody who lays pieces is to wait for. */
export function wearService(): Remote<SheetService> {
  wears ??= wrap<SheetService>(openWorker('wear'));
  return wears;
}

/** A worker of its own for what takes long, so that nobody waits behind it; stopped, it is gone at once. */
export function searchService(): { service: Remote<SheetService>; stop: () => void } {
  const worker = openWorker('search');
  return { service: wrap<SheetService>(worker), stop: () => worker.terminate() };
}

/** Meshes are addressed with their hash, so that a cached answer is never the wrong one. */
export function meshUrl({ id, models }: Project, model: string): string {
  const url = urlOf('GET /api/projects/{id}/models/{model}/mesh', { id, model });
  return `${url}?v=${models[model].mesh.slice(0, 12)}`;
}

/** Documents are never changed: an object's number tells it from all others, and the same object is the same value. */
const numbers = new WeakMap<object, number>();
let counted = 0;
function numberOf(value: unknown): number | string {
  if (typeof value !== 'object' || value === null) return String(value);
  let n = numbers.get(value);
  if (n === undefined) numbers.set(value, (n = ++counted));
  return n;
}

const sheets = new WeakMap<Region, SheetRequest>();

/** What the worker needs to lay a region flat; its key tells whether it was laid before. */
export function sheetRequest(project: Project, region: Region): SheetRequest {
  let request = sheets.get(region);
  const { patches, mapping, cuts, origin, parts } = region;
  const meshes = parts.map(({ model, mesh }) => ({ url: meshUrl(project, model), mesh }));
  if (!request || request.meshes.some(({ url }, n) => url !== meshes[n].url)) {
    const faces = patches.map((p) => [numberOf(p.faces), numberOf(p.flipped)]);
    const at = meshes.map(({ url, mesh }) => `${url}#${mesh}`).join();
    const key = `${at}#${JSON.stringify([faces, mapping, cuts, origin])}`;
    request = { key, meshes, source: { patches, mapping, cuts, origin } };
    sheets.set(region, request);
  }
  return request;
}

/** The surface as its mapping lays it, before anything is cut from it: what pictures and zones are set out on. */
export function uncutRequest(project: Project, region: Region, cuts = region.cuts.slice(0, 0)): SheetRequest {
  const { key, meshes, source } = sheetRequest(project, region);
  return { key: `${key}#${JSON.stringify(cuts)}`, meshes, source: { ...source, cuts } };
}

/** What the worker needs to lay the pieces of a region: finish and light need no new ones. */
export function laidRequest(project: Project, region: Region, spec: Spec): LaidRequest {
  const sheet = sheetRequest(project, region);
  const materials = Object.fromEntries(materialsOf(spec).map((id) => [id, project.materials[id]]));
  const parts = [...PORTIONS.filter((p) => p.decidesPieces).map((p) => spec[p.key]), ...Object.values(materials)].map(
    numberOf,
  );
  const { id, colour, wear } = region;
  // how it is worn is no matter, but pieces that are must know their places
  const key = `${sheet.key}#${parts.join()}${wear ? '#worn' : ''}`;
  return { key, sheet, region: { id, colour, spec, wear, ...sheet.source }, materials };
}

/** What the worker needs to work out the wear over a region; null where it is as new. */
export function wearRequest(project: Project, region: Region): WearRequest | null {
  const asked = wearOf(project, region);
  if (!asked) return null;
  const sheet = sheetRequest(project, region);
  const around = asked.around.map(({ model, mesh }) => ({ url: meshUrl(project, model), mesh }));
  const hashes = Object.values(asked.pictures).flatMap(({ colours, opacity }) => [colours ?? [], opacity ?? []].flat());
  const pictureUrls = Object.fromEntries(hashes.map((hash) => [hash, imageUrl(hash, WEAR_PICTURE_PX)]));
  const stands = asked.around.length ? `${asked.northDeg} ${numberOf(project.models)} ${numberOf(project.parts)}` : '';
  const key = `${sheet.key}#${numberOf(asked.wear)}#${JSON.stringify(asked.pictures)}#${stands}`;
  return { key, sheet, asked, around, pictureUrls };
}

/** The region in which a surface's own spec lies, as it is shown now; null for a surface that is not there. */
export function shownRegion(project: Project | null, preview: Record<string, Spec>, id: string | null): Region | null {
  const surface = id && project ? project.surfaces[id] : undefined;
  return (surface && regionsAt(project!, surface, (s) => preview[s.id] ?? s.spec)[0]) ?? null;
}
