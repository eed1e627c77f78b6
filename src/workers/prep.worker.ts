import { expose, transfer } from 'comlink';
import { drawPieces, type SheetWindow } from '@/core/draw/pieces';
import type { Vec2 } from '@/core/geometry/vec';
import { histogram } from '@/core/picture/colour';
import { type GrainDirection, findGrain } from '@/core/picture/direction';
import { type BlotchMap, findBlotches, measureWrap, type SeamFigure } from '@/core/picture/judge';
import { findLaid, type Laid } from '@/core/picture/laid';
import { findPieces } from '@/core/picture/pieces';
import type { Raster } from '@/core/picture/raster';
import type { LeafPlace, Leaves, Material } from '@/core/material/schema';
import { type CopyFigure, judgeCopies, judgeStage, type Verdict } from '@/core/prep/judge';
import { colourBetween, layInPieces } from '@/core/prep/inPieces';
import { channelsOf, type GivenChannels, type GivenRole, withGiven } from '@/core/prep/given';
import { mapsOf, type MadeMap } from '@/core/prep/maps';
import { runSteps, type StageCache, StepError, type StepRemark } from '@/core/prep/run';
import { type Derived, noMaps, type Prep, takenOf } from '@/core/prep/schema';
import type { Step } from '@/core/prep/steps/registry';
import { type Stage, WORKING_SIDE } from '@/core/prep/steps/step';
import { paint } from './paint';
import { PASSED_OVER } from './passedOver';
import { openRaster } from './openRaster';

/** A picture to be shown: four bytes a pixel. */
export interface Shown {
  width: number;
  height: number;
  bytes: Uint8ClampedArray<ArrayBuffer>;
  mmPerPx: Vec2 | null;
}

export interface PrepRun {
  /** What goes into the step that is looked at, and what comes out of it. */
  before: Shown;
  after: Shown;
  /** What comes out of all steps. */
  result: Shown;
  closes: Stage['closes'];
  seam: SeamFigure | null;
  verdict: Verdict;
  blotches: BlotchMap;
  /** Null where the picture was not made larger. */
  copies: CopyFigure | null;
  /** The pieces it was composed of; null where it was not. */
  leaves: Leaves | null;
  /** Of the original, before any step. */
  untouched: { wrap: { across: SeamFigure; down: SeamFigure }; strongest: number };
  remarks: StepRemark[];
  /** The step that could not be done, and why; later ones wait for it. */
  failed: { step: string; text: string } | null;
  histogram: { red: number[]; green: number[]; blue: number[] };
}

/** A map that came with the picture, and where it is found. */
export interface GivenUrl {
  role: GivenRole;
  url: string;
}

let original: {
  key: string;
  raster: Raster;
  given: GivenChannels[];
  scale: number;
  untouched: PrepRun['untouched'];
} | null = null;
/** Other pictures that steps take. */
const otherPictures = new Map<string, Raster>();
let cache: StageCache = new Map();
let last: Stage | null = null;
/** Counts the runs asked for; one that is no longer the newest stops at its next step. */
let newest = 0;

/** Steps of a prep, on a smaller picture that stands for the original. */
const service = {
  /**
   * @param fullWidth pixels of the original, across
   * @param maps that came with it
   */
  async open(url: string, fullWidth: number, maps: GivenUrl[]): Promise<void> {
    const key = JSON.stringify([url, maps]);
    if (original?.key === key) return;
    const picture = await openRaster(url);
    const given = channelsOf(maps.map(({ role }) => role));
    const raster = await withGiven(picture, given, (role) => openRaster(maps.find((m) => m.role === role)!.url));
    const untouched = { wrap: measureWrap(raster), strongest: findBlotches(raster, false).strongest };
    original = { key, scale: raster.width / fullWidth, raster, given, untouched };
    cache = new Map();
  },

  /** Something newer is wanted: what runs stops at its next step. */
  pass(): void {
    newest++;
  },

  /**
   * @param looked number of the step that is looked at; −1 for the original
   * @param derived how heights are read, for steps that go by them, and after which steps maps are taken
   * @param others where other pictures that steps take are found, by the hashes of their files
   * @param each told which step is under way
   * @throws Error PASSED_OVER when something newer is wanted
   */
  async run(
    steps: Step[],
    pixelsPerInch: number | null,
    looked: number,
    derived: Derived,
    others: Record<string, string>,
    each: (step: number) => void,
  ): Promise<PrepRun> {
    if (!original) throw new Error('no picture is open');
    const own = ++newest;
    const { height: heights } = derived;
    const taken = takenOf(derived);
    const { raster, given, scale } = original;
    await openOthers(others);
    const used: StageCache = new Map();
    const kept: StageCache = {
      get: (k: string) => remember(used, k),
      set: (k: string, v: never) => used.set(k, v),
    } as never;
    let failed: PrepRun['failed'] = null;
    let remarks: StepRemark[] = [];
    const upTo = (n: number): Stage => {
      for (let count = n; ; count--) {
        try {
          const done = runSteps(raster, pixelsPerInch, steps, {
            scale,
            given,
            heights,
            taken,
            side: WORKING_SIDE,
            pictures: otherPictures,
            upTo: count,
            cache: kept,
          });
          if (done.remarks.length > remarks.length) remarks = done.remarks;
          return done.stage;
        } catch (error) {
          if (!(error instanceof StepError) || count === 0) throw error;
          failed = { step: error.step, text: error.message };
        }
      }
    };
    for (let n = 1; n < steps.length && !failed; n++) {
      each(n - 1);
      upTo(n);
      // what has come in meanwhile is heard; the stages made so far are kept for it
      await new Promise((resolve) => setTimeout(resolve));
      if (own === newest) continue;
      for (const [k, v] of used) cache.set(k, v);
      throw new Error(PASSED_OVER);
    }
    each(steps.length - 1);
    const stage = upTo(steps.length);
    const before = upTo(Math.max(0, looked));
    const after = upTo(looked + 1);
    cache = used;
    last = stage;
    const [shownBefore, shownAfter, result] = [before, after, stage].map(toShown);
    const closed = stage.closes.across && stage.closes.down;
    const answer: PrepRun = {
      before: shownBefore,
      after: shownAfter,
      result,
      closes: stage.closes,
      seam: stage.seam,
      verdict: judgeStage(stage),
      blotches: findBlotches(stage.raster, closed),
      copies: judgeCopies(stage),
      leaves: stage.leaves,
      untouched: original.untouched,
      remarks,
      failed,
      histogram: histogram(before.raster, 64),
    };
    return transfer(answer, [shownBefore.bytes.buffer, shownAfter.bytes.buffer, result.bytes.buffer]);
  },

  /** The grain of what goes into a step, and what lies laid in it. */
  inspect(steps: Step[], pixelsPerInch: number | null, upTo: number): { grain: GrainDirection; laid: Laid | null } {
    const { raster } = stageAfter(steps, pixelsPerInch, upTo);
    return { grain: findGrain(raster), laid: findLaid(raster) };
  },

  /** The whole pieces that lie laid in what goes into a step, shares of it; by how much it must be turned first. */
  pieces(
    { steps, pixelsPerInch, derived }: Pick<Prep, 'steps' | 'pixelsPerInch' | 'derived'>,
    upTo: number,
  ): { places: LeafPlace[]; turnDeg: number } {
    const { raster } = stageAfter(steps, pixelsPerInch, upTo, derived);
    const { width, height } = raster;
    const places = findPieces(raster).map((p) => ({
      x: p.x / width,
      y: p.y / height,
      width: p.width / width,
      height: p.height / height,
    }));
    return { places, turnDeg: places.length ? 0 : (findLaid(raster)?.turnDeg ?? 0) };
  },

  /** The leaves of the last run's result laid piece by piece in a window; null where they are too many to be seen. */
  async inPieces(
    leaves: Leaves,
    grain: Material['grain'],
    window: Pick<SheetWindow, 'scale' | 'width' | 'height'>,
  ): Promise<ImageBitmap | null> {
    if (!last?.mmPerPx) return null;
    const { raster, mmPerPx } = last;
    const size: Vec2 = [raster.width * mmPerPx[0], raster.height * mmPerPx[1]];
    const wall: Vec2 = [window.width / window.scale, window.height / window.scale];
    const joint = colourBetween(raster, leaves, size);
    const laid = layInPieces(leaves, size, wall, grain, joint);
    if (!laid) return null;
    const { bytes, width, height } = toShown(last);
    const picture = await createImageBitmap(new ImageData(bytes, width, height));
    const drawn = drawPieces(laid, { ...window, x: wall[0] / 2, y: wall[1] / 2 }, [picture]);
    // compared with a picture, in which nothing is hatched
    const pieces = drawn.pieces.map((p) => ({ ...p, hatched: false }));
    const made = paint({ ...drawn, pieces }, window, [picture], { ink: joint, thread: joint }, joint);
    return transfer(made, [made]);
  },

  /** The maps of the last run's result. */
  maps(derived: Derived, reliefMm: number): Partial<Record<GivenRole, Shown>> {
    if (!last) return {};
    const made = mapsOf(last, derived, reliefMm);
    const shown = Object.fromEntries(Object.entries(made).map(([role, map]) => [role, mapShown(map)]));
    return transfer(
      shown,
      Object.values(shown).map((s) => s.bytes.buffer),
    );
  },
};

/** What comes out of the first of some steps. */
function stageAfter(steps: Step[], pixelsPerInch: number | null, upTo: number, derived: Derived = noMaps): Stage {
  const { raster, given, scale } = original!;
  const reading = {
    scale,
    given,
    heights: derived.height,
    taken: takenOf(derived),
    side: WORKING_SIDE,
    pictures: otherPictures,
  };
  return runSteps(raster, pixelsPerInch, steps, { ...reading, upTo, cache }).stage;
}

/** Those that are no longer there are left out: the step that takes one says so. */
async function openOthers(urls: Record<string, string>): Promise<void> {
  for (const hash of otherPictures.keys()) if (!(hash in urls)) otherPictures.delete(hash);
  for (const [hash, url] of Object.entries(urls)) {
    if (otherPictures.has(hash)) continue;
    const opened = await openRaster(url).catch(() => null);
    if (opened) otherPictures.set(hash, opened);
  }
}

function remember(used: StageCache, key: string) {
  const known = used.get(key) ?? cache.get(key);
  if (known) used.set(key, known);
  return known;
}

function toShown({ raster, mmPerPx }: Stage): Shown {
  const { width, height, channels, data } = raster;
  const bytes = new Uint8ClampedArray(width * height * 4);
  for (let i = 0, k = 0; i < bytes.length; i += 4, k += channels) {
    bytes[i] = data[k] / 257;
    bytes[i + 1] = data[k + 1] / 257;
    bytes[i + 2] = data[k + 2] / 257;
    bytes[i + 3] = channels > 3 ? data[k + 3] / 257 : 255;
  }
  return { width, height, bytes, mmPerPx };
}

function mapShown({ width, height, channels, data }: MadeMap): Shown {
  const bytes = new Uint8ClampedArray(width * height * 4);
  const k = data instanceof Uint16Array ? 257 : 1;
  for (let i = 0, p = 0; i < bytes.length; i += 4, p += channels) {
    for (let c = 0; c < 3; c++) bytes[i + c] = data[p + (channels === 3 ? c : 0)] / k;
    bytes[i + 3] = 255;
  }
  return { width, height, bytes, mmPerPx: null };
}

export type PrepService = typeof service;
expose(service);
