import { hashUnit } from '../noise/tiles';
import { measureWrap, shows } from './judge';
import { blankRaster, type Raster } from './raster';

/** Soft blotches of many sizes that close on themselves over a period, seen through a frame of another size. */
function grained(seed: number, period: number, side: number): Raster {
  const r = blankRaster(side, side, 3);
  const waves = Array.from({ length: 40 }, (_, k) => ({
    u: Math.round((hashUnit(k, seed, 1) - 0.5) * 24),
    v: Math.round((hashUnit(k, seed, 2) - 0.5) * 24),
    phase: hashUnit(k, seed, 3) * 2 * Math.PI,
    strength: 1 / (2 + k / 4),
  }));
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) {
      let v = 0.5 + 0.05 * hashUnit(x % period, y % period, seed);
      for (const { u, v: w, phase, strength } of waves)
        v += 0.08 * strength * Math.cos((2 * Math.PI * (u * x + w * y)) / period + phase);
      r.data.fill(Math.max(0, Math.min(65535, v * 50000)), (y * side + x) * 3, (y * side + x) * 3 + 3);
    }
  return r;
}

test('what closes is never said to show, whichever of its lines it closes over; what is cropped always is', () => {
  let amongTheStrongest = 0;
  for (let seed = 1; seed <= 24; seed++) {
    const closed = measureWrap(grained(seed, 128, 128));
    expect([seed, shows(closed.across), shows(closed.down)]).toEqual([seed, false, false]);
    if (Math.max(closed.across.percentile, closed.down.percentile) > 0.95) amongTheStrongest++;
    const cropped = measureWrap(grained(seed, 160, 128));
    expect([seed, shows(cropped.across), shows(cropped.down)]).toEqual([seed, true, true]);
  }
  // lines of what closes perfectly are among the strongest by chance
  expect(amongTheStrongest).toBeGreaterThan(0);
});

test('where nothing changes, nothing shows; one step where all else is plain does', () => {
  const plain = blankRaster(128, 128, 3);
  expect(shows(measureWrap(plain).across)).toBe(false);
  const half = blankRaster(128, 128, 3);
  for (let y = 0; y < 128; y++) half.data.fill(40000, (y * 128 + 64) * 3, (y * 128 + 128) * 3);
  const { across, down } = measureWrap(half);
  expect([shows(across), shows(down)]).toEqual([true, false]);
});
