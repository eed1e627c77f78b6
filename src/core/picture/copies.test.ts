import { hashUnit } from '../noise/tiles';
import { measureCopies } from './copies';
import { blankRaster, cutOut, type Raster, WHITE } from './raster';

/** Pixels between places that are looked at: four of the small picture, of whose pixels nine make a window of 26. */
const STEP = (4 * 26) / 9;

/** Patches of even grey, each its own, `cell` pixels large. */
function patches(width: number, height: number, cell: number): Raster {
  const made = blankRaster(width, height, 3);
  for (let i = 0; i < width * height; i++) {
    const [x, y] = [Math.floor((i % width) / cell), Math.floor(Math.floor(i / width) / cell)];
    made.data.fill((0.3 + 0.4 * hashUnit(x, y, 5)) * WHITE, i * 3, i * 3 + 3);
  }
  return made;
}

function paste(onto: Raster, of: Raster, x: number, y: number): Raster {
  const made = { ...onto, data: onto.data.slice() };
  for (let j = 0; j < of.height; j++)
    made.data.set(of.data.subarray(j * of.width * 3, (j + 1) * of.width * 3), ((y + j) * onto.width + x) * 3);
  return made;
}

test('what was copied is known again, where it lies and where it came from', () => {
  const plain = patches(260, 200, 5);
  const before = measureCopies(plain, 26);
  const copied = paste(plain, cutOut(plain, 20, 24, 48, 48), 180, 120);
  const after = measureCopies(copied, 26);
  expect(before.strongest).toBeLessThan(0.85);
  expect(after.strongest).toBeGreaterThan(0.93);
  const { heat } = after;
  const found = [...heat.data.keys()].filter((i) => heat.data[i] > 0.9);
  const middle = (i: number) => [(i % heat.width) * STEP + 13, Math.floor(i / heat.width) * STEP + 13];
  expect(found.length).toBeGreaterThan(1);
  for (const [x, y] of found.map(middle)) {
    const within = (left: number, top: number) => x >= left && x <= left + 48 && y >= top && y <= top + 48;
    expect(within(20, 24) || within(180, 120)).toBe(true);
  }
});

test('lightness and contrast do not hide a copy; what is flat is none', () => {
  const plain = patches(200, 160, 5);
  const part = cutOut(plain, 10, 10, 40, 40);
  const fainter = { ...part, data: part.data.map((v) => v * 0.5 + 20_000) };
  expect(measureCopies(paste(plain, fainter, 140, 100), 26).strongest).toBeGreaterThan(0.97);
  const flat = blankRaster(120, 90, 3);
  flat.data.fill(30_000);
  expect(measureCopies(flat, 20).strongest).toBe(0);
});

test('a picture smaller than a window holds no copy', () => {
  expect(measureCopies(patches(20, 16, 4), 26).strongest).toBe(0);
});
