import { type Static, Type } from '@sinclair/typebox';
import { Maps, type Role, ROLES } from '../material/schema';
import { resize } from '../picture/resize';
import { blankPlane, blankRaster, type Plane, type Raster, WHITE } from '../picture/raster';
import { mirrorNormals, turnNormals } from '../picture/turnNormals';
import { type Homography, straighten } from '../picture/straighten';

/** Maps that may come with a picture: all but its colour. */
export type GivenRole = Exclude<Role, 'baseColour'>;
export const GIVEN_ROLES = ROLES.filter((role): role is GivenRole => role !== 'baseColour');

/** Maps that belong to a picture and go through every step with it. */
export const Given = Type.Object({
  maps: Type.Omit(Maps, ['baseColour']),
  /** Deepest point of a given height map below its highest. */
  reliefMm: Type.Number({ minimum: 0, maximum: 500 }),
});
export type Given = Static<typeof Given>;

/** A height map says nothing of how deep it goes: what joints and rough faces often have. */
const USUAL_RELIEF = 2;
export const noGiven: Given = { maps: {}, reliefMm: USUAL_RELIEF };

/** Why a map of another shape is none of a picture's. @param ratio of its proportions and the picture's */
export const oddShape = (ratio: number): string =>
  `its shape differs from the picture’s by ${Math.max(1, Math.round(Math.abs(ratio - 1) * 100))}%, so it is no map ` +
  'of it: a map lies on its picture point by point';

/** How deep the height map goes that a prep's picture comes to, mm; 0 where there is none. */
export const reliefOf = (derived: { height: { reliefMm: number } | null }, { maps, reliefMm }: Given): number =>
  derived.height?.reliefMm ?? (maps.height ? reliefMm : 0);

/** Channels of a picture that hold a map: the first of them, and how many. */
export interface GivenChannels {
  role: GivenRole;
  at: number;
  count: 1 | 3;
}

/** Channels before the first map: colour and opacity. */
const OWN = 4;
const countOf = (role: GivenRole): 1 | 3 => (role === 'normal' || role === 'emission' ? 3 : 1);

/** Where maps stand behind a picture's own channels, in the order of their roles. */
export function channelsOf(roles: readonly GivenRole[]): GivenChannels[] {
  let at = OWN;
  return GIVEN_ROLES.filter((role) => roles.includes(role)).map((role) => {
    const count = countOf(role);
    at += count;
    return { role, at: at - count, count };
  });
}

/** Channels that a picture has with some maps. */
const channelsWith = (roles: readonly GivenRole[]): number =>
  roles.length ? OWN + roles.reduce((sum, role) => sum + countOf(role), 0) : OWN;

/** A picture with room for maps behind its own channels. */
function withRoom(picture: Raster, roles: readonly GivenRole[]): Raster {
  const out = blankRaster(picture.width, picture.height, channelsWith(roles));
  const n = out.channels;
  for (let i = 0, k = 0; k < out.data.length; i += picture.channels, k += n) {
    for (let c = 0; c < 3; c++) out.data[k + c] = picture.data[i + c];
    out.data[k + 3] = picture.channels > 3 ? picture.data[i + 3] : WHITE;
  }
  return out;
}

/** Puts a map into its room, made as large as the picture; one of a single channel is read from red. */
function putGiven(picture: Raster, { at, count }: GivenChannels, map: Raster): void {
  const { width, height, channels } = picture;
  const { data, channels: n } = resize(map, width, height, false);
  for (let i = 0, k = at; k < picture.data.length; i += n, k += channels)
    for (let c = 0; c < count; c++) picture.data[k + c] = data[i + c];
}

/** A picture with all its maps behind its own channels. @param read gives one, of any size */
export async function withGiven(
  picture: Raster,
  given: readonly GivenChannels[],
  read: (role: GivenRole) => Promise<Raster>,
): Promise<Raster> {
  if (!given.length) return picture;
  const out = withRoom(
    picture,
    given.map(({ role }) => role),
  );
  // one after the other, so that no two are held
  for (const one of given) putGiven(out, one, await read(one.role));
  return out;
}

/** A picture's own channels alone; its opacity only where it has any. */
export function ownOf(r: Raster): Raster {
  const { width, height, channels, data } = r;
  let clear = false;
  for (let k = 3; channels > 3 && k < data.length && !clear; k += channels) clear = data[k] < WHITE;
  if (channels === (clear ? 4 : 3)) return r;
  const out = blankRaster(width, height, clear ? 4 : 3);
  for (let i = 0, k = 0; i < out.data.length; k += channels)
    for (let c = 0; c < out.channels; c++) out.data[i++] = data[k + c];
  return out;
}

/** The picture as it was after a step, in channels that go along from there. */
export interface KeptChannels {
  step: string;
  /** The first of three. */
  at: number;
  /** How much lay over it by then. */
  coats: number;
}

/** A picture with its own colour once more behind all it has: there it stays as it is while steps change colours. */
export function withColourKept(r: Raster): Raster {
  const from = Math.max(OWN, r.channels);
  const out = blankRaster(r.width, r.height, from + 3);
  const n = r.channels;
  for (let i = 0, k = 0; k < out.data.length; i += n, k += from + 3) {
    for (let c = 0; c < n; c++) out.data[k + c] = r.data[i + c];
    if (n < OWN) out.data[k + 3] = WHITE;
    for (let c = 0; c < 3; c++) out.data[k + from + c] = r.data[i + c];
  }
  return out;
}

/** Three channels of a picture as one of their own. @param at the first of them */
export function colourAt({ width, height, channels, data }: Raster, at: number): Raster {
  const out = blankRaster(width, height, 3);
  for (let i = 0, k = at; i < out.data.length; k += channels) for (let c = 0; c < 3; c++) out.data[i++] = data[k + c];
  return out;
}

/** Where the maps of a prep stand behind its picture's own channels. */
export const givenChannels = ({ maps }: Given): GivenChannels[] => channelsOf(Object.keys(maps) as GivenRole[]);

/** One channel of a picture as numbers 0..1. */
export function planeOf({ width, height, channels, data }: Raster, at: number): Plane {
  const out = blankPlane(width, height);
  for (let i = 0, k = at; i < out.data.length; i++, k += channels) out.data[i] = data[k] / WHITE;
  return out;
}

const of = (given: readonly GivenChannels[], role: GivenRole) => given.find((g) => g.role === role)?.at ?? null;

/** The channel that a given height map stands in; null where none came. */
export const heightChannel = (given: readonly GivenChannels[]): number | null => of(given, 'height');

/** A picture and its maps seen straight on: normals turn with it. @see straighten */
export function straightenAll(
  r: Raster,
  given: readonly GivenChannels[],
  h: Homography,
  width: number,
  height: number,
): Raster {
  const made = straighten(r, h, width, height);
  const at = of(given, 'normal');
  if (at !== null) turnNormals(made, at, h);
  return made;
}

/** After a picture was mirrored beyond a column and a row, its normals are, too. */
export function mirrorGiven(r: Raster, given: readonly GivenChannels[], column: number, row: number): void {
  const at = of(given, 'normal');
  if (at !== null) mirrorNormals(r, at, column, row);
}
