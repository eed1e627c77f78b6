import { turnOf } from '../geometry/turn';
import { middleOfPiece } from '../layout/middle';
import type { Vec2, Vec3 } from '../geometry/vec';
import { type SheetSummary, sheetPoint } from '../mapping/sheet';
import { liesInPieces, repeatOf, type Sized, type Spec } from '../specification/schema';
import { gaugedOn } from './gauge';
import { startOfField, type Whole, wholeField, wholeOf } from './wholeField';
import { aroundOf } from '../mapping/schema';

/** Where and how large the picture lies on the sheet: a spec with everything resolved to numbers. */
export interface Placement {
  widthMm: number;
  heightMm: number;
  /** Lower left corner of one picture, sheet mm. */
  at: Vec2;
  turnDeg: number;
  mirrorX: boolean;
  mirrorY: boolean;
}

type Size = { widthMm: number; heightMm: number };

/** What decides where a picture, or the first piece, comes to lie on a sheet: all of a spec that has a say in it. */
export interface Setting extends Pick<Spec, 'start' | 'direction'> {
  /** The picture's size before the sheet has a say, mm. */
  size: Size;
  /** Changing one side of it changes the other in proportion. */
  locked: boolean;
  /** Exactly so many times round something closed; null for its own size. */
  around: number | null;
  inPieces: boolean;
  /** As large as the sheet allows, in its middle. */
  fitted: boolean;
  /** Only a band of the picture, exactly as high as the sheet. */
  band: { from: number; to: number } | null;
  /** The point that lies on the datum, in the layout's frame; `middle` is that of the picture. */
  onDatum: Vec2 | 'middle';
  /** Whole pieces only: they begin at the edge of what they cover, whatever the start says. */
  whole: Whole | null;
}

export const settingOf = (spec: Spec, material: Sized): Setting => ({
  size: repeatOf(spec, material),
  locked: spec.repeat.locked,
  around: aroundOf(spec.mapping),
  inPieces: liesInPieces(spec),
  fitted: !!spec.repeat.once?.fitted,
  band: spec.repeat.band ? { from: spec.repeat.band.from, to: spec.repeat.band.to } : null,
  start: spec.start,
  direction: spec.direction,
  onDatum: onDatum(spec),
  whole: wholeOf(spec),
});

/** A picture laid once has its middle on the centre; else what is asked. */
function onDatum(spec: Spec): Vec2 | 'middle' {
  const { datum, middle } = spec.start;
  if (datum !== 'centre') return [0, 0];
  if (!liesInPieces(spec)) return spec.repeat.once || middle === 'piece' ? 'middle' : [0, 0];
  return (middle === 'piece' && middleOfPiece(spec.pieces)) || [0, 0];
}

/**
 * The repeat as it comes out on a sheet: exactly so many times round something closed, fitted inside it, or with a band
 * as high as it, where that is asked.
 */
export const repeatOnSheet = (spec: Spec, material: Sized, sheet: Pick<SheetSummary, 'ring' | 'bounds'>): Size =>
  sizeOnSheet(settingOf(spec, material), sheet);

/** As `repeatOnSheet`, of a setting. */
export function sizeOnSheet(setting: Setting, sheet: Pick<SheetSummary, 'ring' | 'bounds'>): Size {
  if (setting.inPieces) return setting.size;
  const size = sizeAround(setting, sheet.ring);
  if (setting.fitted) return fittedSize(setting, size, sheet);
  return setting.band ? { ...size, heightMm: bandHeight(setting, setting.band, sheet) } : size;
}

/** Turned nearer to a quarter than to lying straight. */
const stands = ({ direction }: Pick<Spec, 'direction'>): boolean => Math.round(direction.turnDeg / 90) % 2 !== 0;

function sizeAround(setting: Setting, ringMm: number | null): Size {
  const { size: own, around, locked } = setting;
  if (!around || ringMm === null) return own;
  const length = ringMm / around;
  const standing = stands(setting);
  const share = length / (standing ? own.heightMm : own.widthMm);
  if (locked) return { widthMm: own.widthMm * share, heightMm: own.heightMm * share };
  return standing ? { ...own, heightMm: length } : { ...own, widthMm: length };
}

/** As large as the sheet allows in its direction. */
function fittedSize({ direction }: Setting, size: Size, { bounds: b }: Pick<SheetSummary, 'bounds'>): Size {
  const [c, s] = turnOf(direction.turnDeg).map(Math.abs);
  const k = Math.min(
    (b.maxX - b.minX) / (c * size.widthMm + s * size.heightMm),
    (b.maxY - b.minY) / (s * size.widthMm + c * size.heightMm),
  );
  return { widthMm: size.widthMm * k, heightMm: size.heightMm * k };
}

/** Of the whole picture, whose band is exactly as high as the sheet, or, turned by a quarter, as wide. */
function bandHeight(
  setting: Setting,
  { from, to }: { from: number; to: number },
  { bounds: b }: Pick<SheetSummary, 'bounds'>,
): number {
  return (stands(setting) ? b.maxX - b.minX : b.maxY - b.minY) / Math.max(LEAST_BAND, Math.abs(to - from));
}

/** Least share of a picture that makes a band. */
const LEAST_BAND = 0.001;

/** The sheet's y is the world's height: only then can courses keep a level. */
export const keepsLevels = (sheet: SheetSummary): boolean => sheet.charts[0].frame.y[1] > 0.9999;

/** The datum of a spec on its sheet, mm. A level that a sheet cannot keep gives way to its corner. */
export function datumOf({ start }: Pick<Spec, 'start'>, sheet: SheetSummary, partOrigin: Vec3): Vec2 {
  const b = sheet.bounds;
  switch (start.datum) {
    case 'corner':
      return [b.minX, b.minY];
    case 'centre':
      return [(b.minX + b.maxX) / 2, (b.minY + b.maxY) / 2];
    case 'part':
      return sheetPoint(sheet, partOrigin);
    case 'world':
      return sheetPoint(sheet, [0, 0, 0]);
    case 'level':
      return [b.minX, keepsLevels(sheet) ? sheetPoint(sheet, [0, start.level?.heightMm ?? 0, 0])[1] : b.minY];
  }
}

/** Where the picture lies, or the first piece; a gauge settles where that begins. */
export function placeSpec(spec: Spec, material: Sized, sheet: SheetSummary, partOrigin: Vec3): Placement {
  const { spec: own, at } = gaugedOn(spec, sheet);
  const settled = place(settingOf(own, material), sheet, partOrigin);
  const placed: Placement = { ...settled, at: [at.x ?? settled.at[0], at.y ?? settled.at[1]] };
  const upright = spec.mapping.mirror?.prints === 'upright' && !liesInPieces(spec);
  return upright ? readFromBehind(placed) : placed;
}

/** The same rectangles, each with its picture the other way round. */
function readFromBehind(p: Placement): Placement {
  const [dx, dy] = turnedBy(p, [p.widthMm, 0]);
  return { ...p, at: [p.at[0] + dx, p.at[1] + dy], mirrorX: !p.mirrorX };
}

/** Where the picture lies, everything resolved to numbers. */
export function place(setting: Setting, sheet: SheetSummary, partOrigin: Vec3): Placement {
  const size = sizeOnSheet(setting, sheet);
  const { start, direction, inPieces, fitted, band } = setting;
  if (!inPieces && fitted) return fitOnce(setting, size, sheet);
  if (!inPieces && band) return layBand(setting, band, size, sheet, partOrigin);
  const { turnDeg, mirrorX, mirrorY } = direction;
  const { onDatum: on, whole } = setting;
  if (whole) {
    const at = startOfField(wholeField(whole, direction, sheet.bounds), direction);
    return { ...size, at, turnDeg, mirrorX, mirrorY };
  }
  const [x, y] = datumOf(setting, sheet, partOrigin);
  const [dx, dy] = turnedBy(direction, on === 'middle' ? [size.widthMm / 2, size.heightMm / 2] : on);
  return { ...size, at: [x + start.xMm - dx, y + start.yMm - dy], turnDeg, mirrorX, mirrorY };
}

/** A vector of the layout's frame on the sheet. */
function turnedBy({ turnDeg, mirrorX, mirrorY }: Setting['direction'], [x, y]: Vec2): Vec2 {
  const [c, s] = turnOf(turnDeg);
  const [mx, my] = [mirrorX ? -x : x, mirrorY ? -y : y];
  return [c * mx - s * my, s * mx + c * my];
}

/** A band of the picture exactly over the height of the sheet, or, turned by a quarter, over its width. */
function layBand(
  setting: Setting,
  band: { from: number; to: number },
  size: Size,
  sheet: SheetSummary,
  partOrigin: Vec3,
): Placement {
  const { start, direction } = setting;
  const { turnDeg, mirrorX, mirrorY } = direction;
  const { bounds: b } = sheet;
  const standing = stands(setting);
  const placed: Placement = { ...size, at: [0, 0], turnDeg, mirrorX, mirrorY };
  // the picture's point at the start of the band and of its length comes to the sheet's corner, seen as it is turned
  const [x, y] = datumOf(setting, sheet, partOrigin);
  const [c, s] = turnOf(turnDeg);
  const foot = (mirrorY ? -1 : 1) * Math.min(band.from, band.to) * size.heightMm;
  const corner: Vec2 = standing
    ? [s > 0 !== mirrorY ? b.maxX : b.minX, y + start.yMm]
    : [x + start.xMm, c > 0 !== mirrorY ? b.minY : b.maxY];
  return { ...placed, at: [corner[0] + s * foot, corner[1] - c * foot] };
}

/** One picture in the middle of the sheet. */
function fitOnce({ direction }: Setting, { widthMm, heightMm }: Size, { bounds: b }: SheetSummary): Placement {
  const { turnDeg, mirrorX, mirrorY } = direction;
  const [x, y] = turnedBy({ turnDeg, mirrorX, mirrorY }, [widthMm / 2, heightMm / 2]);
  const at: Vec2 = [(b.minX + b.maxX) / 2 - x, (b.minY + b.maxY) / 2 - y];
  return { widthMm, heightMm, at, turnDeg, mirrorX, mirrorY };
}

/**
 * The linear part of sheet → repeats: diag(1/w, 1/h) · M · R(−turn), row by row.
 * Quarter turns are exact: sine and cosine of them are not left to rounding.
 */
export function repeatMatrix(p: Omit<Placement, 'at'>): [number, number, number, number] {
  const [c, s] = turnOf(p.turnDeg);
  const mx = p.mirrorX ? -1 : 1;
  const my = p.mirrorY ? -1 : 1;
  return [(mx * c) / p.widthMm, (mx * s) / p.widthMm, (my * -s) / p.heightMm, (my * c) / p.heightMm];
}

/** How often the picture repeats across the sheet's bounds, along its own width and height. */
export function countsAcross(
  sheet: SheetSummary,
  repeat: { widthMm: number; heightMm: number },
  turnDeg: number,
): Vec2 {
  const w = sheet.bounds.maxX - sheet.bounds.minX;
  const h = sheet.bounds.maxY - sheet.bounds.minY;
  // quarter turns swap the sides; between them the nearer counts
  const swapped = Math.round(turnDeg / 90) % 2 !== 0;
  return swapped ? [h / repeat.widthMm, w / repeat.heightMm] : [w / repeat.widthMm, h / repeat.heightMm];
}
