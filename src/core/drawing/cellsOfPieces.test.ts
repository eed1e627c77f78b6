import { areaOf } from './examine';
import { cellsOfPieces } from './cellsOfPieces';
import { overlapOf } from '../testing/overlap';

const box = (x: number, y: number, w: number, h: number) => [x, y, x + w, y, x + w, y + h, x, y + h];
const shape = (corners: number[]) => ({ corners, role: 'tile', name: 'a' });

/** Cells of one repeat and their copies lie beside one another and leave nothing free. */
function checkTiling(cells: number[][], right: [number, number], up: [number, number]) {
  const repeat = right[0] * up[1] - right[1] * up[0];
  expect(cells.reduce((sum, c) => sum + areaOf(c), 0)).toBeCloseTo(repeat, 3);
  for (const [k, cell] of cells.entries())
    for (let j = -2; j <= 2; j++)
      for (let i = -2; i <= 2; i++)
        for (const [m, other] of cells.entries()) {
          if (m === k && !i && !j) continue;
          const [dx, dy] = [i * right[0] + j * up[0], i * right[1] + j * up[1]];
          const lies = other.map((v, c) => v + (c & 1 ? dy : dx));
          expect(overlapOf(cell, lies)).toBeLessThan(0.02);
        }
}

test('between parallel sides the cell ends in the middle of the joint, in few corners', () => {
  const cells = cellsOfPieces([shape(box(5, 5, 190, 90))], { right: [200, 0], up: [0, 100] }, 10)!;
  expect(cells).toHaveLength(1);
  expect(areaOf(cells[0])).toBeCloseTo(20000, 6);
  expect(cells[0].length / 2).toBeLessThanOrEqual(16);
  checkTiling(cells, [200, 0], [0, 100]);
});

test('a bond, an insert in a pocket, and rounds', () => {
  const circle = (cx: number, cy: number, r: number, n = 48) =>
    Array.from({ length: n }, (_, k) => [
      cx + r * Math.cos((2 * Math.PI * k) / n),
      cy + r * Math.sin((2 * Math.PI * k) / n),
    ]).flat();
  const ell = [0, 0, 300, 0, 300, 140, 140, 140, 140, 300, 0, 300];
  for (const [shapes, right, up, joint] of [
    [[shape(box(0, 0, 200, 60))], [210, 0], [105, 70], 10],
    [[shape(ell), shape(box(150, 150, 150, 150))], [310, 0], [0, 310], 10],
    [[shape(circle(0, 0, 40))], [86, 0], [43, 74.5], 6],
    [[shape(circle(50, 50, 30)), shape([0, 0, 100, 0, 100, 12, 0, 12])], [103, 0], [0, 104], 3],
  ] as const) {
    const cells = cellsOfPieces(shapes, { right: [...right], up: [...up] }, joint)!;
    expect(cells).toHaveLength(shapes.length);
    checkTiling(cells, [...right], [...up]);
  }
});
