import { existsSync } from 'node:fs';
import { copyFile, readFile, rm } from 'node:fs/promises';
import path from 'node:path';
import { type MessagePort, receiveMessageOnPort } from 'node:worker_threads';
import sharp from 'sharp';
import type { Vec3 } from '@/core/geometry/vec';
import { daylightWhite, whiteOf } from '@/core/light/daylight';
import { luminance } from '@/core/light/sky';
import { lightOf } from '@/core/project/lightOf';
import type { Project } from '@/core/project/schema';
import { developLight, meantAt, meterLight, type StillDevelopment } from '@/core/still/develop';
import { smoothLight } from '@/core/still/smooth';
import { emptyLight, type Gathered, gatherRow, type LitStage } from '@/core/still/gather';
import { type PictureRegion, type StillView, wholeFrame } from '@/core/still/view';
import { folder, readBlob, writeFlushed } from '../store/data';
import { openScene } from './openScene';

/** What a traced still is made of. */
export interface TraceOptions {
  /** World mm. */
  view: StillView;
  widthPx: number;
  heightPx: number;
  /** What of it is made; all where it is absent. */
  region?: PictureRegion;
  /** Rays for each pixel. */
  samples: number;
  /** How often light goes on from what it falls on. */
  bounces: number;
  /** The grain is taken out of it. */
  smooth: boolean;
  /** A picture of the same size that the region is put into, by its hash. */
  within?: string;
}

/** How far a still got: what it is known by when it goes on. */
export interface TracedStill {
  png: Uint8Array;
  samples: number;
}

/** Metered on a picture so wide, by so many rays a pixel. */
const [METERED_PX, METERED_SAMPLES] = [64, 16];
/** Progress is said, and a picture shown, no more often than this, ms. */
const [SAYS_MS, SHOWS_MS, KEEPS_MS] = [300, 1500, 4000];

const fileOf = (job: string, ending: 'light' | 'jpg') => path.join(folder('exports'), `${job}.${ending}`);
/** Where a still that grows can be seen. */
export const seenFile = (job: string): string => fileOf(job, 'jpg');

/** Hands the light of a stopped job on to one that goes on with it, before anything else: that may be stopped, too. */
export async function handOnLight(from: string, to: string): Promise<void> {
  if (existsSync(fileOf(from, 'light'))) await copyFile(fileOf(from, 'light'), fileOf(to, 'light'));
}

/** Takes away what a job left of its light. */
export async function dropLight(job: string): Promise<void> {
  for (const ending of ['light', 'jpg'] as const) await rm(fileOf(job, ending), { force: true });
}

/**
 * Traces a still of a project, one ray a pixel after the other, until there are enough or somebody says so. What was
 * gathered is kept beside, so that a job that was stopped can be gone on with.
 */
export async function traceStill(
  job: string,
  project: Project,
  options: TraceOptions,
  port: MessagePort,
): Promise<TracedStill> {
  const say = (share: number, message: string) => port.postMessage({ share, message });
  const stage = await openScene(project, (share, message) => say(share * OPENED, message));
  const { widthPx, heightPx, samples, bounces, region, smooth } = options;
  const view = inMetres(options.view);
  say(OPENED, 'Metering');
  const how = exposureOf(project, stage, view, options);
  const frame = region ? { widthPx, heightPx, region } : wholeFrame(widthPx, heightPx);
  const light = (await keptLight(job, frame)) ?? emptyLight(frame);
  let [said, shown, took, kept] = [0, 0, 0, performance.now()];
  let enough = false;
  while (light.samples < samples && !enough) {
    for (let row = 0; row < frame.region.height; row++) {
      gatherRow(stage, view, bounces, light, row);
      const now = performance.now();
      if (now - said < SAYS_MS) continue;
      said = now;
      const share = (light.samples + row / frame.region.height) / samples;
      say(OPENED + share * (1 - OPENED), `Ray ${light.samples + 1} of ${samples} for each pixel`);
      enough ||= receiveMessageOnPort(port) !== undefined;
    }
    // a pass is whole, or it does not count: what is gone on with is as what was never stopped
    light.samples++;
    const now = performance.now();
    if (now - shown > Math.max(SHOWS_MS, took * SHOWS_SHARE)) {
      await writeFlushed(seenFile(job), await picture(light, how, 'jpeg', smooth));
      shown = performance.now();
      took = shown - now;
    }
    if (now - kept > KEEPS_MS) {
      kept = now;
      await keepLight(job, light);
    }
  }
  say(0.99, 'Developing');
  const png = await withinOther(await picture(light, how, 'png', smooth), options);
  return { png, samples: light.samples };
}

/** Showing waits so many times as long as it takes. */
const SHOWS_SHARE = 12;

/** The share of the way at which the scene is ready. */
const OPENED = 0.15;

const metres = ([x, y, z]: Vec3): Vec3 => [x / 1000, y / 1000, z / 1000];
const inMetres = ({ eye, target, ...rest }: StillView): StillView => ({
  ...rest,
  eye: metres(eye),
  target: metres(target),
});

/** As the room exposes: by the whole picture, however much of it is made. */
function exposureOf(
  { light }: Project,
  stage: LitStage,
  view: StillView,
  { widthPx, heightPx, bounces }: TraceOptions,
): StillDevelopment {
  const { metering, stops, curve } = lightOf(light);
  const { card } = stage.lights.daylight;
  const times = 2 ** stops;
  if (metering === 'fixed') return { curve, exposure: times / Math.max(1e-6, luminance(card)), white: whiteOf(card) };
  const metered = emptyLight(wholeFrame(METERED_PX, Math.max(1, Math.round((METERED_PX * heightPx) / widthPx))));
  for (; metered.samples < METERED_SAMPLES; metered.samples++)
    for (let row = 0; row < metered.frame.heightPx; row++) gatherRow(stage, view, bounces, metered, row);
  // the mean of logarithms of what is grainy is too dark
  const exposure = times * meterLight(smoothLight(metered), meantAt(luminance(card)));
  return { curve, exposure, white: daylightWhite() };
}

/** @param smooth takes the grain out */
function picture(gathered: Gathered, how: StillDevelopment, as: 'png' | 'jpeg', smooth: boolean): Promise<Buffer> {
  const light = smooth ? smoothLight(gathered) : gathered;
  const { width, height } = light.frame.region;
  const image = sharp(developLight(light, how), { raw: { width, height, channels: 3 } });
  return (as === 'png' ? image.png({ compressionLevel: 7 }) : image.jpeg({ quality: 85 })).toBuffer();
}

/** A region in its place in an earlier picture; all of a picture as it is. */
async function withinOther(png: Buffer, { region, within }: TraceOptions): Promise<Uint8Array> {
  if (!region || !within) return png;
  return (
    sharp(await readBlob(within))
      .composite([{ input: png, left: region.x, top: region.y }])
      // laying one over the other gives it an alpha that it does not need
      .removeAlpha()
      .png({ compressionLevel: 7 })
      .toBuffer()
  );
}

/** Numbers of the head: samples, and what of which picture it is. */
const HEAD = 7;
const headOf = ({ frame: { widthPx, heightPx, region }, samples }: Gathered) =>
  Float64Array.of(samples, widthPx, heightPx, region.x, region.y, region.width, region.height);
const bytesOf = ({ buffer, byteOffset, byteLength }: ArrayBufferView) => new Uint8Array(buffer, byteOffset, byteLength);

async function keepLight(job: string, light: Gathered): Promise<void> {
  const { sums, met, guides } = light;
  await writeFlushed(fileOf(job, 'light'), [headOf(light), sums, guides, met].map(bytesOf));
}

/** Light that a job left; null where it left none, or of another picture. */
async function keptLight(job: string, frame: Gathered['frame']): Promise<Gathered | null> {
  const at = fileOf(job, 'light');
  if (!existsSync(at)) return null;
  const bytes = await readFile(at);
  const light = emptyLight(frame);
  const arrays = [light.sums, light.guides, light.met];
  if (bytes.length !== HEAD * 8 + arrays.reduce((sum, a) => sum + a.byteLength, 0)) return null;
  const [samples, ...of] = new Float64Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + HEAD * 8));
  if (
    headOf(light)
      .slice(1)
      .some((v, n) => v !== of[n])
  )
    return null;
  let from = HEAD * 8;
  for (const array of arrays) {
    bytesOf(array).set(bytes.subarray(from, from + array.byteLength));
    from += array.byteLength;
  }
  light.samples = samples;
  return light;
}
