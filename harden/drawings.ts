import { bytesOf, type Hostile, mutate, pick, type Random } from './hostile';

/** Hostile drawings of modules: SVG and DXF. */

const SVG =
  '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="240mm" height="120mm" ' +
  'viewBox="0 0 240 120">\n<defs><rect id="half" width="55" height="112"/></defs>\n' +
  '<g class="brick" transform="translate(2 2) rotate(0 10 10)">\n<rect x="0" y="0" width="112" height="52"/>\n' +
  '<path d="M120 0h112v40q0 12 -12 12h-90a10 10 0 0 1 -10 -10z"/>\n' +
  '<polygon points="0,60 112,60 112,112 0,112"/>\n' +
  '<circle cx="180" cy="86" r="20"/>\n<use xlink:href="#half" x="120" y="60"/>\n</g>\n</svg>\n';

const SVG_WORDS = [
  '<rect width="1e308" height="1e308"/>',
  '<rect width="-5" height="nan"/>',
  '<path d="M0 0 L"/>',
  '<path d="M0 0 A1e9 1e-9 45 1 1 1 1z"/>',
  `<path d="M0 0${' l1 1'.repeat(4000)}z"/>`,
  '<polygon points="0,0 1"/>',
  '<polygon points="0,0 10,10 10,0 0,10"/>',
  '<use href="#nowhere"/>',
  '<use href="https://quay.example/a.svg#b"/>',
  '<g transform="scale(0)"><rect width="9" height="9"/></g>',
  '<g transform="matrix(1 2 3)"><rect width="9" height="9"/></g>',
  '<image href="file:///etc/hostname"/>',
  '<script>alert(1)</script>',
  '<foreignObject><body/></foreignObject>',
  '<rect width="10" height="10"',
  '&lol;',
];

/** Pairs of lines: a group's number and its value. */
const pairs = (...list: (string | number)[]) => list.join('\n') + '\n';
const square = (size: number) =>
  pairs(0, 'LWPOLYLINE', 8, 'bricks', 90, 4, 70, 1, 10, 0, 20, 0, 10, size, 20, 0, 10, size, 20, size, 10, 0, 20, size);
const dxf = (entities: string, blocks = '') =>
  pairs(0, 'SECTION', 2, 'HEADER', 9, '$INSUNITS', 70, 4, 0, 'ENDSEC') +
  (blocks && pairs(0, 'SECTION', 2, 'BLOCKS') + blocks + pairs(0, 'ENDSEC')) +
  pairs(0, 'SECTION', 2, 'ENTITIES') +
  entities +
  pairs(0, 'ENDSEC', 0, 'EOF');
const insert = (name: string, ...more: (string | number)[]) =>
  pairs(0, 'INSERT', 8, 0, 2, name, 10, 0, 20, 0, 30, 0, ...more);
const block = (name: string, inside: string) =>
  pairs(0, 'BLOCK', 8, 0, 2, name, 70, 0, 10, 0, 20, 0, 30, 0) + inside + pairs(0, 'ENDBLK');
const DXF = dxf(
  square(110) + pairs(0, 'CIRCLE', 8, 'dots', 10, 200, 20, 50, 40, 30) + insert('half'),
  block('half', square(55)),
);

const DXF_PAIRS = [
  pairs(70, 'closed'),
  pairs(10, '1e400'),
  pairs(42, '-1e9'),
  pairs(90, 4294967295),
  pairs(0, 'INSERT', 2, 'nowhere'),
  pairs(0, 'CIRCLE', 40, -3),
  pairs(0, 'ELLIPSE', 11, 0, 40, 1e30),
  pairs(0, 'SPLINE', 70, 1, 71, 3, 72, 1e9),
  pairs(0, 'ENDSEC'),
  pairs(999, 'a'.repeat(5000)),
  'text where a number is\n',
];

const drawing = (what: string, file: string, text: string | Uint8Array): Hostile => ({
  what,
  files: { [file]: typeof text === 'string' ? bytesOf(text) : text },
  at: '/api/modules/read',
});

/** Some lines of a text out of their place, or others among them. */
function shuffled(random: Random, text: string, others: readonly string[]): string {
  const lines = text.split('\n');
  for (let n = 0; n < 1 + random() * 5; n++) {
    const at = Math.floor(random() * lines.length);
    if (random() < 0.3) lines.splice(at, 1 + Math.floor(random() * 3));
    else lines.splice(at, 0, pick(random, others));
  }
  return lines.join('\n');
}

export const drawingMakers = (random: Random): (() => Hostile)[] => [
  () => drawing('SVG, bytes', 'a.svg', mutate(random, bytesOf(SVG))),
  () => drawing('SVG, words', 'a.svg', shuffled(random, SVG, SVG_WORDS)),
  () => drawing('DXF, bytes', 'a.dxf', mutate(random, bytesOf(DXF))),
  () => drawing('DXF, pairs', 'a.dxf', shuffled(random, DXF, DXF_PAIRS)),
];

/** Drawings that are small and ask for much. */
export function greedyDrawings(): Hostile[] {
  const svg = (inside: string) =>
    `<svg xmlns="http://www.w3.org/2000/svg" width="1m" viewBox="0 0 9 9">${inside}</svg>`;
  const doubled = Array.from(
    { length: 30 },
    (_, n) => `<g id="u${n + 1}"><use href="#u${n}"/><use href="#u${n}"/></g>`,
  ).join('');
  const nested = Array.from({ length: 30 }, (_, n) => block(`b${n + 1}`, insert(`b${n}`) + insert(`b${n}`))).join('');
  const entities = Array.from({ length: 12 }, (_, n) => `<!ENTITY e${n + 1} "${`&e${n};`.repeat(10)}">`).join('');
  return [
    drawing('SVG: uses that double', 'a.svg', svg(`<rect id="u0" width="1" height="1"/>${doubled}`)),
    drawing('SVG: a use of itself', 'a.svg', svg('<g id="a"><use href="#a"/></g>')),
    drawing('SVG: 30,000 shapes', 'a.svg', svg('<rect width="1" height="1"/>'.repeat(30_000))),
    drawing('SVG: a path of 400,000 points', 'a.svg', svg(`<path d="M0 0${'l1 1'.repeat(400_000)}z"/>`)),
    drawing('SVG: 3000 groups deep', 'a.svg', svg('<g>'.repeat(3000) + '</g>'.repeat(3000))),
    drawing(
      'SVG: entities that grow',
      'a.svg',
      `<!DOCTYPE svg [<!ENTITY e0 "lol">${entities}]>${svg('<desc>&e12;</desc><rect width="1" height="1"/>')}`,
    ),
    drawing('SVG: 2000 lines crossing', 'a.svg', svg(`<path d="M0 0${'l9 1l-9 -0.99'.repeat(1000)}z"/>`)),
    drawing('DXF: blocks that double', 'a.dxf', dxf(insert('b30'), block('b0', square(1)) + nested)),
    drawing('DXF: a block of itself', 'a.dxf', dxf(insert('b'), block('b', insert('b')))),
    drawing('DXF: a million columns', 'a.dxf', dxf(insert('b', 70, 1e6, 71, 1e6, 44, 1, 45, 1), block('b', square(1)))),
    drawing('DXF: 40,000 squares', 'a.dxf', dxf(square(1).repeat(40_000))),
    drawing('DXF: never closed', 'a.dxf', pairs(0, 'SECTION', 2, 'ENTITIES') + square(1)),
    drawing('DXF: binary', 'a.dxf', 'Binary DXF\r\n\u001a\u0000'),
    drawing('a drawing that is none', 'a.svg', 'brick'),
    drawing('an empty drawing', 'a.dxf', ''),
  ];
}
