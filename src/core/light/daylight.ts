import { dot, type Vec3 } from '../geometry/vec';
import { cardIn, type Harmonics, harmonicsOf } from './harmonics';
import { type OwnSky, skyFromPicture, turned } from './ownSky';
import { clearSky, luminance, overcastSky, type Rgb, type Sky, sunlight, towardsSun } from './sky';

/** Where the sun stands and how clear it is. */
export interface SunPlace {
  /** Clockwise from −z, seen from above. */
  bearingDeg: number;
  altitudeDeg: number;
  /** 1 on a clear day, 0 when it is overcast; more is brighter than the sun is. */
  strength: number;
}

/** Light of one moment, outside. Radiance in the unit of `sky.ts`. */
export interface Daylight {
  sun: { towards: Vec3; light: Rgb };
  /** From every direction, what lies below the horizon with it. */
  around: Sky;
  harmonics: Harmonics;
  /** A white card outside, facing the sun but never lower than 30°: what a hand meter is held to. */
  card: Rgb;
}

/**
 * A sky as a picture, rows from straight down to straight up, columns clockwise from −x as graphics cards read them.
 * @returns width × height × 3, radiance
 */
export function panorama(around: Sky, width: number, height: number): Float32Array {
  const out = new Float32Array(width * height * 3);
  for (let row = 0; row < height; row++) {
    const up = (((row + 0.5) / height) * 2 - 1) * (Math.PI / 2);
    for (let column = 0; column < width; column++) {
      const turn = ((column + 0.5) / width) * 2 * Math.PI - Math.PI;
      const flat = Math.cos(up);
      out.set(around([Math.cos(turn) * flat, Math.sin(up), Math.sin(turn) * flat]), (row * width + column) * 3);
    }
  }
  return out;
}

/** A sky read from its picture, the nearest place of it: what is asked a million times. */
export function skyOf(picture: Float32Array, width: number, height: number): Sky {
  return ([x, y, z]) => {
    const column = Math.min(width - 1, Math.floor((Math.atan2(z, x) / (2 * Math.PI) + 0.5) * width));
    const up = Math.asin(Math.min(1, Math.max(-1, y)));
    const row = Math.min(height - 1, Math.floor((up / Math.PI + 0.5) * height));
    const at = (row * width + column) * 3;
    return [picture[at], picture[at + 1], picture[at + 2]];
  };
}

/** How much plain ground, or water seen from afar, sends back. */
export const GROUND: Rgb = [0.2, 0.19, 0.165];
export const WATER: Rgb = [0.035, 0.05, 0.055];

const mix = (a: Rgb, b: Rgb, t: number): Rgb => [0, 1, 2].map((c) => a[c] + (b[c] - a[c]) * t) as Rgb;

function skyOfHour({ altitudeDeg, strength }: SunPlace, towards: Vec3): Sky {
  const clear = clearSky(towards);
  const overcast = overcastSky(altitudeDeg);
  const clouds = 1 - Math.min(1, strength);
  return (d) => mix(clear(d), overcast(d), clouds);
}

/** Sun, sky and ground of a moment; or under a sky of one's own, with its own sun where it has one. */
export function daylightOf(place: SunPlace, below: 'ground' | 'water', own: OwnSky | null = null): Daylight {
  const { strength } = place;
  const [towards, light] = own?.sun
    ? [turned(own.sun.towards, own.turnDeg), own.sun.light.map((v) => v * own.gain * strength) as Rgb]
    : [towardsSun(place.bearingDeg, place.altitudeDeg), sunlight(place.altitudeDeg).map((v) => v * strength) as Rgb];
  const sky = own ? skyFromPicture(own.picture, own.turnDeg, own.gain) : skyOfHour(place, towards);
  // the ground gives back what falls on it level, and is lost in haze towards the horizon
  const up = harmonicsOf((d) => (d[1] > 0 ? sky(d) : [0, 0, 0]), 24);
  const level = cardIn(up, [0, 1, 0]).map((v, c) => v + (light[c] / Math.PI) * Math.max(0, towards[1])) as Rgb;
  const back = (below === 'water' ? WATER : GROUND).map((k, c) => k * level[c]) as Rgb;
  const around: Sky = (d) => {
    if (d[1] >= 0) return sky(d);
    const rim = sky([d[0], 0, d[2]]);
    return mix(rim, back, 1 - Math.exp(d[1] * 30));
  };
  const harmonics = harmonicsOf(around);
  const altitudeDeg = Math.asin(Math.min(1, Math.max(-1, towards[1]))) * (180 / Math.PI);
  const faced = Math.max(altitudeDeg, 30) * (Math.PI / 180);
  const flat = Math.hypot(towards[0], towards[2]) || 1;
  const facing: Vec3 = [(towards[0] / flat) * Math.cos(faced), Math.sin(faced), (towards[2] / flat) * Math.cos(faced)];
  const falls = Math.max(0, dot(facing, towards)) / Math.PI;
  const card = cardIn(harmonics, facing).map((v, c) => v + light[c] * falls) as Rgb;
  return { sun: { towards, light }, around, harmonics, card };
}

let film: Rgb | null = null;
/** What film for daylight takes for white: a card in the afternoon of a clear day; of lightness 1. */
export function daylightWhite(): Rgb {
  return (film ??= whiteOf(daylightOf({ bearingDeg: 0, altitudeDeg: 40, strength: 1 }, 'ground').card));
}

/** The colour of a light, of lightness 1. */
export const whiteOf = (light: Rgb): Rgb => {
  const l = Math.max(1e-9, luminance(light));
  return light.map((v) => Math.max(1e-3, v / l)) as Rgb;
};
