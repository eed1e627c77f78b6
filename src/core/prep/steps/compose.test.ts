import { faultOfLeaves, leafPlaces } from '../../material/leaves';
import type { Material } from '../../material/schema';
import { findPieces } from '../../picture/pieces';
import { blankRaster, type Raster, WHITE } from '../../picture/raster';
import { resize } from '../../picture/resize';
import { laidGround } from '../../testing/grounds';
import { oak } from '../../testing/surfaces';
import { photograph, WALLS } from '../../testing/walls';
import { judgeStage } from '../judge';
import { mapsOf, MAP_PRESETS } from '../maps';
import { picturesOf, runSteps } from '../run';
import { boardAt, boardsOfMaterial, renewed, withBoards } from './boards';
import type { Board } from './compose';
import { type Step, type StepKind, type StepOf, stepOf } from './registry';

const step = (kind: StepKind, rest: object = {}, id: string = kind) =>
  ({ id, on: true, mask: null, ...stepOf({ kind }).first, ...rest }) as unknown as Step;
const composing = (boards: Board[], rest: object = {}) =>
  step('compose', { boards, insetMm: 0, vary: 0, lengthMm: 40, heightMm: 20, ...rest }) as StepOf<'compose'>;

/** 80 × 60 mm, a pixel for each; every place has its own colour. */
const picture = blankRaster(80, 60, 3);
for (let i = 0; i < 80 * 60; i++) {
  picture.data[i * 3] = (i % 80) * 700;
  picture.data[i * 3 + 1] = Math.floor(i / 80) * 900;
}
const run = (steps: Step[], rest: Parameters<typeof runSteps>[3] = {}) => runSteps(picture, 25.4, steps, rest);
const left = boardAt({ x: 0, y: 0, width: 0.5, height: 1 / 3 });
const right = boardAt({ x: 0.5, y: 1 / 3, width: 0.5, height: 1 / 3 });
const pixel = (r: Raster, x: number, y: number) => [
  ...r.data.subarray((y * r.width + x) * 3, (y * r.width + x) * 3 + 2),
];

test('boards of a picture lie side by side at their true size, and are its leaves', () => {
  const { stage, remarks } = run([composing([left, right], { jointMm: 2 })]);
  const { raster, mmPerPx, leaves } = stage;
  expect([raster.width * mmPerPx![0], raster.height * mmPerPx![1]]).toEqual([84, 22]);
  expect(pixel(raster, 1, 1)).toEqual(pixel(picture, 0, 0));
  expect(pixel(raster, 43, 1)).toEqual(pixel(picture, 40, 20));
  expect(leaves).toEqual({ columns: 2, rows: 1, insetMm: 1 });
  expect(remarks).toEqual([]);
});

test('they follow what is done to the picture before them, and lose nothing of what is done after', () => {
  const red = step(
    'heal',
    { strokes: [{ kind: 'paint', points: [[0.25, 0.17]], radius: 0.05, hardness: 1, opacity: 1, colour: '#ff0000' }] },
    'mend',
  );
  const mended = run([red, composing([left, right], { jointMm: 0 })]).stage;
  expect(pixel(mended.raster, 20, 10)[0]).toBe(WHITE);
  const later = run([composing([left, right]), step('colour', { exposure: 0.5 })]);
  expect(later.stage.leaves).toEqual({ columns: 2, rows: 1, insetMm: 2 });
  expect(later.remarks).toEqual([]);
});

test('what changes the picture’s size after them costs the leaves, and says so', () => {
  for (const after of [step('crop', { from: [0, 0], to: [0.5, 1] }), step('corners', { widthMm: 30, heightMm: 10 })]) {
    const { stage, remarks } = run([composing([left, right]), after]);
    expect(stage.leaves).toBeNull();
    expect(remarks.map((r) => r.text)).toEqual([expect.stringContaining('whose leaves are lost')]);
  }
  expect(run([composing([left, right]), step('resize', { to: { kind: 'powerOfTwo' } })]).stage.leaves).not.toBeNull();
});

test('boards of other pictures come at the size those have, made smaller first where they are finer', () => {
  const fine = resize(picture, 320, 240, false);
  const image = 'b'.repeat(64);
  const of = { image, material: 'm', name: 'Fine', widthMm: 80, heightMm: 60, widthPx: 320 };
  const other = boardAt({ x: 0, y: 0, width: 0.5, height: 1 / 3 }, of);
  const steps = [composing([left, other], { jointMm: 0 })];
  expect(picturesOf(steps)).toEqual([image]);
  const { raster } = run(steps, { pictures: new Map([[image, fine]]) }).stage;
  expect([raster.width, raster.height]).toEqual([80, 20]);
  for (const [x, y] of [
    [10, 5],
    [25, 12],
  ])
    pixel(raster, x + 40, y).forEach((v, c) => expect(Math.abs(v - pixel(raster, x, y)[c])).toBeLessThan(700));
  // alone they keep their own pixels
  const alone = run([composing([other], { jointMm: 0, columns: 1 })], { pictures: new Map([[image, fine]]) }).stage;
  expect([alone.raster.width, alone.raster.height]).toEqual([160, 80]);
  expect(() => run(steps)).toThrow('Compose: its picture is no longer there');
});

test('it closes within a joint, where one runs all round; measured, not believed', () => {
  const wall = photograph(laidGround({ ...WALLS[0][3], seed: 6 }), { widthPx: 800, heightPx: 600 });
  const boards = findPieces(wall).map((p) =>
    boardAt({ x: p.x / 800, y: p.y / 600, width: p.width / 800, height: p.height / 600 }),
  );
  const judged = (rest: object, ...more: Step[]) => {
    const laid = withBoards(step('compose', { jointMm: 6, ...rest }) as StepOf<'compose'>, boards, [1000, 750]);
    return judgeStage(runSteps(wall, 20.32, [laid, ...more]).stage);
  };
  expect(judged({})).toMatchObject({ framed: true, seamless: true, faults: [] });
  // without a joint bricks end where others begin
  expect(judged({ jointMm: 0 })).toMatchObject({ framed: false, seamless: false });
  const cut = step('crop', { from: [0, 0], to: [0.9, 0.93] });
  expect(judged({}, cut)).toMatchObject({ framed: false, seamless: false });
});

test('at half the size it comes out alike', () => {
  const wall = photograph(laidGround({ ...WALLS[0][3], seed: 5 }), { widthPx: 800, heightPx: 600 });
  const boards = findPieces(wall).map((p) =>
    boardAt({ x: p.x / 800, y: p.y / 600, width: p.width / 800, height: p.height / 600 }),
  );
  expect(boards.length).toBeGreaterThan(20);
  const steps = [withBoards(step('compose', { vary: 0.2, copies: 2 }) as StepOf<'compose'>, boards, [1000, 750])];
  const full = runSteps(wall, 20.32, steps).stage;
  const half = runSteps(resize(wall, 400, 300, false), 20.32, steps, { scale: 0.5 }).stage;
  expect(half.leaves).toEqual(full.leaves);
  expect(half.scale).toBeCloseTo(0.5, 2);
  const shown = resize(full.raster, half.raster.width, half.raster.height, false);
  let sum = 0;
  for (let i = 0; i < shown.data.length; i++) sum += Math.abs(shown.data[i] - half.raster.data[i]) / 257;
  // joints fall between pixels here and there
  expect(sum / shown.data.length).toBeLessThan(2.5);
  // and maps are made of it as of any picture
  expect(mapsOf(half, MAP_PRESETS[1].derived).height!.data).toHaveLength(half.raster.width * half.raster.height);
});

const wrong: [string, Board[], object, string][] = [
  [
    'crossed corners',
    [{ ...left, corners: [left.corners[0], left.corners[2], left.corners[1], left.corners[3]] }],
    {},
    'the corners of board 1 cross',
  ],
  ['no width at all', [boardAt({ x: 0.2, y: 0.2, width: 0, height: 0.5 })], {}, 'the corners of board 1 cross'],
  [
    'an inset wider than the board',
    [left],
    { insetMm: 10 },
    'board 1 is 40 mm × 20 mm, of which an inset of 10 mm leaves nothing',
  ],
  ['more boards than leaves', Array(200).fill(left), { copies: 4 }, 'more than 600 boards would be laid'],
  [
    'more pixels than are made',
    [left],
    { lengthMm: 100_000, heightMm: 1000, fit: 'cut' },
    'at most 8192 × 8192 are made',
  ],
  ['a cell of less than a pixel', [left], { lengthMm: 1, heightMm: 1, columns: 1, jointMm: 0 }, '8 at least are made'],
];
test.each(wrong)('%s: a sentence that says what would be right', (_name, boards, rest, said) => {
  expect(() => run([composing(boards, rest)])).toThrow(said);
});

test('what a row has left over is no leaf where it is too small to be one', () => {
  // square tiles of 20 mm give nothing to the last, which has 0.1 mm
  const tile = boardAt({ x: 0, y: 0, width: 0.25, height: 1 / 3 });
  const { leaves } = run([composing(Array(5).fill(tile), { lay: 'rows', rowMm: 100.1, jointMm: 0 })]).stage;
  expect(leaves!.places).toHaveLength(5);
  expect(faultOfLeaves(leaves!)).toBeNull();
});

test('a picture of no known size gives whole boards alone', () => {
  expect(() => runSteps(picture, null, [composing([left])])).toThrow('measure it first, or let whole boards');
  const { stage } = runSteps(picture, null, [composing([left, right], { fit: 'whole', jointMm: 0 })]);
  expect(stage.mmPerPx).toEqual([1, 1]);
});

test('what is filled up, and what is made larger, is said', () => {
  const remarks = run([composing([left, right, left], { lengthMm: 60 })]).remarks.map((r) => r.text);
  expect(remarks[0]).toBe('One board is laid once more to fill the last row.');
  expect(remarks[1]).toContain('The smallest board is made 50% larger');
  expect(run([composing([])]).remarks[0].text).toContain('No boards are cut out yet');
});

describe('a step with its first boards', () => {
  const blank = step('compose', { insetMm: 1 }) as StepOf<'compose'>;
  const row = (lengths: number[]) =>
    lengths.map((length, n) => boardAt({ x: 0, y: n * 0.1, width: length / 1000, height: 0.08 }));

  test('has cells as large as the smallest, where they are of one size', () => {
    expect(withBoards(blank, row([500, 505, 498]), [1000, 600])).toMatchObject({
      lay: 'cells',
      lengthMm: 496,
      heightMm: 46,
      columns: 1,
    });
  });

  test('has rows, where they are not; sizes that were set stay', () => {
    const made = withBoards(blank, row([900, 400]), [1000, 600]);
    expect(made).toMatchObject({ lay: 'rows', heightMm: 46, rowMm: 1000 });
    expect(withBoards({ ...made, rowMm: 2500 }, row([300]), [1000, 600])).toMatchObject({ lay: 'rows', rowMm: 2500 });
  });

  test('fills whole cells where the size is not known', () => {
    expect(withBoards(blank, row([500]), null)).toMatchObject({ fit: 'whole', lengthMm: blank.lengthMm });
  });
});

test('a material gives its leaves, less their inset, and all of itself where it has none', () => {
  const baseColour = { image: 'c'.repeat(64), widthPx: 800, heightPx: 400, file: 'c.png' };
  const material: Material = {
    ...oak(),
    widthMm: 1000,
    heightMm: 500,
    maps: { baseColour },
    leaves: { columns: 2, rows: 1, insetMm: 5 },
  };
  const [first, second] = boardsOfMaterial(material);
  expect(first.corners[0]).toEqual([0.005, 0.01]);
  expect(second.corners[2]).toEqual([0.995, 0.99]);
  expect(leafPlaces(material.leaves!)).toHaveLength(2);
  expect(boardsOfMaterial({ ...material, leaves: undefined })[0].corners[2]).toEqual([1, 1]);
  expect(boardsOfMaterial({ ...material, maps: {} })).toEqual([]);
  const anew = { ...material, maps: { baseColour: { ...baseColour, image: 'd'.repeat(64) } }, widthMm: 1100 };
  const now = renewed([first, left], anew);
  expect(now[0].of).toMatchObject({ image: 'd'.repeat(64), widthMm: 1100 });
  expect(now[1]).toEqual(left);
});
