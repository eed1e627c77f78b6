import { defaultJoint } from '../layout/joint';
import type { LayoutSpec } from '../layout/schema';
import { courseShares, endPieces } from './endPieces';
import { gaugeTo, unitOf } from './gauge';

const joint = defaultJoint(10);
const shares = (layout: LayoutSpec) => courseShares(layout, joint);
const brick = (lap: number, raking = false): LayoutSpec => ({
  kind: 'stretcher',
  lengthMm: 215,
  heightMm: 65,
  lap,
  raking,
});
const flemish: LayoutSpec = { kind: 'flemish', stretcherMm: 215, headerMm: 102.5, heightMm: 65, closers: false };

test('courses begin whole, and with what their bond leaves', () => {
  expect(shares(brick(0))).toEqual([0]);
  expect(shares(brick(0.5))!.map((s) => Math.round(s * 100) / 100)).toEqual([0, 0.5]);
  expect(shares(brick(1 / 3, true))!.map((s) => Math.round(s * 300) / 100)).toEqual([0, 1, 2]);
  // two pieces to a unit
  expect(shares(flemish)).toBeNull();
});

test('end pieces follow the joints and sizes of a row', () => {
  // 215 and 10: half a pitch of 225 is 112.5, less the joint 102.5
  const tolerances = { jointFromMm: 8, jointToMm: 12, sizePercent: 2 };
  const unit = unitOf(brick(0.5), joint, true)!;
  const row = (mm: number, count: number) => endPieces([0, 0.5], gaugeTo(mm, count, unit, -1, tolerances));
  expect(row(10 * 225 - 10, 10)).toEqual([215, 102.5]);
  // 10 pieces and 9 joints in 2258: joints of 12; half of 227 less 12 is 101.5
  const [whole, half] = row(2258, 10);
  expect(whole).toBeCloseTo(215, 6);
  expect(half).toBeCloseTo(101.5, 6);
});
