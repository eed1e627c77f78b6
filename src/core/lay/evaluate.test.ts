import { exportPieces } from '../dress/exportPieces';
import type { LayoutSpec } from '../layout/schema';
import { arrangeOn, laidSpec, oak, rectangle, wallMesh, wallSheet } from '../testing/surfaces';
import { evaluateAt, pieceAt } from './evaluate';

const brick: LayoutSpec = { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false };
const mesh = wallMesh([rectangle(2000, 1000)]);
const sheet = wallSheet(mesh);

/*
 * The oracle is what is handed over: coordinates of real corners, written by other code. A point within a triangle has
 * the mean of its corners.
 */
test.each([
  ['straight', laidSpec({ layout: brick, joint: 10 })],
  [
    'turned, with prints of all kinds',
    laidSpec({
      layout: brick,
      joint: 10,
      turnDeg: 31,
      start: [37, 11],
      variation: { turnStepDeg: 90, flipAlong: true, flipAcross: true, sizePercent: { from: 80, to: 120 } },
    }),
  ],
  ['herringbone', laidSpec({ layout: { kind: 'herringbone', lengthMm: 490, widthMm: 70, strands: 1 }, joint: 4 })],
])('what lies at a point is what is handed over there: %s', (_name, spec) => {
  const arrangement = arrangeOn(spec, sheet);
  const { pieces } = exportPieces(arrangement, { tangents: false });
  const [{ dressed }] = pieces;
  const { positions, uvs, tones, indices } = dressed;
  expect(indices.length).toBeGreaterThan(300);
  for (let t = 0; t < indices.length; t += 3 * 7) {
    const corners = [0, 1, 2].map((k) => indices[t + k]);
    const mean = (list: ArrayLike<number>, width: number, c: number) =>
      corners.reduce((sum, v) => sum + list[v * width + c], 0) / 3;
    const at: [number, number] = [mean(positions, 3, 0), mean(positions, 3, 1)];
    const found = evaluateAt(arrangement, at)!;
    expect(found.u).toBeCloseTo(mean(uvs, 2, 0), 4);
    expect(found.v).toBeCloseTo(mean(uvs, 2, 1), 4);
    expect(found.gain[1]).toBeCloseTo(mean(tones!, 3, 1), 5);
    expect([found.share, found.material]).toEqual([1, 0]);
    expect(pieceAt(arrangement, at)).toEqual({
      course: found.course,
      index: found.index,
      print: found.print,
      seed: found.seed,
    });
  }
});

test('a joint is no piece, and a footprint is as much piece as it covers', () => {
  const arrangement = arrangeOn(laidSpec({ layout: brick, joint: 10 }), sheet);
  // the first course's piece runs from 0 to 65, its bed joint to 75
  expect(evaluateAt(arrangement, [100, 70])!.share).toBe(0);
  expect(evaluateAt(arrangement, [100, 30])!.share).toBe(1);
  expect(evaluateAt(arrangement, [100, 65], 4)!.share).toBeCloseTo(0.5, 6);
  expect(evaluateAt(arrangement, [100, 64], 4)!.share).toBeCloseTo(0.75, 6);
});

test('beside the surface’s cells lies nothing', () => {
  const spec = laidSpec({ layout: { kind: 'asModelled' } });
  const arrangement = arrangeOn(spec, sheet, { oak: oak() });
  expect(evaluateAt(arrangement, [-500, 500])).toBeNull();
  expect(pieceAt(arrangement, [-500, 500])).toBeNull();
});
