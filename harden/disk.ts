import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { boxTriangles, makeGlb } from '../src/core/testing/fixtures';
import { type Answer, type Found, Served } from './server';

/** A disk that is full: each kind of writing says so and leaves nothing; when there is room again, all goes on. */

const FULL = 'filler';

export async function fillDisk(port: number): Promise<Found> {
  const at = mkdtempSync(path.join(tmpdir(), 'jute-grid-full-'));
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=48m', 'tmpfs', at]).status === 0;
  if (!mounted) {
    rmSync(at, { recursive: true, force: true });
    return { told: ['SKIPPED: no small file system can be mounted here; run it as root'], faults: [] };
  }
  const data = path.join(at, 'data');
  mkdirSync(data);
  const served = await new Served(port, data).begin();
  const faults: string[] = [];
  let filled = 0;
  const fill = () => {
    // to the last block
    for (const size of [1 << 20, 1 << 14, 4096])
      for (let n = 0; ; n++)
        try {
          const { bavail, bsize } = statfsSync(at);
          if (bavail * bsize < size) break;
          writeFileSync(path.join(at, `${FULL}-${size}-${n}-${filled++}`), Buffer.alloc(size));
        } catch {
          break;
        }
  };
  const empty = () => {
    for (const name of readdirSync(at)) if (name.startsWith(FULL)) rmSync(path.join(at, name));
  };
  try {
    const glb = await makeGlb([{ name: 'Box', triangles: boxTriangles([0, 0, 0], [1, 1, 1]) }]);
    const png = (shade: number) =>
      sharp({
        create: {
          width: 900,
          height: 900,
          channels: 3,
          background: { r: shade, g: 0, b: 0 },
          noise: { type: 'gaussian', mean: 128, sigma: 60 },
        },
      })
        .png()
        .toBuffer();
    const id = await served.newProject();
    const revision = async () => (await served.ask<{ revision: number }>('GET', `/api/projects/${id}`)).revision;
    const model = await served.drop(`/api/projects/${id}/models`, { 'box.glb': glb });
    if (model.status !== 201) faults.push(`with room the import is answered by ${model.status}`);
    const [prep] = JSON.parse((await served.drop('/api/preps', { 'a.png': await png(1) })).body) as { id: string }[];
    const job = async (answer: Answer): Promise<string> => {
      if (answer.status !== 202) return `${answer.status}`;
      const { id: of } = JSON.parse(answer.body) as { id: string };
      for (let n = 0; n < 300; n++) {
        const { state, message } = await served.ask<{ state: string; message: string }>('GET', `/api/jobs/${of}`);
        if (state !== 'running' && state !== 'queued') return `${state}: ${message}`;
        await new Promise((r) => setTimeout(r, 100));
      }
      return 'never ends';
    };
    const works: [string, () => Promise<string>][] = [
      [
        'an import',
        async () => `${(await served.drop(`/api/projects/${id}/models`, { 'box.glb': glb }, {}, 30_000)).status}`,
      ],
      ['a picture', async () => `${(await served.drop('/api/images', { 'b.png': await png(2) }, {}, 30_000)).status}`],
      [
        'a material',
        async () =>
          `${(await served.drop('/api/materials', { 'Oak_basecolor.png': await png(3) }, {}, 30_000)).status}`,
      ],
      ['a prep', async () => `${(await served.drop('/api/preps', { 'c.png': await png(4) }, {}, 30_000)).status}`],
      [
        'a material of a prep',
        async () => job(await served.json('POST', `/api/preps/${prep.id}/material`, undefined, 30_000)),
      ],
      [
        'an export',
        async () => job(await served.json('POST', `/api/projects/${id}/exports`, { format: 'glb' }, 30_000)),
      ],
      [
        'changes',
        async () => {
          let status = 200;
          for (let n = await revision(); status === 200 && n < 5000; n++)
            ({ status } = await served.json('POST', `/api/projects/${id}/changes`, {
              baseRevision: n,
              commands: [{ kind: 'setProject', name: `${n} ${'x'.repeat(150)}` }],
            }));
          return `${status}`;
        },
      ],
    ];
    const told: string[] = [];
    for (const [what, work] of works) {
      fill();
      const before = served.left('uploads').length;
      const said = await work();
      told.push(`${what}: ${said}`);
      if (!/^507$|failed: .*(disk|room|space)/i.test(said))
        faults.push(`with a full disk ${what} is answered by ${said}`);
      if (served.left('uploads').length > before) faults.push(`${what} left ${served.left('uploads').join(', ')}`);
      const reading = await served.json('GET', `/api/projects/${id}`);
      if (reading.status !== 200) faults.push(`with a full disk the project is answered by ${reading.status}`);
      empty();
      const after = await served.json('POST', `/api/projects/${id}/changes`, {
        baseRevision: await revision(),
        commands: [{ kind: 'setProject', name: what }],
      });
      if (after.status !== 200) faults.push(`with room again after ${what} a change is answered by ${after.status}`);
    }
    fill();
    const backup = spawnSync(process.execPath, ['dist/backup.mjs', path.join(at, 'copy')], {
      env: { ...process.env, JUTE_GRID_DATA: data },
      encoding: 'utf8',
    });
    told.push(`a backup: ends with ${backup.status}`);
    if (backup.status === 0) faults.push('a backup onto a full disk says that it is one');
    empty();
    return { told, faults };
  } finally {
    await served.kill();
    spawnSync('umount', [at]);
    rmSync(at, { recursive: true, force: true });
  }
}
