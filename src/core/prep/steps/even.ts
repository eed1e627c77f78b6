import { RepeatLength } from '../../material/schema';
import { evenOut } from '../../picture/even';
import { formatLength } from '../../units/length';
import { limited } from './mask';
import { defineStep, Share } from './step';

/** Large differences of light and colour taken away. */
export const even = defineStep(
  'even',
  { lightness: Share, colour: Share, radiusMm: RepeatLength },
  {
    label: 'Even out',
    what: 'large light and dark, drifts of colour',
    first: { lightness: 1, colour: 1, radiusMm: 150 },
    masked: true,
    groups: (of) => [
      {
        label: 'Even out',
        columns: 3,
        fields: [
          of.length('Larger than', 'radiusMm', { min: 1, max: 1e6 }),
          of.share('Lightness', 'lightness'),
          of.share('Colour', 'colour'),
        ],
      },
    ],
    brief: ({ radiusMm }) => `over ${formatLength(radiusMm, 'mm')}`,
    said: ({ radiusMm }) => `evened over ${formatLength(radiusMm, 'mm')}`,
    run(stage, step, { remark }) {
      const { raster: r, mmPerPx } = stage;
      const mm = mmPerPx ? (mmPerPx[0] + mmPerPx[1]) / 2 : null;
      if (!mm) remark('Its size is not known: the radius is taken for a picture 1 m wide.');
      const radius = step.radiusMm / (mm ?? 1000 / r.width);
      const raster = evenOut(r, { radius: Math.max(4, radius), lightness: step.lightness, colour: step.colour });
      return { ...stage, raster: limited(r, raster, step.mask, stage.mmPerPx) };
    },
  },
);
