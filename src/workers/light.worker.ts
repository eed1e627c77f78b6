/** Traces how light comes into rooms. */
import { expose, transfer } from 'comlink';
import { type Daylight, daylightOf, panorama, skyOf, type SunPlace } from '../core/light/daylight';
import {
  type FoundSun,
  levelOf,
  type OwnSky,
  packSky,
  shrinkSky,
  type SkyPicture,
  takeOutSun,
  unpackSky,
} from '../core/light/ownSky';
import { type ProbeGrid, traceProbes } from '../core/light/probes';
import type { Rgb } from '../core/light/sky';
import type { Lamp } from '../core/light/trace';
import { BvhScene, type LitPart } from './bvhScene';
import { readSkyFile, skyOfPixels } from './readSky';

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

  light(sun: SunPlace, below: 'ground' | 'water', shining: Lamp[], own: OwnSky | null): void {
    round++;
    const exact = daylightOf(sun, below, own);
    daylight = { ...exact, around: skyOf(panorama(exact.around, ...SKY), ...SKY) };
    lamps = shining;
  },

  /** A sky file as what is kept of it, packed: see `packSky`. @throws Error with what is wrong with the file */
  async readSky(bytes: ArrayBuffer, kind: 'hdr' | 'exr'): Promise<PackedSky> {
    return packed(await readSkyFile(bytes, kind));
  },

  /** The same of plain pixels, sRGB, rows from the top. */
  packPhoto: (pixels: Uint8ClampedArray, width: number, height: number): PackedSky =>
    packed(skyOfPixels(pixels, width, height)),

  /** What was packed, its sun taken out, and as light as skies are. */
  hang(pixels: Uint8ClampedArray, width: number, height: number): HungPicture {
    const { sky, sun } = takeOutSun(unpackSky(pixels, width, height));
    return { large: sky, small: shrinkSky(sky, ...SKY), sun, gain: levelOf(sky) };
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

export interface PackedSky {
  pixels: Uint8ClampedArray<ArrayBuffer>;
  width: number;
  height: number;
}
export interface HungPicture {
  large: SkyPicture;
  small: SkyPicture;
  sun: FoundSun | null;
  gain: number;
}

/** No larger sky is kept: what is seen of it is behind everything. */
const KEPT = [1024, 512] as const;

function packed(read: SkyPicture): PackedSky {
  const sky = read.width > KEPT[0] ? shrinkSky(read, ...KEPT) : read;
  return { pixels: packSky(sky), width: sky.width * 2, height: sky.height };
}

class GivenUp extends Error {}

export type LightService = typeof service;
expose(service);
