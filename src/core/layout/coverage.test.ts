import fc from 'fast-check';
import { pieceShare } from './coverage';
import { HEXAGON_FLAT_UP, HEXAGON_POINT_UP, type Module, RECTANGLE } from './modules';

/** Share of a stretch that lies on pieces, by looking at many points of it; rectangles are pieces both ways. */
function supersampled(isPiece: (x: number) => boolean, x: number, f: number, n = 4000): number {
  let hits = 0;
  for (let i = 0; i < n; i++) if (isPiece(x + ((i + 0.5) / n - 0.5) * f)) hits++;
  return hits / n;
}

describe('how much of a footprint is piece', () => {
  test('rectangles: exactly what a supersampled picture shows, at any distance', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 20, max: 300 }),
        fc.integer({ min: 20, max: 120 }),
        fc.integer({ min: 0, max: 20 }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: 0.5, max: 900, noNaN: true }),
        (length, width, joint, u, v, footprint) => {
          const [h, w] = [length / 2, width / 2];
          const [px, py] = [length + joint, width + joint];
          const near = (value: number, pitch: number) => value - Math.round(value / pitch) * pitch;
          const [x, y] = [(u * px) / 2, (v * py) / 2];
          const across = supersampled((at) => Math.abs(near(at, px)) <= h, x, footprint);
          const up = supersampled((at) => Math.abs(near(at, py)) <= w, y, footprint);
          const inset = [joint / 2, joint / 2] as const;
          const share = pieceShare(RECTANGLE.coverage, x, y, [h, w], inset, [footprint, footprint]);
          expect(Math.abs(share - across * up)).toBeLessThan(0.003);
        },
      ),
      { numRuns: 60 },
    );
  });

  const cases: [string, Module][] = [
    ['a corner up', HEXAGON_POINT_UP],
    ['a flat side up', HEXAGON_FLAT_UP],
  ];
  test.each(cases)('hexagons with %s: near by, at the joint, and from far away', (_name, hexagon) => {
    const [flats, joint] = [200, 6];
    const corners = (2 * flats) / Math.sqrt(3);
    const flat = hexagon === HEXAGON_FLAT_UP;
    const half: [number, number] = flat ? [corners / 2, flats / 2] : [flats / 2, corners / 2];
    const inset: [number, number] = flat ? [joint / Math.sqrt(3), joint / 2] : [joint / 2, joint / Math.sqrt(3)];
    const at = (l: number, w: number, f: number) => pieceShare(hexagon.coverage, l, w, half, inset, [f, f]);
    expect(at(0, 0, 1)).toBe(1);
    // the middle of the joint along the flat direction
    const out = flats / 2 + joint / 2;
    expect(flat ? at(0, out, 1) : at(out, 0, 1)).toBe(0);
    // on the very edge half of a small footprint is piece
    expect(flat ? at(0, flats / 2, 2) : at(flats / 2, 0, 2)).toBeCloseTo(0.5, 6);
    // far away all footprints show the share of the area
    const share = (flats / (flats + joint)) ** 2;
    for (const l of [0, 40, 90]) expect(at(l, l / 3, 900)).toBeCloseTo(share, 6);
  });

  test('without a footprint it is one or the other', () => {
    expect(pieceShare(RECTANGLE.coverage, 49.9, 0, [50, 20], [2, 2], [0, 0])).toBe(1);
    expect(pieceShare(RECTANGLE.coverage, 50.1, 0, [50, 20], [2, 2], [0, 0])).toBe(0);
    expect(pieceShare(HEXAGON_POINT_UP.coverage, 99, 0, [100, 115], [2, 2], [0, 0])).toBe(1);
    expect(pieceShare(HEXAGON_POINT_UP.coverage, 101, 0, [100, 115], [2, 2], [0, 0])).toBe(0);
  });

  test('modules cover the share of their rectangle that they say', () => {
    for (const { corners, share } of [RECTANGLE, HEXAGON_POINT_UP, HEXAGON_FLAT_UP]) {
      let twice = 0;
      for (let k = 0; k < corners.length; k += 2) {
        const n = (k + 2) % corners.length;
        twice += corners[k] * corners[n + 1] - corners[n] * corners[k + 1];
      }
      // half sides of one make a rectangle of four
      expect(twice / 2 / 4).toBeCloseTo(share, 9);
    }
  });
});
