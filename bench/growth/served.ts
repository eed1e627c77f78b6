import type { ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Command } from '@/core/project/commands';
import type { Material } from '@/core/material/schema';
import type { Project } from '@/core/project/schema';
import { serve } from '../../tests/serve';
import { buildingGlb, dress } from './building';

/** The application, served on a data folder of its own, with one building in it. */
export interface Served {
  url: string;
  id: string;
  project: Project;
  /** The revision the project stands at. */
  revision: number;
  process: ChildProcess;
  data: string;
}

const PORT = 4471;

/** Asks the server. @throws Error with what it answered */
export async function ask<T>(url: string, method = 'GET', body?: unknown): Promise<T> {
  const json = { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) };
  const response = await fetch(url, { method, ...(body === undefined ? {} : json) });
  if (!response.ok) throw new Error(`${method} ${url}: ${response.status} ${await response.text()}`);
  return response.status === 204 ? (undefined as T) : ((await response.json()) as T);
}

/** Changes the project and keeps its revision. */
export async function change(served: Served, commands: Command[]): Promise<void> {
  const { revision } = await ask<{ revision: number }>(`${served.url}/api/projects/${served.id}/changes`, 'POST', {
    baseRevision: served.revision,
    commands,
  });
  served.revision = revision;
}

export async function step(served: Served, which: 'undo' | 'redo'): Promise<void> {
  const { revision } = await ask<{ revision: number }>(`${served.url}/api/projects/${served.id}/${which}`, 'POST', {
    baseRevision: served.revision,
  });
  served.revision = revision;
}

async function bringIn(url: string, id: string, glb: Uint8Array): Promise<void> {
  const form = new FormData();
  form.append('files', new File([glb as BlobPart], 'building.glb'));
  const response = await fetch(`${url}/api/projects/${id}/models`, { method: 'POST', body: form });
  if (!response.ok) throw new Error(`the model was refused: ${await response.text()}`);
}

/** Serves a project with a model in it, laid with `lay`. */
export async function serveModel(
  glb: Uint8Array,
  lay: (project: Project, brick: Material, board: Material) => Command,
): Promise<Served> {
  const data = mkdtempSync(path.join(tmpdir(), 'jute-grid-growth-'));
  const { url, process } = await serve(PORT, data, { JUTE_GRID_CHECK_ANSWERS: '' });
  const material = (name: string, widthMm: number, heightMm: number) =>
    ask<Material>(`${url}/api/materials`, 'POST', { name, widthMm, heightMm });
  const [brick, board] = [await material('Quay brick', 860, 780), await material('Slip boards', 2280, 1140)];
  const { project } = await ask<{ project: Project }>(`${url}/api/projects`, 'POST', { name: 'Building' });
  await bringIn(url, project.id, glb);
  const read = () => ask<{ project: Project; revision: number }>(`${url}/api/projects/${project.id}`);
  const served: Served = { url, id: project.id, process, data, ...(await read()) };
  await change(served, [lay(served.project, brick, board)]);
  return { ...served, ...(await read()) };
}

export const serveBuilding = async (surfaces: number): Promise<Served> =>
  serveModel(await buildingGlb(surfaces), dress);

export async function stop({ process, data }: Served): Promise<void> {
  const ended = new Promise((resolve) => process.once('exit', resolve));
  process.kill();
  await ended;
  rmSync(data, { recursive: true, force: true });
}

/** Memory of the server that is resident now, MB. */
export function residentMb({ process }: Served): number {
  const [, kB] = /VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${process.pid}/status`, 'utf8'))!;
  return Math.round((Number(kB) * 1024) / 1e6);
}
