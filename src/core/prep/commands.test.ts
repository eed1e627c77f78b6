import Ajv from 'ajv';
import fc from 'fast-check';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { applyPatch, findDifference } from '../history/patch';
import { prepOf } from '../testing/prep';
import { CommandError } from '../history/commandError';
import { describePrepCommand, PREP_COMMANDS, prepCommands, runPrepCommands, STORED_PREP } from './commands';
import { noMaps, Prep, type PrepChange } from './schema';
import { type Step, STEPS } from './steps/registry';

const ajv = new Ajv({ strict: false });
const step = (kind: string, id: string, on = true) =>
  ({ id, on, mask: null, ...STEPS.find((s) => s.kind === kind)!.first }) as unknown as Step;
const prep = prepOf({ steps: [step('size', 'a'), step('even', 'b')] });
const normal = { ...noMaps, normal: { strength: 2 } };

const changes: [string, PrepChange, string][] = [
  ['a name', { name: 'Lime' }, 'Rename the prep “Lime”'],
  ['where it comes from', { source: 'The quay', credit: 'R. Moss' }, 'Set source, credit'],
  ['a map', { derived: normal }, 'Set normal map'],
  ['a step', { steps: [prep.steps[0], { ...prep.steps[1], on: false }] }, 'Switch Even out off'],
  ['a new step', { steps: [...prep.steps, step('colour', 'c')] }, 'Add Colour'],
  ['a step less', { steps: [prep.steps[1]] }, 'Take Size out'],
  ['their order', { steps: [...prep.steps].reverse() }, 'Order the steps anew'],
  ['another stack', { steps: [step('crop', 'd')] }, 'Put Crop in place of Size, Even out'],
];

test.each(changes)('%s: made by commands, undone by the patch, said in words', (_what, change, said) => {
  const commands = prepCommands(prep, change);
  for (const c of commands) expect(ajv.validate(PREP_COMMANDS[c.kind], c)).toBe(true);
  const after = runPrepCommands(prep, commands);
  expect(after).toEqual({ ...prep, ...change });
  expect(applyPatch(after, findDifference(after, prep))).toEqual(prep);
  expect(commands.map((c) => describePrepCommand(prep, c))).toEqual([said]);
});

test('whatever is changed together is changed, and led back', () => {
  const some = fc.subarray(changes.map(([, change]) => change));
  fc.assert(
    fc.property(some, (list) => {
      const change = Object.assign({}, ...list) as PrepChange;
      const after = runPrepCommands(prep, prepCommands(prep, change));
      expect(after).toEqual({ ...prep, ...change });
      expect(applyPatch(after, findDifference(after, prep))).toEqual(prep);
    }),
  );
});

test('only the step that differs is sent, so that the others stay as they are meanwhile', () => {
  const changed = { ...prep.steps[1], on: false };
  expect(prepCommands(prep, { steps: [prep.steps[0], changed] })).toEqual([{ kind: 'setStep', step: changed }]);
  expect(prepCommands(prep, { steps: prep.steps })).toEqual([]);
  expect(describePrepCommand(prep, { kind: 'setStep', step: { ...prep.steps[0], mask: null } })).toBe('Set Size');
  expect(describePrepCommand(prep, { kind: 'setMaps', derived: prep.derived })).toBe('Set maps');
});

test('points of a curve that go back are refused, and are named', () => {
  const points: [number, number][] = [
    [0, 1],
    [0.6, 0],
    [0.5, 1],
  ];
  const derived = { ...noMaps, roughness: { of: 'lightness' as const, points, joints: 0 } };
  expect(() => runPrepCommands(prep, [{ kind: 'setMaps', derived }])).toThrow('from left to right');
});

test('a step that is gone cannot be set, and nothing else of the change is done', () => {
  const gone = { kind: 'setStep' as const, step: step('colour', 'gone') };
  expect(() => runPrepCommands(prep, [{ kind: 'setPrep', values: { name: 'Lime' } }, gone])).toThrow(CommandError);
  expect(() => runPrepCommands(prep, [gone])).toThrow('the step “Colour” is no longer there');
});

describe('what was stored by earlier versions', () => {
  const folder = path.join(__dirname, 'stored');
  const files = readdirSync(folder).sort();

  test('there is an example of every version, read as today’s', () => {
    expect(files).toEqual(Array.from({ length: STORED_PREP.documentVersion + 1 }, (_, n) => `document-${n}.json`));
    for (const file of files) {
      const read = STORED_PREP.read(readFileSync(path.join(folder, file), 'utf8'));
      expect([ajv.validate(Prep, read), ajv.errors]).toEqual([true, null]);
      expect(read).not.toHaveProperty('revision');
      expect(read).toMatchObject({ name: 'Quay brick', grain: 'x', material: 'material-1' });
    }
  });

  test('curves of three points go through the same three, in documents and commands', () => {
    const before = { of: 'height', dark: 0.7, middle: 0.5, light: 0.4, joints: 0.1 };
    const now = {
      of: 'height',
      points: [
        [0, 0.7],
        [0.5, 0.5],
        [1, 0.4],
      ],
      joints: 0.1,
    };
    const { version: _today, ...document } = JSON.parse(STORED_PREP.write(prep)) as Record<string, unknown>;
    const derived = { ...noMaps, normal: { strength: 1 }, roughness: before };
    const text = JSON.stringify({ version: 1, ...document, derived });
    expect(STORED_PREP.read(text).derived).toEqual({ ...derived, roughness: now });
    const since = [[{ path: ['derived', 'metallic'], value: before }]];
    expect(STORED_PREP.read(text, since).derived).toEqual({ ...derived, roughness: now, metallic: now });
    const commands = JSON.stringify([
      { kind: 'setPrep', values: {} },
      { kind: 'setMaps', derived },
    ]);
    expect(STORED_PREP.readCommands(commands, 0)).toEqual([
      { kind: 'setPrep', values: {} },
      { kind: 'setMaps', derived: { ...derived, roughness: now } },
    ]);
  });

  test('one is written at today’s version and read back as it was', () => {
    expect(STORED_PREP.read(STORED_PREP.write(prep))).toEqual(prep);
    const newer = STORED_PREP.write(prep).replace(`"version":${STORED_PREP.documentVersion}`, '"version":99');
    expect(() => STORED_PREP.read(newer)).toThrow('this prep was stored by a newer Jute Grid (document version 99)');
  });
});
