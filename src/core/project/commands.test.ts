import fc from 'fast-check';
import { defaultFinish, type Material } from '../material/schema';
import { layPortions } from '../specification/portions';
import { defaultSpec } from '../specification/schema';
import { listFaces, packFaces } from '../mesh/types';
import { applyCommand, applyCommands, type Command, type CommandKind, type CommandOf } from './commands';
import { describeCommand } from './describe';
import { applyPatch, findDifference } from '../history/patch';
import { emptyProject, type Project, type Still, type Surface } from './schema';

const makeMaterial = (name: string): Material => ({
  id: name,
  version: 1,
  name,
  kind: 'test',
  tags: [],
  widthMm: 600,
  heightMm: 300,
  maps: {},
  colour: '#808080',
  grain: 'x',
  seamless: true,
  twoSided: false,
  sampling: 'soft',
  finish: defaultFinish(),
  source: '',
  licence: '',
  credit: '',
  repetition: null,
  builtIn: false,
});

const surface = (id: string, faces: number[]): Surface => ({
  id,
  part: 'p',
  name: id,
  faces,
  slot: 0,
  areaMm2: 1e6,
  normal: [0, 1, 0],
  hidden: false,
  leftBare: false,
  spec: null,
});

const base = (): Project => {
  const project = emptyProject('x', 'X');
  return applyCommand(project, {
    kind: 'addModel',
    model: {
      id: 'm',
      name: 'M',
      file: 'm.glb',
      mesh: 'a'.repeat(64),
      unitMm: 1000,
      upAxis: 'y',
      triangles: 12,
      slots: [{ name: 's', colour: '#808080' }],
      remarks: [],
      missingPictures: [],
      missingBySlot: [],
    },
    parts: [
      {
        id: 'p',
        model: 'm',
        name: 'P',
        path: [],
        mesh: 0,
        origin: [0, 0, 0],
        min: [0, 0, 0],
        max: [1, 1, 1],
        locked: false,
      },
    ],
    surfaces: [surface('s1', [0, 4]), surface('s2', [4, 4]), surface('s3', [8, 4])],
    materials: [makeMaterial('oak'), makeMaterial('lime')],
  }).project;
};

const commandArb: fc.Arbitrary<Command> = fc.oneof(
  fc.record({ kind: fc.constant('setProject' as const), name: fc.string({ minLength: 1, maxLength: 8 }) }),
  fc.record({ kind: fc.constant('setSurfaces' as const), ids: fc.constant<string[]>(['s1']), hidden: fc.boolean() }),
  fc.record({ kind: fc.constant('setParts' as const), ids: fc.constant<string[]>(['p']), locked: fc.boolean() }),
  fc.constantFrom('oak', 'lime').map((id): Command => ({ kind: 'setSpecs', specs: { s1: defaultSpec(id), s2: null } })),
  fc.double({ min: -500, max: 500, noNaN: true }).map((x): Command => ({
    kind: 'setSpecs',
    specs: { s1: { ...defaultSpec('oak'), start: { datum: 'world', xMm: x, yMm: 0 } } },
  })),
  fc.constant<Command>({ kind: 'replaceMaterial', from: 'oak', to: makeMaterial('lime') }),
  fc
    .integer({ min: -500, max: 500 })
    .map((heightMm): Command => ({ kind: 'setLevel', level: { id: 'l', name: 'L', heightMm } })),
  fc.constantFrom<string[] | null>(null, ['s1'], ['s2', 's3']).map((ids): Command => ({ kind: 'isolate', ids })),
  fc.constant<Command>({ kind: 'saveSelection', selection: { id: 'w', name: 'Walls', surfaces: ['s1', 's2'] } }),
  fc.constantFrom<number[]>([0, 2], [1, 3], [5, 1]).map((faces): Command => ({ kind: 'flipFaces', part: 'p', faces })),
  fc.integer({ min: 1, max: 900 }).map((widthMm): Command => ({
    kind: 'addZone',
    zone: {
      ...surface(`z${widthMm}`, []),
      zone: { of: 's1', rank: 0, shape: { kind: 'rectangle', xMm: 0, yMm: 0, widthMm, heightMm: 5 } },
    },
  })),
  fc.constant<Command>({ kind: 'saveView', view: { id: 'v', name: 'V', eye: [0, 0, 0], target: [1, 0, 0] } }),
);

test('every command’s inverse leads back exactly, over any number of them', () => {
  fc.assert(
    fc.property(fc.array(commandArb, { minLength: 1, maxLength: 12 }), (commands) => {
      const start = base();
      const { project, inverse } = applyCommands(start, commands);
      expect(applyPatch(project, inverse)).toEqual(start);
      // and through JSON, as it is stored
      expect(applyPatch(project, JSON.parse(JSON.stringify(inverse)))).toEqual(start);
    }),
  );
});

test('commands never touch the project they are applied to', () => {
  const start = base();
  const frozen = JSON.stringify(start);
  applyCommands(start, [
    { kind: 'mergeSurfaces', ids: ['s1', 's2'], into: surface('s12', [0, 8]) },
    { kind: 'splitSurface', id: 's12', into: [surface('a', [0, 2]), surface('b', [2, 6])] },
    { kind: 'removeModel', model: 'm' },
  ]);
  expect(JSON.stringify(start)).toBe(frozen);
});

test('what does not fit is refused by the field', () => {
  const p = base();
  const refuse = (c: Command) => () => applyCommand(p, c);
  expect(refuse({ kind: 'setSpecs', specs: { nowhere: null } })).toThrow(/surface “nowhere”/);
  expect(refuse({ kind: 'setSpecs', specs: { s1: defaultSpec('gold') } })).toThrow(/material “gold”/);
  expect(refuse({ kind: 'mergeSurfaces', ids: ['s1', 's2'], into: surface('x', [0, 5]) })).toThrow(/exactly the faces/);
  expect(refuse({ kind: 'mergeSurfaces', ids: ['s1', 's2'], into: { ...surface('x', [0, 8]), part: 'q' } })).toThrow(
    /one part/,
  );
  expect(refuse({ kind: 'splitSurface', id: 's1', into: [surface('a', [0, 2]), surface('b', [2, 5])] })).toThrow(
    /exactly the faces/,
  );
  const laid = applyCommand(p, { kind: 'setSpecs', specs: { s1: defaultSpec('oak') } }).project;
  expect(() => applyCommand(laid, { kind: 'dropMaterials', ids: ['oak'] })).toThrow(/still laid/);
});

const zone = (id: string, of: string): Surface => ({
  ...surface(id, []),
  zone: { of, rank: 0, shape: { kind: 'inset', byMm: 100 } },
});

test('a surface made of picked faces takes them from the others, and nothing is lost or doubled', () => {
  const p = applyCommand(base(), { kind: 'addZone', zone: zone('z', 's2') }).project;
  const measured = { areaMm2: 1, normal: [0, 1, 0] as [number, number, number] };
  const carved = applyCommand(p, {
    kind: 'carveSurface',
    into: surface('made', [2, 6]),
    from: { s1: { faces: [0, 2], ...measured }, s2: null },
  }).project;
  expect(carved.surfaces.s1.faces).toEqual([0, 2]);
  expect(carved.surfaces.s2).toBeUndefined();
  // the zone of a surface that is used up goes over to the new one
  expect(carved.surfaces.z.zone!.of).toBe('made');
  const refuse = (c: Command) => () => applyCommand(p, c);
  expect(refuse({ kind: 'carveSurface', into: surface('made', [2, 6]), from: { s1: null, s2: null } })).toThrow(
    /exactly the faces/,
  );
  expect(refuse({ kind: 'carveSurface', into: surface('made', [8, 4]), from: { s1: null } })).toThrow(
    /exactly the faces/,
  );
  expect(refuse({ kind: 'carveSurface', into: surface('made', [0, 4]), from: { z: null } })).toThrow(/is a zone/);
});

test('zones are drawn on surfaces, not on zones, and follow what takes their surface’s place', () => {
  const p = applyCommand(base(), { kind: 'addZone', zone: zone('z', 's1') }).project;
  expect(() => applyCommand(p, { kind: 'addZone', zone: zone('y', 'z') })).toThrow(/is a zone itself/);
  expect(() => applyCommand(p, { kind: 'removeZone', id: 's1' })).toThrow(/no zone/);
  const merged = applyCommand(p, { kind: 'mergeSurfaces', ids: ['s1', 's2'], into: surface('both', [0, 8]) }).project;
  expect(merged.surfaces.z.zone!.of).toBe('both');
  const split = applyCommand(merged, {
    kind: 'splitSurface',
    id: 'both',
    into: [surface('a', [0, 6]), surface('b', [6, 2])],
  }).project;
  expect(split.surfaces.z.zone!.of).toBe('a');
});

test('moving a level moves everything that is set out from it', () => {
  const level = (heightMm: number): Command => ({ kind: 'setLevel', level: { id: 'l', name: 'Courses', heightMm } });
  const from = (heightMm: number) => ({
    ...defaultSpec('oak'),
    start: { datum: 'level' as const, level: { id: 'l', heightMm }, xMm: 0, yMm: 0 },
  });
  const p = applyCommands(base(), [level(100), { kind: 'setSpecs', specs: { s1: from(100), s2: from(5) } }]).project;
  // a height that is not the level's is set right
  expect(p.surfaces.s2.spec!.start.level!.heightMm).toBe(100);
  const moved = applyCommand(p, level(-600)).project;
  expect(['s1', 's2'].map((id) => moved.surfaces[id].spec!.start.level!.heightMm)).toEqual([-600, -600]);
  expect(() => applyCommand(moved, { kind: 'removeLevel', id: 'l' })).toThrow(/set out from this level/);
  expect(() => applyCommand(base(), { kind: 'setSpecs', specs: { s1: from(0) } })).toThrow(/level “l”/);
});

test('faces flipped twice are as they were', () => {
  const once = applyCommand(base(), { kind: 'flipFaces', part: 'p', faces: [2, 3] }).project;
  expect(once.parts.p.flipped).toEqual([2, 3]);
  expect(applyCommand(once, { kind: 'flipFaces', part: 'p', faces: [3, 1] }).project.parts.p.flipped).toEqual([
    2, 1, 4, 1,
  ]);
  expect(applyCommand(once, { kind: 'flipFaces', part: 'p', faces: [2, 3] }).project.parts.p.flipped).toEqual([]);
});

test('replacing a material keeps size, start and direction', () => {
  const spec = { ...defaultSpec('oak'), direction: { turnDeg: 45, mirrorX: true, mirrorY: false } };
  const laid = applyCommand(base(), { kind: 'setSpecs', specs: { s1: spec, s2: defaultSpec('oak') } }).project;
  const after = applyCommand(laid, { kind: 'replaceMaterial', from: 'oak', to: makeMaterial('lime') }).project;
  expect(after.surfaces.s1.spec).toEqual({ ...spec, material: 'lime' });
  expect(after.surfaces.s2.spec!.material).toBe('lime');
});

test('history lines name what was done', () => {
  const p = base();
  expect(describeCommand(p, { kind: 'setSpecs', specs: { s1: defaultSpec('oak') } })).toBe('Lay oak on s1');
  const laid = applyCommand(p, { kind: 'setSpecs', specs: { s1: defaultSpec('oak') } }).project;
  const turned = { ...defaultSpec('oak'), direction: { turnDeg: 45, mirrorX: false, mirrorY: false } };
  expect(describeCommand(laid, { kind: 'setSpecs', specs: { s1: turned } })).toBe(
    'Set direction of s1: turned 0° → 45°',
  );
});

test('differences are found in any JSON and lead there', () => {
  fc.assert(
    fc.property(fc.dictionary(fc.string(), fc.jsonValue()), fc.dictionary(fc.string(), fc.jsonValue()), (a, b) => {
      fc.pre(!('__proto__' in a) && !('__proto__' in b) && !JSON.stringify([a, b]).includes('__proto__'));
      const [from, to] = [JSON.parse(JSON.stringify(a)), JSON.parse(JSON.stringify(b))];
      expect(applyPatch(from, findDifference(from, to))).toEqual(to);
    }),
  );
});

test('only the chosen portions of a spec are laid', () => {
  const from = { ...defaultSpec('oak'), direction: { turnDeg: 90, mirrorX: false, mirrorY: false } };
  const onto = { ...defaultSpec('lime'), start: { datum: 'centre' as const, xMm: 5, yMm: 6 } };
  expect(layPortions(onto, from, ['direction'])).toEqual({ ...onto, direction: from.direction });
  expect(layPortions(null, from, ['direction']).material).toBe('oak');
});

describe('faces of a part', () => {
  const facesOf = (p: Project) =>
    Object.values(p.surfaces)
      .filter((s) => !s.zone)
      .flatMap((s) => [...listFaces(s.faces)])
      .sort((a, b) => a - b);
  const every = Array.from({ length: 12 }, (_, i) => i);

  /** Merges, splits and carves by the numbers drawn, as the screens would. */
  function step(project: Project, [what, a, b]: [number, number, number], n: number): Command | null {
    const own = Object.values(project.surfaces).filter((s) => !s.zone);
    const first = own[a % own.length];
    const second = own[b % own.length];
    const faces = [...listFaces(first.faces)];
    if (what === 0 && first !== second) {
      const all = packFaces([...faces, ...listFaces(second.faces)]);
      return { kind: 'mergeSurfaces', ids: [first.id, second.id], into: surface(`m${n}`, all) };
    }
    if (what === 1 && faces.length > 1) {
      const at = 1 + (b % (faces.length - 1));
      const parts = [faces.slice(0, at), faces.slice(at)];
      return { kind: 'splitSurface', id: first.id, into: parts.map((f, i) => surface(`s${n}-${i}`, packFaces(f))) };
    }
    if (what === 2) {
      const taken = faces.filter((_, i) => (i + b) % 2 === 0);
      if (!taken.length) return null;
      const left = packFaces(faces.filter((f) => !taken.includes(f)));
      const rest = left.length ? { faces: left, areaMm2: 1, normal: first.normal } : null;
      return { kind: 'carveSurface', into: surface(`c${n}`, packFaces(taken)), from: { [first.id]: rest } };
    }
    return null;
  }

  test('stay a partition, whatever is merged, split and carved, and on the way back', () => {
    const numbers = fc.tuple(fc.integer({ min: 0, max: 2 }), fc.nat(20), fc.nat(20));
    fc.assert(
      fc.property(fc.array(numbers, { minLength: 1, maxLength: 14 }), (drawn) => {
        let project = base();
        const back: ReturnType<typeof applyCommand>['inverse'][] = [];
        drawn.forEach((d, n) => {
          const command = step(project, d, n);
          if (!command) return;
          const made = applyCommand(project, command);
          back.unshift(made.inverse);
          project = made.project;
          expect(facesOf(project)).toEqual(every);
        });
        for (const inverse of back) {
          project = applyPatch(project, inverse);
          expect(facesOf(project)).toEqual(every);
        }
        expect(project).toEqual(base());
      }),
    );
  });

  test('as many faces as before are not enough: they must be the very same', () => {
    const p = base();
    const refuse = (c: Command) => () => applyCommand(p, c);
    const exactly = /exactly the faces/;
    // one of another surface in place of its own, and one twice
    expect(refuse({ kind: 'splitSurface', id: 's1', into: [surface('a', [0, 2]), surface('b', [3, 2])] })).toThrow(
      exactly,
    );
    expect(refuse({ kind: 'splitSurface', id: 's1', into: [surface('a', [0, 2]), surface('b', [1, 2])] })).toThrow(
      exactly,
    );
    expect(refuse({ kind: 'mergeSurfaces', ids: ['s1', 's2'], into: surface('x', [1, 8]) })).toThrow(exactly);
    const elsewhere = { ...surface('b', [2, 2]), part: 'q' };
    expect(refuse({ kind: 'splitSurface', id: 's1', into: [surface('a', [0, 2]), elsewhere] })).toThrow(/of the part/);
    const taken = { faces: [1, 3], areaMm2: 1, normal: [0, 1, 0] as [number, number, number] };
    expect(refuse({ kind: 'carveSurface', into: surface('c', [4, 1]), from: { s1: taken } })).toThrow(exactly);
  });

  test('zones have none of their own: they are neither split nor merged', () => {
    const shape = { kind: 'rectangle', xMm: 0, yMm: 0, widthMm: 5, heightMm: 5 } as const;
    const zone = { ...surface('z', []), zone: { of: 's1', rank: 0, shape } };
    const p = applyCommand(base(), { kind: 'addZone', zone }).project;
    const split: Command = { kind: 'splitSurface', id: 'z', into: [surface('a', []), surface('b', [])] };
    expect(() => applyCommand(p, split)).toThrow(/exactly the faces/);
    expect(() => applyCommand(p, { kind: 'mergeSurfaces', ids: ['s2', 'z'], into: surface('x', [4, 4]) })).toThrow(
      /is a zone/,
    );
    // and go over to what takes their surface's place
    const merged = applyCommand(p, { kind: 'mergeSurfaces', ids: ['s1', 's2'], into: surface('x', [0, 8]) }).project;
    expect(merged.surfaces.z.zone!.of).toBe('x');
  });
});

/** The south side of a part pushed by 40 mm. */
const pushed: CommandOf<'pushFaces'> = {
  kind: 'pushFaces',
  part: 'p1',
  push: { name: 'Hall, south', byMm: 40, along: [0, 0, 1] },
  mesh: '1'.repeat(64),
  min: [0, 0, 0],
  max: [1, 1, 41],
  measured: { s1: { areaMm2: 41, normal: [0, 1, 0] } },
};

describe('a pushed side', () => {
  test('changes mesh, box and areas in one step, is listed, and is taken back whole', () => {
    const project = base();
    const [part] = Object.keys(project.parts);
    const own = Object.values(project.surfaces).find((s) => s.part === part)!;
    const command = { ...pushed, part, measured: { [own.id]: pushed.measured.s1 } };
    const after = applyCommand(project, command).project;
    expect(after.parts[part].pushes).toEqual([command.push]);
    expect(after.parts[part].max).toEqual([1, 1, 41]);
    expect(after.models[after.parts[part].model].mesh).toBe(command.mesh);
    expect(after.surfaces[own.id]).toEqual({ ...own, ...pushed.measured.s1 });
    const twice = applyCommand(after, command).project;
    expect(twice.parts[part].pushes).toHaveLength(2);
  });

  test('measures surfaces of its own part alone', () => {
    const project = base();
    expect(() => applyCommand(project, { ...pushed, part: 'nowhere' })).toThrow(/nowhere/);
  });
});

describe('words of the history', () => {
  const shape = { kind: 'circle', xMm: 0, yMm: 0, radiusMm: 9 } as const;
  const image = 'ab'.repeat(32);
  const size = { widthPx: 16, heightPx: 16, image, revision: 0 };
  const still: Still = { id: 't', name: 'Noon', eye: [0, 0, 0], target: [1, 0, 0], ...size };
  const reference = { id: 'r', name: 'Shore', image, left: 0, top: 0, width: 0.3 };
  const project = applyCommands(base(), [
    { kind: 'saveStill', still },
    { kind: 'saveReference', reference },
    { kind: 'addZone', zone: { ...surface('z', []), zone: { of: 's1', rank: 0, shape } } },
    { kind: 'setLevel', level: { id: 'l', name: 'Sill', heightMm: 900 } },
    { kind: 'saveView', view: { id: 'v', name: 'Hall', eye: [0, 0, 0], target: [1, 0, 0] } },
    { kind: 'saveSelection', selection: { id: 'w', name: 'Walls', surfaces: ['s1'] } },
    { kind: 'setOption', option: { id: 'o', name: 'Darker', specs: {} } },
  ]).project;
  const model = project.models.m;
  const said: { [K in CommandKind]: [CommandOf<K>, RegExp] } = {
    setProject: [{ kind: 'setProject', name: 'New' }, /New/],
    addModel: [{ kind: 'addModel', model, parts: [], surfaces: [], materials: [] }, /M/],
    removeModel: [{ kind: 'removeModel', model: 'm' }, /M/],
    updateModel: [{ kind: 'updateModel', model, materials: [], specs: {} }, /./],
    pushFaces: [pushed, /Push Hall, south out by 40 mm/],
    setParts: [{ kind: 'setParts', ids: ['p'], locked: true }, /1 part/],
    setSurfaces: [{ kind: 'setSurfaces', ids: ['s1'], hidden: true }, /s1/],
    mergeSurfaces: [{ kind: 'mergeSurfaces', ids: ['s1', 's2'], into: surface('x', [0, 8]) }, /2/],
    splitSurface: [{ kind: 'splitSurface', id: 's1', into: [surface('a', [0, 2]), surface('b', [2, 2])] }, /s1/],
    carveSurface: [{ kind: 'carveSurface', into: surface('c', [0, 1]), from: {} }, /c/],
    flipFaces: [{ kind: 'flipFaces', part: 'p', faces: [0, 1] }, /P/],
    addRun: [{ kind: 'addRun', run: { ...surface('q', []), run: { members: ['s2', 's3'] } } }, /2 surfaces.*“q”/],
    setRun: [{ kind: 'setRun', id: 's2', members: ['s1'] }, /s1 to s2/],
    removeRun: [{ kind: 'removeRun', id: 's1' }, /s1/],
    addZone: [{ kind: 'addZone', zone: { ...surface('y', []), zone: { of: 's1', rank: 1, shape } } }, /y/],
    setZone: [{ kind: 'setZone', id: 'z', shape, areaMm2: 1 }, /z/],
    removeZone: [{ kind: 'removeZone', id: 'z' }, /z/],
    saveSelection: [{ kind: 'saveSelection', selection: { id: 'u', name: 'Floors', surfaces: [] } }, /Floors/],
    removeSelection: [{ kind: 'removeSelection', id: 'w' }, /Walls/],
    isolate: [{ kind: 'isolate', ids: ['s1'] }, /s1/],
    setLevel: [{ kind: 'setLevel', level: { id: 'l', name: 'Sill', heightMm: 1 } }, /Sill/],
    removeLevel: [{ kind: 'removeLevel', id: 'l' }, /Sill/],
    reviseModel: [{ kind: 'reviseModel', model, parts: [], surfaces: [], materials: [] }, /M/],
    setSpecs: [{ kind: 'setSpecs', specs: { s1: defaultSpec('oak') } }, /s1|oak/i],
    setOption: [{ kind: 'setOption', option: { id: 'n', name: 'Lighter', specs: {} } }, /Lighter/],
    removeOption: [{ kind: 'removeOption', id: 'o' }, /Darker/],
    keepOption: [{ kind: 'keepOption', id: 'o' }, /Darker/],
    setValue: [{ kind: 'setValue', value: { id: 'q', name: 'joint', sum: '8', unit: 'mm', sign: '.' } }, /joint = 8/],
    removeValues: [{ kind: 'removeValues', ids: ['q'] }, /value/],
    useMaterial: [{ kind: 'useMaterial', material: makeMaterial('ash') }, /ash/],
    replaceMaterial: [{ kind: 'replaceMaterial', from: 'oak', to: makeMaterial('ash') }, /oak.*ash/],
    dropMaterials: [{ kind: 'dropMaterials', ids: ['oak'] }, /1/],
    saveView: [{ kind: 'saveView', view: { id: 'n', name: 'Stage', eye: [0, 0, 0], target: [1, 0, 0] } }, /Stage/],
    removeView: [{ kind: 'removeView', id: 'v' }, /Hall/],
    saveStill: [{ kind: 'saveStill', still }, /Noon/],
    removeStill: [{ kind: 'removeStill', id: 't' }, /Noon/],
    saveReference: [{ kind: 'saveReference', reference }, /Shore/],
    removeReference: [{ kind: 'removeReference', id: 'r' }, /Shore/],
  };

  test.each(Object.entries(said))('%s names what it is about', (_kind, [command, words]) => {
    const text = describeCommand(project, command as Command);
    expect(text).toMatch(words);
    expect(text).not.toMatch(/undefined|null|\[object/);
    expect(text).toMatch(/^[A-Z]/);
  });
});
