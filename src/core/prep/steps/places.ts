import type { Vec2 } from '../../geometry/vec';
import type { Mask } from './mask';

/** A place on the picture that can be dragged, in shares of its width and height. */
export interface DragPoint<S> {
  at: Vec2;
  label: string;
  /** What it belongs to, once it is dragged there. */
  moved(to: Vec2): S;
}

/** What of a step or a mask lies on the light table: places, and what is drawn through them. */
export interface Places<S> {
  /** A line from the first to the second; a path or outline through all; a box or ellipse from first to second. */
  shape: 'line' | 'path' | 'outline' | 'box' | 'ellipse';
  through: readonly Vec2[];
  /** Stands at the middle of a line. */
  text?: string;
  points: readonly DragPoint<S>[];
}

/** Where a mask works, on the picture; null where it does everywhere, in patches. */
export function placesOfMask(mask: Mask): Places<Mask> | null {
  if (mask.kind === 'patches') return null;
  if (mask.kind === 'gradient')
    return {
      shape: 'line',
      through: [mask.from, mask.to],
      points: [
        { at: mask.from, label: 'All of the step here', moved: (from) => ({ ...mask, from }) },
        { at: mask.to, label: 'None of the step here', moved: (to) => ({ ...mask, to }) },
      ],
    };
  return placesOfEllipse(mask, 'the ellipse', (to) => ({ ...mask, ...to }));
}

interface Ellipse {
  centre: Vec2;
  radius: Vec2;
}

/** An ellipse, to be moved by its middle and made larger by its sides. */
export function placesOfEllipse<S>(
  { centre, radius }: Ellipse,
  name: string,
  moved: (to: Partial<Ellipse>) => S,
): Places<S> {
  const reach = (n: 0 | 1, to: Vec2) => Math.max(0.01, Math.abs(to[n] - centre[n]));
  return {
    shape: 'ellipse',
    through: [centre, [centre[0] + radius[0], centre[1] + radius[1]]],
    points: [
      { at: centre, label: `Middle of ${name}`, moved: (to) => moved({ centre: to }) },
      {
        at: [centre[0] + radius[0], centre[1]],
        label: `Width of ${name}`,
        moved: (to) => moved({ radius: [reach(0, to), radius[1]] }),
      },
      {
        at: [centre[0], centre[1] + radius[1]],
        label: `Height of ${name}`,
        moved: (to) => moved({ radius: [radius[0], reach(1, to)] }),
      },
    ],
  };
}
