import { appendFileSync } from 'node:fs';
import { boxTriangles, makeGlb } from '../src/core/testing/fixtures';
import { at95 } from './corpus';
import { type Found, type Served } from './server';

/** Ordinary work for long: memory, handles and waiting stay as they were. */
export async function soak(served: Served, minutes: number, log?: string): Promise<Found> {
  const faults: string[] = [];
  const waits: Record<string, number[]> = {};
  const timed = async (what: string, work: () => Promise<{ status: number; body: string }>) => {
    const start = performance.now();
    const { status, body } = await work();
    (waits[what] ??= []).push(performance.now() - start);
    if (status === 0 || status >= 500) faults.push(`${what}: ${status} ${body.slice(0, 200)}`);
    return body;
  };
  const boxes = await makeGlb(
    Array.from({ length: 40 }, (_, n) => ({
      name: `Box ${n}`,
      triangles: boxTriangles([n * 2, 0, 0], [n * 2 + 1, 1, 1]),
    })),
  );
  const round = async (n: number) => {
    const made = await timed('a new project', () => served.json('POST', '/api/projects', { name: `Soak ${n}` }));
    const { project } = JSON.parse(made) as { project: { id: string } };
    const at = `/api/projects/${project.id}`;
    const model = await timed('an import of 40 parts', () => served.drop(`${at}/models`, { 'boxes.glb': boxes }));
    let { revision } = JSON.parse(model) as { revision: number };
    const { surfaces } = JSON.parse(model) as { surfaces: { id: string }[] };
    for (let k = 0; k < 30; k++) {
      const commands = [{ kind: 'setSurfaces', ids: [surfaces[k % surfaces.length].id], name: `Surface ${k}` }];
      const answer = await timed('a change', () =>
        served.json('POST', `${at}/changes`, { baseRevision: revision, commands }),
      );
      ({ revision } = JSON.parse(answer) as { revision: number });
    }
    for (let k = 0; k < 10; k++) {
      const answer = await timed('an undo', () => served.json('POST', `${at}/undo`, { baseRevision: revision }));
      ({ revision } = JSON.parse(answer) as { revision: number });
    }
    for (let k = 0; k < 6; k++)
      await timed('a sheet', () => served.json('GET', `${at}/surfaces/${surfaces[k].id}/sheet`));
    await timed('the list of projects', () => served.json('GET', '/api/projects'));
    if (n % 4 === 0) {
      const begun = await timed('an export begun', () => served.json('POST', `${at}/exports`, { format: 'glb' }));
      const { id } = JSON.parse(begun) as { id: string };
      await timed('an export', async () => {
        for (;;) {
          const answer = await served.json('GET', `/api/jobs/${id}`);
          const { state, message } = JSON.parse(answer.body) as { state: string; message: string };
          if (state === 'failed') faults.push(`an export failed: ${message}`);
          if (state !== 'running' && state !== 'queued') return answer;
          await new Promise((r) => setTimeout(r, 50));
        }
      });
    }
    await timed('throwing away', () => served.send('DELETE', `${at}?forever=true`));
  };
  const until = Date.now() + minutes * 60_000;
  let rounds = 0;
  let started: { mb: number; handles: number } | null = null;
  const say = (minute: number) => {
    const now = { mb: served.residentMb, handles: served.handles };
    if (log)
      appendFileSync(
        log,
        `${minute.toFixed(1)},${now.mb},${now.handles},${at95((waits['a change'] ?? []).slice(-300)).toFixed(1)}\n`,
      );
    return now;
  };
  let lastSaid = 0;
  await Promise.all(
    Array.from({ length: 4 }, async () => {
      while (Date.now() < until) {
        await round(rounds++);
        const minute = minutes - (until - Date.now()) / 60_000;
        // what is made once is made by then
        if (!started && minute > Math.min(2, minutes / 4)) started = say(minute);
        if (minute - lastSaid > 0.5) {
          lastSaid = minute;
          say(minute);
        }
      }
    }),
  );
  await new Promise((r) => setTimeout(r, 30_000));
  const end = say(minutes + 0.5);
  const told = [`${rounds} rounds by four clients in ${minutes} min`];
  const begun = started as { mb: number; handles: number } | null;
  if (begun) {
    told.push(`memory ${begun.mb} → ${end.mb} MB, handles ${begun.handles} → ${end.handles}`);
    if (end.mb > begun.mb * 1.3) faults.push(`memory grew from ${begun.mb} to ${end.mb} MB`);
    if (end.handles > begun.handles * 1.3 + 8) faults.push(`handles grew from ${begun.handles} to ${end.handles}`);
  }
  for (const [what, list] of Object.entries(waits)) {
    const middle = [...list].sort((a, b) => a - b)[list.length >> 1];
    told.push(`${what}: ${middle.toFixed(1)} ms, 95th percentile ${at95(list).toFixed(1)} ms (${list.length})`);
  }
  return { told, faults };
}
