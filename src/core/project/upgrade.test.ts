import Ajv from 'ajv';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { applyCommands, COMMANDS } from './commands';
import { emptyProject, Project } from './schema';
import { STORED_PROJECT } from './upgrade';

const { commandVersion, documentVersion, read, readCommands, write } = STORED_PROJECT;

const folder = path.join(__dirname, 'stored');
const stored = (prefix: string) =>
  readdirSync(folder)
    .filter((f) => f.startsWith(prefix))
    .map((file) => ({
      version: Number(/-(\d+)\.json$/.exec(file)![1]),
      text: readFileSync(path.join(folder, file), 'utf8'),
    }))
    .sort((a, b) => a.version - b.version);
const ajv = new Ajv({ strict: false });

describe('what was stored by earlier versions', () => {
  const documents = stored('document-');

  test('there is an example of every version', () => {
    expect(documents.map((d) => d.version)).toEqual(Array.from({ length: documentVersion + 1 }, (_, i) => i));
    expect(stored('commands-').map((d) => d.version)).toContain(commandVersion);
  });

  test.each(documents.map((d) => [d.version, d.text]))('a document of version %d is read as today’s', (_v, text) => {
    const project = read(String(text));
    const validate = ajv.compile(Project);
    expect([validate(project), validate.errors]).toEqual([true, null]);
    // nothing that was stored is lost, and the version is no part of the project
    const { version: _version, ...before } = JSON.parse(String(text)) as Record<string, unknown>;
    expect(project).toMatchObject(before);
    expect(project).not.toHaveProperty('version');
  });

  test('a document is written at today’s version and read back as it was', () => {
    const project = { ...emptyProject('p', 'P'), northDeg: 30 };
    const text = write(project);
    expect(JSON.parse(text)).toMatchObject({ version: documentVersion });
    expect(read(text)).toEqual(project);
  });

  test('what was unrolled “whole” lies in one piece: in documents, their patches and commands', () => {
    const unrolled = { kind: 'unroll', whole: true, cuts: [3] };
    const now = { kind: 'unroll', inOnePiece: true, cuts: [3] };
    // pieces that are whole keep their word
    const layout = { kind: 'courses', whole: { along: true } };
    const text = JSON.stringify({
      version: 1,
      ...emptyProject('p', 'P'),
      surfaces: { s: { spec: { mapping: {}, layout } } },
    });
    const since = [[{ path: ['surfaces', 's', 'spec', 'mapping'], value: unrolled }]];
    expect(read(text, since).surfaces.s.spec).toEqual({ mapping: now, layout });
    const command = JSON.stringify([{ kind: 'setSpecs', specs: { s: { mapping: unrolled } } }]);
    expect(readCommands(command, 1)).toEqual([{ kind: 'setSpecs', specs: { s: { mapping: now } } }]);
    // today's are left as they are
    expect(readCommands(command, commandVersion)).toEqual(JSON.parse(command));
  });

  test('one of a newer program is refused with a sentence, not misread', () => {
    const text = write(emptyProject('p', 'P')).replace(`"version":${documentVersion}`, '"version":999');
    expect(() => read(text)).toThrow(/newer Jute Grid \(document version 999\)/);
  });

  test('commands of every version are today’s commands, and can be applied', () => {
    const project = read(documents[0].text);
    for (const { version, text } of stored('commands-')) {
      const commands = readCommands(text, version);
      for (const c of commands) expect(ajv.validate(COMMANDS[c.kind], c)).toBe(true);
      const after = applyCommands(project, commands).project;
      expect(after.name).toBe('Pellow Landing, second storey');
      expect(after.surfaces.s.spec).toBeNull();
    }
  });
});
