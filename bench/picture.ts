import sharp, { type Sharp } from 'sharp';
import { colour, plainColour } from '@/core/picture/colour';
import { evenOut } from '@/core/picture/even';
import { heal, type Stroke } from '@/core/picture/heal';
import { blankRaster, cutOut, type Raster } from '@/core/picture/raster';
import { resize } from '@/core/picture/resize';
import { makeSeamless } from '@/core/picture/seamless';
import { findHomography, straighten } from '@/core/picture/straighten';
import { hashUnit, tileNoise } from '@/core/noise/tiles';
import { deriveMaps, MAP_PRESETS } from '@/core/prep/maps';
import { runSteps } from '@/core/prep/run';
import { type Step, type StepKind, stepOf } from '@/core/prep/steps/registry';
import { compare, type Rows } from './measure';

const SIDE = 2048;

const stroke = (kind: Stroke['kind'], x: number, y: number): Stroke => ({
  kind,
  points: [
    [x, y],
    [x + 0.04, y + 0.03],
  ],
  radius: 0.03,
  hardness: 0.5,
  opacity: 1,
  offset: [0.2, 0.1],
  colour: '#8a7a60',
});
const STROKES = [
  stroke('patch', 0.2, 0.2),
  stroke('copy', 0.6, 0.3),
  stroke('paint', 0.3, 0.7),
  stroke('sharpen', 0.7, 0.7),
];

/** 48 boards askew, turned into cells of the same size, each tinted: about as large as what they are cut out of. */
const BOARDS = {
  boards: Array.from({ length: 48 }, (_, n) => {
    const [x, y] = [(n % 6) / 6, Math.floor(n / 6) / 8];
    const corner = (u: number, v: number) => [x + u / 6, y + v / 8];
    return {
      corners: [corner(0.04, 0.02), corner(0.98, 0.05), corner(0.96, 0.98), corner(0.02, 0.95)],
      turns: 0,
      of: null,
    };
  }),
  ...{ columns: 6, lengthMm: SIDE / 6 - 4, heightMm: SIDE / 8 - 4, fit: 'whole', tint: 0.3 },
};

/** Something with grain and noise, 16 bits a channel. */
function picture(side: number): Raster {
  const r = blankRaster(side, side, 3);
  for (let y = 0; y < side; y++) {
    for (let x = 0; x < side; x++) {
      const v = 0.5 + 0.15 * tileNoise(x / 90, y / 8, 64, 512, 1) + 0.1 * (hashUnit(x, y, 2) - 0.5);
      r.data.fill(v * 65535, (y * side + x) * 3, (y * side + x) * 3 + 3);
    }
  }
  return r;
}

const stepWith = (kind: StepKind, change: object = {}) =>
  ({ id: kind, on: true, mask: null, ...stepOf({ kind }).first, ...change }) as unknown as Step;

/** Steps of prep at 2048² against the nearest thing libvips does: raw in, raw out, same depth, one thread. */
export async function benchPictures(rows: Rows): Promise<void> {
  sharp.concurrency(1);
  const r = picture(SIDE);
  const raw = { raw: { width: SIDE, height: SIDE, channels: 3 as const } };
  const vips = () =>
    sharp(r.data as unknown as Uint8Array, raw)
      .pipelineColourspace('rgb16')
      .toColourspace('rgb16');
  const out = (s: Sharp) => s.raw({ depth: 'ushort' }).toBuffer();
  const corners: [number, number][] = [
    [60, 40],
    [2000, 90],
    [1980, 2010],
    [30, 1960],
  ];
  const h = findHomography(
    [
      [0, 0],
      [SIDE, 0],
      [SIDE, SIDE],
      [0, SIDE],
    ],
    corners,
  )!;
  const patch = await sharp({ create: { width: 160, height: 160, channels: 4, background: '#8a7a60' } })
    .png()
    .toBuffer();
  const overlays = STROKES.map(({ points: [[x, y]] }) => ({
    input: patch,
    left: Math.round(x * SIDE),
    top: Math.round(y * SIDE),
  }));
  const multiplied = [
    {
      input: await sharp({ create: { width: SIDE, height: SIDE, channels: 4, background: '#8a7a60' } })
        .png()
        .toBuffer(),
      blend: 'multiply' as const,
    },
  ];
  const sobel = { width: 3, height: 3, kernel: [-1, 0, 1, -2, 0, 2, -1, 0, 1] };
  const mapsByVips = async () => {
    await out(vips().greyscale().linear(1.2, 10));
    await out(vips().greyscale().convolve(sobel));
    await out(
      vips()
        .greyscale()
        .convolve({ ...sobel, kernel: [-1, -2, -1, 0, 0, 0, 1, 2, 1] }),
    );
    await out(vips().greyscale().linear(-0.4, 200));
    await out(vips().greyscale().blur(6));
  };
  const steps: [string, () => unknown, string, () => Promise<unknown>][] = [
    [
      'straighten',
      () => straighten(r, h, SIDE, SIDE),
      'affine, bicubic',
      () => out(vips().affine([0.97, 0.02, -0.02, 0.97], { interpolator: 'bicubic' })),
    ],
    [
      'resize to 1500',
      () => resize(r, 1500, 1500, false),
      'resize, Lanczos',
      () => out(vips().resize(1500, 1500, { kernel: 'lanczos3' })),
    ],
    [
      'even out',
      () => evenOut(r, { radius: 200, lightness: 1, colour: 1 }),
      'Gaussian blur, sigma 40',
      () => out(vips().blur(40)),
    ],
    [
      'colour',
      () => colour(r, { ...plainColour, exposure: 0.2, saturation: 0.8 }),
      'modulate',
      () => out(vips().modulate({ brightness: 1.1, saturation: 0.8 })),
    ],
    [
      'crop',
      () => cutOut(r, 100, 80, 1800, 1800),
      'extract',
      () => out(vips().extract({ left: 100, top: 80, width: 1800, height: 1800 })),
    ],
    [
      'heal, four strokes',
      () => heal(r, STROKES, true),
      'composite of four overlays',
      () => out(vips().composite(overlays)),
    ],
    [
      'height, normal, roughness and occlusion',
      () => deriveMaps(r, [0.5, 0.5], MAP_PRESETS[0].derived),
      'linear, Sobel, linear and Gaussian blur',
      mapsByVips,
    ],
  ];
  for (const [name, work, against, reference] of steps) {
    const { taken, base, ratio } = await compare(work, reference, { runs: 5 });
    rows.push({
      name: `${name}, ${SIDE}²`,
      value: taken,
      unit: 'ms',
      against: `libvips ${against}, ${base.toFixed(0)} ms`,
      ratio,
      budget: 3,
    });
  }
  const { taken, base, ratio } = await compare(
    () => makeSeamless(r, { mode: 'blend', overlap: 0.2, evened: true, across: true, down: true }),
    () => out(vips().blur(40)),
    { runs: 3 },
  );
  rows.push({
    name: `evened and seamless, ${SIDE}²`,
    value: taken,
    unit: 'ms',
    against: `libvips Gaussian blur, sigma 40, ${base.toFixed(0)} ms`,
    ratio,
    budget: 12,
  });
  const later: [StepKind, object, string, () => Promise<unknown>, number][] = [
    // the sample is cut anew each time: a picture that was looked through once is known
    ['extend', { widthMm: SIDE, heightMm: SIDE }, 'Gaussian blur, sigma 40', () => out(vips().blur(40)), 40],
    [
      'compose',
      BOARDS,
      'affine, bicubic',
      () => out(vips().affine([0.97, 0.02, -0.02, 0.97], { interpolator: 'bicubic' })),
      3,
    ],
    ['dirt', {}, 'blur and composite, multiplied', () => out(vips().blur(6).composite(multiplied)), 3],
    ['heightColour', {}, 'blur and composite, multiplied', () => out(vips().blur(6).composite(multiplied)), 3],
  ];
  for (const [kind, change, against, reference, budget] of later) {
    const step = stepWith(kind, change);
    const work = () => runSteps(kind === 'extend' ? cutOut(r, 0, 0, 720, 480) : r, 25.4, [step]);
    const row = await compare(work, reference, { runs: 3 });
    rows.push({
      name: `${stepOf(step).label.toLowerCase()}, ${SIDE}²`,
      value: row.taken,
      unit: 'ms',
      against: `libvips ${against}, ${row.base.toFixed(0)} ms`,
      ratio: row.ratio,
      budget,
    });
  }
}

const LARGEST: Record<string, (r: Raster) => unknown> = {
  seamless: (r) => makeSeamless(r, { mode: 'blend', overlap: 0.2, evened: true, across: true, down: true }),
  maps: (r) => deriveMaps(r, [0.5, 0.5], MAP_PRESETS[1].derived),
  compose: (r) => runSteps(r, 25.4 * (8192 / SIDE), [stepWith('compose', BOARDS)]),
  dirt: (r) => runSteps(r, 25.4 * (8192 / SIDE), [stepWith('dirt', { place: 'joints' })]),
  heightColour: (r) => runSteps(r, 25.4 * (8192 / SIDE), [stepWith('heightColour')]),
};

/** A step at 8192², for its memory. */
export function largest(step: string): void {
  const big = blankRaster(8192, 8192, 3);
  for (let i = 0; i < big.data.length; i += 3) big.data.fill(20000 + ((i * 7) % 20011), i, i + 3);
  LARGEST[step](big);
}

/** 2 GiB: no step may need more, the picture itself and the program in it. */
const MOST_MB = 2147;

export function benchLargest(rows: Rows, peakMb: (what: string, file: string) => number): void {
  for (const [step, what] of [
    ['seamless', 'evened and seamless'],
    ['maps', 'all maps'],
    ['compose', 'boards composed'],
    ['dirt', 'dirt in joints'],
    ['heightColour', 'colour by height'],
  ]) {
    const value = peakMb(step, '-');
    rows.push({
      name: `${what}, 8192², peak memory of a process of its own`,
      value,
      unit: 'MB',
      against: `2 GiB, ${MOST_MB} MB`,
      ratio: value / MOST_MB,
      budget: 1,
    });
  }
}
