import type { JointLines } from '../picture/jointLines';
import type { Spec } from '../specification/schema';
import { arrangeOn, laidSpec, listOn, oak, rectangle, wallMesh, wallSheet } from '../testing/surfaces';
import { evaluateAt } from '../lay/evaluate';
import {
  asPieces,
  equivalentLayout,
  gaugePicture,
  jointsInMm,
  type OnLimit,
  pictureCounts,
  type PictureJoints,
  stackedAlong,
  startOnJoint,
} from './jointsOfPicture';
import { frameOf, toSheet } from './layoutFrame';
import { placeSpec } from './placement';

/** 900 × 750 mm on 1800 × 1000 pixels: courses of 65 and 10 mm, bricks of 215 and 10. */
const LINES: JointLines = {
  along: 'x',
  beds: { pitch: 100, first: 32, width: 40 / 3, count: 10, confidence: 0.9 },
  ends: { pitch: 450, shorter: null, width: 20, first: 90, bond: 'half', confidence: 0.9 },
  colour: '#b9ae9b',
  confidence: 0.9,
};
const picture = oak({ widthMm: 900, heightMm: 750 });
const joints = jointsInMm(LINES, { width: 1800, height: 1000 }, picture);
const sheet = wallSheet(wallMesh([rectangle(3000, 2412)]));
const { pieces: _pieces, ...whole } = laidSpec({ layout: { kind: 'asModelled' } });
const turned = (turnDeg: number, mirrorX = false): Spec => ({
  ...whole,
  direction: { turnDeg, mirrorX, mirrorY: false },
});

test('pixels become millimetres of the picture as it is laid, each way by its own scale', () => {
  expect(joints.bed.pitchMm).toBeCloseTo(75, 9);
  expect(joints.bed.firstMm).toBeCloseTo(24, 9);
  expect(joints.bed.widthMm).toBeCloseTo(10, 9);
  expect([joints.end!.pitchMm, joints.end!.firstMm, joints.end!.widthMm]).toEqual([225, 45, 10]);
  const standing = jointsInMm({ ...LINES, along: 'y' }, { width: 1000, height: 1800 }, { widthMm: 750, heightMm: 900 });
  expect(standing.bed.pitchMm).toBeCloseTo(75, 9);
  expect(standing.end!.pitchMm).toBeCloseTo(225, 9);
});

test.each<[OnLimit, number, number]>([
  // the upper face of the bed is 24 + 5 mm up, the right face of the end joint 45 + 5 mm across
  ['face', 50, 29],
  ['middle', 45, 24],
  ['joint', 40, 19],
])('begun on %s, that place of the picture lies in the corner, however it is turned', (on, x, y) => {
  for (const [turnDeg, mirrored] of [
    [0, false],
    [90, false],
    [17, true],
    [-90, true],
  ] as const) {
    const spec = turned(turnDeg, mirrored);
    const placed = placeSpec({ ...spec, start: startOnJoint(spec, joints, on) }, picture, sheet, [0, 0, 0]);
    const [cx, cy] = toSheet(frameOf(placed), x, y);
    expect(cx).toBeCloseTo(0, 6);
    expect(cy).toBeCloseTo(0, 6);
  }
});

/*
 * 2412 mm of courses every 75 mm with joints of 10.
 * faces:   32 · 75 − 10 = 2390, 2412 / 2390 = 1.00921; 33 · 75 − 10 = 2465, 0.97850; 31 · 75 − 10 = 2315, 1.04190
 * middles: 32 · 75 = 2400, 1.005; 33 · 75 = 2475, 0.97455
 * joints:  32 · 75 + 10 = 2410, 1.00083; 31 · 75 + 10 = 2335, 1.03298
 */
test.each<[OnLimit, [number, number][]]>([
  [
    'face',
    [
      [32, 1.00921],
      [33, 0.9785],
      [31, 1.0419],
    ],
  ],
  [
    'middle',
    [
      [32, 1.005],
      [33, 0.97455],
    ],
  ],
  [
    'joint',
    [
      [32, 1.00083],
      [33, 0.97059],
      [31, 1.03298],
    ],
  ],
])('whole courses by the picture’s size, limits on a %s', (on, rows) => {
  const found = pictureCounts(joints, 2412, on);
  for (const [n, [count, grows]] of rows.entries()) {
    expect(found[n].count).toBe(count);
    expect(found[n].grows).toBeCloseTo(grows, 4);
  }
  for (const { count, grows, pitchMm, jointMm } of found) {
    const more = { face: -1, middle: 0, joint: 1 }[on];
    expect(count * pitchMm + more * jointMm).toBeCloseTo(2412, 6);
    expect(pitchMm).toBeCloseTo(75 * grows, 9);
  }
});

test('taken, both limits fall where they were asked, with the proportion kept or not', () => {
  for (const on of ['face', 'middle', 'joint'] as const) {
    for (const locked of [true, false]) {
      const spec: Spec = { ...whole, repeat: { own: null, locked } };
      const [{ count, grows, pitchMm, jointMm }] = pictureCounts(joints, 2412, on);
      const made = gaugePicture(spec, picture, joints, on, grows);
      expect(made.repeat.own!.heightMm).toBeCloseTo(750 * grows, 6);
      expect(made.repeat.own!.widthMm).toBeCloseTo(900 * (locked ? grows : 1), 6);
      const placed = placeSpec(made, picture, sheet, [0, 0, 0]);
      // middles of beds, from the lower limit: half a joint below a face, half above where one begins
      const first = placed.at[1] + 24 * grows;
      const before = { face: -0.5, middle: 0, joint: 0.5 }[on];
      expect(first - before * jointMm).toBeCloseTo(0, 6);
      const last = first + count * pitchMm;
      expect(last + before * jointMm).toBeCloseTo(2412, 6);
    }
  }
});

test('in pieces each lies where the picture has it, and shows what the picture has there', () => {
  const layout = equivalentLayout(joints)!;
  expect(layout).toEqual({
    layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
    joint: { alongMm: 10, acrossMm: 10 },
  });
  const spec: Spec = { ...whole, start: { datum: 'corner', xMm: 13, yMm: 7 } };
  const made = asPieces(spec, joints, layout, LINES.colour);
  const arrangement = arrangeOn(made, sheet, { oak: picture });
  const before = placeSpec(spec, picture, sheet, [0, 0, 0]);
  for (const at of [
    [400, 300],
    [1500, 77],
    [2211, 2000],
  ] as const) {
    const shown = evaluateAt(arrangement, [...at])!;
    const off = (v: number) => Math.abs(v - Math.round(v));
    expect(off(shown.u - (at[0] - before.at[0]) / 900)).toBeCloseTo(0, 9);
    expect(off(shown.v - (at[1] - before.at[1]) / 750)).toBeCloseTo(0, 9);
  }
  for (let k = 1; k < 20; k++) {
    // in the middle of beds is joint, a hair beyond it is piece
    const bed = 7 + 24 + k * 75;
    expect(evaluateAt(arrangement, [77, bed])!.share).toBe(0);
    expect(evaluateAt(arrangement, [150, bed + 5.5])!.share).toBe(1);
    expect(evaluateAt(arrangement, [150, bed - 5.5])!.share).toBe(1);
  }
  expect(listOn(made, sheet, { oak: picture }).length).toBeGreaterThan(300);
});

const other = (
  bond: NonNullable<PictureJoints['end']>['bond'],
  rest: Partial<NonNullable<PictureJoints['end']>> = {},
) => equivalentLayout({ ...joints, end: { ...joints.end!, bond, ...rest } });

test('every bond has its layout; ends without a rule have none', () => {
  expect(other('in line')!.layout).toMatchObject({ kind: 'grid', widthMm: 215, heightMm: 65, shift: 0 });
  expect(other('third')!.layout).toMatchObject({ kind: 'stretcher', lap: 1 / 3 });
  expect(other('stretchers and headers', { shorterMm: 112.5 })!.layout).toMatchObject({
    kind: 'flemish',
    headerMm: 102.5,
  });
  expect(other('courses in turn', { shorterMm: 112.5 })!.layout).toMatchObject({ kind: 'english', stretcherMm: 215 });
  expect(other('irregular')).toBeNull();
  expect(equivalentLayout({ ...joints, end: null })!.layout).toMatchObject({
    kind: 'planks',
    widths: { kind: 'one', mm: 65 },
  });
});

test.each([
  [0, 'x', 'up'],
  [90, 'x', 'across'],
  [180, 'x', 'up'],
  [0, 'y', 'across'],
  [-90, 'y', 'up'],
  [30, 'x', null],
] as const)('turned by %d, courses along %s lie over each other %s', (turnDeg, along, way) => {
  expect(stackedAlong(turned(turnDeg), along)).toBe(way);
});
