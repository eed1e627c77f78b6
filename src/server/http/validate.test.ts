import { PREP_COMMANDS, type PrepCommand } from '@/core/prep/commands';
import { Prep } from '@/core/prep/schema';
import { Step, type StepKind, stepOf } from '@/core/prep/steps/registry';
import { checkLeaves, faultOf } from './validate';

const step = (kind: StepKind, rest: object = {}) => ({
  id: 'a',
  on: true,
  mask: null,
  ...stepOf({ kind }).first,
  ...rest,
});
const picture = {
  image: 'a'.repeat(64),
  name: 'Rust',
  widthMm: 400,
  heightMm: 300,
  lies: 'darks',
  blurMm: 2,
  tint: 0.5,
};
const of = {
  image: 'b'.repeat(64),
  material: 'oak',
  name: 'Oak',
  widthMm: 400,
  heightMm: 300,
  widthPx: 800,
};
const corners = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
];
const board = { corners, turns: 0, of: null };

test('steps that are as they should be have no fault', () => {
  for (const right of [
    step('dirt', { picture }),
    step('dirt', { picture: null }),
    step('compose', { boards: [board, { ...board, of }] }),
  ])
    expect(faultOf(Step, right)).toBeNull();
});

// what somebody may send to the newer steps: each answer names the field, what was wrong and what would be right
test.each<[string, object, string, RegExp]>([
  ['a scale of one colour', step('heightColour', { stops: [{ at: 0, colour: '#ffffff' }] }), 'stops', /fewer than 2/],
  [
    'a scale of six',
    step('heightColour', { stops: Array(6).fill({ at: 0, colour: '#ffffff' }) }),
    'stops',
    /more than 5/,
  ],
  [
    'a stop beyond the height',
    step('heightColour', { stops: Array(2).fill({ at: 1.5, colour: '#ffffff' }) }),
    'stops.0.at',
    /<= 1/,
  ],
  [
    'a colour by its name',
    step('heightColour', { stops: Array(2).fill({ at: 0, colour: 'red' }) }),
    'stops.0.colour',
    /pattern/,
  ],
  ['an unknown blend', step('heightColour', { blend: 'dodge' }), 'blend', /one of .*multiply/],
  ['more strength than all', step('heightColour', { strength: 2 }), 'strength', /<= 1/],
  ['dirt of no size', step('dirt', { sizeMm: 0 }), 'sizeMm', />= 0.5/],
  ['half an octave', step('dirt', { octaves: 2.5 }), 'octaves', /integer/],
  ['dirt nowhere', step('dirt', { place: 'nowhere' }), 'place', /everywhere, joints/],
  [
    'a dirt picture of no hash',
    step('dirt', { picture: { ...picture, image: 'rust.png' } }),
    'picture.image',
    /pattern/,
  ],
  ['one of no width', step('dirt', { picture: { ...picture, widthMm: 0 } }), 'picture.widthMm', />= 0.5/],
  [
    'one whose middles lie',
    step('dirt', { picture: { ...picture, lies: 'middles' } }),
    'picture.lies',
    /lights, darks/,
  ],
  ['one without a tint', step('dirt', { picture: { ...picture, tint: undefined } }), 'picture.tint', /missing/],
  ['a picture by its name alone', step('dirt', { picture: 'rust' }), 'picture', /object/],
  ['patches larger than half the sample', step('extend', { patch: 0.8 }), 'patch', /<= 0.5/],
  ['a size that is no number', step('extend', { widthMm: '1200 mm' }), 'widthMm', /"1200 mm".*number/],
  [
    'a mark of no kind',
    step('extend', { marks: [{ centre: [0, 0], radius: [0.1, 0.1], shown: 'twice' }] }),
    'marks.0.shown',
    /once, never/,
  ],
  [
    '41 marks',
    step('extend', { marks: Array(41).fill({ centre: [0, 0], radius: [0.1, 0.1], shown: 'once' }) }),
    'marks',
    /more than 40/,
  ],
  [
    'a board of three corners',
    step('compose', { boards: [{ ...board, corners: corners.slice(1) }] }),
    'boards.0.corners',
    /fewer than 4/,
  ],
  ['a board turned by an eighth', step('compose', { boards: [{ ...board, turns: 0.5 }] }), 'boards.0.turns', /integer/],
  ['201 boards', step('compose', { boards: Array(201).fill(board) }), 'boards', /more than 200/],
  [
    'a board of a material that is not named',
    step('compose', { boards: [{ ...board, of: { ...of, material: undefined } }] }),
    'boards.0.of.material',
    /missing/,
  ],
  ['no columns', step('compose', { columns: 0 }), 'columns', />= 1/],
  ['nine copies', step('compose', { copies: 9 }), 'copies', /<= 8/],
  ['a joint of less than none', step('compose', { jointMm: -1 }), 'jointMm', />= 0/],
  [
    'a step nobody knows',
    step('heal', { kind: 'age' }),
    'kind',
    /The kind “age” is not known here; there are corners, turn/,
  ],
  ['a step of no kind', step('heal', { kind: undefined }), 'kind', /missing/],
  ['a mask of a kind nobody knows', step('dirt', { mask: { kind: 'star' } }), 'mask.kind', /"star".*ellipse/],
  [
    'a mask without its softness',
    step('dirt', { mask: { kind: 'ellipse', centre: [0, 0], radius: [1, 1], outside: false } }),
    'mask.softness',
    /missing/,
  ],
  ['a size by what nobody knows', step('size', { by: { kind: 'guess' } }), 'by.kind', /"guess".*line/],
])('%s', (_name, wrong, field, said) => {
  // as it comes over the wire
  const command = JSON.parse(JSON.stringify({ kind: 'setSteps', steps: [wrong] })) as PrepCommand;
  const fault = faultOf(PREP_COMMANDS.setSteps, command);
  expect(fault?.field).toBe(`steps.0.${field}`);
  expect(fault!.detail).toMatch(said);
  expect(fault!.detail).toContain(field.split('.').at(-1)!);
});

test('what of a prep may be null is told from what is wrong', () => {
  const curve = {
    of: 'lightness',
    points: [
      [0, 0],
      [1, 2],
    ],
    joints: 0,
  };
  const { derived } = Prep.properties;
  const none = { height: null, normal: null, roughness: null, occlusion: null, opacity: null };
  expect(faultOf(derived, none)).toBeNull();
  expect(faultOf(derived, { ...none, roughness: curve })).toMatchObject({ field: 'roughness.points.1.1' });
  expect(() => checkLeaves({ columns: 2, rows: 1, insetMm: 0, columnLines: [0.2, 0.4] })).toThrow('has 2 lines');
});
