import { layoutSchema } from '../layout/schema';
import { LAYOUTS } from '../layout/registry';
import { plainVariation } from '../variation/schema';
import { wearKindOf } from '../wear/registry';
import type { WearSpec } from '../wear/schema';
import { changedPortions, layPortions, PORTIONS } from '../specification/portions';
import { lineText, specLine } from '../specification/line';
import { defaultSpec, type Spec } from '../specification/schema';
import { laidSpec, oak } from '../testing/surfaces';
import { type Command, type CommandOf, COMMANDS, type CommandKind } from './commands';
import { describeCommand } from './describe';
import { model, part, surface } from '../testing/project';
import { emptyProject, type Project, type Still } from './schema';

const weir = model();
const bricks = laidSpec({
  layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
  joint: 10,
});
const project: Project = {
  ...emptyProject('x', 'X'),
  models: { model: weir },
  parts: { part: part() },
  surfaces: {
    Hall: surface('Hall', { spec: bricks }),
    Stair: surface('Stair'),
    north: surface('north', { name: 'North' }),
    south: surface('south', { name: 'South' }),
    round: surface('round', { name: 'Round the hall', faces: [], run: { members: ['north'] } }),
  },
  materials: { oak: oak(), lime: oak({ id: 'lime', name: 'Lime' }) },
  views: { v: { id: 'v', name: 'Door', eye: [0, 0, 0], target: [1, 0, 0] } },
  selections: { w: { id: 'w', name: 'Walls', surfaces: ['Hall'] } },
  levels: { l: { id: 'l', name: 'Sill', heightMm: 900 } },
  options: { o1: { id: 'o1', name: 'Darker', specs: {} } },
  values: { v1: { id: 'v1', name: 'gap', sum: '10', unit: 'mm', sign: '.' } },
};
const gap = project.values!.v1;
const courses: Spec['gauge'] = {
  up: {
    from: { kind: 'edge' },
    to: { kind: 'edge' },
    meets: ['face', 'face'],
    count: 13,
    jointFromMm: 8,
    jointToMm: 12,
    sizePercent: 1,
  },
};
const zone = surface('Niche', {
  zone: { of: 'Hall', rank: 0, shape: { kind: 'inset', byMm: 5 } },
});

const pushed = (byMm: number): CommandOf<'pushFaces'> => ({
  kind: 'pushFaces',
  part: 'part',
  push: { name: 'Hall, south', byMm, along: [0, 0, 1] },
  mesh: '0'.repeat(64),
  min: [0, 0, 0],
  max: [1, 1, 1],
  measured: {},
});

const image = 'ab'.repeat(32);
const size = { widthPx: 16, heightPx: 16, image, revision: 0 };
const still: Still = { id: 't', name: 'Noon', eye: [0, 0, 0], target: [1, 0, 0], ...size };
const reference = { id: 'r', name: 'Shore', image, left: 0, top: 0, width: 0.3 };

/** A line for each kind of command: none may be without words. */
const LINES: { [K in CommandKind]: [Extract<Command, { kind: K }>, string][] } = {
  setProject: [
    [{ kind: 'setProject', name: 'Quay' }, 'Rename the project “Quay”'],
    [{ kind: 'setProject', unit: 'cm' }, 'Show lengths in cm'],
    [{ kind: 'setProject', northDeg: 30 }, 'Turn north to 30°'],
    [{ kind: 'setProject', light: { bearingDeg: 1, altitudeDeg: 2, strength: 3 } }, 'Move the sun'],
    [{ kind: 'setProject', light: { ...project.light, outside: 'water' } }, 'Change the light'],
  ],
  addModel: [[{ kind: 'addModel', model: weir, parts: [], surfaces: [], materials: [] }, 'Bring in Weir house']],
  removeModel: [
    [{ kind: 'removeModel', model: 'model' }, 'Take out Weir house'],
    [{ kind: 'removeModel', model: 'gone' }, 'Take out a model'],
  ],
  updateModel: [[{ kind: 'updateModel', model: weir, materials: [], specs: {} }, 'Bring pictures for Weir house']],
  pushFaces: [
    [pushed(40), 'Push Hall, south out by 40 mm'],
    [pushed(-12.5), 'Push Hall, south in by 12.5 mm'],
  ],
  addRun: [
    [
      { kind: 'addRun', run: surface('walls', { name: 'Walls', faces: [], run: { members: ['one', 'two'] } }) },
      'Set 2 surfaces out as the run “Walls”',
    ],
  ],
  setRun: [
    [{ kind: 'setRun', id: 'round', members: ['north', 'south'] }, 'Take South to Round the hall'],
    [{ kind: 'setRun', id: 'round', members: ['south'] }, 'Take South to Round the hall, North out of Round the hall'],
    [{ kind: 'setRun', id: 'round', members: ['north'] }, 'Set the members of Round the hall in order'],
  ],
  removeRun: [[{ kind: 'removeRun', id: 'round' }, 'Part the run Round the hall']],
  setOption: [
    [{ kind: 'setOption', option: { id: 'new', name: 'Lighter', specs: {} } }, 'Set aside the option “Lighter”'],
    [{ kind: 'setOption', option: { id: 'o1', name: 'Darker', specs: {} } }, 'Change the option “Darker”'],
  ],
  removeOption: [[{ kind: 'removeOption', id: 'o1' }, 'Remove the option “Darker”']],
  keepOption: [[{ kind: 'keepOption', id: 'o1' }, 'Keep the option “Darker”']],
  setValue: [
    [{ kind: 'setValue', value: { ...gap, id: 'new', name: 'module' } }, 'Set module = 10'],
    [{ kind: 'setValue', value: { ...gap, sum: '8' } }, 'Set gap = 8, before 10'],
    [{ kind: 'setValue', value: { ...gap, name: 'seam' } }, 'Rename value “gap” “seam”'],
  ],
  removeValues: [[{ kind: 'removeValues', ids: ['v1'] }, 'Clear gap']],
  reviseModel: [
    [{ kind: 'reviseModel', model: weir, parts: [], surfaces: [], materials: [] }, 'Bring Weir house in again'],
  ],
  setParts: [
    [{ kind: 'setParts', ids: ['part'], name: 'Gable' }, 'Rename a part “Gable”'],
    [{ kind: 'setParts', ids: ['part'], locked: true }, 'Lock 1 part'],
    [{ kind: 'setParts', ids: ['part', 'q'], locked: false }, 'Unlock 2 parts'],
  ],
  setSurfaces: [
    [{ kind: 'setSurfaces', ids: ['Hall'], name: 'Foyer' }, 'Rename a surface “Foyer”'],
    [{ kind: 'setSurfaces', ids: ['Hall'], hidden: true }, 'Hide Hall'],
    [{ kind: 'setSurfaces', ids: ['Hall', 'Stair'], hidden: false }, 'Show 2 surfaces'],
    [{ kind: 'setSurfaces', ids: ['Hall'], leftBare: true }, 'Leave bare: Hall'],
    [{ kind: 'setSurfaces', ids: ['nowhere'], leftBare: false }, 'No longer leave bare: a surface'],
  ],
  mergeSurfaces: [
    [{ kind: 'mergeSurfaces', ids: ['Hall', 'Stair'], into: surface('Both') }, 'Merge 2 surfaces into “Both”'],
  ],
  splitSurface: [[{ kind: 'splitSurface', id: 'Hall', into: [surface('a'), surface('b')] }, 'Split Hall into 2']],
  carveSurface: [
    [{ kind: 'carveSurface', into: surface('Panel'), from: {} }, 'Make a surface “Panel” of picked faces'],
  ],
  flipFaces: [
    [{ kind: 'flipFaces', part: 'part', faces: [1] }, 'Flip faces of North wall'],
    [{ kind: 'flipFaces', part: 'q', faces: [1] }, 'Flip faces of a part'],
  ],
  setSpecs: [
    [{ kind: 'setSpecs', specs: { Hall: null } }, 'Strip Hall'],
    [{ kind: 'setSpecs', specs: { Stair: defaultSpec('lime') } }, 'Lay Lime on Stair'],
    [{ kind: 'setSpecs', specs: { Hall: { ...bricks, material: 'lime' } } }, 'Lay Lime on Hall'],
    [{ kind: 'setSpecs', specs: { Stair: defaultSpec('gone') } }, 'Lay material on Stair'],
    [
      { kind: 'setSpecs', specs: { Stair: defaultSpec('new') }, materials: [oak({ id: 'new', name: 'Slate' })] },
      'Lay Slate on Stair',
    ],
    [{ kind: 'setSpecs', specs: { Hall: bricks } }, 'Set Hall'],
  ],
  addZone: [[{ kind: 'addZone', zone }, 'Draw zone “Niche”']],
  setZone: [[{ kind: 'setZone', id: 'Hall', shape: { kind: 'inset', byMm: 9 }, areaMm2: 1 }, 'Change Hall']],
  removeZone: [[{ kind: 'removeZone', id: 'Hall' }, 'Remove Hall']],
  saveSelection: [
    [{ kind: 'saveSelection', selection: { id: 's', name: 'Floors', surfaces: [] } }, 'Keep selection “Floors”'],
  ],
  removeSelection: [
    [{ kind: 'removeSelection', id: 'w' }, 'Remove selection “Walls”'],
    [{ kind: 'removeSelection', id: 'gone' }, 'Remove selection “”'],
  ],
  isolate: [
    [{ kind: 'isolate', ids: ['Hall'] }, 'Show Hall alone'],
    [{ kind: 'isolate', ids: null }, 'Show all again'],
  ],
  setLevel: [
    [{ kind: 'setLevel', level: { id: 'l', name: 'Sill', heightMm: 950 } }, 'Move level “Sill”'],
    [{ kind: 'setLevel', level: { id: 'k', name: 'Lintel', heightMm: 2100 } }, 'Set level “Lintel”'],
  ],
  removeLevel: [
    [{ kind: 'removeLevel', id: 'l' }, 'Remove level “Sill”'],
    [{ kind: 'removeLevel', id: 'gone' }, 'Remove level “”'],
  ],
  useMaterial: [[{ kind: 'useMaterial', material: oak() }, 'Take Oak from the library']],
  replaceMaterial: [
    [{ kind: 'replaceMaterial', from: 'oak', to: oak({ name: 'Larch' }) }, 'Replace Oak by Larch'],
    [{ kind: 'replaceMaterial', from: 'gone', to: oak({ name: 'Larch' }) }, 'Replace a material by Larch'],
  ],
  dropMaterials: [
    [{ kind: 'dropMaterials', ids: ['oak'] }, 'Clear 1 unused material'],
    [{ kind: 'dropMaterials', ids: ['oak', 'lime'] }, 'Clear 2 unused materials'],
  ],
  saveView: [[{ kind: 'saveView', view: project.views.v }, 'Keep view “Door”']],
  removeView: [
    [{ kind: 'removeView', id: 'v' }, 'Remove view “Door”'],
    [{ kind: 'removeView', id: 'gone' }, 'Remove view “”'],
  ],
  saveStill: [[{ kind: 'saveStill', still }, 'Keep still “Noon”']],
  removeStill: [[{ kind: 'removeStill', id: 'gone' }, 'Remove still “”']],
  saveReference: [[{ kind: 'saveReference', reference }, 'Pin “Shore” beside the view']],
  removeReference: [[{ kind: 'removeReference', id: 'gone' }, 'Take “” from beside the view']],
};

const DIRTY: WearSpec = { layers: [wearKindOf({ kind: 'dirt' }).first], marks: [] };

describe('the history’s words', () => {
  test('there are some for every kind of command', () => {
    expect(Object.keys(LINES).sort()).toEqual(Object.keys(COMMANDS).sort());
    for (const lines of Object.values(LINES)) expect(lines.length).toBeGreaterThan(0);
  });

  test.each(Object.values(LINES).flat() as [Command, string][])('%j', (command, line) => {
    expect(describeCommand(project, command)).toBe(line);
  });

  /** A spec that differs in one portion alone. */
  const OTHERS: { [K in (typeof PORTIONS)[number]['key']]: Partial<Spec> } = {
    material: { material: 'lime' },
    pieces: { pieces: { ...bricks.pieces!, joint: { ...bricks.pieces!.joint, acrossMm: 12 } } },
    repeat: { repeat: { own: { widthMm: 1, heightMm: 2 }, locked: true } },
    mapping: { mapping: { kind: 'flat', direction: 'up' } },
    start: { start: { datum: 'centre', xMm: 0, yMm: 0 } },
    direction: { direction: { turnDeg: 90, mirrorX: false, mirrorY: false } },
    variation: { variation: { ...plainVariation(), shuffle: 7 } },
    gauge: { gauge: courses },
    finish: { finish: { kind: 'gloss' } },
    wear: { wear: DIRTY },
  };
  test.each(PORTIONS.filter((p) => p.key !== 'material'))('a change of $label is called that', ({ key, label }) => {
    const after = { ...bricks, ...OTHERS[key] };
    const line = describeCommand(project, { kind: 'setSpecs', specs: { Hall: after } });
    expect(line.split(': ')[0]).toBe(`Set ${label} of Hall`);
    expect(changedPortions(bricks, after).map((p) => p.key)).toEqual([key]);
  });

  test.each<[Partial<Spec>, string]>([
    [OTHERS.direction, 'Set direction of Hall: turned 0° → 90°'],
    [OTHERS.finish, 'Set finish of Hall: matt → gloss'],
    [OTHERS.repeat, 'Set repeat of Hall: picture 2280 × 1140 mm as the material → 1 × 2 mm'],
  ])('%j says its values', (other, line) => {
    expect(describeCommand(project, { kind: 'setSpecs', specs: { Hall: { ...bricks, ...other } } })).toBe(line);
  });

  test('several at once are all named', () => {
    const after = { ...bricks, ...OTHERS.pieces, ...OTHERS.finish };
    const specs = { Hall: after, Stair: after };
    expect(describeCommand(project, { kind: 'setSpecs', specs })).toBe('Set pieces, finish of 2 surfaces');
  });
});

describe('portions', () => {
  test('are every property of a spec, and each says something in the spec line', () => {
    const all = { ...bricks, gauge: courses, variation: plainVariation(), wear: DIRTY };
    expect(PORTIONS.map((p) => p.key).sort()).toEqual(Object.keys(all).sort());
    const parts = specLine('Hall', all, oak(), 'mm');
    expect(parts.filter((p) => p.portion).map((p) => p.portion)).toEqual(PORTIONS.map((p) => p.key));
    expect(lineText(parts)).toMatch(
      /^Hall is laid in Oak, .*, mapped .*, starting .*, shuffle 1, matt, worn by dirt .* in patches of 1400 mm\.$/,
    );
  });

  test('laid as a whole, pieces and their variation have no say', () => {
    const said = specLine('Hall', defaultSpec('oak'), oak(), 'mm').map((p) => p.portion);
    expect(said).not.toContain('pieces');
    expect(said).not.toContain('variation');
    expect(lineText(specLine('Hall', null, null, 'mm'))).toBe('Hall has nothing laid on it yet.');
  });

  test('lifted and laid, each alone: what the lifted spec lacks is taken away', () => {
    const onto = { ...bricks, variation: plainVariation() };
    for (const { key } of PORTIONS) {
      const laid = layPortions(onto, defaultSpec('lime'), [key]);
      expect(laid[key]).toEqual(defaultSpec('lime')[key]);
      expect(key in laid).toBe(key in defaultSpec('lime'));
      for (const other of PORTIONS) if (other.key !== key) expect(laid[other.key]).toBe(onto[other.key]);
    }
    expect(layPortions(null, bricks, ['pieces'])).toEqual({ ...defaultSpec('oak'), pieces: bricks.pieces });
    // what it was laid on stays as it was
    expect('pieces' in onto).toBe(true);
  });
});

test('a layout’s schema tells its kinds apart', () => {
  const text = JSON.stringify(layoutSchema(LAYOUTS));
  for (const { kind } of LAYOUTS) expect(text).toContain(`"${kind}"`);
});
