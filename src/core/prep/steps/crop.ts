import { Type } from '@sinclair/typebox';
import { findPeriod } from '../../picture/period';
import { cutOut } from '../../picture/raster';
import { defineStep, openStage, Place } from './step';

/** To what is wanted, or to whole periods of what repeats. */
export const crop = defineStep(
  'crop',
  { from: Place, to: Place, wholePeriods: Type.Boolean() },
  {
    label: 'Crop',
    what: 'to what is wanted; to whole periods',
    first: { from: [0.05, 0.05], to: [0.95, 0.95], wholePeriods: false },
    places: (step) => [
      {
        shape: 'box',
        through: [step.from, step.to],
        points: [
          { at: step.from, label: 'Upper left of what is kept', moved: (from) => ({ ...step, from }) },
          { at: step.to, label: 'Lower right of what is kept', moved: (to) => ({ ...step, to }) },
        ],
      },
    ],
    groups: (of) => [
      {
        label: 'What is kept',
        columns: 2,
        fields: [{ ...of.toggle('To whole periods of what is laid', 'wholePeriods'), span: 2 }],
      },
    ],
    brief: () => '',
    said: () => 'cropped',
    run(stage, { from, to, wholePeriods }, { fail, remark }) {
      const { raster: r, mmPerPx } = stage;
      const share = (v: number) => Math.max(0, Math.min(1, v));
      const [x0, x1] = [share(Math.min(from[0], to[0])) * r.width, share(Math.max(from[0], to[0])) * r.width].map(
        Math.round,
      );
      const [y0, y1] = [share(Math.min(from[1], to[1])) * r.height, share(Math.max(from[1], to[1])) * r.height].map(
        Math.round,
      );
      let [width, height] = [x1 - x0, y1 - y0];
      if (width < 8 || height < 8) fail('less than 8 pixels would be left.');
      if (wholePeriods) {
        const period = findPeriod(r);
        const whole = (size: number, p: { pixels: number } | null, axis: 0 | 1) => {
          if (!p || size < p.pixels) {
            remark(
              `Nothing repeats ${axis === 0 ? 'across' : 'down'}: as drawn there. What slants must be turned first.`,
            );
            return size;
          }
          const times = Math.floor(size / p.pixels + 0.02);
          remark(
            `${times} × ` +
              `${mmPerPx ? `${Math.round(p.pixels * mmPerPx[axis] * 10) / 10} mm` : `${Math.round(p.pixels)} px`} ` +
              `${axis === 0 ? 'across' : 'down'}.`,
          );
          return Math.round(times * p.pixels);
        };
        width = Math.min(r.width - x0, whole(width, period.x, 0));
        height = Math.min(r.height - y0, whole(height, period.y, 1));
      }
      if (width === r.width && height === r.height && !x0 && !y0) return stage;
      return {
        // a seam in it no longer lies where it did
        ...openStage(cutOut(r, x0, y0, width, height), mmPerPx, stage.scale),
        sample: stage.sample,
        closes: { across: stage.closes.across && width === r.width, down: stage.closes.down && height === r.height },
      };
    },
  },
);
