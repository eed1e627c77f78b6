import { spawnSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import path from 'node:path';

/** A data folder with the library and the demo, which every worker's server copies. */
export const SEEDED = path.resolve('tmp/e2e-seeded');

export default function seed(): void {
  rmSync(SEEDED, { recursive: true, force: true });
  const { status } = spawnSync(process.execPath, ['dist/seed.mjs'], {
    env: { ...process.env, JUTE_GRID_DATA: SEEDED },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  if (status !== 0) throw new Error('the demo could not be seeded');
}
