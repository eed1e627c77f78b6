import { areaOf } from './area';
import { Cells } from './cells';
import { layoutOf, LAYOUTS, openLayout } from './registry';
import type { LayoutSpec } from './schema';
import { middleOfPiece } from './middle';

const joint = { ...LAYOUTS[3].preset.joint, alongMm: 10, acrossMm: 8 };

test('tiles and bricks: half a piece to the right and up', () => {
  const grid = { ...layoutOf<LayoutSpec>({ kind: 'grid' } as LayoutSpec).preset.spec, widthMm: 200, heightMm: 100 };
  expect(middleOfPiece({ layout: grid as LayoutSpec, joint })).toEqual([100, 50]);
});

test('moved by it, a piece has its middle at the start', () => {
  for (const { preset, cells, label } of LAYOUTS) {
    if (cells !== 'laid') continue;
    const layout = preset.spec as LayoutSpec;
    const middle = middleOfPiece({ layout, joint });
    if (!middle) continue;
    const side = 2500;
    const area = areaOf([
      [
        [-side, -side],
        [side, -side],
        [side, side],
        [-side, side],
      ],
    ]);
    const found: [number, number][] = [];
    openLayout(layout, joint, area).fill(
      { minX: -600, minY: -600, maxX: 600, maxY: 600 },
      new Cells((c) => {
        for (let n = 0; n < c.count; n++) found.push([c.x[n], c.y[n]]);
      }),
    );
    const off = Math.min(...found.map(([x, y]) => Math.hypot(x - middle[0], y - middle[1])));
    expect([label, off < 1e-6]).toEqual([label, true]);
  }
});

test('where there are no pieces there is no such middle', () => {
  expect(middleOfPiece({ layout: { kind: 'whole' } as LayoutSpec, joint })).toBeNull();
});
