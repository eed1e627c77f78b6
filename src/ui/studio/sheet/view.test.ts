import fc from 'fast-check';
import { ruleStep } from './drawSheet';
import { fit, toScreen, toSheet, zoomAt } from './view';

const bounds = { minX: -1200, minY: 300, maxX: 11_200, maxY: 7500 };

test('the whole sheet fits with room for dimensions', () => {
  for (const [w, h] of [
    [500, 400],
    [1200, 300],
    [90, 700],
  ] as const) {
    const v = fit(bounds, w, h);
    const [x0, y0] = toScreen(v, [bounds.minX, bounds.minY]);
    const [x1, y1] = toScreen(v, [bounds.maxX, bounds.maxY]);
    expect(Math.min(x0, w - x1)).toBeGreaterThanOrEqual(Math.min(25, w / 5));
    expect(Math.min(y1, h - y0)).toBeGreaterThanOrEqual(Math.min(25, h / 4));
  }
});

test('screen and sheet are each other’s inverse, y up; zooming holds the point under the pointer', () => {
  const coordinate = fc.double({ min: -5000, max: 5000, noNaN: true });
  fc.assert(
    fc.property(coordinate, coordinate, fc.double({ min: 0.2, max: 5, noNaN: true }), (x, y, factor) => {
      const v = fit(bounds, 640, 480);
      const [px, py] = toScreen(v, [x, y]);
      const back = toSheet(v, [px, py]);
      expect(back[0]).toBeCloseTo(x, 6);
      expect(back[1]).toBeCloseTo(y, 6);
      const there = toScreen(zoomAt(v, [px, py], factor), [x, y]);
      expect(there[0]).toBeCloseTo(px, 4);
      expect(there[1]).toBeCloseTo(py, 4);
    }),
  );
  const v = fit(bounds, 640, 480);
  expect(toScreen(v, [0, 1000])[1]).toBeLessThan(toScreen(v, [0, 0])[1]);
});

test('numbered marks stand at least 64 px apart on round values of the unit', () => {
  for (let scale = 0.003; scale < 40; scale *= 1.7) {
    const step = ruleStep(scale, 'mm');
    expect(step * scale).toBeGreaterThanOrEqual(64 - 1e-9);
    expect([1, 2, 5, 10]).toContain(Math.round(step / 10 ** Math.floor(Math.log10(step) + 1e-9)));
  }
  expect(ruleStep(0.2, 'ft-in') % 304.8).toBeCloseTo(0, 6);
});
