import { laidSpec, oak } from '@/core/testing/surfaces';
import { defaultSpec } from '@/core/specification/schema';
import { readSizes, triedOf } from './sizesAsOptions';

const bricks = laidSpec({
  layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
  joint: 10,
});
const LENGTH = { kind: 'length' } as const;

test.each<[string, [string, number][]]>([
  [
    '60, 70, 90 mm',
    [
      ['60 mm', 60],
      ['70 mm', 70],
      ['90 mm', 90],
    ],
  ],
  [
    '60; 70 and 90',
    [
      ['60', 60],
      ['70', 70],
      ['90', 90],
    ],
  ],
  [
    '6 cm, 7 cm',
    [
      ['6 cm', 60],
      ['7 cm', 70],
    ],
  ],
  // twice the same is one
  ['60 mm, 60 mm', [['60 mm', 60]]],
])('“%s”', (text, values) => {
  const read = readSizes(text, LENGTH, 'mm', '.');
  expect(read).toEqual({ ok: true, values: values.map(([name, value]) => ({ name, value })) });
});

test('what is no size is said', () => {
  expect(readSizes('60, wide', LENGTH, 'mm', '.')).toMatchObject({
    ok: false,
    error: expect.stringMatching(/^wide: /),
  });
  expect(readSizes('0, 60', LENGTH, 'mm', '.')).toMatchObject({ ok: false });
  expect(readSizes('  ', LENGTH, 'mm', '.')).toMatchObject({ ok: false });
  expect(readSizes('0, 45, 90°', { kind: 'angle' }, 'mm', '.')).toMatchObject({
    ok: true,
    values: [{ value: 0 }, { value: 45 }, { value: 90 }],
  });
});

test('pieces are tried by their sides and joints, a whole picture by its width; each changes that alone', () => {
  expect(triedOf(bricks).map((t) => t.id)).toEqual(['width', 'length', 'joint', 'turned']);
  expect(triedOf(defaultSpec('oak')).map((t) => t.id)).toEqual(['picture', 'turned']);
  const set = (id: string, value: number, spec = bricks) =>
    triedOf(spec)
      .find((t) => t.id === id)!
      .set(spec, value, oak());
  expect(set('width', 90).pieces!.layout).toEqual({ ...bricks.pieces!.layout, heightMm: 90 });
  expect(set('length', 300).pieces!.layout).toEqual({ ...bricks.pieces!.layout, lengthMm: 300 });
  expect(set('joint', 6).pieces!.joint).toMatchObject({ alongMm: 6, acrossMm: 6 });
  expect(set('turned', 45)).toEqual({ ...bricks, direction: { ...bricks.direction, turnDeg: 45 } });
  const picture = set('picture', 1140, defaultSpec('oak'));
  expect(picture.repeat.own).toEqual({ widthMm: 1140, heightMm: 570 });
});
