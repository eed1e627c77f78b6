import { GROUNDS, paintTruth, plainShot } from '../picture/camera';
import { resize } from '../picture/resize';
import { type Raster, WHITE } from '../picture/raster';
import { UNSEEN } from '../testing/grounds';
import { runSteps } from './run';
import { type Step, type StepKind, stepOf } from './steps/registry';

/** A picture of 900 × 675 pixels and the one of a third of that which stands for it. */
const pictureOf = (ground: Parameters<typeof paintTruth>[0]) => {
  const large = paintTruth(ground, plainShot, 900, 675);
  return { large, small: resize(large, 300, 225, false) };
};
const made = (kind: StepKind, rest: object = {}) =>
  ({ id: kind, on: true, mask: null, ...stepOf({ kind }).first, ...rest }) as unknown as Step;

/** Mean difference of two pictures, the larger brought to the size of the smaller; of 255. */
function apart(a: Raster, b: Raster): number {
  const same = resize(a, b.width, b.height, false);
  return (same.data.reduce((sum, v, i) => sum + Math.abs(v - b.data[i]), 0) / b.data.length / WHITE) * 255;
}

const size = made('size', { by: { kind: 'typed', widthMm: 1000, heightMm: 750 } });
const cases: [string, number, ReturnType<typeof pictureOf>, Step[]][] = [
  ['a blend of grain', 2, pictureOf(UNSEEN.larch.ground), [made('seamless')]],
  ['a blend of what is even', 2, pictureOf(UNSEEN.cork.ground), [made('seamless', { down: false })]],
  ['whole periods of bricks', 3, pictureOf(GROUNDS.brick.ground), [made('seamless', { mode: 'period' })]],
  [
    'an extended sample that closes',
    6,
    pictureOf(UNSEEN.cork.ground),
    [size, made('extend', { widthMm: 1300, heightMm: 1000, closes: true })],
  ],
];

test.each(cases)(
  '%s closes alike on the picture that stands for it and at full size',
  (_name, most, picture, steps) => {
    const shown = runSteps(picture.small, null, steps, { scale: 1 / 3 }).stage.raster;
    const full = runSteps(picture.large, null, steps, { small: picture.small }).stage.raster;
    expect(Math.abs(full.width / full.height - shown.width / shown.height)).toBeLessThan(0.02);
    // begun a few pixels further on, or cut along another seam, they differ two to five times as much
    expect(apart(full, shown)).toBeLessThan(most);
  },
);
