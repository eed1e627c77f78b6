import { boxTriangles, makeGlb } from '../src/core/testing/fixtures';
import { emptyProject } from '../src/core/project/schema';
import Sqlite from 'better-sqlite3';
import path from 'node:path';
import sharp from 'sharp';
import { MIGRATIONS } from '../src/server/store/database';
import { openFault } from '../src/server/store/fault';
import { type Found, seeded, Served } from './server';

/** Killed at random moments, in the middle of whatever it does: nothing acknowledged is lost, nothing is left over. */

interface Opened {
  revision: number;
  canUndo: boolean;
  project: { name: string };
}

const wait = (ms: number) => new Promise((r) => setTimeout(r, ms));

/** So many commands on one project, with one kill on the way and an undo to the start. */
async function commands(served: Served, count: number, random: () => number): Promise<string[]> {
  const faults: string[] = [];
  const id = await served.newProject('Step 0');
  let acknowledged = 0;
  const change = (n: number) =>
    served.json('POST', `/api/projects/${id}/changes`, {
      baseRevision: n,
      commands: [{ kind: 'setProject', name: `Step ${n + 1}` }],
    });
  const killAt = Math.floor(count * random());
  for (let n = 0; n < count;) {
    if (n === killAt && acknowledged === n) {
      const dying = change(n);
      await wait(random() * 8);
      await served.kill();
      if ((await dying).status === 200) acknowledged = n + 1;
      await served.begin();
      const { revision, project } = await served.ask<Opened>('GET', `/api/projects/${id}`);
      if (revision < acknowledged) faults.push(`revision ${acknowledged} was acknowledged, ${revision} is there`);
      if (project.name !== `Step ${revision}`) faults.push(`at revision ${revision} it is called “${project.name}”`);
      n = acknowledged = revision;
      if (n > killAt) continue;
    }
    const { status } = await change(n);
    if (status !== 200) {
      faults.push(`change ${n} was answered by ${status}`);
      break;
    }
    acknowledged = ++n;
  }
  let state = await served.ask<Opened>('GET', `/api/projects/${id}`);
  while (state.canUndo)
    state = {
      ...state,
      ...(await served.ask<Opened>('POST', `/api/projects/${id}/undo`, { baseRevision: state.revision })),
    };
  const { project } = await served.ask<Opened>('GET', `/api/projects/${id}`);
  if (project.name !== 'Step 0') faults.push(`undone to the start it is called “${project.name}”`);
  return faults;
}

/** What takes a while, and may be killed in it; it tells what is to be found afterwards. */
type Work = (served: Served) => Promise<unknown>;

async function works(): Promise<Record<string, (project: string) => Work>> {
  const box = (n: number) => ({ name: `Box ${n}`, triangles: boxTriangles([n * 2, 0, 0], [n * 2 + 1, 1, 1]) });
  const glb = await makeGlb(Array.from({ length: 60 }, (_, n) => box(n)));
  const noise = Buffer.from(Array.from({ length: 512 * 512 * 3 }, (_, n) => (n * 2654435761) >>> 24));
  const png = await sharp(noise, { raw: { width: 512, height: 512, channels: 3 } })
    .png()
    .toBuffer();
  return {
    import: (project) => (served) => served.drop(`/api/projects/${project}/models`, { 'boxes.glb': glb }),
    material: () => (served) => served.drop('/api/materials', { 'Oak_basecolor.png': png, 'Oak_roughness.png': png }),
    prep: () => async (served) => {
      const [made] = JSON.parse((await served.drop('/api/preps', { 'floor.png': png })).body) as { id: string }[];
      await served.json('POST', `/api/preps/${made.id}/material`);
      await wait(300);
    },
    export: (project) => async (served) => {
      await served.json('POST', `/api/projects/${project}/exports`, { format: 'glb' });
      await wait(300);
    },
    'a change of everything': (project) => (served) =>
      served.json('PATCH', `/api/projects/${project}`, { name: 'All of it' }),
  };
}

async function killedDuring(served: Served, what: string, work: Work, random: () => number): Promise<string[]> {
  const faults: string[] = [];
  const before = await served.ask<{ id: string; revision: number }[]>('GET', '/api/projects');
  const running = work(served).catch(() => undefined);
  await wait(random() * 700);
  await served.kill();
  await running;
  await served.begin();
  const said = (of: string) => faults.push(`killed during ${what}: ${of}`);
  const left = served.left('uploads').filter((name) => !name.startsWith('upload-'));
  if (left.length) said(`left ${left.join(', ')}`);
  const projects = await served.ask<{ id: string; revision: number; damaged: boolean }[]>('GET', '/api/projects');
  for (const { id, revision } of before) {
    const now = projects.find((p) => p.id === id);
    if (!now || now.revision < revision || now.damaged) said(`project ${id} is not as it was acknowledged`);
    await served.ask('GET', `/api/projects/${id}`);
  }
  // whatever is listed can be opened, with every picture and mesh it names
  for (const material of await served.ask<{ id: string; maps: Record<string, { image: string }> }[]>(
    'GET',
    '/api/materials',
  ))
    for (const { image } of Object.values(material.maps)) {
      const { status } = await served.send('GET', `/api/images/${image}?size=64`);
      if (status !== 200) said(`material ${material.id} lost a picture`);
    }
  const { notices } = await served.ask<{ notices: string[] }>('GET', '/api/health');
  for (const notice of notices) said(notice);
  return faults;
}

/** A house that is kept all the time: sweeps and backups one after the other, and kills among them. */
async function killedKeepingHouse(port: number, kills: number, random: () => number): Promise<string[]> {
  const served = await new Served(port, undefined, {
    JUTE_GRID_KEEP_HOUSE_MS: '40',
    JUTE_GRID_BACKUP_HOURS: '0',
    JUTE_GRID_BACKUPS: '3',
  }).begin();
  const faults: string[] = [];
  try {
    for (let kill = 0; kill < kills; kill++) {
      const { material } = await works();
      faults.push(...(await killedDuring(served, 'keeping house', material(''), random)));
      const backups = served.left('backups').filter((name) => name.endsWith('.sqlite'));
      for (const name of backups) {
        const fault = openFault(path.join(served.data, 'backups', name));
        // the server that was begun again may have let it go just now
        if (fault && served.left('backups').includes(name)) faults.push(`the backup ${name} ${fault}`);
      }
    }
  } finally {
    await served.end();
  }
  return faults;
}

/** A folder of an earlier version, killed while it is brought up to date: at the next start all is there. */
async function killedMigrating(port: number, kills: number, random: () => number): Promise<string[]> {
  const faults: string[] = [];
  const names = Array.from({ length: 300 }, (_, n) => `Older ${n}`);
  for (let kill = 0; kill < kills; kill++) {
    const served = new Served(port);
    const raw = new Sqlite(path.join(served.data, 'jute-grid.sqlite'));
    raw.exec('create table migrations (id integer primary key, name text not null) strict');
    for (const [name, statements] of MIGRATIONS.slice(0, 1)) {
      for (const statement of statements) raw.exec(statement);
      raw.prepare('insert into migrations (name) values (?)').run(name);
    }
    const insert = raw.prepare(
      `insert into projects (id, name, document, revision, head, created, updated, deleted)
       values (?, ?, ?, 0, null, '2026-01-01', '2026-01-01', null)`,
    );
    raw.transaction(() =>
      names.forEach((name, n) => insert.run(`p${n}`, name, JSON.stringify(emptyProject(`p${n}`, name)))),
    )();
    raw.close();
    const beginning = served.begin();
    await wait(600 + random() * 900);
    await served.kill();
    await beginning.catch(() => undefined);
    await served.begin();
    const projects = await served.ask<{ name: string; damaged: boolean }[]>('GET', '/api/projects');
    if (projects.length !== names.length || projects.some((p) => p.damaged))
      faults.push(`killed while it was brought up to date: ${projects.length} of ${names.length} projects are there`);
    await served.end();
  }
  return faults;
}

/** @param options.runs of `commands` commands each, and so many kills during each kind of longer work */
export async function killOften(
  served: Served,
  { runs, commands: count, kills }: { runs: number; commands: number; kills: number },
  seed = 20261126,
): Promise<Found> {
  const random = seeded(seed);
  const faults: string[] = [];
  for (let run = 0; run < runs; run++) faults.push(...(await commands(served, count, random)));
  const project = await served.newProject('House');
  let n = 0;
  for (const [what, make] of Object.entries(await works()))
    for (let kill = 0; kill < kills; kill++, n++)
      faults.push(...(await killedDuring(served, what, make(project), random)));
  faults.push(...(await killedKeepingHouse(served.port + 20, kills, random)));
  faults.push(...(await killedMigrating(served.port + 20, kills, random)));
  n += 2 * kills;
  return { told: [`${runs} runs of ${count} commands, each killed once; ${n} kills during longer work`], faults };
}
