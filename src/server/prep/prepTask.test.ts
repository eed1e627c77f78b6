import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { noGiven } from '@/core/prep/given';
import type { Prep } from '@/core/prep/schema';
import { type Step, type StepKind, stepOf } from '@/core/prep/steps/registry';
import { prepOf } from '@/core/testing/prep';
import { putBlob } from '../store/data';
import { makePrep } from './prepTask';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'jute-grid-prep-'));
  process.env.JUTE_GRID_DATA = folder;
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const plain = async (width: number, height: number, value: number) => ({
  image: await putBlob(
    await sharp({ create: { width, height, channels: 3, background: { r: value, g: value, b: value } } })
      .png()
      .toBuffer(),
  ),
  widthPx: width,
  heightPx: height,
  file: `${value}.png`,
});

const step = (kind: StepKind, change: object = {}) =>
  ({ id: kind, on: true, mask: null, ...stepOf({ kind }).first, ...change }) as Step;

const prep = async (more: Partial<Prep>): Promise<Prep> =>
  prepOf({
    picture: await plain(40, 30, 120),
    steps: [step('size', { by: { kind: 'typed', widthMm: 400, heightMm: 300 } })],
    ...more,
  });
const make = async (of: Prep) => {
  const made = await makePrep(of, () => {});
  return (role: string) =>
    sharp(made.pictures.find((p) => p.role === role)!.png)
      .raw()
      .toBuffer();
};

// prep holds 8192 × 8192 pixels; what is only made smaller may have more
const TOO_MANY = [8400, 8000] as const;

test('a given map of more pixels than prep holds is read as large as its picture', async () => {
  const roughness = await plain(...TOO_MANY, 77);
  const read = await make(await prep({ given: { ...noGiven, maps: { roughness } } }));
  const bytes = await read('roughness');
  expect(bytes.length % (40 * 30)).toBe(0);
  expect([...new Set(bytes)]).toEqual([77]);
}, 60_000);

test('so is the picture of dirt', async () => {
  const { image: dirt } = await plain(...TOO_MANY, 0);
  const dirty = step('dirt', {
    strength: 1,
    cover: 1,
    picture: { image: dirt, name: 'Soot', widthMm: 400, heightMm: 300, lies: 'darks', blurMm: 0, tint: 0 },
  });
  const base = await prep({});
  const read = await make({ ...base, steps: [...base.steps, dirty] });
  expect([...new Set(await read('baseColour'))]).toEqual([0]);
}, 60_000);
