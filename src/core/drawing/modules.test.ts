import { defaultJoint } from '../layout/joint';
import { faultOfModule, type OwnModule, widthOf } from '../layout/own/module';
import { layOwn, own } from '../layout/own/own';
import { areaOf as areaUnder } from '../layout/area';
import { loopArea } from '../geometry/loop';
import { listCells } from '../testing/cells';
import { areaOf } from './examine';
import { makeModule, type ModuleChoice } from './makeModule';
import { readDxf } from './readDxf';
import { readSvg } from './readSvg';
import { moduleAsSvg } from './writeSvg';

const svg = (attributes: string, inner: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${inner}</svg>`;

/** A DXF of group codes and values. */
const dxf = (units: number, entities: string, blocks = '') =>
  [
    `0 SECTION 2 HEADER 9 $INSUNITS 70 ${units} 0 ENDSEC`,
    blocks && `0 SECTION 2 BLOCKS ${blocks} 0 ENDSEC`,
    `0 SECTION 2 ENTITIES ${entities} 0 ENDSEC 0 EOF`,
  ]
    .join(' ')
    .trim()
    .split(/\s+/)
    .join('\n');
const lwpolyline = (layer: string, points: number[][], closed = 1) =>
  `0 LWPOLYLINE 8 ${layer} 90 ${points.length} 70 ${closed} ${points
    .map(([x, y, bulge]) => `10 ${x} 20 ${y}${bulge ? ` 42 ${bulge}` : ''}`)
    .join(' ')}`;
const rectangle = (x: number, y: number, w: number, h: number) => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
];

interface Case {
  text: string;
  choice?: ModuleChoice;
  as: 'pieces' | 'cells';
  right: [number, number];
  up: [number, number];
  /** Areas of the shapes, mm², and how near, as a share. */
  areas: number[];
  within?: number;
  roles?: string[];
}

const CASES: Record<string, Case> = {
  // two bricks upright beside two level ones, and the other way round: 200 × 200
  'bricks in a basket (SVG)': {
    text: svg(
      'width="200mm" height="200mm" viewBox="0 0 200 200"',
      `<g class="level"><rect width="100" height="50"/><rect y="50" width="100" height="50"/>
       <rect x="100" y="100" width="100" height="50"/><rect x="100" y="150" width="100" height="50"/></g>
       <g class="upright"><rect x="100" width="50" height="100"/><rect x="150" width="50" height="100"/>
       <rect y="100" width="50" height="100"/><rect x="50" y="100" width="50" height="100"/></g>`,
    ),
    as: 'cells',
    right: [200, 0],
    up: [0, 200],
    areas: Array<number>(8).fill(5000),
    roles: [...Array<string>(4).fill('level'), ...Array<string>(4).fill('upright')],
  },
  // a scale of radius 5 cm: half a round above, two quarters taken out below; its area is 2 r²
  'a scale of arcs, turned and scaled (SVG)': {
    text: svg(
      'width="10cm" height="10cm" viewBox="0 0 100 100"',
      `<g transform="translate(50 50) rotate(180) scale(.5)">
       <path class="scale"
       d="M-100 0A100 100 0 0 1 0 -100A100 100 0 0 1 100 0A100 100 0 0 0 0 100A100 100 0 0 0 -100 0Z"/></g>`,
    ),
    as: 'cells',
    right: [100, 0],
    up: [50, 50],
    areas: [5000],
    within: 2e-3,
    roles: ['scale'],
  },
  // one tile used by a pair, the pair used twice, through a symbol; 10 mm joints
  'tiles nested in use (SVG)': {
    text: svg(
      'width="420mm" height="210mm" viewBox="0 0 420 210" xmlns:xlink="http://www.w3.org/1999/xlink"',
      `<defs><rect id="one" width="95" height="95"/>
       <g id="pair"><use href="#one"/><use xlink:href="#one" y="105"/></g>
       <symbol id="both"><use href="#pair"/><use href="#pair" transform="translate(105)"/></symbol></defs>
       <use href="#both" x="5" y="5"/><use href="#both" x="215" y="5"/>`,
    ),
    as: 'pieces',
    right: [420, 0],
    up: [0, 210],
    areas: Array<number>(8).fill(9025),
  },
  // 300 × 300 slabs with a 20 × 300 strip free between two of them
  'slabs with a gap (SVG)': {
    text: svg(
      'width="620mm" height="300mm" viewBox="0 0 620 300"',
      '<rect width="300" height="300"/><rect x="320" width="300" height="300"/>',
    ),
    choice: { as: 'cells', right: [620, 0], up: [0, 300], accept: true },
    as: 'cells',
    right: [620, 0],
    up: [0, 300],
    areas: [90000, 90000],
  },
  // an insert of 100 × 100 drawn over a slab's corner
  'an insert that lies over a slab (SVG)': {
    text: svg(
      'width="400mm" height="400mm" viewBox="0 0 400 400"',
      '<rect class="slab" width="400" height="400"/><rect class="insert" x="300" y="0" width="100" height="100"/>',
    ),
    choice: { accept: true },
    as: 'cells',
    right: [400, 0],
    up: [0, 400],
    areas: [160000, 10000],
    roles: ['slab', 'insert'],
  },
  // 4 × 2 in
  'a brick in inches (SVG)': {
    text: svg('width="4in" height="2in" viewBox="0 0 40 20"', '<polygon points="0,0 40,0 40,20 0,20"/>'),
    as: 'cells',
    right: [101.6, 0],
    up: [0, 50.8],
    areas: [5161.28],
  },
  // hexagons 80 across flats: steps of 80, and 69.282 up by half
  'a hexagon, its sides alone to go by (SVG)': {
    text: svg(
      'width="80mm" viewBox="0 0 80 92.376"',
      `<path d="M40 0l40 23.094v46.188l-40 23.094l-40-23.094V23.094z"/>`,
    ),
    as: 'cells',
    right: [80, 0],
    up: [40, 69.282],
    areas: [5542.56],
    within: 1e-4,
  },
  // a round of 40 and an ellipse of 30 × 20 in a frame of 120 × 60
  'rounds in a frame (SVG)': {
    text: svg(
      'width="120mm" height="60mm" viewBox="0 0 120 60"',
      '<circle id="big" cx="30" cy="30" r="20"/><ellipse id="egg" cx="90" cy="30" rx="15" ry="10"/>',
    ),
    as: 'pieces',
    right: [120, 0],
    up: [0, 60],
    areas: [1256.64, 471.24],
    within: 6e-3,
    roles: ['big', 'egg'],
  },
  // a board drawn at both ends of its frame is one board
  'a board that runs over the edge (SVG)': {
    text: svg(
      'width="600mm" height="200mm" viewBox="0 0 600 200"',
      `<rect x="2" y="2" width="596" height="96"/><rect x="-298" y="102" width="596" height="96"/>
       <rect x="302" y="102" width="596" height="96"/>`,
    ),
    as: 'pieces',
    right: [600, 0],
    up: [0, 200],
    areas: [57216, 57216],
  },
  'three sizes in layers (DXF)': {
    text: dxf(
      4,
      [
        lwpolyline('large', rectangle(0, 0, 200, 200)),
        lwpolyline('small', rectangle(200, 0, 100, 100)),
        lwpolyline('small', rectangle(200, 100, 100, 100)),
      ].join(' '),
    ),
    as: 'cells',
    right: [300, 0],
    up: [0, 200],
    areas: [40000, 10000, 10000],
    roles: ['large', 'small', 'small'],
  },
  // two inches by one with round ends of a half circle each, and a disc of one inch: 2 + π / 4 and π / 4 square inches
  'a stadium and a disc in inches (DXF)': {
    text: dxf(
      1,
      `${lwpolyline('0', [
        [0, 0],
        [2, 0, 1],
        [2, 1],
        [0, 1, 1],
      ])} 0 CIRCLE 8 disc 10 3.25 20 0.5 40 0.5`,
    ),
    choice: { right: [4.5 * 25.4, 0], up: [0, 1.25 * 25.4] },
    as: 'pieces',
    right: [114.3, 0],
    up: [0, 31.75],
    areas: [(2 + Math.PI / 4) * 645.16, (Math.PI / 4) * 645.16],
    within: 6e-3,
    roles: ['tile', 'disc'],
  },
  // a block of a 90 × 40 brick, inserted in two columns and turned by 90° on end: cm
  'bricks as inserts (DXF)': {
    text: dxf(
      5,
      `0 INSERT 8 level 2 brick 10 0 20 0 70 1 71 2 45 5
       0 INSERT 8 upright 2 brick 10 14 20 0 50 90 0 INSERT 8 upright 2 brick 10 19 20 0 50 90`,
      `0 BLOCK 8 0 2 brick 70 0 10 0 20 0 ${lwpolyline('0', rectangle(0, 0, 9, 4))} 0 ENDBLK`,
    ),
    choice: { as: 'pieces', right: [200, 0], up: [0, 100] },
    as: 'pieces',
    right: [200, 0],
    up: [0, 100],
    areas: [3600, 3600, 3600, 3600],
    roles: ['level', 'level', 'upright', 'upright'],
  },
};

const read = (text: string) => (text.startsWith('<') ? readSvg(text, 'a.svg') : readDxf(text, 'a.dxf'));

test.each(Object.entries(CASES))('%s comes in true to size and out again the same', (_name, c) => {
  const drawing = read(c.text);
  expect(drawing.sized).toBe(true);
  const made = makeModule(drawing, c.choice);
  expect(made.fault).toBeNull();
  const module: OwnModule = { id: 'm', name: 'Quay', ...made.module! };
  expect(module.as).toBe(c.as);
  for (const k of [0, 1]) {
    expect(module.right[k]).toBeCloseTo(c.right[k], 2);
    expect(module.up[k]).toBeCloseTo(c.up[k], 2);
  }
  expect(made.shapes).toHaveLength(c.areas.length);
  made.shapes.forEach((s, k) =>
    expect(Math.abs(areaOf(s.corners) - c.areas[k])).toBeLessThan((c.within ?? 1e-6) * c.areas[k] + 1e-3),
  );
  if (c.roles) expect(module.shapes.map((s) => s.role)).toEqual(c.roles);
  expect(faultOfModule(module)).toBeNull();

  // laid, its cells cover the plane and its pieces are the shapes
  const layout = own.open!(layOwn(module), defaultJoint(2), areaUnder([]));
  const side = 3 * widthOf(module);
  const repeat = module.right[0] * module.up[1] - module.right[1] * module.up[0];
  const laid = listCells(layout, { minX: -side, minY: -side, maxX: side, maxY: side });
  const first = laid.filter((cell) => cell.course === 0 && cell.index >= 0 && cell.index < module.shapes.length);
  expect(first.reduce((sum, cell) => sum + loopArea(cell.cell), 0)).toBeCloseTo(repeat, 1);
  if (module.as === 'pieces')
    expect(first.map((cell) => loopArea(cell.piece)).sort()).toEqual(
      module.shapes.map((s) => expect.closeTo(areaOf(s.corners), 2)).sort(),
    );

  // out again, and in
  const again = makeModule(readSvg(moduleAsSvg(module), 'b.svg'), { accept: c.choice?.accept });
  expect(again.fault).toBeNull();
  expect({ ...again.module, shapes: again.module!.shapes.map(({ role, corners }) => ({ role, corners })) }).toEqual({
    ...made.module,
    shapes: module.shapes.map(({ role, corners }) => ({ role, corners: corners.map((v) => expect.closeTo(v, 3)) })),
  });
});
