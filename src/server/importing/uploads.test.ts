import { zipSync } from 'fflate';
import { createWriteStream, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Problem } from '../http/problem';
import { folder } from '../store/data';
import { FileNames, LIMITS } from './limits';
import { claimUpload, openUpload, receiveUpload } from './uploads';

jest.mock('node:fs', () => {
  const real = jest.requireActual<typeof import('node:fs')>('node:fs');
  return { ...real, createWriteStream: jest.fn(real.createWriteStream) };
});
const { createWriteStream: write } = jest.requireActual<typeof import('node:fs')>('node:fs');

let at: string;
beforeEach(() => {
  at = mkdtempSync(path.join(tmpdir(), 'jute-grid-uploads-'));
  process.env.JUTE_GRID_DATA = at;
});
afterEach(() => {
  jest.mocked(createWriteStream).mockImplementation(write);
  rmSync(at, { recursive: true, force: true });
});

const form = (files: Record<string, Uint8Array | string>) => {
  const all = new FormData();
  for (const [name, bytes] of Object.entries(files)) all.append('files', new File([bytes as BlobPart], name));
  return new Request('http://127.0.0.1/', { method: 'POST', body: all });
};
const problemOf = (work: Promise<unknown>): Promise<Problem> =>
  work.then(
    () => {
      throw new Error('nothing was refused');
    },
    (error: Problem) => error,
  );
const left = () => readdirSync(folder('uploads'));

describe('every end of an upload answers and cleans', () => {
  test('a disk that is full in the middle', async () => {
    let n = 0;
    jest.mocked(createWriteStream).mockImplementation((to, options) => {
      const stream = write(to, options);
      // the second file finds no room
      if (++n === 2)
        stream._write = (_chunk, _encoding, done) => done(Object.assign(new Error('no space'), { code: 'ENOSPC' }));
      return stream;
    });
    const sent = receiveUpload(form({ 'a.obj': 'v', 'b.obj': 'x'.repeat(3e6), 'c.obj': 'y'.repeat(3e6) }));
    await expect(sent).rejects.toMatchObject({ code: 'ENOSPC' });
    expect(left()).toEqual([]);
  });

  test('one that is longer than it may be, without saying so before', async () => {
    const limit = jest.replaceProperty(LIMITS, 'upload', 1000);
    const body = form({ 'a.obj': 'x'.repeat(5000) });
    expect(await problemOf(receiveUpload(body))).toMatchObject({ status: 413 });
    expect(left()).toEqual([]);
    limit.restore();
  });

  test('one that breaks off', async () => {
    const whole = new Uint8Array(await form({ 'a.obj': 'x'.repeat(5000) }).arrayBuffer());
    const type = form({ a: '' }).headers.get('content-type')!;
    const boundary = new TextDecoder().decode(whole).split('\r\n')[0].slice(2);
    const request = new Request('http://127.0.0.1/', {
      method: 'POST',
      headers: { 'content-type': type.replace(/boundary=.*/, `boundary=${boundary}`) },
      body: whole.slice(0, 900),
    });
    expect(await problemOf(receiveUpload(request))).toMatchObject({ status: 400, title: 'The upload broke off' });
    expect(left()).toEqual([]);
  });

  test.each(['multipart/form-data', 'multipart/form-data; boundary=', 'text/plain'])(
    'a form that is none: %s',
    async (type) => {
      const request = new Request('http://127.0.0.1/', {
        method: 'POST',
        headers: { 'content-type': type },
        body: 'x',
      });
      expect((await problemOf(receiveUpload(request))).status).toBe(400);
      expect(left()).toEqual([]);
    },
  );
});

describe('names', () => {
  test('umlauts, in whatever form, are read as one; a model finds what it names', async () => {
    const { files } = await receiveUpload(form({ 'Fußboden.obj': 'v', 'Fuß/Gru\u0308n.png': 'x' }));
    expect(files).toEqual(['Fuß/Gr\u00fcn.png', 'Fußboden.obj']);
  });

  test('in a zip that does not say that it writes UTF-8', async () => {
    const zip = Buffer.from(zipSync({ 'Fußboden.png': new Uint8Array(3) }));
    // the flag that says so, in the file’s own head and in the list at the end
    for (const [mark, offset] of [
      ['PK\u0003\u0004', 6],
      ['PK\u0001\u0002', 8],
    ] as const) {
      const head = zip.indexOf(Buffer.from(mark, 'latin1'));
      zip.writeUInt16LE(zip.readUInt16LE(head + offset) & ~0x800, head + offset);
    }
    expect((await receiveUpload(form({ 'a.zip': zip }))).files).toEqual(['Fußboden.png']);
  });

  test('long ones keep their ending, and stay apart', async () => {
    const long = '漢'.repeat(90);
    const { files } = await receiveUpload(form({ [`${long}.obj`]: 'a', [`${long}x.obj`]: 'b' }));
    expect(files).toHaveLength(2);
    for (const file of files) {
      expect(Buffer.byteLength(file)).toBeLessThan(230);
      expect(file).toMatch(/\.obj$/);
    }
  });

  test.each([
    [
      ['a.obj', 'a.obj', 'A.OBJ'],
      ['a.obj', 'a (2).obj', 'A (3).OBJ'],
    ],
    [
      ['a', 'a/b.obj'],
      ['a', 'a (2)/b.obj'],
    ],
    [
      ['a/b.obj', 'a'],
      ['a/b.obj', 'a (2)'],
    ],
    [
      ['../../etc/passwd', 'C:\\x\\y.obj'],
      ['etc/passwd', 'C_/x/y.obj'],
    ],
    [
      ['.fields.json', '...'],
      ['_.fields.json', '_...'],
    ],
    [
      ['__MACOSX/a', '..', ''],
      [null, null, null],
    ],
    [['a\u0000b\u001f.obj'], ['a_b_.obj']],
    [
      ['__proto__', 'constructor'],
      ['__proto__', 'constructor'],
    ],
  ])('%j become %j', (given, taken) => {
    const names = new FileNames();
    expect(given.map((name) => names.take(name))).toEqual(taken);
  });

  test('a file and a folder of one name in a zip lie beside each other', async () => {
    const zip = zipSync({ a: new Uint8Array(1), 'a/b.obj': new Uint8Array(2) });
    expect((await receiveUpload(form({ 'a.zip': zip }))).files.sort()).toEqual(['a', 'a (2)/b.obj']);
  });
});

describe('zips', () => {
  const zipped = (count: number, size: number) =>
    zipSync(Object.fromEntries(Array.from({ length: count }, (_, n) => [`${n}.bin`, new Uint8Array(size)])), {
      level: 9,
    });

  test('grow no more by many small members than by one large', async () => {
    expect(await problemOf(receiveUpload(form({ 'a.zip': zipped(60, 1 << 19) })))).toMatchObject({
      status: 422,
      detail: expect.stringMatching(/taken for a bomb/) as string,
    });
    expect(left()).toEqual([]);
    // packing thirty megabytes takes its time where others are at work as well
  }, 30_000);

  test('of too many files are refused before one of them is unpacked', async () => {
    const limit = jest.replaceProperty(LIMITS, 'files', 10);
    expect((await problemOf(receiveUpload(form({ 'a.zip': zipped(11, 1) })))).detail).toMatch(
      /holds 11 files; at most 10/,
    );
    expect(left()).toEqual([]);
    limit.restore();
  });

  test('that unpack to too much are stopped where they do', async () => {
    const limit = jest.replaceProperty(LIMITS, 'unpacked', 5000);
    expect((await problemOf(receiveUpload(form({ 'a.zip': zipped(3, 2000) })))).detail).toMatch(/unpacks to more/);
    expect(left()).toEqual([]);
    limit.restore();
  });
});

test('an upload is brought in by one request at a time', async () => {
  const { id, folder: where } = await receiveUpload(form({ 'a.obj': 'v' }));
  const release = claimUpload(id);
  expect(() => claimUpload(id)).toThrow(/brought in by another/);
  release();
  claimUpload(id)();
  expect((await openUpload(id)).bytes).toBe(1);
  writeFileSync(path.join(where, 'b.obj'), 'vv');
  expect((await openUpload(id)).bytes).toBe(3);
  expect(readFileSync(path.join(where, 'a.obj'), 'utf8')).toBe('v');
  expect(existsSync(where)).toBe(true);
});
