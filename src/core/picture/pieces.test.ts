import { laidGround, type LaidGround, UNSEEN } from '../testing/grounds';
import { photograph, SQUARE, WALLS } from '../testing/walls';
import { hashUnit, tileNoise } from '../noise/tiles';
import { type Ground, GROUNDS, type Shot } from './camera';
import { findPieces, type PieceFound } from './pieces';
import { cornersOf, findHomography, straighten } from './straighten';

/** The whole pieces of a wall within a picture, mm from its upper left. */
function piecesOf(wall: Omit<LaidGround, 'seed'>, widthMm: number, heightMm: number): PieceFound[] {
  const { lengthMm, heightMm: high, bedMm, endMm, headers, shift, atMm } = wall;
  const pitch = high + bedMm;
  const long = lengthMm + endMm;
  const short = (headers?.lengthMm ?? lengthMm) + endMm;
  const out: PieceFound[] = [];
  for (let row = -2; row * pitch < heightMm + pitch; row++) {
    const odd = ((row % 2) + 2) % 2;
    const bottom = atMm[1] + bedMm / 2 + row * pitch;
    const y = heightMm - bottom - high;
    const put = (from: number, length: number) => {
      if (from >= 0 && from + length <= widthMm && y >= 0 && y + high <= heightMm)
        out.push({ x: from, y, width: length, height: high });
    };
    for (let n = -20; n < 60; n++) {
      if (headers?.by === 'turn') {
        const from = atMm[0] - endMm / 2 - odd * ((long + short) / 2) + n * (long + short) + endMm;
        put(from, lengthMm);
        put(from + long, headers.lengthMm);
      } else {
        const own = headers && odd ? short : long;
        put(atMm[0] - endMm / 2 + (headers ? odd * (short / 2) : row * shift * own) + n * own + endMm, own - endMm);
      }
    }
  }
  return out;
}

function compare(found: PieceFound[], truth: PieceFound[]) {
  const off = (a: PieceFound, b: PieceFound) =>
    Math.max(
      Math.abs(a.x - b.x),
      Math.abs(a.y - b.y),
      Math.abs(a.x + a.width - b.x - b.width),
      Math.abs(a.y + a.height - b.y - b.height),
    ) / Math.max(b.width, b.height);
  const offs = truth.map((t) => Math.min(...found.map((f) => off(f, t))));
  const strangers = found.filter((f) => Math.min(...truth.map((t) => off(f, t))) > 0.05).length;
  return { found: offs.filter((o) => o < 0.015).length / truth.length, strangers };
}

const inMm = (pieces: PieceFound[], mm: number) =>
  pieces.map((p) => ({ x: p.x * mm, y: p.y * mm, width: p.width * mm, height: p.height * mm }));

test.each(WALLS)('%s: whole pieces with edges within 1.5%% of them', (_name, _bond, shot: Partial<Shot>, wall) => {
  const r = photograph(laidGround({ ...wall, seed: 417 }), shot);
  const seen = shot.seenMm ?? SQUARE.seenMm;
  const truth = piecesOf(wall, seen, (seen * r.height) / r.width);
  const { found, strangers } = compare(inMm(findPieces(r), seen / r.width), truth);
  expect(truth.length).toBeGreaterThan(20);
  expect(found).toBeGreaterThanOrEqual(0.95);
  expect(strangers).toBe(0);
});

/** A floor of boards of all lengths, no two courses alike. */
const FLOOR = { highMm: 138, jointMm: 4, leastMm: 420, moreMm: 600 };
function boardsOf(row: number): [number, number][] {
  const out: [number, number][] = [];
  for (let from = -400 * hashUnit(row, 0, 91), n = 1; from < 3000; n++) {
    const length = FLOOR.leastMm + FLOOR.moreMm * hashUnit(row, n, 91);
    out.push([from, from + length]);
    from += length + FLOOR.jointMm;
  }
  return out;
}
const pitch = FLOOR.highMm + FLOOR.jointMm;
const floor: Ground = (x, y, out) => {
  const row = Math.floor(y / pitch);
  const board = boardsOf(row).findIndex(([from, to]) => x >= from && x < to);
  const joint = board < 0 || y - row * pitch >= FLOOR.highMm;
  const grain = 0.05 * tileNoise(x / 60, y / 3, 4096, 4096, 92) + 0.04 * tileNoise(x / 9, y / 1.5, 4096, 4096, 93);
  const v = joint ? 0.16 : 0.5 + 0.14 * (hashUnit(row, board, 94) - 0.5) + grain;
  [out[0], out[1], out[2]] = [v * 1.15, v * 0.9, v * 0.62];
};

test.each([
  ['straight on', false],
  ['seen askew with a rule in the frame, its perspective removed', true],
] as const)('boards of all lengths, %s', (_name, askew) => {
  const shot: Shot = { ...SQUARE, seenMm: 2000, widthPx: 1400, heightPx: 1050 };
  let r = photograph(floor, shot);
  if (askew) {
    const corners: Shot['corners'] = [
      [0.05, 0.03],
      [0.95, 0.07],
      [0.97, 0.96],
      [0.03, 0.92],
    ];
    const taken = photograph(floor, { ...shot, corners, ruleMm: 400, fallRight: 0.25, spot: 0.15 });
    const pixels = corners.map(([x, y]): [number, number] => [x * taken.width, y * taken.height]);
    r = straighten(taken, findHomography(cornersOf(1400, 1050), pixels)!, 1400, 1050);
  }
  const high = (2000 * 1050) / 1400;
  const truth = Array.from({ length: Math.ceil(high / pitch) }, (_, row) => row).flatMap((row) => {
    const y = high - row * pitch - FLOOR.highMm;
    // the lowest lie at the picture's edge, and under the rule
    if (y < 0 || row < (askew ? 2 : 1)) return [];
    return boardsOf(row)
      .filter(([from, to]) => from >= 0 && to <= 2000)
      .map(([from, to]) => ({ x: from, y, width: to - from, height: FLOOR.highMm }));
  });
  const found = inMm(findPieces(r), 2000 / 1400);
  expect(truth.length).toBeGreaterThan(9);
  const { found: share, strangers } = compare(
    found.filter((p) => !askew || p.y + p.height < high - 2 * pitch + 9),
    truth,
  );
  expect(share).toBeGreaterThanOrEqual(0.95);
  expect(strangers).toBe(0);
});

test('turned by a quarter the same pieces stand', () => {
  const [, , , wall] = WALLS[0];
  const ground = laidGround({ ...wall, seed: 417 });
  const level = findPieces(photograph(ground, { widthPx: 1000, heightPx: 750, seenMm: 1000 }));
  const standing = findPieces(
    photograph((x, y, out) => ground(y, x, out), { widthPx: 750, heightPx: 1000, seenMm: 750 }),
  );
  const laid = standing.map(({ x, y, width, height }) => ({
    x: 1000 - y - height,
    y: 750 - x - width,
    width: height,
    height: width,
  }));
  const { found } = compare(laid, level);
  expect(found).toBeGreaterThan(0.9);
});

test.each(
  Object.entries({ ...GROUNDS, ...UNSEEN })
    .filter(([name]) => !['brick', 'setts', 'boards'].includes(name))
    .map(([name, { ground }]) => [name, ground] as const),
)('none in a photograph of %s', (_name, ground) => {
  expect(findPieces(photograph(ground, { widthPx: 800, heightPx: 600, seed: 8 }))).toEqual([]);
});
