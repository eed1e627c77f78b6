import type { Recipe } from './canvas';
import { brushedMetal, juteWebbing, lampGlass, woolCloth } from './cloth';
import { facingBrick, laidBrick, limePlaster, slate, stone, terrazzo } from './masonry';
import { chalkTally, tarSpot, waterStain } from './marks';
import { ropeBand, tideTable } from './prints';
import { testPicture } from './testPicture';
import { clayOctagon, glazedTile } from './tiles';
import { paintedBoard, smokedOak, tallowWalnut } from './wood';

/** Every material that comes with the application. */
export const RECIPES: Recipe[] = [
  smokedOak,
  tallowWalnut,
  facingBrick,
  laidBrick,
  glazedTile,
  terrazzo,
  clayOctagon,
  slate,
  juteWebbing,
  woolCloth,
  limePlaster,
  paintedBoard,
  brushedMetal,
  stone,
  lampGlass,
  testPicture,
  tideTable,
  ropeBand,
  waterStain,
  tarSpot,
  chalkTally,
];
