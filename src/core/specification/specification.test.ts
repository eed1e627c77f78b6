import { layOwn, own, type OwnLayout } from '../layout/own/own';
import fc from 'fast-check';
import Ajv from 'ajv';
import type { MixEntry } from '../layout/mix';
import { defaultFinish } from '../material/schema';
import { laidSpec, oak } from '../testing/surfaces';
import { deepened, finishOn, isAsItIs, mixedValue, mixing } from './finish';
import { lineText, specLine } from './line';
import { layPortions } from './portions';
import { defaultSpec, liesInPieces, materialsOf, repeatOf, Spec, swapMaterial } from './schema';

const bricks = laidSpec({
  layout: { kind: 'stretcher', lengthMm: 215, heightMm: 65, lap: 0.5, raking: false },
  joint: 10,
});
const entry = (material: string, rest: Partial<MixEntry> = {}): MixEntry => ({
  material,
  on: true,
  share: 0.2,
  every: 1,
  first: 0,
  role: 'header',
  ...rest,
});
/** A spec that names a material in every place there is. */
const rich: Spec = {
  ...bricks,
  repeat: { ...bricks.repeat, once: { fitted: false, rest: { kind: 'material', material: 'rest' } } },
  pieces: {
    ...bricks.pieces!,
    joint: { ...bricks.pieces!.joint, material: 'mortar' },
    mix: { by: 'share', entries: [entry('lime'), entry('slate', { on: false }), entry('oak')] },
  },
};

describe('which materials a spec needs', () => {
  test('its own, those mixed in, that of its joints, that beside a picture; each once', () => {
    expect(materialsOf(defaultSpec('oak'))).toEqual(['oak']);
    expect(materialsOf(rich)).toEqual(['oak', 'lime', 'slate', 'mortar', 'rest']);
    const bare = { ...rich, repeat: { ...rich.repeat, once: { fitted: true, rest: { kind: 'bare' as const } } } };
    expect(materialsOf(bare)).toEqual(['oak', 'lime', 'slate', 'mortar']);
  });

  test('one in the place of another, wherever it is used, and nothing else', () => {
    for (const id of materialsOf(rich)) {
      const swapped = swapMaterial(rich, id, 'new');
      expect(materialsOf(swapped)).toEqual(materialsOf(rich).map((m) => (m === id ? 'new' : m)));
      expect(swapMaterial(swapped, 'new', id)).toEqual(rich);
    }
    expect(swapMaterial(rich, 'not there', 'new')).toEqual(rich);
    expect(swapMaterial(defaultSpec('oak'), 'oak', 'new')).toEqual(defaultSpec('new'));
    expect(swapMaterial(bricks, 'oak', 'new').pieces!.joint.material).toBeNull();
  });
});

test('in pieces or as a whole', () => {
  expect(liesInPieces(bricks)).toBe(true);
  expect(liesInPieces(defaultSpec('oak'))).toBe(false);
  expect(liesInPieces(rich)).toBe(false);
  expect(liesInPieces({ ...bricks, pieces: { ...bricks.pieces!, layout: { kind: 'whole' } } })).toBe(false);
});

test('the repeat is the surface’s own, or the material’s', () => {
  expect(repeatOf(defaultSpec('oak'), oak())).toEqual({ widthMm: 2280, heightMm: 1140 });
  const own = { ...defaultSpec('oak'), repeat: { own: { widthMm: 5, heightMm: 6 }, locked: false } };
  expect(repeatOf(own, oak())).toEqual({ widthMm: 5, heightMm: 6 });
});

describe('a finish', () => {
  const material = oak({
    finish: { ...defaultFinish('satin'), reliefMm: 2, normalStrength: 0.5, emission: 3, metallic: 0.7 },
  });

  test('follows the material where nothing is set', () => {
    expect(finishOn({}, material)).toEqual({
      roughness: 0.55,
      metallic: 0.7,
      mixed: {
        roughness: { times: 1, plus: -0.18 },
        metallic: { times: 1, plus: 0 },
        occlusion: { times: 1, plus: 0 },
      },
      reflection: 1,
      coat: 0,
      coatRoughness: 0.1,
      deepen: 0,
      tint: [1, 1, 1],
      normalScale: 0.5,
      reliefMm: 2,
      emission: 3,
    });
  });

  test('of another kind takes that kind’s roughness; of the same the material’s own', () => {
    const moved = (plus: number) => ({ roughness: { times: 1, plus } });
    expect(finishOn({ kind: 'gloss' }, material)).toMatchObject({ roughness: 0.15, mixed: moved(-0.45) });
    const dulled = oak({ finish: { ...material.finish, roughness: 0.6, roughnessShift: 0.1 } });
    expect(finishOn({ kind: 'satin' }, dulled)).toMatchObject({ roughness: 0.6, mixed: moved(0.1) });
    const set = finishOn({ roughness: 0.9 }, material);
    expect(set.roughness).toBe(0.9);
    expect(set.mixed.roughness.plus).toBeCloseTo(0.35, 12);
  });

  test('a map counts as much as is said, on the surface before the material; what is left is the plain value', () => {
    const { mixed } = finishOn(
      {},
      oak({ finish: { ...material.finish, mapShares: { roughness: 0.25, metallic: 0 } } }),
    );
    // a map at 0.8, a quarter of it moved by −0.18, and three quarters of 0.55
    expect(mixedValue(0.8, mixed.roughness)).toBeCloseTo(0.25 * (0.8 - 0.18) + 0.75 * 0.55, 12);
    expect([0, 0.4, 1].map((v) => mixedValue(v, mixed.metallic))).toEqual([0.7, 0.7, 0.7]);
    expect(isAsItIs(mixed.occlusion)).toBe(true);
    const half = finishOn({ mapShares: { occlusion: 0.5, roughness: 1 } }, material).mixed;
    expect(mixedValue(0.2, half.occlusion)).toBeCloseTo(0.6, 12);
    expect(half.roughness).toEqual({ times: 1, plus: -0.18 });
    // what is moved beyond black or white stays there
    expect([mixedValue(0.1, half.roughness), mixedValue(1, mixing(1, 0, 0.3))]).toEqual([0, 1]);
  });

  test('slopes grow with the relief and shrink with the size', () => {
    expect(finishOn({ reliefMm: 4 }, material)).toMatchObject({ reliefMm: 4, normalScale: 1 });
    expect(finishOn({ normalStrength: 2 }, material).normalScale).toBe(2);
    expect(finishOn({}, material, 2 * material.widthMm).normalScale).toBe(0.25);
    expect(finishOn({ reliefMm: 4, normalStrength: 2 }, material, material.widthMm / 2).normalScale).toBe(8);
    // without a relief of its own there is nothing to compare with
    expect(finishOn({ reliefMm: 4 }, oak()).normalScale).toBe(1);
  });
});

describe('a deepened colour', () => {
  test('is darker and more saturated, the more the deeper; white and what is not deepened stay', () => {
    const [r, , b] = deepened('#a07040', 0.5);
    expect(r).toBeLessThan(1);
    expect(b).toBeLessThan(r);
    expect(deepened('#a07040', 1)[2]).toBeLessThan(b);
    expect(deepened('#a07040', 0)).toEqual([1, 1, 1]);
    expect(deepened('#ffffff', 1)).toEqual([1, 1, 1]);
  });

  test('never passes 1, whatever the colour', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 0xffffff }), fc.double({ min: 0, max: 1, noNaN: true }), (n, deepen) => {
        for (const v of deepened(`#${n.toString(16).padStart(6, '0')}`, deepen)) {
          expect(v).toBeGreaterThan(0);
          expect(v).toBeLessThanOrEqual(1);
        }
      }),
    );
  });

  test('oil deepens, lacquer coats, raw wood mirrors less', () => {
    const of = (kind: 'raw' | 'oiled' | 'lacquered') => finishOn({ kind }, oak());
    expect(of('oiled').deepen).toBeGreaterThan(of('raw').deepen);
    expect(of('lacquered').coat).toBeGreaterThan(0.5);
    expect(of('raw').reflection).toBeLessThan(of('lacquered').reflection);
    expect(finishOn({ kind: 'oiled', deepen: 0 }, oak()).tint).toEqual([1, 1, 1]);
  });
});

describe('the spec line', () => {
  test('says that a size is a guess, unless the surface has its own', () => {
    const guessed = oak({ sizeAssumed: true });
    const say = (own: { widthMm: number; heightMm: number } | null) =>
      lineText(specLine('Wall', { ...defaultSpec('oak'), repeat: { own, locked: true } }, guessed, 'mm'));
    expect(say(null)).toContain('repeat 2280 × 1140 mm as the material, a guess,');
    expect(say({ widthMm: 5, heightMm: 6 })).not.toContain('guess');
  });

  const say = (rest: Partial<Spec>, unit: 'mm' | 'cm' | 'ft-in' = 'mm') =>
    lineText(specLine('Wall', { ...defaultSpec('oak'), ...rest }, oak(), unit));

  test.each<[Partial<Spec>, string]>([
    [{}, 'repeat 2280 × 1140 mm as the material'],
    [{ repeat: { own: { widthMm: 600, heightMm: 300 }, locked: true } }, 'repeat 600 × 300 mm,'],
    [
      { repeat: { own: null, locked: true, once: { fitted: true, rest: { kind: 'bare' } } } },
      'one picture as large as there is room, mapped',
    ],
    [
      { repeat: { own: null, locked: true, once: { fitted: true, rest: { kind: 'bare' } } } },
      'starting fitted into the middle',
    ],
    [
      { repeat: { own: null, locked: true, once: { fitted: false, rest: { kind: 'bare' } } } },
      'one picture 2280 × 1140 mm as the material',
    ],
    [
      { repeat: { own: null, locked: true, band: { from: 0.125, to: 0.5 } } },
      'a band of its picture, 12.5 to 50% of the height, 2280 mm long',
    ],
    [{ start: { datum: 'corner', xMm: 0, yMm: 0 } }, 'starting at the lower left corner'],
    [{ start: { datum: 'centre', xMm: 30, yMm: 0 } }, 'starting 30 mm right from the centre'],
    [{ start: { datum: 'world', xMm: -30, yMm: 40 } }, 'starting 30 mm left and 40 mm up from site zero'],
    [{ start: { datum: 'part', xMm: 0, yMm: -5 } }, 'starting 5 mm down from the part’s origin'],
    [{ start: { datum: 'level', xMm: 0, yMm: 0, level: { id: 'l', heightMm: 900 } } }, 'starting at level 900 mm'],
    [{ direction: { turnDeg: 22.5, mirrorX: false, mirrorY: false } }, 'turned 22.5°, matt'],
    [{ direction: { turnDeg: 0, mirrorX: true, mirrorY: false } }, 'turned 0°, mirrored left to right'],
    [{ direction: { turnDeg: 0, mirrorX: false, mirrorY: true } }, 'turned 0°, mirrored top to bottom'],
    [{ direction: { turnDeg: 0, mirrorX: true, mirrorY: true } }, 'turned 0°, mirrored both ways'],
    [{ finish: { kind: 'gloss', reliefMm: 3 } }, 'gloss, relief 3 mm.'],
    [{ pieces: bricks.pieces }, 'stretcher bond of bricks 215 × 65 mm, half lap, joints 10 mm, picture 2280'],
    [{ pieces: { ...bricks.pieces!, joint: { ...bricks.pieces!.joint, alongMm: 8 } } }, 'joints 8 and 10 mm'],
    [{ pieces: { ...bricks.pieces!, margins: { along: 'both' } } }, 'joints 10 mm, whole pieces only, picture'],
    [
      { pieces: { ...bricks.pieces!, layout: own.preset.spec, margins: { along: 'both' } } },
      '“Ell and square” repeated every 400 mm, joints 10 mm, picture',
    ],
    [
      {
        pieces: {
          ...bricks.pieces!,
          layout: layOwn({ ...(own.preset.spec as OwnLayout).module, as: 'pieces' }),
        },
      },
      'repeated every 400 mm, joints as drawn, picture',
    ],
    [
      { pieces: { ...bricks.pieces!, mix: { by: 'share', entries: [entry('lime')] } } },
      'with 1 more material, picture',
    ],
    [{ pieces: rich.pieces }, 'with 2 more materials, picture'],
    [{ pieces: bricks.pieces }, 'shuffle 1, matt'],
    [{ pieces: bricks.pieces, variation: { ...bricks.variation!, on: false } }, 'no variation, matt'],
    [
      {
        pieces: bricks.pieces,
        variation: { ...bricks.variation!, shuffle: 8, pins: [{ course: 0, index: 0, print: 0, seed: 1 }] },
      },
      'shuffle 8, 1 pinned',
    ],
  ])('%j', (rest, words) => expect(say(rest)).toContain(words));

  test('in the project’s unit', () => {
    expect(say({}, 'cm')).toContain('228 × 114 cm');
    expect(say({ repeat: { own: { widthMm: 609.6, heightMm: 304.8 }, locked: true } }, 'ft-in')).toContain(`2' × 1'`);
  });
});

describe('the schema', () => {
  const valid = new Ajv({ strict: false }).compile(Spec);
  const ok = (rest: object) => valid({ ...bricks, ...rest });

  test('takes what is laid', () => {
    expect(ok({})).toBe(true);
    expect(valid(rich)).toBe(true);
    expect(valid(defaultSpec('oak'))).toBe(true);
  });

  test.each<[string, object]>([
    ['no material', { material: '' }],
    ['a repeat of nothing', { repeat: { own: { widthMm: 0, heightMm: 5 }, locked: true } }],
    ['a band beyond the picture', { repeat: { own: null, locked: true, band: { from: 0, to: 1.5 } } }],
    ['a start beyond reason', { start: { datum: 'corner', xMm: 1e8, yMm: 0 } }],
    ['a datum that is none', { start: { datum: 'moon', xMm: 0, yMm: 0 } }],
    ['more than a whole turn', { direction: { turnDeg: 361, mirrorX: false, mirrorY: false } }],
    ['a roughness above one', { finish: { roughness: 1.1 } }],
    ['a finish that is none', { finish: { kind: 'silk' } }],
    ['a mapping that is none', { mapping: { kind: 'cube' } }],
    ['a layout that is none', { pieces: { ...bricks.pieces!, layout: { kind: 'moire' } } }],
    ['a joint below nothing', { pieces: { ...bricks.pieces!, joint: { ...bricks.pieces!.joint, alongMm: -1 } } }],
    ['an arris that is none', { pieces: { ...bricks.pieces!, arris: 'melt' } }],
    [
      'a colour that is none',
      { repeat: { own: null, locked: true, once: { fitted: true, rest: { kind: 'colour', colour: 'red' } } } },
    ],
  ])('refuses %s', (_what, rest) => expect(ok(rest)).toBe(false));
});

test('whose mirror image a surface is does not go along with what is lifted from it', () => {
  const mirror = { normal: [1, 0, 0] as [number, number, number], atMm: 1200, prints: 'mirrored' as const, of: 'hall' };
  const lifted: Spec = { ...defaultSpec('oak'), mapping: { kind: 'flat', direction: 'auto', mirror } };
  expect(layPortions(null, lifted, ['mapping']).mapping).toEqual({ kind: 'flat', direction: 'auto' });
  expect(lifted.mapping.mirror).toEqual(mirror);
});
