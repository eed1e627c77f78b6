import DxfParser, { type IDxf, type IEntity } from 'dxf-parser';
import { type Affine, after, apply, turned } from './affine';
import { bulged, ellipse, ended } from './curves';
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

interface Point {
  x: number;
  y: number;
  bulge?: number;
}
/** What is read of entities; the parser's types are of each kind alone. */
interface Read extends IEntity {
  shape?: boolean;
  vertices?: Point[];
  center?: Point;
  radius?: number;
  majorAxisEndPoint?: Point;
  axisRatio?: number;
  startAngle?: number;
  endAngle?: number;
  position?: Point;
  xScale?: number;
  yScale?: number;
  rotation?: number;
  columnCount?: number;
  rowCount?: number;
  columnSpacing?: number;
  rowSpacing?: number;
  extrusionDirectionZ?: number;
  is3dPolygonMesh?: boolean;
  isPolyfaceMesh?: boolean;
}

/**
 * The closed shapes of a DXF in text form: closed polylines with their bulges, circles, full ellipses, and the inserts
 * of blocks; its size from $INSUNITS; what is in a layer that is off or frozen is left out.
 * @throws ImportError where it is not to be read, or holds too much
 */
export function readDxf(text: string, file: string): Drawing {
  if (text.length > MOST_TEXT) throw drawingFault(file, `it has more than ${MOST_TEXT / 1e6} million characters`);
  if (text.includes('\0')) throw drawingFault(file, 'it is a binary DXF; save it as text (ASCII) DXF');
  let dxf: IDxf | null;
  try {
    dxf = new DxfParser().parseSync(text);
  } catch (error) {
    throw drawingFault(file, `it is no DXF that can be read (${(error as Error).message})`);
  }
  if (!dxf) throw drawingFault(file, 'there is nothing in it');
  const unit = UNITS[Number(dxf.header?.$INSUNITS)];
  const mm = unit ?? 1;
  const taken: Taken[] = [];
  const left = new Map<string, number>();
  const leave = (what: string) => left.set(what, (left.get(what) ?? 0) + 1);
  const layers = dxf.tables?.layer?.layers ?? {};
  let [points, entities] = [0, 0];

  const add = (entity: Read, corners: [number, number][], closed: boolean, layer: string) => {
    points += corners.length;
    if (points > MOST_POINTS) throw drawingFault(file, `it has more than ${MOST_POINTS} points`);
    if (corners.some(([x, y]) => !Number.isFinite(x) || !Number.isFinite(y)))
      throw drawingFault(file, `${nameOf(entity)} has a coordinate that is no number`);
    const line = ended({ points: corners, closed });
    if (line.closed) taken.push({ points: line.points, role: roleOf(layer), name: nameOf(entity), of: entity });
    else leave('line that is not closed');
  };

  const take = (list: readonly Read[], to: Affine, within: string | null, depth: number): void => {
    if (depth > MOST_DEPTH)
      throw drawingFault(file, `blocks stand more than ${MOST_DEPTH} deep; does one hold itself?`);
    for (const entity of list) {
      if (++entities > MOST_ENTITIES)
        throw drawingFault(file, `with all that blocks repeat it has more than ${MOST_ENTITIES} entities`);
      // what is drawn in layer 0 of a block is of the layer the block stands in
      const layer = entity.layer && entity.layer !== '0' ? entity.layer : (within ?? entity.layer ?? '0');
      const known = layers[layer];
      if (entity.visible === false || known?.frozen || known?.visible === false) {
        leave('entity that is hidden, or in a layer that is off');
        continue;
      }
      // seen from behind, x runs the other way
      const at: Affine = (entity.extrusionDirectionZ ?? 1) < 0 ? after(to, [-1, 0, 0, 1, 0, 0]) : to;
      switch (entity.type) {
        case 'LWPOLYLINE':
        case 'POLYLINE':
          if (entity.is3dPolygonMesh || entity.isPolyfaceMesh) leave('mesh');
          else if (entity.vertices?.length)
            add(entity, polyline(entity.vertices, !!entity.shape, at), !!entity.shape, layer);
          break;
        case 'CIRCLE':
          if (entity.center && (entity.radius ?? 0) > 0)
            add(entity, ellipse(entity.center.x, entity.center.y, entity.radius!, entity.radius!, at), true, layer);
          break;
        case 'ELLIPSE': {
          const { center, majorAxisEndPoint: axis, axisRatio = 1, startAngle = 0, endAngle = 2 * Math.PI } = entity;
          if (!center || !axis) break;
          if (Math.abs(endAngle - startAngle - 2 * Math.PI) > 1e-4) leave('line that is not closed');
          else {
            const r = Math.hypot(axis.x, axis.y);
            const turn = turned((Math.atan2(axis.y, axis.x) * 180) / Math.PI);
            const put = after(at, after([1, 0, 0, 1, center.x, center.y], turn));
            add(entity, ellipse(0, 0, r, r * axisRatio, put), true, layer);
          }
          break;
        }
        case 'INSERT':
          insert(entity, at, layer, depth);
          break;
        default:
          leave(entity.type ?? 'entity without a type');
      }
    }
  };

  const insert = (entity: Read, to: Affine, layer: string, depth: number) => {
    const name = (entity as unknown as { name: string }).name;
    const block = dxf.blocks?.[name];
    if (!block) throw drawingFault(file, `it inserts the block “${name}”, which is not in it`);
    if (block.xrefPath) throw drawingFault(file, `the block “${name}” is another file; bind it into this one`);
    const { xScale = 1, yScale = 1, rotation = 0, columnCount = 1, rowCount = 1 } = entity;
    const { columnSpacing = 0, rowSpacing = 0, position = { x: 0, y: 0 } } = entity;
    const base = block.position ?? { x: 0, y: 0 };
    for (let row = 0; row < Math.max(1, rowCount); row++)
      for (let column = 0; column < Math.max(1, columnCount); column++) {
        if (++entities > MOST_ENTITIES)
          throw drawingFault(file, `with all that blocks repeat it has more than ${MOST_ENTITIES} entities`);
        const stand = after([1, 0, 0, 1, position.x, position.y], turned(rotation));
        const step: Affine = [1, 0, 0, 1, column * columnSpacing, row * rowSpacing];
        const own = after([xScale, 0, 0, yScale, 0, 0], [1, 0, 0, 1, -base.x, -base.y]);
        take((block.entities ?? []) as Read[], after(to, after(stand, after(step, own))), layer, depth + 1);
      }
  };

  take((dxf.entities ?? []) as Read[], [mm, 0, 0, mm, 0, 0], null, 0);
  const { shapes, remarks } = takeShapes(file, taken);
  const said = [...left].map(([what, n]) => `${n} × ${what} left out: only closed shapes are laid.`);
  return { shapes, sized: unit !== undefined, frame: null, repeat: null, remarks: [...remarks, ...said] };
}

const nameOf = ({ type, handle, layer }: Read): string => `${type} ${handle ?? ''} in layer ${layer ?? '0'}`;

/** A layer's name is the role, but for the one that everything is in. */
const roleOf = (layer: string): string => (layer === '0' ? 'tile' : layer.trim().slice(0, 40) || 'tile');

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
