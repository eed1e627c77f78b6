import { Box3, Data3DTexture, DataUtils, HalfFloatType, Light, LinearFilter, RGBAFormat, Vector3 } from 'three';
import { PROBE_NUMBERS, type ProbeGrid } from '@/core/light/probes';

/** Grids a shader looks at: the open sky, and the rooms that are nearest. Always as many, so that none is made anew. */
const SLOTS = 4;
/** Numbers of a place, four to a texel. */
const LAYERS = 7;

/** Light at places of a box, as three.js reads it. */
class Grid extends Light {
  readonly isLightProbeGrid = true;
  texture = atlas(new Float32Array(PROBE_NUMBERS), [1, 1, 1]);
  readonly boundingBox = new Box3();
  readonly resolution = new Vector3(1, 1, 1);

  constructor(readonly priority: number) {
    super();
    this.away();
  }

  set({ texture, grid: { box, counts } }: TracedRoom): void {
    this.texture = texture;
    this.boundingBox.min.set(...box.min);
    this.boundingBox.max.set(...box.max);
    this.resolution.set(...counts);
  }

  /** Where nothing is. */
  away(): void {
    this.boundingBox.min.setScalar(1e7);
    this.boundingBox.max.setScalar(1e7 + 1);
  }
}

/** A room's light. */
export interface TracedRoom {
  grid: ProbeGrid;
  texture: Data3DTexture;
}

/** Light that comes from all sides: of the open sky everywhere, and in the nearest rooms what reaches them. */
export class ProbeGrids {
  readonly lights = Array.from({ length: SLOTS }, (_, n) => new Grid(n));
  private rooms: TracedRoom[] = [];

  constructor() {
    this.lights[0].boundingBox.min.setScalar(-1e5);
    this.lights[0].boundingBox.max.setScalar(1e5);
  }

  /** @param harmonics of the open sky: nine of three colours */
  setSky(harmonics: Float32Array): void {
    this.lights[0].texture.dispose();
    this.lights[0].texture = atlas(harmonics, [1, 1, 1]);
  }

  setRooms(rooms: TracedRoom[]): void {
    for (const { texture } of this.rooms) if (!rooms.some((r) => r.texture === texture)) texture.dispose();
    this.rooms = rooms;
  }

  /** Lights the rooms nearest to `eye`; a smaller one wins over a larger one that reaches round it. */
  look(eye: Vector3): void {
    const away = ({ grid: { box } }: TracedRoom) =>
      new Box3(new Vector3(...box.min), new Vector3(...box.max)).distanceToPoint(eye);
    const size = ({ grid: { box } }: TracedRoom) => box.max.reduce((v, m, c) => v * (m - box.min[c]), 1);
    const nearest = [...this.rooms].sort((a, b) => away(a) - away(b)).slice(0, SLOTS - 1);
    nearest.sort((a, b) => size(b) - size(a));
    this.lights.slice(1).forEach((light, n) => (nearest[n] ? light.set(nearest[n]) : light.away()));
  }

  dispose(): void {
    this.setRooms([]);
    for (const { texture } of this.lights) texture.dispose();
  }
}

/**
 * Numbers of places as the seven layers three.js reads: four numbers to a texel, each layer with its first and last
 * slice once more, so that none bleeds into the next.
 */
export function atlas(numbers: Float32Array, [nx, ny, nz]: readonly number[]): Data3DTexture {
  const deep = nz + 2;
  const data = new Uint16Array(nx * ny * deep * LAYERS * 4);
  for (let layer = 0; layer < LAYERS; layer++)
    for (let slice = 0; slice < deep; slice++) {
      const k = Math.min(nz - 1, Math.max(0, slice - 1));
      for (let n = 0; n < nx * ny; n++) {
        const from = (k * nx * ny + n) * PROBE_NUMBERS + layer * 4;
        const to = ((layer * deep + slice) * nx * ny + n) * 4;
        for (let c = 0; c < 4 && layer * 4 + c < PROBE_NUMBERS; c++)
          data[to + c] = DataUtils.toHalfFloat(numbers[from + c]);
      }
    }
  const texture = new Data3DTexture(data, nx, ny, deep * LAYERS);
  texture.format = RGBAFormat;
  texture.type = HalfFloatType;
  texture.minFilter = texture.magFilter = LinearFilter;
  texture.needsUpdate = true;
  return texture;
}
