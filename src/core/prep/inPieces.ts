import type { Vec2 } from '../geometry/vec';
import { hexOf } from '../colour/srgb';
import { arrange, type Arrangement } from '../lay/arrange';
import { listPieces, type Piece } from '../lay/pieces';
import { defaultJoint } from '../layout/joint';
import type { LayoutSpec } from '../layout/schema';
import { buildSheet } from '../mapping/sheet';
import { leafPlaces } from '../material/leaves';
import { defaultFinish, type LeafPlace, type Leaves, type Material } from '../material/schema';
import type { PartMesh } from '../mesh/types';
import { type Raster, WHITE } from '../picture/raster';
import { defaultSpec } from '../specification/schema';
import { noMix } from '../layout/mix';
import { plainVariation } from '../variation/schema';

/** A picture's leaves as pieces of a wall. */
export interface InPieces {
  arrangement: Arrangement;
  pieces: Piece[];
}

/** More pieces than this are too small to be judged. */
const MOST_SHOWN = 60_000;
/** Leaves whose lengths differ by more than this are laid at random lengths. */
const OF_ONE_LENGTH = 1.25;
/** A joint nothing is known of, mm. */
const USUAL_JOINT = 3;

/**
 * What a picture of many pieces looks like when those are laid one by one: as large as its leaves are, as far apart,
 * and with the lap its own rows have, so that the two can be compared.
 *
 * @param sizeMm of the picture
 * @param wallMm width and height of what is laid
 * @param grain of the picture: along y its pieces stand
 * @returns null where the wall would take more than `MOST_SHOWN` of them
 */
export function layInPieces(
  leaves: Leaves,
  sizeMm: Vec2,
  wallMm: Vec2,
  grain: Material['grain'],
  jointColour: string,
): InPieces | null {
  const standing = grain === 'y';
  const faces = leafPlaces(leaves).map((p) => faceOf(p, leaves, sizeMm, standing));
  if ((wallMm[0] * wallMm[1]) / middle(faces.map((f) => f.length * f.width)) > MOST_SHOWN) return null;
  const material: Material = {
    ...{ id: 'picture', version: 1, name: 'Picture', kind: 'prepared', tags: [], maps: {}, colour: '#808080' },
    ...{ widthMm: sizeMm[0], heightMm: sizeMm[1], grain, leaves },
    ...{
      seamless: false,
      twoSided: false,
      sampling: 'soft',
      finish: defaultFinish(),
      repetition: null,
      builtIn: false,
    },
    ...{ source: '', licence: '', credit: '' },
  };
  const spec = {
    ...defaultSpec(material.id),
    direction: { turnDeg: standing ? 90 : 0, mirrorX: false, mirrorY: false },
    pieces: { layout: layoutOf(faces), joint: defaultJoint(jointOf(faces, leaves), jointColour), mix: noMix() },
    // as the leaves are, untoned
    variation: { ...plainVariation(), tone: { lightness: NO_TONE, warmth: NO_TONE, saturation: NO_TONE } },
  };
  const sheet = buildSheet(wall(wallMm), [0, 2], { kind: 'flat', direction: 'auto' });
  const arrangement = arrange({ id: 'wall', spec, origin: [0, 0, 0] }, sheet, { picture: material })!;
  return { arrangement, pieces: listPieces(arrangement) };
}

const NO_TONE = { from: 0, to: 0 };

/** Where a leaf's face lies along and across its length, mm. */
interface Face {
  from: number;
  length: number;
  top: number;
  width: number;
}

function faceOf(p: LeafPlace, { insetMm }: Leaves, [w, h]: Vec2, standing: boolean): Face {
  const level = {
    from: p.x * w + insetMm,
    length: Math.max(1, p.width * w - 2 * insetMm),
    top: p.y * h + insetMm,
    width: Math.max(1, p.height * h - 2 * insetMm),
  };
  return standing ? { from: level.top, length: level.width, top: level.from, width: level.length } : level;
}

const middle = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
const tenth = (mm: number): number => Math.max(1, Math.round(mm * 10) / 10);

function layoutOf(faces: readonly Face[]): LayoutSpec {
  const lengths = faces.map((f) => f.length);
  const [shortest, longest] = [Math.min(...lengths), Math.max(...lengths)];
  const width = tenth(middle(faces.map((f) => f.width)));
  if (longest > shortest * OF_ONE_LENGTH)
    return {
      kind: 'planks',
      lengths: { kind: 'range', fromMm: tenth(shortest), toMm: tenth(longest) },
      widths: { kind: 'one', mm: width },
      stagger: { kind: 'random', leastApartMm: width, leastEndMm: width, carryOffcuts: true, layoutNumber: 1 },
    };
  return { kind: 'stretcher', lengthMm: tenth(middle(lengths)), heightMm: width, lap: lapOf(faces), raking: false };
}

/** By which share of a piece a row is moved against the one above it: none, a third or half, whichever is nearest. */
function lapOf(faces: readonly Face[]): number {
  const length = middle(faces.map((f) => f.length));
  const rows = rowsOf(faces);
  const laps = rows.slice(1).map(([first], n) => {
    const moved = Math.abs(first.from - rows[n][0].from) / length;
    const share = moved % 1;
    return Math.min(share, 1 - share);
  });
  const lap = laps.length ? middle(laps) : 0;
  return [0, 1 / 3, 1 / 2].reduce((a, b) => (Math.abs(b - lap) < Math.abs(a - lap) ? b : a));
}

/** Faces row by row, each from its start. */
function rowsOf(faces: readonly Face[]): Face[][] {
  const rows: Face[][] = [];
  for (const f of [...faces].sort((a, b) => a.top - b.top)) {
    const row = rows.at(-1);
    if (row && f.top - row[0].top < row[0].width / 2) row.push(f);
    else rows.push([f]);
  }
  return rows.map((row) => row.sort((a, b) => a.from - b.from));
}

/** The usual gap between neighbours of a row, mm. */
function jointOf(faces: readonly Face[], { insetMm }: Leaves): number {
  const gaps = rowsOf(faces).flatMap((row) => row.slice(1).map((f, n) => f.from - row[n].from - row[n].length));
  const seen = gaps.filter((gap) => gap > 0);
  return Math.round((seen.length ? middle(seen) : insetMm ? 2 * insetMm : USUAL_JOINT) * 10) / 10;
}

/** The mean of what lies beside leaves, as far as half a joint reaches; dark where they leave nothing. */
export function colourBetween(r: Raster, leaves: Leaves, sizeMm: Vec2): string {
  const step = Math.max(1, Math.floor(Math.sqrt((r.width * r.height) / 250_000)));
  const size: Vec2 = [Math.floor(r.width / step), Math.floor(r.height / step)];
  const perMm = size.map((px, axis) => px / sizeMm[axis]) as Vec2;
  const faces = leafPlaces(leaves).map((p) => faceOf(p, leaves, sizeMm, false));
  const reach = jointOf(faces, leaves) / 2;
  // 1 beside a leaf, 2 on one; a pixel's breadth of its edge belongs to neither
  const at = new Uint8Array(size[0] * size[1]);
  const mark = ({ from, top, length, width }: Face, out: [number, number], value: number) => {
    const ends = (start: number, mm: number, axis: 0 | 1): Vec2 => [
      Math.max(0, Math.round(start * perMm[axis] - out[axis])),
      Math.min(size[axis], Math.round((start + mm) * perMm[axis] + out[axis])),
    ];
    const [left, right] = ends(from, length, 0);
    const [upper, lower] = ends(top, width, 1);
    for (let y = upper; y < lower; y++) at.fill(value, y * size[0] + left, y * size[0] + right);
  };
  for (const face of faces) mark(face, [reach * perMm[0], reach * perMm[1]], 1);
  for (const face of faces) mark(face, [1, 1], 2);
  const sum = [0, 0, 0];
  let count = 0;
  for (let i = 0; i < at.length; i++) {
    if (at[i] !== 1) continue;
    const from = (Math.floor(i / size[0]) * step * r.width + (i % size[0]) * step) * r.channels;
    for (let c = 0; c < 3; c++) sum[c] += r.data[from + c];
    count++;
  }
  return count ? hexOf(sum.map((v) => v / count / WHITE)) : '#3a3530';
}

/** A wall, upright, its lower left corner at the origin. */
function wall([width, height]: Vec2): PartMesh {
  return {
    origin: [0, 0, 0],
    positions: Float32Array.of(0, 0, 0, width, 0, 0, width, height, 0, 0, height, 0),
    normals: Float32Array.of(0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1),
    uvs: [],
    indices: Uint32Array.of(0, 1, 2, 0, 2, 3),
    slots: new Uint16Array(2),
  };
}
