import type { Command } from '@/core/project/commands';
import { makeGlb } from '@/core/testing/fixtures';
import { ask, residentMb, serveModel, type Served, stop } from './served';
import { type Measured, measureExport } from './api';
import { wallSpec } from './building';

/** Quads along a side: a million triangles in all. */
const SIDE = 708;
/** Side of the whole, m: seventy-four thousand bricks. */
const METRES = 35.47;

/** A field that rises and falls a little, so that nothing of it is level and all of it is one surface. */
function fieldTriangles(): number[] {
  const out: number[] = [];
  const at = (i: number, k: number) => {
    const [x, z] = [(i / SIDE) * METRES, (k / SIDE) * METRES];
    out.push(x, 0.3 * Math.sin(x * 0.6) * Math.cos(z * 0.45), z);
  };
  for (let i = 0; i < SIDE; i++) {
    for (let k = 0; k < SIDE; k++) {
      at(i, k);
      at(i, k + 1);
      at(i + 1, k + 1);
      at(i, k);
      at(i + 1, k + 1);
      at(i + 1, k);
    }
  }
  return out;
}

const layField: Parameters<typeof serveModel>[1] = ({ surfaces }, brick, board): Command => ({
  kind: 'setSpecs',
  specs: Object.fromEntries(
    Object.keys(surfaces).map((id) => [id, { ...wallSpec(brick.id), mapping: { kind: 'flat', direction: 'auto' } }]),
  ),
  materials: [brick, board],
});

/** One surface of a million triangles: its sheet, its pieces, its export, and the memory they take. */
export async function measureMillion(): Promise<Measured> {
  const served: Served = await serveModel(await makeGlb([{ name: 'Field', triangles: fieldTriangles() }]), layField);
  try {
    const ids = Object.keys(served.project.surfaces);
    if (ids.length !== 1) throw new Error(`the field came in as ${ids.length} surfaces`);
    const of = `${served.url}/api/projects/${served.id}/surfaces/${ids[0]}`;
    const timed = async <T>(work: () => Promise<T>): Promise<[T, number]> => {
      const start = performance.now();
      return [await work(), performance.now() - start];
    };
    const imported = residentMb(served);
    let most = imported;
    const watch = setInterval(() => (most = Math.max(most, residentMb(served))), 50);
    const [, sheet] = await timed(() => ask(`${of}/sheet`));
    const [{ summary }, pieces] = await timed(() => ask<{ summary: { pieces: number } }>(`${of}/pieces`));
    clearInterval(watch);
    return {
      'MB resident after the import': imported,
      'sheet, ms': sheet,
      'pieces, ms': pieces,
      'pieces, count': summary.pieces,
      'sheet and pieces, MB resident at most': most,
      ...(await measureExport(served)),
    };
  } finally {
    await stop(served);
  }
}
