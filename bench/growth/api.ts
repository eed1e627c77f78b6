import { allRegions, zonesOn } from '@/core/project/regions';
import type { Command } from '@/core/project/commands';
import { time } from '../measure';
import { isWall, wallSpec } from './building';
import { ask, change, residentMb, type Served, step } from './served';

/** Seconds an export may take before it counts as unfinished. */
const MOST_SECONDS = 600;

/** What is measured of one building, by row; ms unless the row says otherwise. */
export type Measured = Record<string, number>;

const brickOf = ({ project }: Served) => Object.values(project.materials).find((m) => m.name === 'Quay brick')!.id;
const wallsOf = ({ project }: Served) =>
  Object.values(project.surfaces)
    .filter(isWall)
    .map((s) => s.id);
const jointOn = (served: Served, ids: string[], joint: number): Command => ({
  kind: 'setSpecs',
  specs: Object.fromEntries(ids.map((id) => [id, wallSpec(brickOf(served), joint)])),
});

/** In this process: what every view asks of a document first. */
export function measureDocument({ project }: Served): Promise<number> {
  // documents that no index was made of yet; making them is not what is measured
  const copies = Array.from({ length: 7 }, () => ({
    ...project,
    surfaces: { ...project.surfaces },
    parts: { ...project.parts },
  }));
  return time(() => {
    const anew = copies.pop()!;
    for (const id of Object.keys(anew.surfaces)) zonesOn(anew, id);
    allRegions(anew);
  });
}

/** Calls of the API, with what goes over the wire. */
export async function measureCalls(served: Served): Promise<Measured> {
  const walls = wallsOf(served);
  const [one] = walls;
  let joint = 8;
  const out: Measured = {};
  const surfaces = `${served.url}/api/projects/${served.id}/surfaces`;
  await ask(`${surfaces}/${one}/pieces`);
  out['change one wall'] = await time(() => change(served, [jointOn(served, [one], (joint += 0.25))]), 15);
  out['undo of one wall'] = await time(() => step(served, 'undo'), 15);
  out['pieces of one wall'] = await time(() => ask(`${surfaces}/${one}/pieces`), 9);
  out['change all walls'] = await time(() => change(served, [jointOn(served, walls, (joint += 0.25))]), 3);
  out['undo of a change to all walls'] = await time(() => step(served, 'undo'), 3);
  out['list of projects'] = await time(() => ask(`${served.url}/api/projects`), 15);
  out['read the project'] = await time(() => ask(`${served.url}/api/projects/${served.id}`), 3);
  return out;
}

/** The pieces of every surface, one after the other. */
export async function measureAllPieces(served: Served): Promise<Measured> {
  const ids = Object.keys(served.project.surfaces);
  const surfaces = `${served.url}/api/projects/${served.id}/surfaces`;
  for (const id of ids.slice(0, 200)) await ask(`${surfaces}/${id}/pieces`);
  const before = residentMb(served);
  let most = before;
  for (const [n, id] of ids.entries()) {
    await ask(`${surfaces}/${id}/pieces`);
    if (n % 100 === 0) most = Math.max(most, residentMb(served));
  }
  return {
    'pieces of all, MB before': before,
    'pieces of all, MB at most': most,
    'pieces of all, MB after': residentMb(served),
  };
}

interface Job {
  id: string;
  state: string;
  message: string;
  result: { bytes: number } | null;
}

/** An export of everything as GLB, with the server's memory while it runs and 40 s after. */
export async function measureExport(served: Served): Promise<Measured> {
  const start = performance.now();
  const jobs = `${served.url}/api/jobs`;
  let job = await ask<Job>(`${served.url}/api/projects/${served.id}/exports`, 'POST', {
    format: 'glb',
  });
  const seconds = () => (performance.now() - start) / 1000;
  let most = 0;
  while (job.state === 'running' || job.state === 'queued') {
    if (seconds() > MOST_SECONDS) throw new Error(`an export was not ready after ${MOST_SECONDS} s`);
    await new Promise((r) => setTimeout(r, 100));
    most = Math.max(most, residentMb(served));
    job = await ask<Job>(`${jobs}/${job.id}`);
  }
  if (job.state !== 'done') throw new Error(`the export ended as ${job.state}: ${job.message}`);
  const taken = seconds();
  await ask(`${jobs}/${job.id}`, 'DELETE');
  await new Promise((r) => setTimeout(r, 40_000));
  return {
    'export, s': taken,
    'export, MB of the file': Math.round(job.result!.bytes / 1e6),
    'export, MB resident at most': most,
    'export, MB resident after': residentMb(served),
  };
}
