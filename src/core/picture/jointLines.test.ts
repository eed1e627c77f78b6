import { RECIPES } from '../../../demo/materials';
import { paintRecipe } from '../../../demo/materials/canvas';
import { laidGround, UNSEEN } from '../testing/grounds';
import { photograph, SQUARE, WALLS } from '../testing/walls';
import { GROUNDS } from './camera';
import { findJointLines, type JointLines } from './jointLines';
import { blankRaster, type Raster } from './raster';

/** Found joints in mm. */
function inMm(found: JointLines, mmPerPixel: number) {
  const { beds, ends } = found;
  return {
    pitch: beds.pitch * mmPerPixel,
    first: beds.first * mmPerPixel,
    width: beds.width * mmPerPixel,
    ends: ends && {
      pitch: ends.pitch * mmPerPixel,
      first: ends.first * mmPerPixel,
      shorter: ends.shorter && ends.shorter * mmPerPixel,
    },
  };
}

/** How far a place is from one of many at even distances. */
const offGrid = (at: number, pitch: number, first: number): number => {
  const turn = ((((at - first) / pitch) % 1) + 1) % 1;
  return Math.min(turn, 1 - turn) * pitch;
};

test.each(WALLS)(
  '%s: pitch within half a percent, place within a millimetre, and the bond',
  (_name, bond, shot, wall) => {
    const ground = laidGround({ ...wall, seed: 417 });
    const r = photograph(ground, shot);
    const mmPerPixel = (shot.seenMm ?? SQUARE.seenMm) / r.width;
    const found = findJointLines(r)!;
    expect(found).not.toBeNull();
    expect([found.along, found.ends?.bond]).toEqual(['x', bond]);
    const { pitch, first, width, ends } = inMm(found, mmPerPixel);
    const truth = wall.heightMm + wall.bedMm;
    expect(Math.abs(pitch / truth - 1)).toBeLessThan(0.005);
    expect(offGrid(first, truth, wall.atMm[1])).toBeLessThan(1);
    expect(Math.abs(width - wall.bedMm)).toBeLessThan(Math.max(1, wall.bedMm * 0.2));
    const long = wall.lengthMm + wall.endMm;
    expect(Math.abs(ends!.pitch / long - 1)).toBeLessThan(0.005);
    if (wall.headers) expect(Math.abs(ends!.shorter! / (wall.headers.lengthMm + wall.endMm) - 1)).toBeLessThan(0.02);
    expect(found.confidence).toBeGreaterThan(0.6);
  },
);

/** What comes with the application, as a picture. */
function painted(id: string): { r: Raster; mmPerPixel: number } {
  const recipe = RECIPES.find((m) => m.id === id)!;
  const { data, width, height } = paintRecipe({
    ...recipe,
    widthPx: 1024,
    heightPx: Math.round((1024 * recipe.heightMm) / recipe.widthMm),
  }).maps.baseColour;
  const r = blankRaster(width, height, 3);
  for (let i = 0; i < data.length; i++) r.data[i] = data[i] * 257;
  return { r, mmPerPixel: recipe.widthMm / width };
}

test.each([
  ['laid-brick', 'x', 75, 0, 'half', 225],
  ['glazed-tile', 'x', 150, 0, 'in line', 150],
  ['painted-board', 'y', 100, 0, undefined, null],
] as const)('of the built-in pictures: %s', (id, along, pitch, first, bond, long) => {
  const { r, mmPerPixel } = painted(id);
  const found = findJointLines(r)!;
  const mm = inMm(found, mmPerPixel);
  expect([found.along, found.ends?.bond]).toEqual([along, bond]);
  expect(Math.abs(mm.pitch / pitch - 1)).toBeLessThan(0.005);
  expect(offGrid(mm.first, pitch, first)).toBeLessThan(1);
  if (long) expect(Math.abs(mm.ends!.pitch / long - 1)).toBeLessThan(0.005);
});

test.each([
  'lime-plaster',
  'ferry-terrazzo',
  'wool-cloth',
  'jute-webbing',
  'harbour-slate',
  'sallow-stone',
  'brushed-metal',
])('none in what is not laid, built in: %s', (id) => {
  expect(findJointLines(painted(id).r)).toBeNull();
});

test.each(
  Object.entries({ ...GROUNDS, ...UNSEEN })
    .filter(([name]) => !['brick', 'setts', 'boards'].includes(name))
    .flatMap(([name, { ground }]) => [0, 1].map((n) => [name, n, ground] as const)),
)('none in a photograph of %s (%d)', (_name, n, ground) => {
  const shot = n ? { seenMm: 420, seed: 3 } : { seed: 8 };
  expect(findJointLines(photograph(ground, { widthPx: 800, heightPx: 600, ...shot }))).toBeNull();
});

test('boards of a photograph are courses without ends; setts are in line', () => {
  const boards = findJointLines(photograph(GROUNDS.boards.ground, {}))!;
  expect([boards.along, boards.ends]).toEqual(['x', null]);
  expect((boards.beds.pitch * 1000) / 1200).toBeCloseTo(140, 0);
  const setts = findJointLines(photograph(UNSEEN.setts.ground, {}))!;
  expect(setts.ends?.bond).toBe('in line');
  expect((setts.beds.pitch * 1000) / 1200).toBeCloseTo(100, 0);
});

test('turned by a quarter the same is found standing', () => {
  const wall = laidGround({ ...WALLS[0][3], seed: 417 });
  const found = findJointLines(
    photograph((x, y, out) => wall(y, x, out), { widthPx: 900, heightPx: 1200, seenMm: 750 }),
  )!;
  expect([found.along, found.ends?.bond]).toEqual(['y', 'half']);
  expect((found.beds.pitch * 750) / 900).toBeCloseTo(75, 0);
  expect(offGrid((found.beds.first * 750) / 900, 75, 20)).toBeLessThan(1);
});
