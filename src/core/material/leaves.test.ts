import fc from 'fast-check';
import { faultOfLeaves, leafBorders, LEAST_LEAF, moveLine } from './leaves';

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
