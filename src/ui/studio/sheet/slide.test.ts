import { liesInPieces, type Spec } from '@/core/specification/schema';
import { laidSpec, oak, rectangle, wallMesh, wallSheet } from '@/core/testing/surfaces';
import { slide } from './slide';

const sheet = wallSheet(wallMesh([rectangle(2600, 2400)]));
const bricks = laidSpec({
  layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
  joint: 10,
  start: [30, 10],
});
const { pieces: _pieces, ...whole } = bricks;
const on = (spec: Spec) => ({
  spec,
  material: oak({ widthMm: 900, heightMm: 700 }),
  sheet,
  origin: [0, 0, 0] as [number, number, number],
});

test('a drag moves the start by what the hand moved, to a round value', () => {
  // 4 px of 3 mm: 10 mm are the roundest step
  const { xMm, yMm, guides } = slide(
    on(whole),
    [
      [500, 500],
      [643, 611],
    ],
    3,
    false,
  );
  expect([xMm, yMm, guides]).toEqual([170, 120, [null, null]]);
});

test('free, it lands where the hand is', () => {
  const { xMm, yMm } = slide(
    on(whole),
    [
      [500, 500],
      [643.25, 611.5],
    ],
    3,
    true,
  );
  expect([xMm, yMm]).toEqual([173.25, 121.5]);
});

test('near an edge or the middle, a line of the picture lands on it', () => {
  // 1730 from the left, a repeat of 900 ends 4 mm short of the right edge at 2600
  const { xMm, guides } = slide(
    on(whole),
    [
      [0, 0],
      [766, 0],
    ],
    1,
    false,
  );
  expect([xMm, guides[0]]).toEqual([800, 2600]);
});

test('in pieces it is a piece and its joint that land', () => {
  expect(liesInPieces(bricks)).toBe(true);
  // 11 pitches of 225 are 2475: what begins at 125 ends on the right edge
  const { xMm, guides } = slide(
    on(bricks),
    [
      [0, 0],
      [93, 0],
    ],
    1,
    false,
  );
  expect([xMm, guides[0]]).toEqual([125, 2600]);
  expect(
    slide(
      on(bricks),
      [
        [0, 0],
        [93, 0],
      ],
      1,
      true,
    ).xMm,
  ).toBe(123);
});
