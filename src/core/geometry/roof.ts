import { areaOfCorners } from './clip';
import { type Corners, meet, outwardNormals } from './polygon';

/** What of a polygon lies nearest to one of its sides: what is under one plane of the roof over it. */
export interface RoofFace {
  /** Which side; −1 for a middle that could not be shared out. */
  side: number;
  /** Counter-clockwise; not always convex. */
  corners: Corners;
}

/** A corner of the shrinking outline, and the side that runs on from it. */
interface Corner {
  x: number;
  y: number;
  /** How it moves while all sides move inwards by one. */
  vx: number;
  vy: number;
  side: number;
  /** What the two ends of that side have passed, where they did not move straight on. */
  left: number[];
  right: number[];
}

/** What happens next to a shrinking outline: side `at` is used up, or corner `at` runs into the side from `onto`. */
interface Event {
  after: number;
  at: number;
  onto: number | null;
}

/** Places nearer than this are the same, mm. */
const SAME = 1e-7;

/**
 * The roof over a polygon: its faces are what lies nearest to each side, measured square to the side's line; the lines
 * between them are its straight skeleton (Aichholzer, Aurenhammer, Alberts and Gärtner 1995). Found by moving all sides
 * inwards at one speed and looking for what happens next.
 */
export function roofOver(corners: ArrayLike<number>): RoofFace[] {
  const normals = outwardNormals(corners);
  const faces: RoofFace[] = [];
  const first: Corner[] = Array.from({ length: corners.length / 2 }, (_, k) => {
    const [x, y] = [corners[k * 2], corners[k * 2 + 1]];
    const next = (k * 2 + 2) % corners.length;
    return { x, y, vx: 0, vy: 0, side: k, left: [x, y], right: [corners[next], corners[next + 1]] };
  });
  for (const corner of [...first]) steer(first, corner, faces, normals);
  const open = [first];
  let rounds = 20 * first.length;
  for (let loop = open.pop(); loop; loop = open.pop()) {
    for (;;) {
      const next = loop.length > 2 && areaOf(loop) > SAME ? nextEvent(loop, normals) : null;
      if (!next || rounds-- <= 0) {
        finish(loop, faces);
        break;
      }
      for (const c of loop) {
        c.x += c.vx * next.after;
        c.y += c.vy * next.after;
      }
      if (next.onto === null) useUp(loop, next.at, faces, normals);
      else {
        const [one, other]: [Corner[], Corner[]] = part(loop, next.at, next.onto, faces, normals);
        open.push(other);
        loop = one;
      }
    }
  }
  return faces;
}

/**
 * Lets a corner move so that it keeps on the lines of both its sides. Where these run back over one another the shorter
 * is used up first.
 */
function steer(loop: Corner[], corner: Corner, faces: RoofFace[], normals: Float64Array): void {
  while (loop.length > 2) {
    const at = loop.indexOf(corner);
    const before = loop[(at + loop.length - 1) % loop.length];
    const [p, s] = [before.side * 2, corner.side * 2];
    const v = meet(-normals[p], -normals[p + 1], 1, -normals[s], -normals[s + 1], 1);
    const inLine = normals[p] * normals[s] + normals[p + 1] * normals[s + 1] > 0;
    [corner.vx, corner.vy] = v ?? [-normals[s], -normals[s + 1]];
    if (v || inLine) return;
    const next = loop[(at + 1) % loop.length];
    const { x, y } = corner;
    if (Math.hypot(next.x - x, next.y - y) <= Math.hypot(before.x - x, before.y - y)) {
      give(faces, corner, next, []);
      before.right.push(x, y, next.x, next.y);
      next.left.push(next.x, next.y);
      loop.splice(at, 1);
      corner = next;
    } else {
      const last = loop[(at + loop.length - 2) % loop.length];
      give(faces, before, corner, []);
      corner.left.push(x, y, before.x, before.y);
      [corner.x, corner.y] = [before.x, before.y];
      last.right.push(before.x, before.y);
      loop.splice(loop.indexOf(before), 1);
    }
  }
}

function nextEvent(loop: Corner[], normals: Float64Array): Event | null {
  let found: Event | null = null;
  const take = (after: number, at: number, onto: number | null) => {
    // of what happens at once sides are used up first: what they leave is simpler
    if (after < (found?.after ?? Infinity) - SAME) found = { after: Math.max(0, after), at, onto };
  };
  loop.forEach((a, i) => {
    const b = loop[(i + 1) % loop.length];
    const [dx, dy] = [-normals[a.side * 2 + 1], normals[a.side * 2]];
    const shrinks = (a.vx - b.vx) * dx + (a.vy - b.vy) * dy;
    if (shrinks > 1e-12) take(((b.x - a.x) * dx + (b.y - a.y) * dy) / shrinks, i, null);
  });
  loop.forEach((c, i) => {
    const before = (i + loop.length - 1) % loop.length;
    const [p, s] = [loop[before].side * 2, c.side * 2];
    if (normals[p] * normals[s + 1] - normals[p + 1] * normals[s] > -1e-9) return;
    loop.forEach((from, j) => {
      const k = (j + 1) % loop.length;
      if (j === i || j === before || k === before || k === i) return;
      const [nx, ny] = [normals[from.side * 2], normals[from.side * 2 + 1]];
      const away = nx * (from.x - c.x) + ny * (from.y - c.y);
      const nears = 1 + nx * c.vx + ny * c.vy;
      if (away < -SAME || nears < 1e-12) return;
      const after = away / nears;
      if (after >= (found?.after ?? Infinity) - SAME) return;
      const to = loop[k];
      const [x, y] = [c.x + c.vx * after, c.y + c.vy * after];
      const [dx, dy] = [-ny, nx];
      const low = (from.x + from.vx * after) * dx + (from.y + from.vy * after) * dy;
      const high = (to.x + to.vx * after) * dx + (to.y + to.vy * after) * dy;
      const along = x * dx + y * dy;
      if (along >= low - SAME && along <= high + SAME) take(after, i, j);
    });
  });
  return found;
}

/** A side is used up: its face is done, and its neighbours meet. */
function useUp(loop: Corner[], at: number, faces: RoofFace[], normals: Float64Array): void {
  const gone = loop[at];
  const next = loop[(at + 1) % loop.length];
  const before = loop[(at + loop.length - 1) % loop.length];
  give(faces, gone, next, []);
  next.left.push(next.x, next.y);
  before.right.push(next.x, next.y);
  loop.splice(at, 1);
  steer(loop, next, faces, normals);
}

/** A corner has run into a side: the outline falls into two. */
function part(
  loop: Corner[],
  at: number,
  onto: number,
  faces: RoofFace[],
  normals: Float64Array,
): [Corner[], Corner[]] {
  const [hit, from, to] = [loop[at], loop[onto], loop[(onto + 1) % loop.length]];
  const { x, y } = hit;
  give(faces, from, to, [x, y]);
  loop[(at + loop.length - 1) % loop.length].right.push(x, y);
  hit.left.push(x, y);
  const ring = (start: number, end: number): Corner[] => {
    const out: Corner[] = [];
    for (let i = start; ; i = (i + 1) % loop.length) {
      out.push(loop[i]);
      if (i === end) return out;
    }
  };
  const beyond: Corner = { ...hit, side: from.side, left: [x, y], right: [to.x, to.y] };
  const one = [beyond, ...ring((onto + 1) % loop.length, (at + loop.length - 1) % loop.length)];
  const other = ring(at, onto);
  [from.left, from.right] = [
    [from.x, from.y],
    [x, y],
  ];
  steer(one, beyond, faces, normals);
  steer(other, hit, faces, normals);
  return [one, other];
}

/** What is left of an outline that has shrunk to nothing, or that could not be followed further. */
function finish(loop: Corner[], faces: RoofFace[]): void {
  loop.forEach((c, i) => give(faces, c, loop[(i + 1) % loop.length], []));
  if (loop.length > 2 && areaOf(loop) > SAME)
    faces.push({ side: -1, corners: Float64Array.from(loop.flatMap(({ x, y }) => [x, y])) });
}

/**
 * The face of the side from one corner to the next as far as it has come.
 * @param top where its upper edge is touched
 */
function give(faces: RoofFace[], from: Corner, to: Corner, top: number[]): void {
  const ring: number[] = [];
  const push = (x: number, y: number) => {
    const n = ring.length;
    const isLast = n > 0 && Math.hypot(ring[n - 2] - x, ring[n - 1] - y) < SAME;
    const isFirst = n > 0 && Math.hypot(ring[0] - x, ring[1] - y) < SAME;
    if (!isLast && !isFirst) ring.push(x, y);
  };
  push(from.left[0], from.left[1]);
  for (let k = 0; k < from.right.length; k += 2) push(from.right[k], from.right[k + 1]);
  push(to.x, to.y);
  for (let k = 0; k < top.length; k += 2) push(top[k], top[k + 1]);
  push(from.x, from.y);
  for (let k = from.left.length - 2; k > 0; k -= 2) push(from.left[k], from.left[k + 1]);
  if (ring.length >= 6 && areaOfCorners(ring, ring.length / 2) > SAME)
    faces.push({ side: from.side, corners: Float64Array.from(ring) });
}

const areaOf = (loop: Corner[]) =>
  areaOfCorners(
    loop.flatMap(({ x, y }) => [x, y]),
    loop.length,
  );
