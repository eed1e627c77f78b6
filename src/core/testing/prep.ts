import { noGiven } from '../prep/given';
import { noMaps, type Prep } from '../prep/schema';

/** A picture in prep to which nothing was done, for tests. */
export const prepOf = (rest: Partial<Prep> = {}): Prep => ({
  id: 'prep-1',
  name: 'Plaster',
  picture: { image: 'a'.repeat(64), widthPx: 800, heightPx: 600, file: 'plaster.png' },
  pixelsPerInch: null,
  steps: [],
  derived: noMaps,
  given: noGiven,
  grain: 'none',
  leaves: null,
  source: '',
  licence: '',
  credit: '',
  material: null,
  ...rest,
});
