import { SaxesParser } from 'saxes';
import { type Affine, after, apply, STILL } from './affine';
import { ellipse, type Line, linesOfPath } from './curves';
import { takeShapes, type Taken } from './shapes';
import { type Drawing, type DrawnRepeat, drawingFault, MOST_POINTS, MOST_TEXT } from './types';

interface Element {
  name: string;
  attributes: Record<string, string>;
  children: Element[];
}

/** Elements, and levels of them, counting every copy that `use` makes. */
const MOST_ELEMENTS = 20_000;
const MOST_DEPTH = 40;
/** Characters of a length or a name that are looked at, and of a list of transforms. */
const MOST_WORD = 100;
const MOST_TRANSFORM = 4000;

/** Millimetres to the units that SVG lengths come in; 96 px to the inch, as CSS has it. */
const MM: Record<string, number> = {
  mm: 1,
  cm: 10,
  in: 25.4,
  pt: 25.4 / 72,
  pc: 25.4 / 6,
  q: 0.25,
  px: 25.4 / 96,
  '': 25.4 / 96,
};

/** Holds nothing that is drawn where it stands. */
const UNSEEN = new Set([
  'defs',
  'symbol',
  'clippath',
  'mask',
  'pattern',
  'marker',
  'metadata',
  'style',
  'title',
  'desc',
]);
/** Seen, and no closed shape. */
const NO_SHAPES = new Set(['text', 'image', 'line', 'foreignobject', 'switch']);

/**
 * The closed shapes of an SVG: path, rect, circle, ellipse, polygon, polyline and what `use` repeats, with groups and
 * transforms; its size from width and height with units.
 * @throws ImportError where it is not to be read: no XML, a script, an entity, a reference to another file, too much
 */
export function readSvg(text: string, file: string): Drawing {
  if (text.length > MOST_TEXT) throw drawingFault(file, `it has more than ${MOST_TEXT / 1e6} million characters`);
  const root = treeOf(text, file);
  if (root.name !== 'svg') throw drawingFault(file, `its outermost element is <${root.name}>, not <svg>`);
  const { to, frame, sized } = sizeOf(root, file);
  const walk = new Walk(file, root);
  walk.into(root.children, to, { role: null, depth: 0 });
  const repeat = repeatOf(root);
  const { shapes, remarks } = takeShapes(file, walk.taken);
  return { shapes, sized, frame, repeat, remarks: [...remarks, ...walk.remarks()] };
}

function treeOf(text: string, file: string): Element {
  const parser = new SaxesParser({ xmlns: false });
  const open: Element[] = [];
  let root: Element | null = null;
  let count = 0;
  const bare = (name: string) => name.slice(name.indexOf(':') + 1).toLowerCase();
  parser.on('error', (error) => {
    throw drawingFault(file, `it is not well-formed XML (${error.message.replace(/^\d+:\d+: /, '')})`);
  });
  parser.on('doctype', (doctype) => {
    if (doctype.includes('['))
      throw drawingFault(file, 'it declares entities of its own, which are not read; save it as plain SVG');
  });
  parser.on('opentag', ({ name, attributes }) => {
    const element: Element = { name: bare(name), attributes: attributes as Record<string, string>, children: [] };
    if (element.name === 'script') throw drawingFault(file, 'it holds a script; save it as plain SVG without scripts');
    const on = Object.keys(element.attributes).find((key) => /^on/i.test(key));
    if (on) throw drawingFault(file, `it runs a script (“${on}”); save it as plain SVG without scripts`);
    if (++count > MOST_ELEMENTS) throw drawingFault(file, `it has more than ${MOST_ELEMENTS} elements`);
    if (open.length > MOST_DEPTH) throw drawingFault(file, `its groups stand more than ${MOST_DEPTH} deep`);
    if (open.length) open[open.length - 1].children.push(element);
    else root = element;
    open.push(element);
  });
  parser.on('closetag', () => void open.pop());
  parser.write(text).close();
  if (!root) throw drawingFault(file, 'there is nothing in it');
  return root;
}

const numbersOf = (text: string | undefined): number[] =>
  (text?.match(/[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?/gi) ?? []).map(Number);

/** A length with its unit, in user units; null for none, and for shares. */
function lengthOf(text: string | undefined): { value: number; unit: string } | null {
  if (!text || text.length > MOST_WORD) return null;
  const found = /^\s*([-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?)\s*([a-z]*)\s*$/i.exec(text);
  if (!found) return null;
  const unit = found[2].toLowerCase();
  return unit in MM ? { value: Number(found[1]), unit } : null;
}

/** How its own units lie in millimetres, y upwards, the lower left corner of its frame at 0, 0. */
function sizeOf({ attributes }: Element, file: string) {
  const [width, height] = [lengthOf(attributes.width), lengthOf(attributes.height)];
  const box = numbersOf(attributes.viewBox);
  const hasBox = box.length === 4 && box[2] > 0 && box[3] > 0;
  if (attributes.viewBox && !hasBox)
    throw drawingFault(
      file,
      `its viewBox “${attributes.viewBox.slice(0, 40)}” is not four numbers, the last two above zero`,
    );
  const inMm = (l: { value: number; unit: string } | null) => (l && l.value > 0 ? l.value * MM[l.unit] : null);
  // a number without a unit says how large it is shown, not how large it is
  const told = (l: { value: number; unit: string } | null) => !!l && l.value > 0 && l.unit !== '' && l.unit !== 'px';
  const sized = told(width) || told(height);
  const [w, h] = [inMm(width), inMm(height)];
  // without a box its units are px
  const px = (l: { value: number; unit: string } | null) => (l ? l.value * (sized ? MM[l.unit] / MM.px : 1) : 0);
  const [x, y, bw, bh] = hasBox ? box : [0, 0, px(width), px(height)];
  let [sx, sy] = [1, 1];
  if (sized && hasBox) {
    // as a viewer shows it: alike both ways unless it is said otherwise
    const [fx, fy] = [w !== null ? w / bw : null, h !== null ? h / bh : null];
    [sx, sy] = [fx ?? fy!, fy ?? fx!];
    if (attributes.preserveAspectRatio?.trim() !== 'none') sx = sy = Math.min(sx, sy);
  } else if (sized) sx = sy = MM.px;
  const frame: Drawing['frame'] = bw > 0 && bh > 0 ? [0, 0, bw * sx, bh * sy] : null;
  const to: Affine = [sx, 0, 0, -sy, -x * sx, (bh + y) * sy];
  return { to, frame, sized };
}

/** What a module that was written here says of itself. */
function repeatOf({ attributes }: Element): DrawnRepeat | null {
  const steps = numbersOf(attributes['data-repeat']);
  const as = attributes['data-shapes'];
  if (steps.length !== 4 || (as !== 'pieces' && as !== 'cells')) return null;
  return { right: [steps[0], steps[1]], up: [steps[2], steps[3]], as };
}

/** A transform list as one map. @throws Error where it is none */
export function transformOf(text: string | undefined): Affine {
  if (text && text.length > MOST_TRANSFORM) throw new Error(`its transform has more than ${MOST_TRANSFORM} characters`);
  let out = STILL;
  const rest = (text ?? '').replace(
    /(matrix|translate|scale|rotate|skewX|skewY)\s*\(([^)]*)\)/g,
    (_, kind: string, inner: string) => {
      const v = numbersOf(inner);
      if (!v.length || v.some((n) => !Number.isFinite(n)))
        throw new Error(`“${kind}(${inner.slice(0, 40)})” has no numbers`);
      out = after(out, oneTransform(kind, v));
      return '';
    },
  );
  if (rest.replace(/[\s,]/g, '')) throw new Error(`“${text?.slice(0, 40)}” is no transform`);
  return out;
}

function oneTransform(kind: string, v: number[]): Affine {
  const rad = (v[0] * Math.PI) / 180;
  switch (kind) {
    case 'matrix':
      if (v.length !== 6) throw new Error('matrix() takes six numbers');
      return v as unknown as Affine;
    case 'translate':
      return [1, 0, 0, 1, v[0], v[1] ?? 0];
    case 'scale':
      return [v[0], 0, 0, v[1] ?? v[0], 0, 0];
    case 'rotate': {
      const turn: Affine = [Math.cos(rad), Math.sin(rad), -Math.sin(rad), Math.cos(rad), 0, 0];
      const [x, y] = [v[1] ?? 0, v[2] ?? 0];
      return after(after([1, 0, 0, 1, x, y], turn), [1, 0, 0, 1, -x, -y]);
    }
    case 'skewX':
      return [1, 0, Math.tan(rad), 1, 0, 0];
    default:
      return [1, Math.tan(rad), 0, 1, 0, 0];
  }
}

interface Within {
  /** The word that a group around says. */
  role: string | null;
  depth: number;
}

/** Names that drawing programs give by themselves say nothing. */
const NAMELESS = /^(path|rect|circle|ellipse|polygon|polyline|use|g|group|layer|svg|shape|text)?[-_ ]?\d*$/i;

/** A word of a name: “tile-12” and “tile_a” are tiles. */
function wordOf(name: string | undefined): string | null {
  const word =
    name
      ?.slice(0, MOST_WORD)
      .trim()
      .replace(/[-_. ]*(\d+|copy|kopie)$/i, '')
      .slice(0, 40) ?? '';
  return word && !NAMELESS.test(word) ? word : null;
}

class Walk {
  readonly taken: Taken[] = [];
  private readonly byId = new Map<string, Element>();
  private readonly left = new Map<string, number>();
  private points = 0;
  private elements = 0;

  constructor(
    private readonly file: string,
    root: Element,
  ) {
    const enter = (element: Element) => {
      if (element.attributes.id) this.byId.set(element.attributes.id, element);
      element.children.forEach(enter);
    };
    enter(root);
  }

  remarks(): string[] {
    return [...this.left].map(([what, n]) => `${n} × ${what} left out: only closed shapes are laid.`);
  }

  into(elements: readonly Element[], to: Affine, within: Within): void {
    for (const element of elements) this.take(element, to, within);
  }

  private leave(what: string): void {
    this.left.set(what, (this.left.get(what) ?? 0) + 1);
  }

  private take(element: Element, outer: Affine, within: Within): void {
    const { name, attributes: a, children } = element;
    if (UNSEEN.has(name) || isHidden(a)) return;
    if (++this.elements > MOST_ELEMENTS)
      throw drawingFault(this.file, `with all that “use” repeats it has more than ${MOST_ELEMENTS} elements`);
    if (within.depth > MOST_DEPTH)
      throw drawingFault(this.file, `“use” and groups stand more than ${MOST_DEPTH} deep; does one use itself?`);
    if (NO_SHAPES.has(name)) return this.leave(`<${name}>`);
    const label = labelOf(a);
    const called = a.id ?? label ?? name;
    const to = after(
      outer,
      this.tried(called, () => transformOf(a.transform)),
    );
    const own = (a['data-role']?.trim().slice(0, 40) || null) ?? wordOf(a.class?.split(/\s+/)[0]);
    const group: Within = {
      role: own ?? wordOf(label) ?? wordOf(a.id) ?? within.role,
      depth: within.depth + 1,
    };
    if (name === 'g' || name === 'a') return this.into(children, to, group);
    if (name === 'svg') return this.into(children, after(to, nested(a)), group);
    if (name === 'use') return this.use(a, to, { ...group, role: own ?? within.role });
    const role = own ?? wordOf(label) ?? wordOf(a.id) ?? within.role ?? 'tile';
    const lines = this.tried(called, () => linesOf(name, a, to));
    for (const line of lines) {
      this.points += line.points.length;
      if (this.points > MOST_POINTS) throw drawingFault(this.file, `it has more than ${MOST_POINTS} points`);
      if (line.closed) this.taken.push({ points: line.points, role, name: called, of: element });
      else this.leave('line that is not closed');
    }
  }

  private use(a: Record<string, string>, to: Affine, within: Within): void {
    const href = (a.href ?? a['xlink:href'] ?? '').trim();
    if (!href.startsWith('#'))
      throw drawingFault(this.file, `it uses “${href.slice(0, 80)}”, which is another file; put all of it in one`);
    const found = this.byId.get(href.slice(1));
    if (!found) throw drawingFault(this.file, `it uses “${href.slice(0, 80)}”, which is not in it`);
    const at = after(to, [1, 0, 0, 1, numbersOf(a.x)[0] ?? 0, numbersOf(a.y)[0] ?? 0]);
    if (found.name === 'symbol') {
      const size = {
        ...found.attributes,
        ...(a.width ? { width: a.width } : {}),
        ...(a.height ? { height: a.height } : {}),
      };
      this.into(found.children, after(at, nested({ ...size, x: '', y: '' })), { ...within, depth: within.depth + 1 });
    } else this.take(found, at, { ...within, depth: within.depth + 1 });
  }

  private tried<T>(called: string, work: () => T): T {
    try {
      return work();
    } catch (error) {
      throw drawingFault(this.file, `“${called.slice(0, 80)}” cannot be read: ${(error as Error).message}`);
    }
  }
}

/** What a drawing program calls it, in a namespace of its own. */
const labelOf = (a: Record<string, string>): string | undefined =>
  a[Object.keys(a).find((key) => key.endsWith(':label')) ?? ''];

const isHidden = (a: Record<string, string>): boolean =>
  a.display === 'none' ||
  a.visibility === 'hidden' ||
  /(display\s*:\s*none|visibility\s*:\s*hidden)/.test(a.style ?? '');

/** How a drawing lies within a drawing. */
function nested(a: Record<string, string>): Affine {
  const box = numbersOf(a.viewBox);
  const [x, y] = [numbersOf(a.x)[0] ?? 0, numbersOf(a.y)[0] ?? 0];
  const [w, h] = [lengthOf(a.width), lengthOf(a.height)];
  const px = (l: { value: number; unit: string }) => (l.unit ? (l.value * MM[l.unit]) / MM.px : l.value);
  if (box.length !== 4 || !w || !h) return [1, 0, 0, 1, x, y];
  const s = Math.min(px(w) / box[2], px(h) / box[3]);
  // in the middle of its place, as where nothing else is said
  const [dx, dy] = [(px(w) - box[2] * s) / 2, (px(h) - box[3] * s) / 2];
  return [s, 0, 0, s, x + dx - box[0] * s, y + dy - box[1] * s];
}

function linesOf(name: string, a: Record<string, string>, to: Affine): Line[] {
  const n = (key: string): number => {
    const found = lengthOf(a[key]);
    if (a[key] !== undefined && !found) throw new Error(`${key} “${a[key].slice(0, 40)}” is no length`);
    return found ? (found.unit ? (found.value * MM[found.unit]) / MM.px : found.value) : 0;
  };
  const ringed = (points: [number, number][]): Line[] => [{ points, closed: true }];
  switch (name) {
    case 'path':
      return linesOfPath(a.d ?? '', to);
    case 'rect': {
      const [x, y, w, h] = [n('x'), n('y'), n('width'), n('height')];
      if (!(w > 0 && h > 0)) return [];
      const [rx, ry] = [Math.min(n('rx') || n('ry'), w / 2), Math.min(n('ry') || n('rx'), h / 2)];
      if (!(rx > 0 && ry > 0))
        return ringed([apply(to, x, y), apply(to, x + w, y), apply(to, x + w, y + h), apply(to, x, y + h)]);
      const corner = (cx: number, cy: number) => `A${rx} ${ry} 0 0 1 ${cx} ${cy}`;
      return linesOfPath(
        `M${x + rx} ${y}H${x + w - rx}${corner(x + w, y + ry)}V${y + h - ry}${corner(x + w - rx, y + h)}` +
          `H${x + rx}${corner(x, y + h - ry)}V${y + ry}${corner(x + rx, y)}Z`,
        to,
      );
    }
    case 'circle':
      return n('r') > 0 ? ringed(ellipse(n('cx'), n('cy'), n('r'), n('r'), to)) : [];
    case 'ellipse':
      return n('rx') > 0 && n('ry') > 0 ? ringed(ellipse(n('cx'), n('cy'), n('rx'), n('ry'), to)) : [];
    case 'polygon':
    case 'polyline': {
      const points = numbersOf(a.points);
      if (points.length % 2) throw new Error('its points are an odd number of coordinates');
      const joined = Array.from({ length: points.length / 2 }, (_, k) => `${points[k * 2]} ${points[k * 2 + 1]}`);
      return joined.length ? linesOfPath(`M${joined.join('L')}${name === 'polygon' ? 'Z' : ''}`, to) : [];
    }
    default:
      return [];
  }
}
