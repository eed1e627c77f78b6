import type { Vec3 } from '../../geometry/vec';
import { fieldsOf } from '../../schema/fieldMakers';
import { fieldOver } from '../places';
import type { BleachedLayer } from '../schema';
import type { WearContext, WearKind } from '../types';

const make = fieldsOf<BleachedLayer, WearContext>();

/** Where the sun stands over a day and a year: from its highest, and how high, degrees. */
const STANDS = [-60, -30, 0, 30, 60].flatMap((aside) => [18, 36, 54].map((high) => [aside, high] as const));
/** Places so far apart are asked, mm; at most so many of them to a side. */
const STEP = 60;
/** Off the face, mm. */
const OFF = 1;

export const bleached: WearKind<BleachedLayer> = {
  kind: 'bleached',
  label: 'Bleached',
  hint: 'By the sun, as far as it comes in',
  first: {
    kind: 'bleached',
    on: true,
    strength: 0.3,
    colour: '#efe6d2',
    roughness: 0.8,
    reliefMm: 0,
    bearingDeg: 180,
  },
  fields: [make.angle('Sun from', 'bearingDeg', { min: -360, max: 360 })],
  asksAround: true,
  finest: () => STEP / 2,
  words: ({ bearingDeg }) => `bleached by the sun from ${bearingDeg}°`,
  open({ bearingDeg }, { places, surroundings, northDeg, finestMm }) {
    const at = places(Math.max(finestMm, STEP));
    const suns = STANDS.map(([aside, high]) => towards(bearingDeg + aside + northDeg, high));
    return fieldOver(at, (n) => {
      const normal: Vec3 = [at.normal[n * 3], at.normal[n * 3 + 1], at.normal[n * 3 + 2]];
      const from = [0, 1, 2].map((c) => at.at[n * 3 + c] + normal[c] * OFF) as Vec3;
      let falls = 0;
      for (const sun of suns) {
        const cos = sun[0] * normal[0] + sun[1] * normal[1] + sun[2] * normal[2];
        if (cos > 0 && (surroundings?.nearest(from, sun) ?? Infinity) === Infinity) falls += cos;
      }
      // a face square to the middle of it all is bleached most
      return Math.min(1, falls / (MOST_FALLS * suns.length));
    });
  },
};

/** What of all stands of the sun falls on the face turned to them best, on the mean. */
const MOST_FALLS = 0.78;

/** Towards the sun; y is up, −z is 0°. */
function towards(bearingDeg: number, highDeg: number): Vec3 {
  const [b, h] = [(bearingDeg * Math.PI) / 180, (highDeg * Math.PI) / 180];
  return [Math.sin(b) * Math.cos(h), Math.sin(h), -Math.cos(b) * Math.cos(h)];
}
