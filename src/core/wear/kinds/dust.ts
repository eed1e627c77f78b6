import { hashUnit } from '../../noise/tiles';
import { aboutNormal } from '../../light/trace';
import { fieldsOf } from '../../schema/fieldMakers';
import type { Vec3 } from '../../geometry/vec';
import { evenNoise, ramp } from '../noise';
import { fieldOver, type Places } from '../places';
import type { DustLayer } from '../schema';
import type { Surroundings, WearContext, WearKind } from '../types';

const make = fieldsOf<DustLayer, WearContext>();

/** Rays from each place, in rows and columns of the hemisphere. */
const RAYS = [4, 8] as const;
/** Off the face, mm. */
const OFF = 1;
/** Half of what one could see is hidden in the corner of two walls; a little less is a corner as well. */
const CORNER = 0.4;

export const dust: WearKind<DustLayer> = {
  kind: 'dust',
  label: 'Dust',
  hint: 'In corners, and on what faces up',
  first: {
    kind: 'dust',
    on: true,
    strength: 0.5,
    colour: '#b9b2a4',
    roughness: 1,
    reliefMm: 0,
    reachMm: 300,
    corners: 0.9,
    ledges: 0.2,
  },
  fields: [
    make.length('Reach', 'reachMm', { min: 10, max: 5000, step: 10 }),
    make.share('Corners', 'corners'),
    { ...make.share('Ledges', 'ledges'), further: true },
  ],
  asksAround: true,
  finest: ({ reachMm }) => reachMm / 16,
  words: ({ reachMm }, length) => `dust within ${length(reachMm)} of corners`,
  open({ reachMm, corners, ledges }, { places, surroundings, finestMm }) {
    const at = places(Math.max(finestMm, reachMm / 8));
    const hidden = fieldOver(at, (n) => (surroundings ? hiddenShare(at, n, surroundings, reachMm) : 0));
    const up = fieldOver(at, (n) => Math.max(0, at.normal[n * 3 + 1]) ** 2);
    return (x, y) => {
      // heaps and gaps: nothing gathers evenly
      const uneven = 0.55 + 0.9 * evenNoise(x, y, reachMm * 0.8, finestMm, 7);
      return Math.min(1, (corners * ramp(0, CORNER, hidden(x, y)) + ledges * up(x, y)) * uneven);
    };
  },
};

/** How much of what a place could see is hidden by what is nearer than `reachMm`, the nearer the more. */
function hiddenShare(places: Places, n: number, around: Surroundings, reachMm: number): number {
  const normal: Vec3 = [places.normal[n * 3], places.normal[n * 3 + 1], places.normal[n * 3 + 2]];
  const from = [0, 1, 2].map((c) => places.at[n * 3 + c] + normal[c] * OFF) as Vec3;
  const [rows, columns] = RAYS;
  let hidden = 0;
  const cast = ([r, c]: readonly [number, number]) => {
    const u = (r + hashUnit(n, r * columns + c, 31)) / rows;
    const v = (c + hashUnit(n, r * columns + c, 57)) / columns;
    const away = around.nearest(from, aboutNormal(normal, u, v), reachMm);
    if (away < reachMm) hidden += 1 - away / reachMm;
  };
  SCOUTS.forEach(cast);
  if (hidden > 0) OTHERS.forEach(cast);
  return hidden / (rows * columns);
}

const ALL = Array.from({ length: RAYS[0] * RAYS[1] }, (_, k) => [k % RAYS[0], Math.floor(k / RAYS[0])] as const);
/** One to each side, low ones: where they meet nothing nothing is near, and most of a floor needs no more. */
const isScout = ([r, c]: readonly [number, number]) => r === (c % 2 ? RAYS[0] - 1 : RAYS[0] - 2);
const SCOUTS = ALL.filter(isScout);
const OTHERS = ALL.filter((ray) => !isScout(ray));
