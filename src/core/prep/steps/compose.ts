import { type Static, Type } from '@sinclair/typebox';
import type { Vec2 } from '../../geometry/vec';
import { LEAST_LEAF } from '../../material/leaves';
import type { Leaves } from '../../material/schema';
import { arrangeBoards, type Arranged, MOST_LAID } from '../../picture/compose/arrange';
import { type BoardCut, paintBoards } from '../../picture/compose/paint';
import type { Raster } from '../../picture/raster';
import { resize } from '../../picture/resize';
import { isQuadrangle } from '../../picture/straighten';
import { Colour, Hash, Key } from '../../schema/basics';
import { oneOf } from '../../schema/choice';
import { formatLength } from '../../units/length';
import { defineStep, MOST_PIXELS, openStage, OTHER_SIDE, Place, Share, type Stage, type Tools } from './step';

/** Another picture that boards are cut from, with the real size it has in the library. */
export const BoardPicture = Type.Object({
  image: Hash,
  /** The material it is of, whose picture may be made anew. */
  material: Key,
  name: Type.String({ maxLength: 200 }),
  widthMm: Type.Number({ minimum: 0.5, maximum: 1e6 }),
  heightMm: Type.Number({ minimum: 0.5, maximum: 1e6 }),
  widthPx: Type.Integer({ minimum: 1 }),
});
export type BoardPicture = Static<typeof BoardPicture>;

/** A board that is cut out: its corners, clockwise from its upper left, and how often it is turned on. */
export const Board = Type.Object({
  corners: Type.Array(Place, { minItems: 4, maxItems: 4 }),
  turns: Type.Integer({ minimum: 0, maximum: 3 }),
  /** Null for the picture before this step, whose later mending it follows. */
  of: Type.Union([Type.Null(), BoardPicture]),
});
export type Board = Static<typeof Board>;

/** Boards that one step cuts out, and other pictures that they are of. */
export const MOST_BOARDS = 200;
export const MOST_PICTURES = 12;

/** Hashes of the other pictures that boards are of. */
const othersOf = (boards: readonly Board[]) => [...new Set(boards.flatMap(({ of }) => (of ? [of.image] : [])))];

/** A picture of many pieces: boards or tiles cut out of one picture or several, and laid side by side as leaves. */
export const compose = defineStep(
  'compose',
  {
    boards: Type.Array(Board, { maxItems: MOST_BOARDS }),
    lay: oneOf('cells', 'rows'),
    columns: Type.Integer({ minimum: 1, maximum: 64 }),
    lengthMm: Type.Number({ minimum: 1, maximum: 1e5 }),
    heightMm: Type.Number({ minimum: 1, maximum: 1e5 }),
    rowMm: Type.Number({ minimum: 1, maximum: 1e6 }),
    fit: oneOf('cut', 'whole'),
    insetMm: Type.Number({ minimum: 0, maximum: 1000 }),
    jointMm: Type.Number({ minimum: 0, maximum: 1000 }),
    jointColour: Colour,
    copies: Type.Integer({ minimum: 1, maximum: 8 }),
    vary: Share,
    tint: Share,
    colour: Colour,
    seed: Type.Integer({ minimum: 1, maximum: 9999 }),
  },
  {
    label: 'Compose',
    what: 'boards or tiles cut out, laid side by side as leaves',
    first: {
      boards: [],
      lay: 'cells',
      columns: 2,
      lengthMm: 1200,
      heightMm: 140,
      rowMm: 3600,
      fit: 'cut',
      insetMm: 1,
      jointMm: 4,
      jointColour: '#3a3530',
      copies: 1,
      vary: 0.05,
      tint: 0,
      colour: '#a88a64',
      seed: 1,
    },
    // no more are opened than are taken
    pictures: ({ boards }) => othersOf(boards).slice(0, MOST_PICTURES),
    cutsOut: true,
    hint: ({ boards }) =>
      boards.length ? null : 'Find the pieces of the picture, draw one, or take those of another material.',
    groups: (of) => [
      {
        label: 'Laid',
        columns: 3,
        fields: [
          {
            kind: 'choice',
            label: 'Laid in',
            title: 'Cells are of one size; in rows each is as long as it is',
            options: [
              ['cells', 'cells'],
              ['rows', 'rows'],
            ],
            get: (s) => s.lay,
            set: (s, lay) => ({ ...s, lay: lay as typeof s.lay }),
          },
          {
            ...of.number('Columns', 'columns', { min: 1, max: 64 }),
            integer: true,
            shown: (s) => s.lay === 'cells',
          } as ReturnType<typeof of.number>,
          {
            ...of.length('Rows are long', 'rowMm', { min: 1, max: 1e6 }),
            shown: (s) => s.lay === 'rows',
          },
          {
            kind: 'choice',
            label: 'Made to fit',
            title: 'Cut keeps true sizes; whole ones are made as large as their place',
            options: [
              ['cut', 'cut to it'],
              ['whole', 'whole'],
            ],
            get: (s) => s.fit,
            set: (s, fit) => ({ ...s, fit: fit as typeof s.fit }),
          },
          { ...of.length('Length', 'lengthMm', { min: 1, max: 1e5 }), shown: (s) => s.lay === 'cells' },
          of.length('Height', 'heightMm', { min: 1, max: 1e5 }),
          {
            ...of.length('Inset', 'insetMm', { min: 0, max: 1000 }),
            title: 'Left off on every side of what is cut out: arrises, a joint’s shadow',
          },
          of.length('Joint', 'jointMm', { min: 0, max: 1000 }),
          {
            kind: 'colour',
            label: 'Joint’s colour',
            get: (s) => s.jointColour,
            set: (s, jointColour) => ({ ...s, jointColour }),
          },
          {
            ...of.number('Each comes', 'copies', { min: 1, max: 8, suffix: ' ×' }),
            integer: true,
            title: 'As it is, turned by half, flipped, and both',
          } as ReturnType<typeof of.number>,
        ],
      },
      {
        label: 'Each a little otherwise',
        columns: 3,
        fields: [
          of.share('Lightness', 'vary', 0, 100),
          of.share('Tint', 'tint'),
          {
            kind: 'colour',
            label: 'Towards',
            get: (s) => s.colour,
            set: (s, colour) => ({ ...s, colour }),
          },
          {
            ...of.number('Shuffle', 'seed', { min: 1, max: 9999 }),
            integer: true,
            shown: (s) => s.vary > 0,
          } as ReturnType<typeof of.number>,
        ],
      },
    ],
    brief: ({ boards, copies }) => `${boards.length * copies}`,
    said: ({ boards, copies, lay }) => {
      const count = boards.length * copies;
      return count ? `composed of ${count} ${count === 1 ? 'board' : 'boards'} in ${lay}` : 'not composed yet';
    },
    run(stage, step, tools): Stage {
      if (!step.boards.length) {
        tools.remark('No boards are cut out yet, so the picture stays as it is.');
        return stage;
      }
      const others = othersOf(step.boards).length;
      if (others > MOST_PICTURES)
        return tools.fail(
          `its boards are of ${others} other pictures; ${MOST_PICTURES} are taken. Compose some first.`,
        );
      const cut = cutOut(stage, step, tools);
      const arranged = arrangeBoards(
        cut.map(({ size, turns }) => ({ size, turns })),
        { ...step, cellMm: [step.lengthMm, step.heightMm] },
      );
      if (!arranged)
        return tools.fail(
          `more than ${MOST_LAID} boards would be laid, and a material has no more leaves. Lay fewer or longer ones.`,
        );
      if (arranged.again) tools.remark(`${inWords(arranged.again)} laid once more to fill the last row.`);
      if (arranged.stretched > STRETCHED)
        tools.remark(
          `The smallest board is made ${Math.round((arranged.stretched - 1) * 100)}% larger to fill its place: ` +
            'make the cells smaller, or leave it out.',
        );
      const { pxPerMm, scale } = densityOf(stage, cut, arranged, tools);
      // what has many more pixels than are wanted is made smaller first, so that nothing flickers
      const smaller = new Map<Raster, Raster>();
      const cuts = cut.map(({ of, corners }): BoardCut => {
        const [raster, most] = [of, Math.max(...cut.filter((c) => c.of === of).map((c) => c.pxPerMm))];
        if (most < pxPerMm * MANY_MORE) return { of: raster, corners };
        const by = pxPerMm / most;
        const size = [raster.width, raster.height].map((v) => Math.max(1, Math.round(v * by)));
        const small = smaller.get(raster) ?? resize(raster, size[0], size[1], false);
        smaller.set(raster, small);
        return {
          of: small,
          corners: corners.map(([x, y]) => [(x * small.width) / raster.width, (y * small.height) / raster.height]),
        };
      });
      const made = paintBoards(arranged, cuts, pxPerMm, rgb(step.jointColour), { ...step, colour: rgb(step.colour) });
      return {
        ...openStage(made, [arranged.widthMm / made.width, arranged.heightMm / made.height], scale),
        // every board ends at a joint, and so does the picture
        closes: { across: step.jointMm > 0, down: step.jointMm > 0 },
        leaves: leavesOf(arranged, step),
      };
    },
  },
);

type Compose = Parameters<(typeof compose)['run']>[1];

/** From here on a board that is made larger for its place is spoken of. */
const STRETCHED = 1.03;
/** A picture of so many times the pixels is made smaller before it is cut. */
const MANY_MORE = 1.4;
/** Most columns and rows of leaves in a grid. */
const MOST_LINES = 64;

const inWords = (n: number): string => (n === 1 ? 'One board is' : `${n} boards are`);
const rgb = (hex: string): number[] => [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16) / 255);
const distance = (a: Vec2, b: Vec2): number => Math.hypot(a[0] - b[0], a[1] - b[1]);

interface Cut extends BoardCut {
  turns: number;
  /** Its true size, mm, before it is turned. */
  size: Vec2;
  /** Pixels it has for each millimetre. */
  pxPerMm: number;
  /** It is of another picture. */
  other: Board['of'];
}

/** Boards as they lie in their pictures, less their insets, and how large they are. */
function cutOut({ raster, mmPerPx }: Stage, step: Compose, { fail, picture }: Tools): Cut[] {
  return step.boards.map(({ corners, turns, of: other }, n) => {
    const name = `board ${n + 1}`;
    if (!isQuadrangle(corners))
      return fail(`the corners of ${name} cross or lie on a line; set them clockwise from its upper left.`);
    const of = other ? picture(other.image) : raster;
    const mm: Vec2 | null = other ? [other.widthMm / of.width, other.heightMm / of.height] : mmPerPx;
    const own = corners.map(([x, y]): Vec2 => [x * of.width, y * of.height]);
    const sidesOf = (by: Vec2): Vec2 => {
      const at = own.map(([x, y]): Vec2 => [x * by[0], y * by[1]]);
      return [
        (distance(at[0], at[1]) + distance(at[3], at[2])) / 2,
        (distance(at[1], at[2]) + distance(at[0], at[3])) / 2,
      ];
    };
    const pixels = sidesOf([1, 1]);
    // a whole one is as large as its place, whatever the picture says
    const size = step.fit === 'whole' ? wholeSize(pixels, step) : mm ? sidesOf(mm) : null;
    if (!size) return fail('the picture’s size is not known: measure it first, or let whole boards fill their places.');
    if (Math.min(...size) <= 2 * step.insetMm + 0.1)
      return fail(
        `${name} is ${size.map((v) => formatLength(v, 'mm', { decimals: 1 })).join(' × ')}, ` +
          `of which an inset of ${formatLength(step.insetMm, 'mm')} leaves nothing.`,
      );
    const inset = size.map((v) => step.insetMm / v) as Vec2;
    return {
      of,
      corners: within(own, inset),
      turns,
      size: size.map((v) => v - 2 * step.insetMm) as Vec2,
      pxPerMm: Math.max(pixels[0] / size[0], pixels[1] / size[1]),
      other,
    };
  });
}

/** What a board that fills its place is as large as: its cell; in rows as high as they are. */
function wholeSize(pixels: Vec2, { lay, lengthMm, heightMm }: Compose): Vec2 {
  const upright = pixels[1] > pixels[0];
  if (lay === 'cells') return upright !== heightMm > lengthMm ? [heightMm, lengthMm] : [lengthMm, heightMm];
  const shorter = Math.min(...pixels);
  return pixels.map((v) => (v * heightMm) / shorter) as Vec2;
}

/** Corners moved in by shares of the two sides. */
function within(corners: readonly Vec2[], [x, y]: Vec2): Vec2[] {
  const at = (u: number, v: number): Vec2 =>
    [0, 1].map(
      (k) =>
        (1 - v) * ((1 - u) * corners[0][k] + u * corners[1][k]) + v * ((1 - u) * corners[3][k] + u * corners[2][k]),
    ) as Vec2;
  return [at(x, y), at(1 - x, y), at(1 - x, 1 - y), at(x, 1 - y)];
}

/** How many pixels a millimetre gets: as many as the picture has, or the other ones that boards are of. */
function densityOf(
  { scale: own }: Stage,
  cut: readonly Cut[],
  { widthMm, heightMm }: Arranged,
  { fail, side }: Tools,
): { pxPerMm: number; scale: number } {
  const mine = cut.filter((c) => !c.other);
  const full = mine.length
    ? Math.max(...mine.map((c) => c.pxPerMm)) / own
    : Math.max(...cut.map(({ other }) => Math.min(other!.widthPx, OTHER_SIDE) / other!.widthMm));
  const [wide, high] = [widthMm, heightMm].map((mm) => Math.round(mm * full));
  if (wide * high > MOST_PIXELS)
    return fail(
      `it would come to ${wide} × ${high} pixels; at most 8192 × 8192 are made. Lay fewer, or resize it first.`,
    );
  if (Math.min(wide, high) < 8)
    return fail(`it would come to ${wide} × ${high} pixels; 8 at least are made each way. Its boards are too small.`);
  const most = side === null ? full : Math.min(full, side / Math.max(widthMm, heightMm));
  const pxPerMm = mine.length ? Math.min(full * own, most) : most;
  return { pxPerMm, scale: pxPerMm / full };
}

/** The leaves that the boards become; what a row has left over at its end is none where it is too small to be one. */
function leavesOf({ laid, widthMm, heightMm, rows }: Arranged, { lay, columns, jointMm }: Compose): Leaves | null {
  const insetMm = 0;
  if (lay === 'cells' && rows <= MOST_LINES && columns * rows > 1) return { columns, rows, insetMm: jointMm / 2 };
  const share = (v: number, of: number) => Math.min(1, v / of);
  const places = laid.map(({ x, y, width, height }) => ({
    x: share(x, widthMm),
    y: share(y, heightMm),
    width: share(width, widthMm),
    height: share(height, heightMm),
  }));
  const large = places.filter((p) => Math.min(p.width, p.height) >= LEAST_LEAF);
  if (!large.length) return null;
  return { columns: 1, rows: 1, insetMm, places: large };
}
