import { sampleRaster } from '../pictures';
import { fieldsOf } from '../../schema/fieldMakers';
import { evenNoise, ramp } from '../noise';
import type { DirtLayer } from '../schema';
import type { WearContext, WearKind } from '../types';

const make = fieldsOf<DirtLayer, WearContext>();

export const dirt: WearKind<DirtLayer> = {
  kind: 'dirt',
  label: 'Dirt',
  hint: 'Broad patches over all pieces',
  first: {
    kind: 'dirt',
    on: true,
    strength: 0.45,
    colour: '#5c5142',
    roughness: 0.92,
    reliefMm: 0,
    sizeMm: 1400,
    share: 0.4,
    softness: 0.6,
    seed: 1,
  },
  fields: [
    make.length('Patches', 'sizeMm', { min: 5, max: 100_000, step: 50 }),
    make.share('Covers', 'share'),
    { ...make.share('Softness', 'softness'), further: true },
    { ...make.number('Other patches', 'seed', { min: 0, max: 2 ** 31 - 1, step: 1 }), integer: true, further: true },
    {
      kind: 'choice',
      label: 'Pattern',
      further: true,
      optionsFor: (_, { patterns }) => [['', 'noise'], ...patterns],
      get: ({ pattern }) => pattern ?? '',
      set: ({ pattern: _before, ...rest }, id) => (id ? { ...rest, pattern: id } : rest),
    },
  ] as WearKind<DirtLayer>['fields'],
  asksAround: false,
  finest: ({ sizeMm }) => sizeMm / 100,
  words: ({ share, sizeMm }, length) => `dirt over ${Math.round(share * 100)}% in patches of ${length(sizeMm)}`,
  open({ sizeMm, share, softness, seed, pattern }, { finestMm, picture }) {
    const half = 0.02 + 0.48 * softness;
    const edge = 1 + half - share * (1 + 2 * half);
    const cover = (v: number) => ramp(edge - half, edge + half, v);
    const from = pattern ? picture(pattern) : undefined;
    if (!from) return (x, y) => cover(evenNoise(x, y, sizeMm, finestMm, seed));
    // as large as it is said to be, whatever the material's own size
    const heightMm = (sizeMm * from.heightMm) / from.widthMm;
    const out: [number, number, number, number] = [0, 0, 0, 0];
    const seeThrough = from.raster.channels === 4;
    return (x, y) => {
      sampleRaster(from.raster, x / sizeMm, y / heightMm, finestMm / sizeMm, true, out);
      return cover(seeThrough ? out[3] : 1 - Math.sqrt(0.2126 * out[0] + 0.7152 * out[1] + 0.0722 * out[2]));
    };
  },
};
