import type { Color, Vector3 } from 'three';
import type { Box3 } from '@/core/geometry/vec';
import type { SunPlace } from '@/core/light/daylight';
import type { OwnSky } from '@/core/light/ownSky';
import { planProbes } from '@/core/light/probes';
import type { Rgb } from '@/core/light/sky';
import type { Lamp } from '@/core/light/trace';
import type { LitPart } from '@/workers/bvhScene';
import type { Entry } from './entry';
import { lightService } from './lightService';
import { atlas, ProbeGrids, type TracedRoom } from './ProbeGrids';

/** What is changed again within so long is not traced yet, ms. */
const WAITS_MS = 350;
/** More faces than this are not traced: rooms are then lit as if they stood open. */
const MOST_FACES = 1_500_000;

export interface RoomLightState {
  sun: SunPlace;
  below: 'ground' | 'water';
  /** A sky of the artist's own. */
  sky: OwnSky | null;
  lamps: Lamp[];
  /** Rooms, metres as drawn. */
  rooms: Box3[];
  entries: Entry[];
  /** What an entry sends back of light, and glows with. */
  look: (entry: Entry) => { albedo: Color; glow: number };
}

/** Light that reaches into rooms, traced beside the page; until it is there, or anew, what was there stays. */
export class RoomLight {
  readonly grids = new ProbeGrids();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private shape = '';
  private traced = '';
  private round = 0;

  constructor(
    private readonly changed: () => void,
    private readonly eye: () => Vector3,
    /** Light is on its way into rooms, or has arrived. */
    private readonly tracing: (on: boolean) => void,
  ) {}

  /** What is lit and by what; `state` is asked when it is time. */
  set(key: string, state: () => RoomLightState): void {
    if (key === this.traced) return;
    this.traced = key;
    clearTimeout(this.timer);
    this.tracing(true);
    this.timer = setTimeout(() => {
      const mine = ++this.round;
      void this.trace(state(), mine).finally(() => mine === this.round && this.tracing(false));
    }, WAITS_MS);
  }

  /** No rooms, none traced. */
  clear(): void {
    clearTimeout(this.timer);
    this.traced = '';
    this.round++;
    this.grids.setRooms([]);
    this.grids.look(this.eye());
    this.tracing(false);
  }

  private async trace({ sun, below, sky, lamps, rooms, entries, look }: RoomLightState, mine: number): Promise<void> {
    const faces = entries.reduce((sum, e) => sum + (e.mesh.geometry.getIndex()?.count ?? 0) / 3, 0);
    if (faces > MOST_FACES) return this.clear();
    const service = lightService();
    const looks = entries.map((entry) => {
      const { albedo, glow } = look(entry);
      const colour: Rgb = [albedo.r, albedo.g, albedo.b];
      return { albedo: colour, glow: colour.map((v) => v * glow) as Rgb };
    });
    const shape = entries.map((e) => `${e.region.surface.id} ${e.shapeKey}`).join();
    if (shape !== this.shape) {
      await service.open(entries.map((entry, n) => partOf(entry, looks[n])));
      this.shape = shape;
    } else await service.recolour(looks);
    await service.light(sun, below, lamps, sky);
    const done: TracedRoom[] = [];
    for (const box of rooms) {
      const grid = planProbes(box);
      const numbers = mine === this.round ? await service.trace(grid) : null;
      if (!numbers || mine !== this.round) return done.forEach(({ texture }) => texture.dispose());
      done.push({ grid, texture: atlas(numbers, grid.counts) });
    }
    this.grids.setRooms(done);
    this.grids.look(this.eye());
    this.changed();
  }

  dispose(): void {
    clearTimeout(this.timer);
    this.round++;
    this.grids.dispose();
  }
}

function partOf({ mesh }: Entry, look: { albedo: Rgb; glow: Rgb }): LitPart {
  const positions = mesh.geometry.getAttribute('position').array as Float32Array;
  return { positions, indices: mesh.geometry.getIndex()!.array, matrix: mesh.matrix.toArray(), ...look };
}
