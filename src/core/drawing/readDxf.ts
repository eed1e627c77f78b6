import { type Affine, after, apply, turned } from './affine';
import { bulged, ellipse, ended } from './curves';
import { numberOf, readDxfText, type DxfRecord, textOf } from './dxfText';
import { takeShapes, type Taken } from './shapes';
import { type Drawing, drawingFault, MOST_POINTS, MOST_TEXT } from './types';

/** Millimetres to the units of $INSUNITS, as the format numbers them. */
const UNITS: Record<number, number> = {
  1: 25.4,
  2: 304.8,
  4: 1,
  5: 10,
  6: 1000,
  8: 25.4e-6,
  9: 0.0254,
  10: 914.4,
  14: 100,
};

const MOST_DEPTH = 16;
const MOST_ENTITIES = 20_000;

/** Flags of polylines and their vertices, as the format numbers them. */
const [MESH, POLYFACE, CONTROL] = [16, 64, 16];

interface Point {
  x: number;
  y: number;
  bulge: number;
}

/**
 * The closed shapes of a DXF in text form: closed polylines with their bulges, circles, full ellipses, and the inserts
 * of blocks; its size from $INSUNITS; what is in a layer that is off or frozen is left out.
 * @throws ImportError where it is not to be read, or holds too much
 */
export function readDxf(text: string, file: string): Drawing {
  if (text.length > MOST_TEXT) throw drawingFault(file, `it has more than ${MOST_TEXT / 1e6} million characters`);
  if (text.includes('\0')) throw drawingFault(file, 'it is a binary DXF; save it as text (ASCII) DXF');
  const dxf = readDxfText(text, file);
  const unit = dxf.units === null ? undefined : UNITS[dxf.units];
  const mm = unit ?? 1;
  const taken: Taken[] = [];
  const left = new Map<string, number>();
  const leave = (what: string) => left.set(what, (left.get(what) ?? 0) + 1);
  let [points, entities] = [0, 0];

  const add = (entity: DxfRecord, corners: [number, number][], closed: boolean, layer: string) => {
    points += corners.length;
    if (points > MOST_POINTS) throw drawingFault(file, `it has more than ${MOST_POINTS} points`);
    if (corners.some(([x, y]) => !Number.isFinite(x) || !Number.isFinite(y)))
      throw drawingFault(file, `${nameOf(entity)} has a coordinate that is no number`);
    const line = ended({ points: corners, closed });
    if (line.closed) taken.push({ points: line.points, role: roleOf(layer), name: nameOf(entity), of: entity });
    else leave('line that is not closed');
  };

  const take = (list: readonly DxfRecord[], to: Affine, within: string | null, depth: number): void => {
    if (depth > MOST_DEPTH)
      throw drawingFault(file, `blocks stand more than ${MOST_DEPTH} deep; does one hold itself?`);
    for (let n = 0; n < list.length; n++) {
      const entity = list[n];
      if (++entities > MOST_ENTITIES)
        throw drawingFault(file, `with all that blocks repeat it has more than ${MOST_ENTITIES} entities`);
      const vertices = followers(list, n);
      n += vertices.length;
      // what is drawn in layer 0 of a block is of the layer the block stands in
      const own = textOf(entity, 8);
      const layer = own && own !== '0' ? own : (within ?? own ?? '0');
      if (numberOf(entity, 60, 0) === 1 || dxf.layers.get(layer)?.off) {
        leave('entity that is hidden, or in a layer that is off');
        continue;
      }
      if (numberOf(entity, 67, 0) === 1) {
        leave('entity of a sheet to plot');
        continue;
      }
      // seen from behind, x runs the other way
      const at: Affine = numberOf(entity, 230, 1) < 0 ? after(to, [-1, 0, 0, 1, 0, 0]) : to;
      const flags = numberOf(entity, 70, 0);
      switch (entity.type) {
        case 'LWPOLYLINE':
          add(entity, polyline(pointsOf(entity), (flags & 1) === 1, at), (flags & 1) === 1, layer);
          break;
        case 'POLYLINE': {
          const line = vertices.filter((v) => v.type === 'VERTEX' && !(numberOf(v, 70, 0) & CONTROL)).flatMap(pointsOf);
          if (flags & (MESH | POLYFACE)) leave('mesh');
          else add(entity, polyline(line, (flags & 1) === 1, at), (flags & 1) === 1, layer);
          break;
        }
        case 'CIRCLE': {
          const r = numberOf(entity, 40, 0);
          if (r > 0) add(entity, ellipse(numberOf(entity, 10, 0), numberOf(entity, 20, 0), r, r, at), true, layer);
          else leave('circle without a radius');
          break;
        }
        case 'ELLIPSE': {
          const [start, stop] = [numberOf(entity, 41, 0), numberOf(entity, 42, 2 * Math.PI)];
          if (Math.abs(stop - start - 2 * Math.PI) > 1e-4) leave('line that is not closed');
          else {
            const [x, y] = [numberOf(entity, 11, 0), numberOf(entity, 21, 0)];
            const r = Math.hypot(x, y);
            const turn = turned((Math.atan2(y, x) * 180) / Math.PI);
            const put = after(at, after([1, 0, 0, 1, numberOf(entity, 10, 0), numberOf(entity, 20, 0)], turn));
            add(entity, ellipse(0, 0, r, r * numberOf(entity, 40, 1), put), true, layer);
          }
          break;
        }
        case 'INSERT':
          insert(entity, at, layer, depth);
          break;
        default:
          leave(entity.type.slice(0, 40));
      }
    }
  };

  const insert = (entity: DxfRecord, to: Affine, layer: string, depth: number) => {
    const name = textOf(entity, 2) ?? '';
    const block = dxf.blocks.get(name);
    if (!block) throw drawingFault(file, `it inserts the block “${name.slice(0, 80)}”, which is not in it`);
    if (textOf(block.head, 1)) throw drawingFault(file, `the block “${name}” is another file; bind it into this one`);
    const value = (code: number, otherwise: number) => numberOf(entity, code, otherwise);
    const [columns, rows] = [Math.max(1, value(70, 1)), Math.max(1, value(71, 1))];
    const stand = after([1, 0, 0, 1, value(10, 0), value(20, 0)], turned(value(50, 0)));
    const base: Affine = [1, 0, 0, 1, -numberOf(block.head, 10, 0), -numberOf(block.head, 20, 0)];
    const own = after([value(41, 1), 0, 0, value(42, 1), 0, 0], base);
    for (let row = 0; row < rows; row++)
      for (let column = 0; column < columns; column++) {
        if (++entities > MOST_ENTITIES)
          throw drawingFault(file, `with all that blocks repeat it has more than ${MOST_ENTITIES} entities`);
        const step: Affine = [1, 0, 0, 1, column * value(44, 0), row * value(45, 0)];
        take(block.entities, after(to, after(stand, after(step, own))), layer, depth + 1);
      }
  };

  take(dxf.entities, [mm, 0, 0, mm, 0, 0], null, 0);
  const { shapes, remarks } = takeShapes(file, taken);
  const said = [...left].map(([what, n]) => `${n} × ${what} left out: only closed shapes are laid.`);
  return { shapes, sized: unit !== undefined, frame: null, repeat: null, remarks: [...remarks, ...said] };
}

const nameOf = (entity: DxfRecord): string =>
  `${entity.type} ${textOf(entity, 5) ?? ''} in layer ${textOf(entity, 8) ?? '0'}`;

/** A layer's name is the role, but for the one that everything is in. */
const roleOf = (layer: string): string => (layer === '0' ? 'tile' : layer.trim().slice(0, 40) || 'tile');

/** The vertices or attributes that follow an entity up to their end; none where none belong to it. */
function followers(list: readonly DxfRecord[], n: number): DxfRecord[] {
  const { type } = list[n];
  const kind = type === 'POLYLINE' ? 'VERTEX' : type === 'INSERT' ? 'ATTRIB' : null;
  if (!kind) return [];
  let end = n + 1;
  while (list[end]?.type === kind) end++;
  if (list[end]?.type === 'SEQEND') end++;
  return list.slice(n + 1, end);
}

/** The points of a polyline, or the one of a vertex: a 10 begins one, its 20 and 42 follow. */
function pointsOf({ groups }: DxfRecord): Point[] {
  const out: Point[] = [];
  for (const [code, value] of groups)
    if (code === 10) out.push({ x: parseFloat(value), y: NaN, bulge: 0 });
    else if (code === 20 && out.length) out[out.length - 1].y = parseFloat(value);
    else if (code === 42 && out.length) out[out.length - 1].bulge = parseFloat(value);
  return out;
}

/** A polyline's points, its bulges as chords. */
function polyline(vertices: readonly Point[], closed: boolean, to: Affine): [number, number][] {
  const out: [number, number][] = [];
  vertices.forEach((v, n) => {
    out.push(apply(to, v.x, v.y));
    const next = vertices[(n + 1) % vertices.length];
    if (v.bulge && (closed || n < vertices.length - 1) && Math.hypot(next.x - v.x, next.y - v.y) > 1e-9)
      out.push(...bulged([v.x, v.y], [next.x, next.y], v.bulge, to));
  });
  return out;
}
