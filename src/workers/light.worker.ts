/** Traces how light comes into rooms. */
import { expose, transfer } from 'comlink';
import { type Daylight, daylightOf, panorama, skyOf, type SunPlace } from '../core/light/daylight';
import { type ProbeGrid, traceProbes } from '../core/light/probes';
import type { Rgb } from '../core/light/sky';
import type { Lamp } from '../core/light/trace';
import { BvhScene, type LitPart } from './bvhScene';

/** The sky as it is looked up by rays. */
const SKY = [256, 128] as const;
/** Something else may be asked after so long, ms. */
const GOES_ON_MS = 30;
const RAYS = 160;

let scene: BvhScene | null = null;
let daylight: Daylight | null = null;
let lamps: readonly Lamp[] = [];
/** What is traced for an older round is given up. */
let round = 0;

const service = {
  /** The scene from now on. */
  open(parts: LitPart[]): void {
    round++;
    scene = new BvhScene(parts);
  },

  recolour(looks: { albedo: Rgb; glow: Rgb }[]): void {
    round++;
    scene?.recolour(looks);
  },

  light(sun: SunPlace, below: 'ground' | 'water', shining: Lamp[]): void {
    round++;
    const exact = daylightOf(sun, below);
    daylight = { ...exact, around: skyOf(panorama(exact.around, ...SKY), ...SKY) };
    lamps = shining;
  },

  /** Light at the places of a grid; null when something changed meanwhile. */
  async trace(grid: ProbeGrid): Promise<Float32Array | null> {
    const mine = round;
    if (!scene || !daylight) return null;
    let rested = performance.now();
    try {
      const numbers = await traceProbes(scene, { daylight, lamps }, grid, RAYS, async () => {
        if (performance.now() - rested < GOES_ON_MS) return;
        await new Promise((resolve) => setTimeout(resolve));
        rested = performance.now();
        if (mine !== round) throw new GivenUp();
      });
      return transfer(numbers, [numbers.buffer]);
    } catch (error) {
      if (error instanceof GivenUp) return null;
      throw error;
    }
  },
};

class GivenUp extends Error {}

export type LightService = typeof service;
expose(service);
