import { Type } from '@sinclair/typebox';
import type { Vec2 } from '../../geometry/vec';
import { RepeatLength } from '../../material/schema';
import { findHomography, isQuadrangle } from '../../picture/straighten';
import { formatLength } from '../../units/length';
import { straightenAll } from '../given';
import { defineStep, mostPixels, openStage, Place, saidMost } from './step';

/** Four corners, clockwise from the upper left, become a rectangle of the size given. */
export const corners = defineStep(
  'corners',
  {
    corners: Type.Array(Place, { minItems: 4, maxItems: 4 }),
    widthMm: RepeatLength,
    heightMm: RepeatLength,
  },
  {
    label: 'Four corners',
    what: 'four corners of a known rectangle',
    first: {
      corners: [
        [0.06, 0.06],
        [0.94, 0.06],
        [0.94, 0.94],
        [0.06, 0.94],
      ],
      widthMm: 1000,
      heightMm: 750,
    },
    hint: () => 'Drag the four corners to those of a rectangle you know.',
    places: (step) => [
      {
        shape: 'outline',
        through: step.corners,
        points: step.corners.map((at, n) => ({
          at,
          label: ['Upper left corner', 'Upper right corner', 'Lower right corner', 'Lower left corner'][n],
          moved: (to) => ({ ...step, corners: step.corners.map((corner, k) => (k === n ? to : corner)) }),
        })),
      },
    ],
    groups: (of) => [
      {
        label: 'The rectangle',
        columns: 2,
        fields: [
          of.length('Width', 'widthMm', { min: 0.1, max: 1e6 }),
          of.length('Height', 'heightMm', { min: 0.1, max: 1e6 }),
        ],
      },
    ],
    brief: ({ widthMm, heightMm }) =>
      `${formatLength(widthMm, 'mm', { withUnit: false })} × ${formatLength(heightMm, 'mm')}`,
    said: ({ widthMm, heightMm }) =>
      `straightened to ${formatLength(widthMm, 'mm', { withUnit: false })} × ${formatLength(heightMm, 'mm')}`,
    run({ raster: r, scale, given }, step, { fail }) {
      if (!isQuadrangle(step.corners))
        fail('the four corners cross or lie on a line; set them clockwise from the upper left.');
      const pixels = step.corners.map(([x, y]): Vec2 => [x * r.width, y * r.height]);
      const side = (a: number, b: number) => Math.hypot(pixels[a][0] - pixels[b][0], pixels[a][1] - pixels[b][1]);
      // as many pixels as the longer of two opposite sides has: nothing is lost
      const density = Math.max(
        Math.max(side(0, 1), side(2, 3)) / step.widthMm,
        Math.max(side(1, 2), side(3, 0)) / step.heightMm,
      );
      const [width, height] = [Math.round(step.widthMm * density), Math.round(step.heightMm * density)];
      if (width < 8 || height < 8) fail('the corners lie too near to each other.');
      if (width * height > mostPixels(r.channels))
        fail(`it would come to ${width} × ${height} pixels; ${saidMost(r.channels)} are made. Crop first.`);
      const h =
        findHomography(
          [
            [0, 0],
            [width, 0],
            [width, height],
            [0, height],
          ],
          pixels,
        ) ?? fail('three of the corners lie on a line.');
      return openStage(
        straightenAll(r, given, h, width, height),
        [step.widthMm / width, step.heightMm / height],
        scale,
      );
    },
  },
);
