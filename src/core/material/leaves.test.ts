import fc from 'fast-check';
import { faultOfLeaves, leafBorders, leafNames, leafNumber, leafPlaces, LEAST_LEAF, moveLine } from './leaves';

test('even leaves, or lines of one’s own', () => {
  expect(leafBorders({ columns: 4, rows: 1, insetMm: 0 })).toEqual({ x: [0, 0.25, 0.5, 0.75, 1], y: [0, 1] });
  const own = { columns: 2, rows: 3, insetMm: 0, columnLines: [0.3], rowLines: [0.1, 0.9] };
  expect(leafBorders(own)).toEqual({ x: [0, 0.3, 1], y: [0, 0.1, 0.9, 1] });
});

test('lines that do not fit their count, or do not rise, are named', () => {
  expect(faultOfLeaves({ columns: 3, rows: 2, insetMm: 0 })).toBeNull();
  expect(faultOfLeaves({ columns: 3, rows: 1, insetMm: 0, columnLines: [0.5] })).toEqual({
    field: 'columnLines',
    detail: '“columnLines” has 1 lines; 3 columns have 2 lines between them.',
  });
  const at = (...rowLines: number[]) => faultOfLeaves({ columns: 1, rows: rowLines.length + 1, insetMm: 0, rowLines });
  expect(at(0.5, 0.4)).toEqual({
    field: 'rowLines',
    detail: '“rowLines” must rise from line to line by at least 0.002; 0.5 is followed by 0.4.',
  });
  expect(at(LEAST_LEAF / 2)?.field).toBe('rowLines');
  expect(at(1 - LEAST_LEAF / 2)?.field).toBe('rowLines');
  expect(at(0.5, 0.5 + LEAST_LEAF * 1.01)).toBeNull();
});

test('a line moves as far as its neighbours allow, and leaves stay valid', () => {
  const lines = fc
    .integer({ min: 2, max: 8 })
    .chain((columns) =>
      fc.tuple(fc.constant(columns), fc.nat(columns - 2), fc.double({ min: -1, max: 2, noNaN: true })),
    );
  fc.assert(
    fc.property(lines, ([columns, n, to]) => {
      const before = { columns, rows: columns, insetMm: 0 };
      for (const side of ['columnLines', 'rowLines'] as const) {
        const moved = moveLine(before, side, n, to);
        expect(faultOfLeaves(moved)).toBeNull();
        const even = leafBorders(before).x.slice(1, -1);
        moved[side]!.forEach((v, k) => k !== n && expect(v).toBe(even[k]));
        if (to > (n + 0.1) / columns && to < (n + 1.9) / columns) expect(moved[side]![n]).toBe(to);
      }
    }),
  );
});

describe('leaves that lie in no grid', () => {
  const places = [
    { x: 0, y: 0, width: 0.3, height: 0.2 },
    { x: 0.35, y: 0, width: 0.6, height: 0.2 },
    { x: 0.1, y: 0.25, width: 0.5, height: 0.7 },
  ];
  const free = { columns: 4, rows: 4, insetMm: 1, places };

  test('are those that were placed, and are named in one row', () => {
    expect(leafPlaces(free)).toEqual(places);
    expect(leafNames(free)).toEqual([0, 1, 2].map((column) => ({ column, row: 0 })));
    expect([0, 2, 9].map((column) => leafNumber(free, { column, row: 3 }))).toEqual([0, 2, 2]);
  });

  test('those of a grid lie row by row, and fill the picture', () => {
    const grid = { columns: 3, rows: 2, insetMm: 1, columnLines: [0.2, 0.5] };
    const all = leafPlaces(grid);
    expect(all.reduce((sum, { width, height }) => sum + width * height, 0)).toBeCloseTo(1, 12);
    leafNames(grid).forEach((name, n) => expect(leafNumber(grid, name)).toBe(n));
    expect(all[4]).toEqual({ x: 0.2, y: 0.5, width: 0.3, height: 0.5 });
    expect(leafNumber(grid, { column: 9, row: 9 })).toBe(5);
  });

  test('must lie within the picture, and not be too small', () => {
    expect(faultOfLeaves(free)).toBeNull();
    const beyond = { ...free, places: [...places, { x: 0.8, y: 0.1, width: 0.3, height: 0.1 }] };
    expect(faultOfLeaves(beyond)).toEqual({
      field: 'places.3',
      detail: 'Leaf 4 must lie within the picture and be at least 0.002 of it wide and high.',
    });
    expect(faultOfLeaves({ ...free, places: [{ x: 0, y: 0, width: 0.5, height: 0.001 }] })?.field).toBe('places.0');
  });
});
