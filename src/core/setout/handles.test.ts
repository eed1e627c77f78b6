import fc from 'fast-check';
import { type Placement, repeatMatrix } from './placement';
import { defaultFinish, type Material } from '../material/schema';
import { pictureFrame, pullSize, pullTurn, roundStep, snapSlide } from './handles';
import { lineText, specLine } from '../specification/line';
import { defaultSpec } from '../specification/schema';

const placement: Placement = { widthMm: 600, heightMm: 300, at: [100, 50], turnDeg: 0, mirrorX: false, mirrorY: false };
const bounds = { minX: 0, minY: 0, maxX: 5400, maxY: 4200 };

test('the frame is one repeat, however turned and mirrored', () => {
  const arb = fc.record({ turnDeg: fc.integer({ min: -180, max: 180 }), mirrorX: fc.boolean(), mirrorY: fc.boolean() });
  fc.assert(
    fc.property(arb, (values) => {
      const p = { ...placement, ...values };
      const [a, b, c, d] = pictureFrame(p);
      const [m00, m01, m10, m11] = repeatMatrix(p);
      const uv = (q: number[]) => [
        m00 * (q[0] - a[0]) + m01 * (q[1] - a[1]),
        m10 * (q[0] - a[0]) + m11 * (q[1] - a[1]),
      ];
      [
        [b, [1, 0]],
        [c, [1, 1]],
        [d, [0, 1]],
      ].forEach(([q, want]) => uv(q).forEach((v, i) => expect(v).toBeCloseTo(want[i], 9)));
    }),
  );
});

test('sliding lands on round offsets, or on an edge or middle close by', () => {
  // its middle falls on the lower edge
  expect(snapSlide(placement, [147.3, 1033.1], [0, 0], bounds, 20, 10)).toEqual({ at: [150, 1050], guides: [null, 0] });
  // within reach of the left edge its own edge snaps to it
  expect(snapSlide(placement, [7, 1033.1], [0, 0], bounds, 20, 10).at[0]).toBe(0);
  // a middle of the picture on the middle of a sheet 5 m wide: 2500 = 2200 + 300
  expect(snapSlide(placement, [2192, 400], [0, 0], { ...bounds, maxX: 5000 }, 10, 10).guides[0]).toBe(2500);
  expect(snapSlide(placement, [147.31, 433.12], [0, 0], bounds, 20, 0).at).toEqual([147.31, 433.12]);
  expect(snapSlide({ ...placement, turnDeg: 30 }, [7, 7], [0, 0], bounds, 20, 10).guides).toEqual([null, null]);
});

test('pulling the corner keeps the proportion when locked', () => {
  expect(pullSize(placement, [1303, 652], true, 10)).toEqual({ widthMm: 1200, heightMm: 600 });
  expect(pullSize(placement, [1303, 452], false, 10)).toEqual({ widthMm: 1200, heightMm: 400 });
  expect(pullSize(placement, [-900, -900], false, 10)).toEqual({ widthMm: 1, heightMm: 1 });
});

test('turning snaps to 15° and rounds to whole degrees unless free', () => {
  const to = (deg: number): [number, number] => [
    100 + Math.cos((deg * Math.PI) / 180) * 500,
    50 + Math.sin((deg * Math.PI) / 180) * 500,
  ];
  expect(pullTurn(placement, to(43.4), false)).toBe(45);
  expect(pullTurn(placement, to(37.6), false)).toBe(38);
  expect(pullTurn(placement, to(43.417), true)).toBe(43.42);
  expect(pullTurn(placement, to(180), false)).toBe(180);
  expect(pullTurn({ ...placement, mirrorX: true }, to(-135), false)).toBe(45);
});

test('round steps are 1, 2, 5 times a power of ten', () => {
  expect([0.4, 1, 3, 7, 12, 49, 99].map(roundStep)).toEqual([0.2, 1, 2, 5, 10, 20, 50]);
});

test('the spec line is one sentence whose parts lead to their cards', () => {
  const oak: Material = {
    id: 'oak',
    version: 1,
    name: 'Smoked oak',
    kind: 'wood',
    tags: [],
    widthMm: 1200,
    heightMm: 190,
    maps: {},
    colour: '#808080',
    grain: 'x',
    seamless: true,
    twoSided: false,
    sampling: 'soft',
    finish: defaultFinish(),
    source: '',
    licence: '',
    credit: '',
    repetition: null,
    builtIn: false,
  };
  const spec = {
    ...defaultSpec('oak'),
    start: { datum: 'centre' as const, xMm: 235, yMm: -10 },
    direction: { turnDeg: 45, mirrorX: true, mirrorY: false },
  };
  const line = specLine('Hall floor', spec, oak, 'mm');
  expect(lineText(line)).toBe(
    'Hall floor is laid in Smoked oak, repeat 1200 × 190 mm as the material, mapped flat, starting ' +
      '235 mm right and 10 mm down from the centre, turned 45°, mirrored left to right, matt.',
  );
  expect(line.flatMap((p) => p.portion ?? [])).toEqual([
    'material',
    'repeat',
    'mapping',
    'start',
    'direction',
    'finish',
  ]);
  expect(lineText(specLine('Hall floor', null, null, 'mm'))).toMatch(/nothing laid/);
});
