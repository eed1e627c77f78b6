import type { Vec2 } from '../geometry/vec';
import { PATTERNS } from '../testing/patterns';
import { plainShot, takePhotograph } from '../picture/camera';
import { judgeStage } from './judge';
import { runSteps } from './run';
import type { Step } from './steps/registry';
import { seamless } from './steps/seamless';

const corners: Vec2[] = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
];
const { ground, seenMm } = PATTERNS['half bond, dark joints'];
const photograph = takePhotograph(ground, {
  ...plainShot,
  corners,
  ...{ widthPx: 560, heightPx: 420, ruleMm: 0, seed: 4 },
  seenMm: seenMm * 0.8,
}).raster;
const closed = (mode: 'blend' | 'period'): Step =>
  ({ id: 'step-closed', on: true, mask: null, ...seamless.first, mode }) as Step;
const ppi = (25.4 * 560) / (seenMm * 0.8);

test('blended brick is never called seamless, and the right way is said', () => {
  const { stage, remarks } = runSteps(photograph, ppi, [closed('blend')]);
  const { seamless: is, faults } = judgeStage(stage);
  expect(is).toBe(false);
  expect(faults.join('; ')).toMatch(/it is laid in half bond, again after 250 × 128 mm, and was blended/);
  expect(remarks.map((r) => r.text).join(' ')).toMatch(/a blend breaks its joints\. Close it on whole periods\./);
});

test('closed on whole periods it is, and a step after that keeps where it was joined', () => {
  const { stage } = runSteps(photograph, ppi, [closed('period')]);
  expect(judgeStage(stage)).toMatchObject({ seamless: true, faults: [] });
  expect(stage.seams.upright).toHaveLength(stage.raster.height);
  expect(stage.blended).toBeNull();
});

test('cut off anywhere, its edge is broken, and the seam that lay in it is no longer spoken of', () => {
  const cut: Step = {
    ...{ id: 'step-cut', kind: 'crop', on: true, mask: null, wholePeriods: false },
    from: [0, 0],
    to: [0.83, 0.9],
  };
  const { stage } = runSteps(photograph, ppi, [closed('period'), cut]);
  expect(stage.seams).toEqual({ upright: null, level: null });
  const { seamless: is, broken } = judgeStage(stage);
  expect(is).toBe(false);
  expect(broken.edge).toBeGreaterThan(0.1);
});
