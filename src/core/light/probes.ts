import type { Box3, Vec3 } from '../geometry/vec';
import { hash, unit } from '../noise/hash';
import { basisOf, type Harmonics } from './harmonics';
import { lightAlong, type Lights, type LitScene } from './trace';

/** Places evenly in a box, each in the middle of a cell of its own. Metres. */
export interface ProbeGrid {
  box: Box3;
  /** Along x, y, z; place (i, j, k) is number (k · ny + j) · nx + i. */
  counts: Vec3;
}

/** Numbers a place has: nine harmonics of three colours. */
export const PROBE_NUMBERS = 27;
/** What is reflected more often than this adds little. */
const BOUNCES = 3;
/** A window makes higher bands swing below nothing on the wall beside it; they are damped (Sloan 2008, by sinc). */
const CALM = [1, 0.9, 0.9, 0.9, 0.64, 0.64, 0.64, 0.64, 0.64];
/** A place from which so many faces are seen from behind lies in a wall, share. */
const IN_A_WALL = 0.3;

/** A grid for a room: places about so far apart, more thinly in a large one. */
export function planProbes(box: Box3, apart = 1, most = 480): ProbeGrid {
  const sides = [0, 1, 2].map((c) => Math.max(0.1, box.max[c] - box.min[c]));
  const counts = (step: number) => sides.map((s) => Math.max(2, Math.round(s / step))) as Vec3;
  let step = apart;
  while (counts(step).reduce((a, b) => a * b) > most) step *= 1.15;
  return { box, counts: counts(step) };
}

/** Where place (i, j, k) is. */
export const probeAt = ({ box, counts }: ProbeGrid, at: readonly number[]): Vec3 =>
  [0, 1, 2].map((c) => box.min[c] + ((at[c] + 0.5) / counts[c]) * (box.max[c] - box.min[c])) as Vec3;

/**
 * Light that comes to a place from all sides, sun and lamps themselves left out: they are drawn apart.
 * @param seed the same seed sends the same rays
 */
export function probeLight(
  scene: LitScene,
  lights: Lights,
  at: Vec3,
  rays: number,
  seed: number,
): { harmonics: Harmonics; inWall: boolean } {
  const harmonics: Harmonics = Array.from({ length: 9 }, () => [0, 0, 0]);
  const weight = (4 * Math.PI) / rays;
  const turned = unit(hash(seed, 0, 0, 7)) * 2 * Math.PI;
  let behind = 0;
  for (let n = 0; n < rays; n++) {
    // a spiral of equal steps over the sphere
    const y = 1 - (2 * (n + 0.5)) / rays;
    const flat = Math.sqrt(1 - y * y);
    const turn = n * Math.PI * (3 - Math.sqrt(5)) + turned;
    const direction: Vec3 = [flat * Math.cos(turn), y, flat * Math.sin(turn)];
    const { light, first } = lightAlong(scene, lights, at, direction, BOUNCES, hash(seed, n, 0, 3));
    if (first?.back) {
      behind++;
      continue;
    }
    basisOf(direction).forEach((b, i) => {
      for (let c = 0; c < 3; c++) harmonics[i][c] += b * light[c] * weight * CALM[i];
    });
  }
  return { harmonics, inWall: behind > IN_A_WALL * rays };
}

/**
 * Light at every place of a grid; what lies in a wall takes over from its neighbours.
 * @param step called after each place with the share done; a promise is waited for
 * @returns `PROBE_NUMBERS` for each place: harmonic by harmonic, red, green, blue
 */
export async function traceProbes(
  scene: LitScene,
  lights: Lights,
  grid: ProbeGrid,
  rays: number,
  step?: (share: number) => Promise<void> | void,
): Promise<Float32Array> {
  const [nx, ny, nz] = grid.counts;
  const count = nx * ny * nz;
  const out = new Float32Array(count * PROBE_NUMBERS);
  const known = new Uint8Array(count);
  for (let n = 0; n < count; n++) {
    const at = probeAt(grid, [n % nx, Math.floor(n / nx) % ny, Math.floor(n / (nx * ny))]);
    const { harmonics, inWall } = probeLight(scene, lights, at, rays, n);
    if (!inWall) {
      known[n] = 1;
      out.set(harmonics.flat(), n * PROBE_NUMBERS);
    }
    await step?.((n + 1) / count);
  }
  spread(out, known, grid.counts);
  return out;
}

/** Gives places without light the mean of their neighbours', from the known ones outwards. */
function spread(out: Float32Array, known: Uint8Array, [nx, ny, nz]: Vec3): void {
  for (let left = true; left;) {
    left = false;
    const found: number[] = [];
    for (let n = 0; n < known.length; n++) {
      if (known[n]) continue;
      const [i, j, k] = [n % nx, Math.floor(n / nx) % ny, Math.floor(n / (nx * ny))];
      const beside = [
        i > 0 ? n - 1 : -1,
        i < nx - 1 ? n + 1 : -1,
        j > 0 ? n - nx : -1,
        j < ny - 1 ? n + nx : -1,
        k > 0 ? n - nx * ny : -1,
        k < nz - 1 ? n + nx * ny : -1,
      ].filter((b) => b >= 0 && known[b]);
      if (!beside.length) continue;
      for (let v = 0; v < PROBE_NUMBERS; v++)
        out[n * PROBE_NUMBERS + v] = beside.reduce((sum, b) => sum + out[b * PROBE_NUMBERS + v], 0) / beside.length;
      found.push(n);
      left = true;
    }
    for (const n of found) known[n] = 1;
  }
}
