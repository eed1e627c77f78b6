import type { SunPlace } from '../light/daylight';
import type { Rgb } from '../light/sky';
import type { Lamp } from '../light/trace';
import type { Light } from './schema';

/** A globe on a card one metre away, in the unit of `core/light`: about 2 klx, warm. */
const LAMP: Rgb = [0.065, 0.042, 0.021];
/** Lamps that shine at most: each costs at every pixel. */
export const MOST_LAMPS = 4;
/** Radiance of what glows with a strength of 1: a globe of some 1500 lm. In the unit of `core/light`. */
export const GLOW = 0.06;

/** Everything a project says of its light, with what is silent filled in. */
export const lightOf = (light: Light) => ({
  metering: light.metering ?? 'automatic',
  stops: light.stops ?? 0,
  curve: light.curve ?? 'film',
  occlusionMm: light.occlusionMm ?? 600,
  outside: light.outside ?? 'ground',
});

/** Where the sun stands as the room is drawn. */
export const sunPlace = (light: Light, northDeg: number): SunPlace => ({
  bearingDeg: (light.bearingDeg + northDeg) % 360,
  altitudeDeg: light.altitudeDeg,
  strength: light.strength,
});

/** A lamp that hangs at a place, metres. */
export const lampAt = (at: [number, number, number]): Lamp => ({ at, light: LAMP });
