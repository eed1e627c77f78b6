import { type Courses, findCourses } from './courses';
import { type EndsFound, findEnds } from './jointLines';
import type { Raster } from './raster';

/** The face of a whole piece that lies laid in a picture, pixels from its upper left. */
export interface PieceFound {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** An end joint that was not seen is taken to lie where the others have it, nearer to that than this share. */
const NEAR = 0.12;
/** Pieces that are shorter than their course is high by this share are no pieces. */
const SHORTEST = 0.3;

/**
 * The whole pieces that lie laid in a picture, by their joints: boards, bricks, tiles, course by course from the upper
 * left. Those that the picture's edge cuts are not among them.
 *
 * @param r straight and seen square on, as prep leaves it
 * @returns none where nothing is laid in it that runs straight through
 */
export function findPieces(r: Raster): PieceFound[] {
  const found = findCourses(r);
  if (!found) return [];
  const { by, along, beds } = found;
  const ends = findEnds(found);
  const pieces: PieceFound[] = [];
  for (let k = 0; k + 1 < beds.count; k++) {
    const [above, below] = [k, k + 1].map((n) => beds.first + n * beds.pitch);
    const line = lineBetween(found, above, below);
    const joints = endsOf(found, ends, k).map((at) => edgesOf(line, at, beds.width, beds.contrast));
    for (let i = 0; i + 1 < joints.length; i++) {
      const [from, to] = [joints[i][1], joints[i + 1][0]];
      if (to - from < SHORTEST * beds.pitch || !isLength(joints[i + 1][0] - joints[i][0], ends, found)) continue;
      const across = (y: number) => {
        const column = lineAcross(found, from, to, y);
        const [low, high] = edgesOf(column.line, y - column.first, beds.width, beds.contrast);
        return [low + column.first, high + column.first];
      };
      const [top, bottom] = [across(above)[1], across(below)[0]];
      const box = { x: from * by, y: top * by, width: (to - from) * by, height: (bottom - top) * by };
      pieces.push(along === 'x' ? box : { x: box.y, y: box.x, width: box.height, height: box.width });
    }
  }
  return pieces;
}

/** Middles of the end joints of a course, those that were not seen among them where pieces are of one length. */
function endsOf({ crossing, courses, rows }: Courses, ends: EndsFound | null, k: number): number[] {
  if (crossing) return Array.from({ length: crossing.count }, (_, i) => crossing.first + i * crossing.pitch);
  const seen = courses[k];
  if (!ends || ends.shorter !== null || ends.bond === 'irregular' || !seen.length) return seen;
  const { pitch } = ends;
  let [c, s] = [0, 0];
  for (const x of seen) {
    c += Math.cos((x / pitch) * 2 * Math.PI);
    s += Math.sin((x / pitch) * 2 * Math.PI);
  }
  const phase = ((Math.atan2(s, c) / (2 * Math.PI) + 1) % 1) * pitch;
  const all: number[] = [];
  for (let at = phase; at < rows.across; at += pitch) all.push(seen.find((x) => Math.abs(x - at) < NEAR * pitch) ?? at);
  return all;
}

/** Whether a piece may be so long: where pieces are of known lengths, a joint that was missed makes none. */
function isLength(pitch: number, ends: EndsFound | null, { crossing }: Courses): boolean {
  if (crossing || !ends || ends.bond === 'irregular') return true;
  return [ends.pitch, ends.shorter ?? ends.pitch].some((l) => Math.abs(pitch - l) < 0.15 * l);
}

/** The mean of a course, place by place along it, away from its joints. */
function lineBetween({ rows, beds }: Courses, above: number, below: number): Float64Array {
  const margin = beds.width / 2 + Math.max(1, beds.pitch * 0.06);
  return meanOf(rows.across, above + margin, below - margin, (x, y) => rows.at(x, y));
}

/** The mean of a piece and what lies above and below it, place by place across a joint. */
function lineAcross({ rows, beds }: Courses, from: number, to: number, y: number) {
  const reach = Math.min(beds.pitch / 2, beds.width * 1.5 + 4);
  const first = Math.max(0, Math.floor(y - reach));
  const count = Math.min(rows.down, Math.ceil(y + reach)) - first;
  const inset = (to - from) * 0.1;
  return { first, line: meanOf(count, from + inset, to - inset, (j, x) => rows.at(x, first + j)) };
}

function meanOf(count: number, from: number, to: number, at: (i: number, j: number) => number): Float64Array {
  const [low, high] = [Math.max(0, Math.round(from)), Math.max(Math.round(from) + 1, Math.round(to))];
  return Float64Array.from({ length: count }, (_, i) => {
    let sum = 0;
    for (let j = low; j < high; j++) sum += at(i, j);
    return sum / (high - low);
  });
}

/** Where a joint begins and ends: at half of what it differs by from what lies beside it. */
function edgesOf(line: Float64Array, near: number, width: number, contrast: number): [number, number] {
  const sign = Math.sign(contrast);
  const at = (i: number) => sign * line[Math.max(0, Math.min(line.length - 1, i))];
  const reach = Math.max(1, Math.round(width * 0.6));
  let top = Math.round(near - 0.5);
  for (let i = top - reach; i <= top + reach; i++) if (at(i) > at(top)) top = i;
  const flank = (way: 1 | -1) => {
    let [sum, n] = [0, 0];
    for (let d = Math.ceil(width) + 1; d <= 2 * Math.ceil(width) + 3; d++, n++) sum += at(top + way * d);
    return sum / n;
  };
  const edge = (way: 1 | -1): number => {
    const half = (at(top) + flank(way)) / 2;
    let i = top;
    while (at(i) > half && Math.abs(i - top) < width * 1.5 + 2) i += way;
    const [inside, outside] = [at(i - way), at(i)];
    const part = inside > outside ? Math.min(1, Math.max(0, (inside - half) / (inside - outside))) : 0.5;
    return i - way + 0.5 + way * part;
  };
  return [edge(-1), edge(1)];
}
