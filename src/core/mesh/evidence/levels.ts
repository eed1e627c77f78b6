import type { UpAxis } from '../clean';
import type { RawModel } from '../types';
import type { Form } from './form';

/** Steps of the height at which level faces are told apart. */
const BINS = 4096;
/** Triangles looked at; of more, every second, third … */
const LOOKED_AT = 60_000;

/** Level faces at one height; file units. Areas are twice the faces'. */
export interface Level {
  height: number;
  /** Of faces that look up, and of those that look down. */
  upward: number;
  downward: number;
  /** Where they lie, weighed by area. */
  at: [number, number];
}

export interface Levels {
  levels: Level[];
  /** Area of all faces and of those that lie level; twice the faces'. */
  total: number;
  level: number;
  /** How much the faces' places along the axis differ from their mirror image: 0 for none, 1 for all. */
  unlike: number;
}

/** Few, so that a hub that sticks out a little further on one side is not another shape. */
const SLICES = 12;

/** The heights at which faces lie level, lowest first. */
export function levelsOf(raw: RawModel, form: Form): Levels {
  const up: UpAxis = form.up;
  const c = up === 'z' ? 2 : 1;
  const [u, v] = [(c + 1) % 3, (c + 2) % 3];
  const base = form.all.min[1];
  const height = form.size[1];
  const bins = new Float64Array((BINS + 1) * 4);
  const step = Math.max(1, Math.ceil(form.triangles / LOOKED_AT)) * 3;
  const slices = new Float64Array(SLICES);
  let [total, level] = [0, 0];
  for (const { positions: p, indices, origin } of raw.parts) {
    const lift = origin[c] - base;
    for (let i = 0; i < indices.length; i += step) {
      const [a, b, d] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
      const [bu, bv, bc] = [p[b + u] - p[a + u], p[b + v] - p[a + v], p[b + c] - p[a + c]];
      const [du, dv, dc] = [p[d + u] - p[a + u], p[d + v] - p[a + v], p[d + c] - p[a + c]];
      const along = bu * dv - bv * du;
      const across = bv * dc - bc * dv;
      const aside = bc * du - bu * dc;
      const whole = Math.sqrt(along * along + across * across + aside * aside);
      if (!(whole > 0)) continue;
      total += whole;
      const middle = ((p[a + c] + p[b + c] + p[d + c]) / 3 + lift) / (height || 1);
      slices[Math.max(0, Math.min(SLICES - 1, Math.floor(middle * SLICES)))] += whole;
      if (Math.abs(along) < 0.995 * whole) continue;
      level += whole;
      if (!(height > 0)) continue;
      const at = Math.max(0, Math.min(BINS, Math.round(((p[a + c] + lift) / height) * BINS))) * 4;
      bins[at + (along > 0 ? 0 : 1)] += whole;
      bins[at + 2] += (p[a + u] + p[b + u] + p[d + u]) * (whole / 3) + origin[u] * whole;
      bins[at + 3] += (p[a + v] + p[b + v] + p[d + v]) * (whole / 3) + origin[v] * whole;
    }
  }
  let unlike = 0;
  for (let i = 0; i < SLICES; i++) unlike += Math.abs(slices[i] - slices[SLICES - 1 - i]) / 2;
  return { levels: gather(bins, height), total, level, unlike: unlike / (total || 1) };
}

/** Neighbouring bins are one level. */
function gather(bins: Float64Array, height: number): Level[] {
  const levels: Level[] = [];
  let open: [number, number, number, number, number] | null = null;
  const close = () => {
    if (!open) return;
    const area = open[0] + open[1];
    levels.push({
      height: (open[4] / area / BINS) * height,
      upward: open[0],
      downward: open[1],
      at: [open[2] / area, open[3] / area],
    });
    open = null;
  };
  for (let i = 0; i <= BINS; i++) {
    const area = bins[i * 4] + bins[i * 4 + 1];
    if (!area) {
      close();
      continue;
    }
    open ??= [0, 0, 0, 0, 0];
    for (let k = 0; k < 4; k++) open[k] += bins[i * 4 + k];
    open[4] += area * i;
  }
  close();
  return levels;
}

/** The levels with a good part of the largest area, as floors, seats and tops have. */
export function mainLevels({ levels }: Levels, share = 0.2): Level[] {
  const area = (l: Level) => Math.max(l.upward, l.downward);
  const most = levels.reduce((m, l) => Math.max(m, area(l)), 0);
  return levels.filter((l) => area(l) >= most * share);
}

/**
 * The rise of a flight of steps: at least four level faces of like area at equal heights, each a tread further on.
 * @returns file units, with how many steps there are; null where there is no flight
 */
export function stepsOf({ levels }: Levels): { rise: number; count: number } | null {
  const treads = levels.filter((l) => l.upward > 0).slice(0, 400);
  let best: { rise: number; count: number } | null = null;
  for (let i = 0; i + 1 < treads.length; i++) {
    for (let j = i + 1; j < Math.min(treads.length, i + 6); j++) {
      const rise = treads[j].height - treads[i].height;
      const run = [treads[j].at[0] - treads[i].at[0], treads[j].at[1] - treads[i].at[1]];
      const tread = Math.hypot(run[0], run[1]);
      if (!like(treads[i].upward, treads[j].upward, 1.6) || tread < rise * 0.9 || tread > rise * 3) continue;
      let last = treads[j];
      let count = 2;
      for (let k = j + 1; k < treads.length; k++) {
        const next = treads[k];
        const higher = next.height - last.height;
        if (higher > rise * 1.12) break;
        const along = (next.at[0] - last.at[0]) * run[0] + (next.at[1] - last.at[1]) * run[1];
        if (higher < rise * 0.88 || !like(next.upward, treads[i].upward, 1.6) || along < tread * tread * 0.7) continue;
        last = next;
        count++;
      }
      if (count >= 4 && count > (best?.count ?? 0))
        best = { rise: (last.height - treads[i].height) / (count - 1), count };
    }
  }
  return best;
}

const like = (a: number, b: number, by: number) => a < b * by && b < a * by;

/** Heights over the floor beneath at which small faces look down: heads of doors and windows; with their areas. */
export function headsOf(found: Levels, floors: Level[]): { height: number; area: number }[] {
  const most = floors.reduce((m, l) => Math.max(m, l.upward, l.downward), 0);
  return found.levels
    .filter((l) => l.downward > 0 && l.downward < most * 0.12 && l.downward > l.upward)
    .flatMap((l) => {
      const beneath = floors.filter((f) => f.height < l.height && f.upward > 0).at(-1);
      return beneath ? [{ height: l.height - beneath.height, area: l.downward }] : [];
    });
}
