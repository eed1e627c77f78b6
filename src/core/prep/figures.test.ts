import type { Figures } from '../material/schema';
import type { SeamFigure } from '../picture/judge';
import { prepOf } from '../testing/prep';
import { differencesOf, figuresOf, stepsMark } from './figures';
import type { Verdict } from './judge';
import { noMaps } from './schema';
import type { Step } from './steps/registry';
import { stepOf } from './steps/registry';

const line = (percentile: number, step: number): SeamFigure => ({ percentile, step, usual: 1 });
const verdict = (rest: Partial<Verdict> = {}): Verdict => ({
  wrap: { across: line(0.4, 0.9), down: line(0.972, 1.4) },
  framed: false,
  broken: { edge: 0.031, seam: 0.112, places: [] } as unknown as Verdict['broken'],
  sharpness: 1,
  seamless: false,
  faults: ['its edge shows'],
  ...rest,
});
const kept: Figures = {
  edge: { share: 0.5, shows: false },
  seam: null,
  broken: 0.02,
  sharpness: 1.2,
  faults: [],
};

test('figures are the worst of both ways, as they are read', () => {
  const { edge, broken, sharpness, faults } = figuresOf(verdict(), null);
  expect(edge).toEqual({ share: 0.97, shows: true });
  expect([broken, sharpness, faults]).toEqual([0.11, 2, ['its edge shows']]);
  expect(figuresOf(verdict({ framed: true }), null)).toMatchObject({ edge: null, broken: 0.11 });
});

test('the full size is said to differ where a figure is another, and not for a hair', () => {
  expect(differencesOf(kept, kept)).toEqual([]);
  expect(differencesOf(kept, { ...kept, broken: 0.04, sharpness: 1.3, edge: { share: 0.56, shows: false } })).toEqual(
    [],
  );
  expect(differencesOf(kept, { ...kept, edge: { share: 0.52, shows: true } })).toEqual([
    'over the edge 52 of 100 lines (it shows)',
  ]);
  expect(differencesOf(kept, { ...kept, edge: { share: 0.9, shows: false } })[0]).toContain('90 of 100 lines (not to');
  expect(differencesOf(kept, { ...kept, broken: 0.2 })).toEqual(['broken lines at 20 of 100 places']);
  // 8 of 100 are none to be seen, 9 are
  expect(differencesOf({ ...kept, broken: 0.08 }, { ...kept, broken: 0.09 })).toHaveLength(1);
  expect(differencesOf(kept, { ...kept, sharpness: 2.4 })).toEqual(['2.4 times as sharp from place to place']);
  expect(differencesOf(kept, { ...kept, seam: { share: 0.3, shows: false } })).toHaveLength(1);
});

test('figures of other steps are told from those of these', () => {
  const step = (id: string, rest: object = {}) =>
    ({ id, on: true, mask: null, ...stepOf({ kind: 'even' }).first, ...rest }) as Step;
  const of = (...steps: Step[]) => stepsMark(prepOf({ steps }));
  expect(of(step('a'))).toMatch(/^[0-9a-f]{8}$/);
  expect(of(step('b'))).toBe(of(step('a')));
  expect(of(step('a'), step('off', { on: false }))).toBe(of(step('a')));
  expect(of(step('a', { radiusMm: 151 }))).not.toBe(of(step('a')));
  expect(of(step('a'), step('b'))).not.toBe(of(step('a')));
  expect(stepsMark(prepOf({ derived: { ...noMaps, normal: { strength: 1 } } }))).toBe(of());
});
