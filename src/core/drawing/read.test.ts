import { areaOf } from './examine';
import { makeModule } from './makeModule';
import { readDxf } from './readDxf';
import { readSvg, transformOf } from './readSvg';

const svg = (inner: string, attributes = 'width="100mm" height="100mm" viewBox="0 0 100 100"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${inner}</svg>`;
const square = '<rect width="10" height="10"/>';
const dxf = (...codes: (string | number)[]) =>
  ['0', 'SECTION', '2', 'ENTITIES', ...codes, '0', 'ENDSEC', '0', 'EOF'].join('\n');

/** Each of ten groups uses the one before four times. */
const uses = Array.from({ length: 10 }, (_, n) => `<g id="u${n + 1}">${`<use href="#u${n}"/>`.repeat(4)}</g>`).join('');

describe('an SVG that is not taken says why', () => {
  test.each<[string, string, RegExp]>([
    ['a script', svg(`<script>alert(1)</script>${square}`), /holds a script/],
    ['an event', svg('<rect width="9" height="9" onclick="x()"/>'), /runs a script \(“onclick”\)/],
    [
      'entities',
      `<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;&a;&a;">]>${svg('<text>&b;</text>')}`,
      /declares entities/,
    ],
    ['an entity without a declaration', svg('<text>&nowhere;</text>'), /not well-formed XML/],
    ['another file', svg('<use href="https://example.test/a.svg#b"/>'), /which is another file/],
    ['what it does not hold', svg('<use href="#b"/>'), /“#b”, which is not in it/],
    ['a use of itself', svg('<g id="a"><use href="#a"/></g>'), /does one use itself/],
    [
      'a use that grows',
      svg(`<defs>${uses}<rect id="u0" width="9" height="9"/></defs><use href="#u10"/>`),
      /more than 20000 elements/,
    ],
    ['too many points', svg(`<path d="M0 0${'l1 1 1 -1'.repeat(110_000)}z"/>`), /more than 200000 points/],
    ['groups without end', svg('<g>'.repeat(60) + '</g>'.repeat(60)), /more than 40 deep/],
    ['nothing closed', svg('<path d="M0 0L50 50"/>'), /no closed shape/],
    ['a hole', svg('<path d="M0 0H90V90H0ZM20 20H60V60H20Z"/>'), /has a hole/],
    ['a bow', svg('<path id="bow" d="M0 0L60 60H0L60 0Z"/>'), /“bow” crosses itself/],
    ['a path that is none', svg('<path id="odd" d="M0 0Q1 2 bla"/>'), /“odd” cannot be read/],
    [
      'a transform that is none',
      svg('<g id="g" transform="spin(4)"><rect width="9" height="9"/></g>'),
      /“g” cannot be read/,
    ],
    ['a frame that is none', svg(square, 'viewBox="0 0 0 10"'), /its viewBox “0 0 0 10”/],
    ['a page', '<html><body/></html>', /<html>, not <svg>/],
    ['a picture', '\u0089PNG', /not well-formed XML/],
    ['far away', svg('<rect x="2000000" width="10" height="10"/>'), /more than a kilometre away/],
  ])('%s', (_name, text, message) => {
    expect(() => readSvg(text, 'a.svg')).toThrow(message);
  });

  test('attributes made to be looked at for ever are not', () => {
    const long = 2_000_000;
    expect(() => readSvg(svg(`<g transform="${'matrix('.repeat(long / 7)}">${square}</g>`), 'a.svg')).toThrow(
      /its transform has more than 4000 characters/,
    );
    expect(() => readSvg(svg(`<rect width="1${' '.repeat(long)}!" height="5"/>`), 'a.svg')).toThrow(/is no length/);
    const named = readSvg(svg(`<rect id="${'-'.repeat(long)}x" width="9" height="9"/>`), 'a.svg');
    expect(named.shapes[0].role.length).toBeLessThan(100);
  });

  test('however it is cut short it is refused in words, never by a fault of ours', () => {
    const whole = svg(`<g transform="rotate(10)">${square}<path d="M20 0a5 5 0 0 1 9 9z"/></g>`);
    for (let n = 0; n < whole.length; n++) {
      try {
        readSvg(whole.slice(0, n), 'a.svg');
        throw new Error(`taken at ${n}`);
      } catch (error) {
        expect((error as Error).name).toBe('ImportError');
      }
    }
  });
});

describe('an SVG', () => {
  test('what is no closed shape is named, what is hidden or only defined is not drawn', () => {
    const { shapes, remarks } = readSvg(
      svg(`${square}<text>a</text><line x2="5"/><path d="M0 0h50"/><circle r=".1"/>
        <rect x="20" width="10" height="10" style="display:none"/><defs><rect width="50" height="50"/></defs>
        <rect width="10" height="10"/>`),
      'a.svg',
    );
    expect(shapes).toHaveLength(1);
    expect(remarks).toEqual([
      '1 × shape of less than 1 mm² left out.',
      '1 × shape drawn twice at one place taken once.',
      '1 × <text> left out: only closed shapes are laid.',
      '1 × <line> left out: only closed shapes are laid.',
      '1 × line that is not closed left out: only closed shapes are laid.',
    ]);
  });

  test.each([
    ['width="100mm" height="100mm" viewBox="0 0 200 200"', 0.5, true],
    ['width="2in" viewBox="0 0 20 20"', 2.54, true],
    ['width="192px" height="192px" viewBox="0 0 20 20"', 1, false],
    ['viewBox="0 0 20 20"', 1, false],
    ['width="100mm" height="50mm"', 25.4 / 96, true],
  ])('with %s a unit is %f mm', (attributes, mm, sized) => {
    const drawing = readSvg(svg('<rect width="10" height="10"/>', attributes), 'a.svg');
    expect(drawing.sized).toBe(sized);
    expect(areaOf(drawing.shapes[0].corners)).toBeCloseTo(100 * mm * mm, 2);
  });

  test('a word for each shape: its own, its class, its name, that of its group', () => {
    const { shapes } = readSvg(
      svg(`<g id="border"><rect width="9" height="9"/><rect x="10" id="rect12" width="9" height="9"/>
        <rect x="20" class="dot small" width="9" height="9"/><rect x="30" id="key-3" width="9" height="9"/></g>
        <rect y="20" id="path4" width="9" height="9"/><rect y="40" data-role="A 7" id="b" width="9" height="9"/>
        <g xmlns:ed="urn:ed" ed:label="rim 2"><rect y="60" width="9" height="9"/></g>`),
      'a.svg',
    );
    expect(shapes.map((s) => s.role)).toEqual(['border', 'border', 'dot', 'key', 'tile', 'A 7', 'rim']);
  });

  test('transforms are put together from the left', () => {
    const [a, b, c, d, e, f] = transformOf('translate(10, 20) rotate(90) scale(2 3)');
    for (const [v, w] of [
      [a, 0],
      [b, 2],
      [c, -3],
      [d, 0],
      [e, 10],
      [f, 20],
    ])
      expect(v).toBeCloseTo(w, 12);
    expect(transformOf('rotate(180 5 5)')[4]).toBeCloseTo(10, 12);
  });
});

describe('a DXF', () => {
  test.each<[string, string, RegExp]>([
    ['no DXF', 'hello\nworld', /no DXF that can be read|no closed shape/],
    ['binary', 'Binary\0\u0001', /binary DXF/],
    ['nothing closed', dxf(0, 'LINE', 8, 0, 10, 0, 20, 0, 11, 5, 21, 5), /no closed shape/],
    [
      'a block that is not there',
      dxf(0, 'INSERT', 8, 0, 2, 'gone', 10, 0, 20, 0),
      /the block “gone”, which is not in it/,
    ],
    ['a radius that is none', dxf(0, 'CIRCLE', 8, 0, 10, 'x', 20, 0, 40, 5), /no number/],
  ])('that is %s says why', (_name, text, message) => {
    expect(() => readDxf(text, 'a.dxf')).toThrow(message);
  });

  test('a block that holds itself, and one that repeats without end, are refused', () => {
    const insert = (name: string, ...more: (string | number)[]) => [0, 'INSERT', 8, 0, 2, name, 10, 0, 20, 0, ...more];
    const withBlock = (...inner: (string | number)[]) =>
      [
        0,
        'SECTION',
        2,
        'BLOCKS',
        0,
        'BLOCK',
        8,
        0,
        2,
        'a',
        70,
        0,
        10,
        0,
        20,
        0,
        ...inner,
        0,
        'ENDBLK',
        0,
        'ENDSEC',
        '',
      ].join('\n');
    expect(() => readDxf(withBlock(...insert('a')) + dxf(...insert('a')), 'a.dxf')).toThrow(/hold itself/);
    const many = withBlock() + dxf(...insert('a', 70, 32000, 71, 32000, 44, 5, 45, 5));
    expect(() => readDxf(many, 'a.dxf')).toThrow(/more than 20000 entities/);
  });

  test('without units its size is to be said', () => {
    const circle = dxf(0, 'CIRCLE', 8, 'dot', 10, 0, 20, 0, 40, 5);
    expect(readDxf(circle, 'a.dxf')).toMatchObject({ sized: false, shapes: [{ role: 'dot' }] });
  });
});

describe('a module of a drawing', () => {
  const bricks = (gap: number, over = 0) =>
    readSvg(
      svg(`<rect width="${50 + over}" height="20"/><rect x="${50 + gap}" width="${50 - gap}" height="20"/>`),
      'a.svg',
    );

  test('a gap is shown with its place and size, and refused until it is accepted', () => {
    const choice = { as: 'cells', right: [100, 0], up: [0, 20] } as const;
    const made = makeModule(bricks(3), { ...choice, right: [100, 0], up: [0, 20] });
    expect(made.module).toBeNull();
    expect(made.flaws).toEqual([expect.objectContaining({ kind: 'gap', sizeMm: [3, 20], at: [51.5, 10] })]);
    expect(made.fault).toMatch(/One gap is left free, 3 × 20 mm/i);
    const accepted = makeModule(bricks(3), { ...choice, right: [100, 0], up: [0, 20], accept: true });
    expect(accepted.fault).toBeNull();
    const cells = accepted.module!.shapes.map((s) => areaOf(s.cell ?? s.corners));
    expect(cells.reduce((a, b) => a + b)).toBeCloseTo(2000, 3);
  });

  test('what lies over another is shown, and on top when it is accepted', () => {
    const choice = { as: 'cells' as const, right: [100, 0] as [number, number], up: [0, 20] as [number, number] };
    const made = makeModule(bricks(0, 8), choice);
    expect(made.flaws).toEqual([expect.objectContaining({ kind: 'overlap', sizeMm: [8, 20], at: [54, 10] })]);
    const accepted = makeModule(bricks(0, 8), { ...choice, accept: true });
    expect(accepted.module!.shapes.map((s) => areaOf(s.corners))).toEqual([1000, 1000]);
  });

  test('one number sizes all of it', () => {
    const made = makeModule(bricks(0), { widthMm: 450 });
    expect(made.module).toMatchObject({ right: [450, 0], up: [0, 90] });
    expect(made.module!.shapes.map((s) => areaOf(s.corners))).toEqual([20250, 20250]);
  });

  test('pieces that touch need a joint, and steps that span nothing are refused', () => {
    expect(makeModule(bricks(0), { as: 'pieces' }).fault).toMatch(/2 of 2 shapes come nearer than 0.2 mm/);
    expect(makeModule(bricks(0), { right: [0, 100], up: [100, 0] }).fault).toMatch(/must turn to the left/);
    expect(makeModule(bricks(0), { right: [10, 0], up: [0, 10] }).fault).toMatch(/too short/);
  });

  test('joints are told as wide as they are', () => {
    const drawing = readSvg(
      svg(
        '<rect width="94" height="44"/><rect y="47" width="94" height="47"/>',
        'width="100mm" height="100mm" viewBox="0 0 100 97"',
      ),
      'a.svg',
    );
    const { joints, module } = makeModule(drawing, { right: [100, 0], up: [0, 97] });
    expect(module).not.toBeNull();
    expect(joints!.fromMm).toBeCloseTo(3, 6);
  });
});
