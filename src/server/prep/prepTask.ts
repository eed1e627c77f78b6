import sharp from 'sharp';
import { hexOf } from '@/core/colour/srgb';
import type { Figures, Leaves, MapRef, Role } from '@/core/material/schema';
import { GROUNDS, type Shot, takePhotograph } from '@/core/picture/camera';
import { meanColour } from '@/core/picture/colour';
import { type Raster, rasterOfBytes } from '@/core/picture/raster';
import { mapsOf, type MadeMap } from '@/core/prep/maps';
import { stepOf } from '@/core/prep/steps/registry';
import { MOST_PIXELS, mostPixels, OTHER_SIDE, saidMost, WORKING_SIDE } from '@/core/prep/steps/step';
import { type GivenChannels, givenChannels, ownOf, withGiven } from '@/core/prep/given';
import { figuresOf, stepsMark } from '@/core/prep/figures';
import { judgeStage } from '@/core/prep/judge';
import { picturesOf, runSteps, StepError } from '@/core/prep/run';
import { type Prep, takenOf } from '@/core/prep/schema';
import { hasBlob, readBlob } from '../store/data';
import { MOST_PIXELS as MOST_STORED, shrunkPng } from '../store/images';
import { Problem } from '../http/problem';

/** What was made of a prepared picture: PNGs by role, and what is known of them. */
export interface MadePrep {
  pictures: { role: Role; png: Uint8Array<ArrayBuffer> }[];
  widthMm: number;
  heightMm: number;
  colour: string;
  seamless: boolean;
  /** Measured at full size. */
  figures: Figures;
  /** What it was made by. */
  steps: string;
  /** The pieces it was composed of. */
  leaves: Leaves | null;
  remarks: string[];
}

/** Does every step at the picture's full size, and makes its maps. */
export async function makePrep(prep: Prep, progress: (share: number, message: string) => void): Promise<MadePrep> {
  progress(0.02, 'Reading the picture');
  const given = givenChannels(prep.given);
  const original = await originalOf(prep, given);
  let result: ReturnType<typeof runSteps>;
  try {
    const small = prep.steps.some((s) => s.on && stepOf(s).chooses) ? await smallOf(prep, given) : undefined;
    const pictures = new Map<string, Raster>();
    const others = picturesOf(prep.steps).filter(hasBlob);
    // together they take no more memory than a few of the largest
    const side = OTHER_SIDE / 2 ** Math.max(0, Math.ceil(Math.log2(others.length / LARGE_ONES) / 2));
    for (const hash of others) pictures.set(hash, await otherPicture(hash, side));
    result = runSteps(original, prep.pixelsPerInch, prep.steps, {
      pictures,
      given,
      small,
      heights: prep.derived.height,
      taken: takenOf(prep.derived),
      each: (n) => progress(0.05 + (0.6 * n) / Math.max(1, prep.steps.length), `Step ${n} of ${prep.steps.length}`),
    });
  } catch (error) {
    if (!(error instanceof StepError)) throw error;
    throw new Problem(422, 'A step cannot be done', error.message, { field: `steps.${error.step}` });
  }
  const { stage, remarks } = result;
  if (!stage.mmPerPx)
    throw new Problem(
      422,
      'Its size is not known',
      'Nothing says how large the picture is: add a Size step, or set four corners of a known rectangle.',
      { field: 'steps' },
    );
  const { raster, mmPerPx } = stage;
  progress(0.7, 'Maps');
  const maps = mapsOf(stage, prep.derived, prep.given.reliefMm);
  const pictures: MadePrep['pictures'] = [{ role: 'baseColour', png: await pngOf(raster) }];
  const made = Object.entries(maps) as [Role, MadeMap][];
  for (const [role, map] of made) {
    pictures.push({ role, png: await mapPng(map) });
    progress(0.75 + (0.2 * pictures.length) / (made.length + 1), `Writing ${role}`);
  }
  progress(0.96, 'Judging it');
  const verdict = judgeStage(stage);
  const { seamless, faults } = verdict;
  return {
    pictures,
    widthMm: round(raster.width * mmPerPx[0]),
    heightMm: round(raster.height * mmPerPx[1]),
    colour: hexOf(meanColour(raster)),
    seamless,
    figures: figuresOf(verdict, stage.seam),
    steps: stepsMark(prep),
    leaves: stage.leaves,
    remarks: [...remarks.map((r) => r.text), ...faults.map((fault) => `Not seamless: ${fault}.`)],
  };
}

const round = (mm: number) => Math.round(mm * 100) / 100;

/** The picture that stands for the original while one works, as the browser reads it: choices are the same on both. */
async function smallOf({ picture, given: { maps } }: Prep, given: readonly GivenChannels[]): Promise<Raster> {
  const read = async ({ image, widthPx, heightPx }: MapRef) => {
    const larger = Math.max(widthPx, heightPx) > WORKING_SIDE;
    return inBytes(larger ? await shrunkPng(image, WORKING_SIDE) : await readBlob(image));
  };
  return withGiven(await read(picture), given, (role) => read(maps[role]!));
}

/** The picture and the maps that came with it, at its full size. */
async function originalOf(
  { picture, given: { maps }, derived }: Prep,
  given: readonly GivenChannels[],
): Promise<Raster> {
  const channels = given.reduce((sum, { count }) => sum + count, 4) + 3 * new Set(Object.values(takenOf(derived))).size;
  if (picture.widthPx * picture.heightPx > mostPixels(channels))
    throw new Problem(
      422,
      'Too large',
      `The picture has ${picture.widthPx} × ${picture.heightPx} pixels; prep works on ${saidMost(channels)}. ` +
        'Make it smaller first.',
      { field: 'picture' },
    );
  return withGiven(await readRaster(picture), given, (role) => readRaster(maps[role]!, picture));
}

/** So many other pictures are read at their largest. */
const LARGE_ONES = 4;

async function otherPicture(hash: string, side: number): Promise<Raster> {
  const bytes = await readBlob(hash);
  const { width, height } = await sharp(bytes, { limitInputPixels: MOST_STORED }).metadata();
  return inBytes(Math.max(width!, height!) > side ? await shrunkPng(hash, side) : bytes);
}

/** A picture of 8 bits a channel. */
async function inBytes(bytes: Buffer): Promise<Raster> {
  const { data, info } = await sharp(bytes)
    .toColourspace('srgb')
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return rasterOfBytes(data, info.width, info.height);
}

/**
 * A stored picture as 16 bit numbers, sRGB.
 * @param within it goes along with this one: where it has more pixels than prep holds, as many as this one are read
 */
async function readRaster(picture: MapRef, within = picture): Promise<Raster> {
  const image = sharp(await readBlob(picture.image), { limitInputPixels: MOST_STORED });
  if (picture.widthPx * picture.heightPx > MOST_PIXELS) image.resize(within.widthPx, within.heightPx, { fit: 'fill' });
  const meta = await image.metadata();
  const channels = meta.hasAlpha ? 4 : 3;
  // 8 bits are spread over all of 16 here, as in the browser: libvips would only shift them
  const deep = meta.depth !== 'uchar';
  const raw = await (
    deep ? image.toColourspace('rgb16').raw({ depth: 'ushort' }) : image.toColourspace('srgb').raw()
  ).toBuffer({ resolveWithObject: true });
  const numbers = deep
    ? new Uint16Array(raw.data.buffer, raw.data.byteOffset, raw.data.byteLength / 2)
    : Uint16Array.from(raw.data, (v) => v * 257);
  if (raw.info.channels === channels)
    return { width: raw.info.width, height: raw.info.height, channels, data: numbers.slice() };
  // grey, with or without opacity
  const data = new Uint16Array(raw.info.width * raw.info.height * channels);
  const n = raw.info.channels;
  for (let i = 0; i < raw.info.width * raw.info.height; i++) {
    for (let c = 0; c < 3; c++) data[i * channels + c] = numbers[i * n];
    if (channels === 4) data[i * channels + 3] = numbers[i * n + n - 1];
  }
  return { width: raw.info.width, height: raw.info.height, channels, data };
}

/** 8 bits a channel: what renderers and browsers take. */
async function pngOf(r: Raster): Promise<Uint8Array<ArrayBuffer>> {
  const { width, height, channels, data } = ownOf(r);
  const bytes = Uint8Array.from(data, (v) => (v + 128) / 257);
  return tight(
    await sharp(bytes, { raw: { width, height, channels: channels as 3 | 4 } })
      .png({ compressionLevel: 6 })
      .toBuffer(),
  );
}

async function mapPng({ width, height, channels, data }: MadeMap): Promise<Uint8Array<ArrayBuffer>> {
  const image = sharp(data as Uint8Array, { raw: { width, height, channels } });
  return tight(
    await (
      data instanceof Uint16Array ? image.toColourspace('grey16') : channels === 1 ? image.toColourspace('b-w') : image
    )
      .png({ compressionLevel: 6 })
      .toBuffer(),
  );
}

/** A copy that owns its memory, to be handed to another thread. */
const tight = (bytes: Buffer): Uint8Array<ArrayBuffer> => Uint8Array.from(bytes);

export async function photograph(
  ground: string,
  shot: Shot,
): Promise<{ png: Uint8Array; widthMm: number; heightMm: number; rule: unknown }> {
  const known = GROUNDS[ground];
  if (!known)
    throw new Problem(400, 'Not a ground', `“${ground}” is not among ${Object.keys(GROUNDS).join(', ')}.`, {
      field: 'ground',
    });
  const { raster, widthMm, heightMm, rule } = takePhotograph(known.ground, shot);
  return { png: await pngOf(raster), widthMm, heightMm, rule };
}
