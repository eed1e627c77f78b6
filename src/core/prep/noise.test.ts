import { blankRaster, WHITE } from '../picture/raster';
import { deriveMaps } from './maps';
import { heightsOf } from './heights';
import { runSteps } from './run';
import { noMaps } from './schema';
import type { Noise } from './noise';
import { sharesOf } from './steps/mask';
import { type Step, stepOf } from './steps/registry';

const patches: Noise = { sizeMm: 40, octaves: 3, seed: 2 };
const [W, H] = [96, 64];
/** Grey, with one white pixel, so that what is read of it shows. */
const grey = blankRaster(W, H, 3);
grey.data.fill(WHITE / 2).fill(WHITE, 0, 3);
const mm: [number, number] = [2, 2];
const straight: [number, number][] = [
  [0, 0],
  [1, 1],
];
const curve = { of: 'lightness' as const, points: straight, joints: 0 };
const height = {
  ...{ low: 0, high: 1, invert: false, joints: null, cleanMm: 0, softenMm: 0, detail: 0, noise: 0, reliefMm: 1 },
};
const kindsOf = (data: ArrayLike<number>) => new Set(Array.from(data)).size;

test('each map that reads the picture reads patches of noise instead where it is told so', () => {
  const opacity = { threshold: 0.5, soft: 1, invert: false };
  const of = (p?: Noise) =>
    deriveMaps(grey, mm, {
      ...noMaps,
      height: { ...height, patches: p },
      roughness: { ...curve, patches: p },
      metallic: { ...curve, patches: p },
      opacity: { ...opacity, patches: p },
    });
  const [plain, noisy] = [of(), of(patches)];
  for (const role of ['height', 'roughness', 'metallic', 'opacity'] as const) {
    expect(kindsOf(plain[role]!.data)).toBeLessThanOrEqual(2);
    expect(kindsOf(noisy[role]!.data)).toBeGreaterThan(60);
  }
  // the same noise in all of them, and heights in 16 bits
  for (const i of [0, 700, 4000]) {
    expect(noisy.metallic!.data[i]).toBe(noisy.roughness!.data[i]);
    expect(Math.abs(noisy.height!.data[i] / 257 - noisy.roughness!.data[i])).toBeLessThan(1);
  }
  // “heights” is said by what is no longer read
  const byHeight = deriveMaps(grey, mm, { ...noMaps, height, roughness: { ...curve, of: 'height', patches } });
  expect(byHeight.roughness!.data).toEqual(noisy.roughness!.data);
});

test('in bands it comes out as at once, in the maps and for steps that read heights', () => {
  const d = { ...noMaps, height: { ...height, patches, joints: 0.5, cleanMm: 4, softenMm: 4, detail: 0.3 } };
  expect(deriveMaps(grey, mm, d, { atATime: W * 20 }).height!.data).toEqual(deriveMaps(grey, mm, d).height!.data);
  expect(heightsOf(grey, mm, d.height, W * 20).data).toEqual(heightsOf(grey, mm, d.height).data);
});

const made = (kind: 'colour' | 'even' | 'dirt', rest: object) =>
  ({ id: 's', on: true, mask: null, ...stepOf({ kind }).first, ...rest }) as unknown as Step;

test('a step works in patches: as much as they cover, of their true size, alike at another size', () => {
  const mask = { kind: 'patches' as const, ...patches, cover: 0.4, softness: 0.05 };
  const size = (r: { width: number }) =>
    made('size' as never, { by: { kind: 'typed', widthMm: 192, heightMm: 128 }, r });
  const darker = made('colour', { exposure: -2, mask });
  const run = (width: number, height: number, ...steps: Step[]) => {
    const r = blankRaster(width, height, 3);
    r.data.fill(30_000);
    return runSteps(r, null, [size(r), ...steps]).stage.raster;
  };
  const small = run(W, H, darker);
  const all = run(W, H, made('colour', { exposure: -2 }));
  const from = 30_000;
  const share = Array.from({ length: W * H }, (_, i) => (from - small.data[i * 3]) / (from - all.data[i * 3]));
  const mean = share.reduce((a, b) => a + b, 0) / share.length;
  expect(Math.abs(mean - 0.4)).toBeLessThan(0.12);
  const at = sharesOf(mask, { width: W, height: H }, [2, 2]);
  for (const i of [5, 999, 4321]) expect(share[i]).toBeCloseTo(at((i % W) + 0.5, Math.floor(i / W) + 0.5), 2);
  const large = run(W * 3, H * 3, darker);
  const off = share.map((v, i) => {
    const [x, y] = [(i % W) * 3 + 1, Math.floor(i / W) * 3 + 1];
    return Math.abs(v - (from - large.data[(y * W * 3 + x) * 3]) / (from - all.data[i * 3]));
  });
  expect(Math.max(...off)).toBeLessThan(0.05);
});

test('dirt lies only where its mask’s patches are', () => {
  const mask = { kind: 'patches' as const, ...patches, cover: 0.3, softness: 0 };
  const size = made('size' as never, { by: { kind: 'typed', widthMm: 192, heightMm: 128 } });
  const { stage } = runSteps(grey, null, [size, made('dirt', { cover: 1, strength: 1, mask })]);
  const at = sharesOf(mask, grey, [2, 2]);
  const { amount } = stage.coats[0];
  amount.forEach((v, i) => expect(Math.abs(v / 255 - at((i % W) + 0.5, Math.floor(i / W) + 0.5))).toBeLessThan(0.01));
});
