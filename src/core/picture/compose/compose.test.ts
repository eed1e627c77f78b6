import fc from 'fast-check';
import type { Vec2 } from '../../geometry/vec';
import { blankRaster, type Raster, WHITE } from '../raster';
import { arrangeBoards, type Arranging, type BoardSize, MOST_LAID } from './arrange';
import { cornersSeen, paintBoards } from './paint';

const plain: Arranging = {
  lay: 'cells',
  columns: 2,
  cellMm: [100, 20],
  rowMm: 300,
  jointMm: 4,
  copies: 1,
  fit: 'cut',
};
const board = (width: number, height: number, turns = 0): BoardSize => ({ size: [width, height], turns });
const arranged = (boards: BoardSize[], o: Partial<Arranging> = {}) => arrangeBoards(boards, { ...plain, ...o })!;

describe('boards are laid', () => {
  test('in cells a joint apart, half of one around them, as much of each as has room', () => {
    const made = arranged([board(110, 20), board(100, 25), board(100, 20)]);
    expect([made.widthMm, made.heightMm, made.rows, made.again]).toEqual([208, 48, 2, 1]);
    expect(made.laid.map(({ x, y }) => [x, y])).toEqual([
      [2, 2],
      [106, 2],
      [2, 26],
      [106, 26],
    ]);
    expect(made.laid.map((b) => b.board)).toEqual([0, 1, 2, 1]);
    expect(made.laid[0].seen).toEqual([100 / 110, 1]);
    expect(made.laid[1].seen).toEqual([1, 0.8]);
    expect(made.stretched).toBe(1);
  });

  test('along their cell: upright ones are turned by a quarter, those turned on by three', () => {
    const made = arranged([board(20, 100), board(20, 100, 1), board(100, 20, 1)], { columns: 3 });
    expect(made.laid.map((b) => b.turns)).toEqual([1, 3, 2]);
    const square = arranged([board(20, 20, 1), board(20, 20, 3)], { cellMm: [20, 20] });
    expect(square.laid.map((b) => b.turns)).toEqual([1, 3]);
  });

  test('four times: as they are, turned by half, flipped, both; none below its like', () => {
    const made = arranged([board(100, 20), board(100, 20)], { copies: 4 });
    expect(made.laid.map((b) => [b.turns, b.flipped])).toEqual([
      [0, false],
      [0, false],
      [2, false],
      [2, false],
      [0, true],
      [0, true],
      [2, true],
      [2, true],
    ]);
    for (const [n, one] of made.laid.entries()) expect(made.laid[n + 2]?.board).not.toBe(one.board);
  });

  test('and what is smaller than its cell is said to be made larger', () => {
    expect(arranged([board(80, 20)]).stretched).toBe(1.25);
    expect(arranged([board(80, 20)], { fit: 'whole' })).toMatchObject({ stretched: 1, laid: [{ seen: [1, 1] }, {}] });
  });

  test('no more of them than a material has leaves', () => {
    expect(arrangeBoards(Array(MOST_LAID / 2 + 1).fill(board(100, 20)), { ...plain, copies: 2 })).toBeNull();
    expect(arrangeBoards([board(0.01, 0.01)], { ...plain, lay: 'rows', jointMm: 0 })).toBeNull();
  });

  test('in rows, as long as they are, they never overlap, fill it, and end in no stub that could be helped', () => {
    const lengths = fc.array(fc.integer({ min: 30, max: 250 }), { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(lengths, fc.integer({ min: 260, max: 900 }), fc.constantFrom(0, 3, 10), (all, rowMm, jointMm) => {
        const made = arranged(
          all.map((length) => board(length, 20)),
          { lay: 'rows', rowMm, jointMm },
        );
        expect(made.laid.length).toBeGreaterThanOrEqual(all.length);
        expect(new Set(made.laid.map((b) => b.board)).size).toBe(all.length);
        for (let row = 0; row < made.rows; row++) {
          const own = made.laid.filter((b) => Math.abs(b.y - (row * (20 + jointMm) + jointMm / 2)) < 1e-9);
          let x = jointMm / 2;
          for (const b of own) {
            expect(b.x).toBeCloseTo(x, 6);
            // what is seen of a board is at its true size
            expect(b.width).toBeCloseTo(b.seen[0] * all[b.board], 6);
            x += b.width + jointMm;
          }
          // the last ends at half a joint, unless there is no room for another
          expect(x - jointMm / 2).toBeLessThan(rowMm + jointMm + 1e-6);
          expect(x - jointMm / 2).toBeGreaterThan(rowMm - jointMm - 1e-6);
          const last = own.at(-1)!;
          if (own.some((b) => b !== last && b.width >= 40)) expect(last.width).toBeGreaterThan(19.99);
        }
      }),
    );
  });
});

/** Its red rises from left to right, its green from top to bottom. */
function ramp(width: number, height: number): Raster {
  const r = blankRaster(width, height, 3);
  for (let i = 0; i < width * height; i++) {
    r.data[i * 3] = (((i % width) + 0.5) / width) * 60_000;
    r.data[i * 3 + 1] = ((Math.floor(i / width) + 0.5) / height) * 60_000;
  }
  return r;
}
const all = (r: Raster): Vec2[] => [
  [0, 0],
  [r.width, 0],
  [r.width, r.height],
  [0, r.height],
];
const noTint = { colour: [0, 0, 0], tint: 0, vary: 0, seed: 1 };
const at = (r: Raster, x: number, y: number) => [...r.data.subarray((y * r.width + x) * 3, (y * r.width + x) * 3 + 3)];

describe('boards are painted', () => {
  const of = ramp(100, 40);
  const cut = { of, corners: all(of) };
  const lain = (rest: object) => arranged([board(100, 40)], { columns: 1, cellMm: [100, 40], jointMm: 0, ...rest });

  test('as they lie in their picture where nothing is done to them', () => {
    expect(paintBoards(lain({}), [cut], 1, [1, 1, 1], noTint).data).toEqual(of.data);
  });

  test('with joints of one colour around them', () => {
    const made = paintBoards(lain({ jointMm: 4 }), [cut], 1, [1, 0, 0.5], noTint);
    expect([made.width, made.height]).toEqual([104, 44]);
    const joint = [WHITE, 0, Math.round(WHITE / 2)];
    expect([at(made, 0, 20), at(made, 1, 1), at(made, 103, 43)]).toEqual([joint, joint, joint]);
    expect(at(made, 2, 2)).toEqual(at(of, 0, 0));
    expect(at(made, 101, 41)).toEqual(at(of, 99, 39));
  });

  test('what is seen through stays so, its joints are solid, and boards of other pictures, too', () => {
    const clear = blankRaster(40, 40, 4);
    clear.data.fill(20_000);
    const solid = blankRaster(40, 40, 3);
    const two = arranged([board(40, 40), board(40, 40)], { cellMm: [40, 40], jointMm: 2 });
    const made = paintBoards(
      two,
      [clear, solid].map((of) => ({ of, corners: all(of) })),
      1,
      [0, 0, 0],
      noTint,
    );
    expect(made.channels).toBe(4);
    const opacity = (x: number, y: number) => made.data[(y * made.width + x) * 4 + 3];
    expect([opacity(0, 0), opacity(20, 20), opacity(60, 20)]).toEqual([WHITE, 20_000, WHITE]);
  });

  test('turned clockwise by quarters, then flipped', () => {
    const corner = (turns: number, flipped: boolean) =>
      cornersSeen(cut, { board: 0, x: 0, y: 0, width: 1, height: 1, turns, flipped, seen: [1, 1] })[0].map(Math.round);
    expect([0, 1, 2, 3].map((turns) => corner(turns, false))).toEqual([
      [0, 0],
      [0, 40],
      [100, 40],
      [100, 0],
    ]);
    expect([0, 2].map((turns) => corner(turns, true))).toEqual([
      [100, 0],
      [0, 40],
    ]);
  });

  test('what has no room is cut on both sides alike', () => {
    const corners = cornersSeen(cut, {
      board: 0,
      x: 0,
      y: 0,
      width: 1,
      height: 1,
      turns: 0,
      flipped: false,
      seen: [0.5, 0.8],
    });
    const wanted = [25, 4, 75, 4, 75, 36, 25, 36];
    corners.flat().forEach((v, k) => expect(v).toBeCloseTo(wanted[k], 9));
  });

  test('lighter and darker by no more than was said, otherwise for each; towards a colour their mean', () => {
    const grey = blankRaster(40, 40, 3);
    grey.data.fill(30_000);
    const two = arranged([board(40, 40), board(40, 40)], { cellMm: [40, 40], jointMm: 0 });
    const cuts = [grey, grey].map((r) => ({ of: r, corners: all(r) }));
    const varied = paintBoards(two, cuts, 1, [0, 0, 0], { ...noTint, vary: 0.2 });
    const [a, b] = [at(varied, 10, 10)[0], at(varied, 60, 10)[0]];
    expect(a).not.toBe(b);
    for (const v of [a, b]) expect(Math.abs(v / 30_000 - 1)).toBeLessThanOrEqual(0.2);
    const half = paintBoards(two, cuts, 1, [0, 0, 0], { ...noTint, tint: 0.5, colour: [1, 0, 30_000 / WHITE] });
    const wanted = [(30_000 + WHITE) / 2, 15_000, 30_000];
    at(half, 10, 10).forEach((v, c) => expect(Math.abs(v - wanted[c])).toBeLessThan(20));
  });
});
