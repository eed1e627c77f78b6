// Draws the pictures of docs/setting-out.md from what the program itself lays.

const MM_PER_PX = 20;
const TONES = { whole: '#e4d9c4', cut: '#b98d5e', sliver: '#b3341f' };
const INK = '#2d2a26';

/** A room of 5.2 × 3.8 m with a chimney breast of 1.4 × 0.45 m, 2.6 m high, seen from within. */
const ROOM = [
  [0, 0],
  [1900, 0],
  [1900, 450],
  [3300, 450],
  [3300, 0],
  [5200, 0],
  [5200, 3800],
  [0, 3800],
  [0, 0],
];

const svg = (title, width, height, body) =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}">\n` +
  `<title>${title}</title>\n<rect width="${width}" height="${height}" fill="#f3efe4"/>\n${body}\n</svg>\n`;

const pathOf = (outline) =>
  outline.map((loop) => `M${loop.map((p) => p.map((v) => v.toFixed(1)).join(' ')).join('L')}Z`).join('');

/** The development of the room, its corners marked, and its plan beside it. */
export function drawRun({ lay, drawStart, looseMesh, patch, facesOf, laidSpec, oak, FIRST_MAPPING }) {
  const parts = ROOM.slice(1).map(([x, z], i) => {
    const [u, w] = ROOM[i];
    return looseMesh(patch(1, 1, (s, t) => [u + (x - u) * s, t * 2600, w + (z - w) * s]));
  });
  const layout = { kind: 'stretcher', lengthMm: 440, heightMm: 215, lap: 0.5, raking: false };
  const mapping = FIRST_MAPPING.develop;
  const region = {
    id: 'run',
    patches: parts.map((part) => ({ faces: [0, facesOf(part).length] })),
    mapping,
    cuts: [],
    origin: [0, 0, 0],
    spec: { ...laidSpec({ layout, joint: 10 }), mapping },
    colour: null,
  };
  const { pieces, sheet } = lay(region, parts, { oak: oak() });
  const { minX, maxX, minY, maxY } = sheet.bounds;
  const [width, height] = [(maxX - minX) / MM_PER_PX, (maxY - minY) / MM_PER_PX];
  const drawn = drawStart(pieces, sheet.bounds, { width, height });
  const blocks = drawn.map(({ outline, kind }) => `<path fill="${TONES[kind]}" d="${pathOf(outline)}"/>`);
  const corners = new Set();
  for (let i = 0; i < sheet.corners.length; i += 2) corners.add(Math.round((sheet.corners[i] - minX) / MM_PER_PX));
  const lines = [...corners].map(
    (x) => `<path d="M${x} -6V${height + 6}" stroke="${INK}" stroke-width="1" stroke-dasharray="3 3"/>`,
  );
  const plan = ROOM.map(([x, z]) => `${(x / 40).toFixed(1)} ${(z / 40).toFixed(1)}`).join('L');
  const body =
    `<g transform="translate(16 14)"><path d="M${plan}" fill="#fffdf8" stroke="${INK}" stroke-width="2"/></g>\n` +
    `<g transform="translate(16 128)">${blocks.join('\n')}\n${lines.join('')}</g>`;
  return svg(
    'Four walls and a chimney breast as one development',
    Math.ceil(width) + 32,
    Math.ceil(height) + 144,
    body,
  );
}

/** The best five starts of tiles on a wall with a door and a window. */
export function drawStarts({ lay, proposeStarts, drawStart, wallMesh, laidSpec, oak, FIRST_MAPPING }) {
  const loops = [
    [
      [0, 0],
      [840, 0],
      [840, 2035],
      [1655, 2035],
      [1655, 0],
      [4117, 0],
      [4117, 2610],
      [0, 2610],
    ],
    [
      [2300, 900],
      [2300, 2035],
      [3190, 2035],
      [3190, 900],
    ],
  ];
  const mesh = wallMesh(loops);
  const layout = {
    kind: 'grid',
    widthMm: 298,
    heightMm: 298,
    shift: 0,
    diagonal: false,
    across: null,
    up: null,
  };
  const region = {
    id: 'wall',
    patches: [{ faces: [0, mesh.slots.length] }],
    mapping: FIRST_MAPPING.flat,
    cuts: [],
    origin: [0, 0, 0],
    spec: laidSpec({ layout, joint: 2 }),
    colour: null,
  };
  const before = lay(region, [mesh], { oak: oak() });
  const found = proposeStarts(before, { oak: oak() }, { symmetric: false, turned: false, hidden: [] });
  const size = { width: 206, height: 131 };
  const all = [{ laid: before, cut: before.pieces.filter((p) => !p.whole).length, now: true }, ...found];
  const cells = all.map(({ laid, cut, now }, n) => {
    const [x, y] = [14 + (n % 3) * 226, 26 + Math.floor(n / 3) * 170];
    const drawn = drawStart(laid.pieces, laid.sheet.bounds, size);
    const tiles = drawn.map(({ outline, kind }) => `<path fill="${TONES[kind]}" d="${pathOf(outline)}"/>`).join('');
    const words = `${now ? 'From the corner' : `Start ${n}`}: ${cut} cut`;
    return (
      `<g transform="translate(${x} ${y})"><text y="-6" font-family="sans-serif" font-size="11" fill="${INK}">` +
      `${words}</text>${tiles}</g>`
    );
  });
  return svg('The best five starts', 700, 350, cells.join('\n'));
}
