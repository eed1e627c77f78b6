import fc from 'fast-check';
import { type Fold, foldsOf, GAP, type SegmentId, SEGMENTS, SPINE, WHOLE_LENGTH, workedOn } from './fold';

const ALL = SEGMENTS.map((s) => s.id);
const FIRST: SegmentId[] = ['pieces', 'material', 'start', 'repeat', 'variation', 'mapping', 'finish', 'wear'];
const unfolded = (folds: Record<SegmentId, Fold>) => ALL.filter((id) => folds[id] !== 'spine');
const needed = (folds: Record<SegmentId, Fold>) =>
  SEGMENTS.reduce(
    (sum, { id, narrowest }) => sum + { spine: SPINE, unfolded: narrowest, whole: WHOLE_LENGTH }[folds[id]],
    (SEGMENTS.length - 1) * GAP,
  );
const order = fc.shuffledSubarray(ALL, { minLength: ALL.length });

test.each([
  [1100, 3],
  [1280, 4],
  [1600, 6],
  [2200, 8],
])('a screen of %i px has %i segments unfolded', (width, count) => {
  expect(unfolded(foldsOf(FIRST, null, width - 16))).toHaveLength(count);
});

test('the one worked on is unfolded, and never more than there is room for', () => {
  fc.assert(
    fc.property(
      order,
      fc.option(fc.constantFrom(...ALL)),
      fc.integer({ min: 1080, max: 3000 }),
      (recent, whole, room) => {
        const folds = foldsOf(recent, whole, room);
        expect(folds[whole ?? recent[0]]).toBe(whole ? 'whole' : 'unfolded');
        if (!whole || room >= WHOLE_LENGTH + (ALL.length - 1) * (SPINE + GAP))
          expect(needed(folds)).toBeLessThanOrEqual(room);
      },
    ),
  );
});

test('a press in an unfolded segment folds no other', () => {
  fc.assert(
    fc.property(order, fc.constantFrom(...ALL), fc.integer({ min: 1000, max: 3000 }), (recent, id, room) => {
      const before = foldsOf(recent, null, room);
      if (before[id] === 'spine') return;
      expect(foldsOf(workedOn(recent, id), null, room)).toEqual(before);
    }),
  );
});
