import { Type } from '@sinclair/typebox';
import type { Vec2 } from '../../geometry/vec';
import { turnAndShear } from '../../picture/straighten';
import { straightenAll } from '../given';
import { Angle, defineStep, openStage } from './step';

const Lean = Type.Number({ minimum: -60, maximum: 60 });

/** Turned, and sheared until uprights stand and levels lie. */
export const turn = defineStep(
  'turn',
  { turnDeg: Angle, leanDeg: Lean, slopeDeg: Lean },
  {
    label: 'Turn and lean',
    what: 'the grain level or upright, found or by hand',
    first: { turnDeg: 0, leanDeg: 0, slopeDeg: 0 },
    groups: (of) => [
      {
        label: 'Turn and lean',
        columns: 3,
        fields: [
          of.angle('Turn', 'turnDeg', { min: -180, max: 180, step: 0.5 }),
          of.angle('Uprights lean', 'leanDeg', { min: -60, max: 60, step: 0.5 }),
          of.angle('Levels rise', 'slopeDeg', { min: -60, max: 60, step: 0.5 }),
        ],
      },
    ],
    brief: ({ turnDeg }) => `${turnDeg}°`,
    said: ({ turnDeg, leanDeg, slopeDeg }) => `turned ${turnDeg}°${leanDeg || slopeDeg ? ' and set upright' : ''}`,
    run(stage, step, { fail, remark }) {
      const { raster: r, mmPerPx } = stage;
      if (!step.turnDeg && !step.leanDeg && !step.slopeDeg) return stage;
      const { h, width, height } = turnAndShear(r, step.turnDeg, step.leanDeg, step.slopeDeg);
      if (width < 8 || height < 8)
        fail('so little of the picture is left that nothing can be made of it; turn it less.');
      const mm = mmPerPx && ([(mmPerPx[0] + mmPerPx[1]) / 2, (mmPerPx[0] + mmPerPx[1]) / 2] as Vec2);
      if (mmPerPx && Math.abs(mmPerPx[0] / mmPerPx[1] - 1) > 0.005) {
        remark('Its pixels are not square: turned, width and height are taken to be alike.');
      }
      return openStage(straightenAll(r, stage.given, h, width, height), mm, stage.scale);
    },
  },
);
