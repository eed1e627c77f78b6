import Ajv from 'ajv';
import { FINISHES, finishOf } from '../material/finishes';
import { defaultFinish } from '../material/schema';
import { fieldsKeepTheirOwn } from '../testing/fields';
import { oak } from '../testing/surfaces';
import { FINISH_FIELDS, type FinishOfMaterial } from './finishFields';
import { FinishSpec } from './schema';

const valid = new Ajv().compile(FinishSpec);
// what is absent is undefined while it is edited, and gone when it is stored
const stored = ({ finish }: FinishOfMaterial) => valid(JSON.parse(JSON.stringify(finish)));
const material = oak({ finish: { ...defaultFinish('satin'), reliefMm: 2, normalStrength: 0.5 } });
const bare: FinishOfMaterial = { finish: {}, material };
const [kind, relief, bump, roughness] = FINISH_FIELDS;

test('each sets its own value alone; a kind brings its numbers', () => {
  const brings = { Finish: ['Roughness', 'Reflection', 'Clear coat', 'Deepening'] };
  fieldsKeepTheirOwn(FINISH_FIELDS, bare, undefined, stored, brings);
  const own = { ...bare, finish: { kind: 'gloss' as const, roughness: 0.4, reliefMm: 1, normalStrength: 2 } };
  fieldsKeepTheirOwn(FINISH_FIELDS, own, undefined, stored, brings);
});

test('what is not set follows the material', () => {
  expect(FINISH_FIELDS.map((f) => f.get(bare, undefined))).toEqual(['satin', 2, 0.5, 0.55, 1, 0, 0, 1, 1, 1]);
  expect(kind.set(bare, 'matt' as never, undefined).finish).toEqual({ kind: 'matt' });
  expect(relief.set(bare, 0.3 as never, undefined).finish).toEqual({ reliefMm: 0.3 });
});

test('a bump has no strength without a normal map', () => {
  expect(bump.fixed!(bare, undefined)).toBe(true);
  const map = { image: '0'.repeat(64), widthPx: 1, heightPx: 1, file: 'n.png' };
  expect(bump.fixed!({ ...bare, material: oak({ maps: { normal: map } }) }, undefined)).toBe(false);
});

test('how much a map counts is asked where there is one', () => {
  const of = (label: string) => FINISH_FIELDS.find((f) => f.label === label)!;
  const map = { image: '0'.repeat(64), widthPx: 1, heightPx: 1, file: 'r.png' };
  const rough = { ...bare, material: oak({ maps: { roughness: map }, finish: bare.material.finish }) };
  expect(of('Roughness map').shown!(rough, undefined)).toBe(true);
  expect(of('Metallic map').shown!(rough, undefined)).toBe(false);
  const half = of('Roughness map').set(rough, 0.5 as never, undefined);
  expect(half.finish).toEqual({ mapShares: { roughness: 0.5 } });
  expect(of('Occlusion map').set(half, 0 as never, undefined).finish.mapShares).toEqual({
    roughness: 0.5,
    occlusion: 0,
  });
});

test('every finish is offered, and brings what it says', () => {
  expect(kind.kind === 'choice' && kind.options).toEqual(FINISHES.map((f) => [f.kind, f.label]));
  for (const f of FINISHES)
    expect(roughness.get(kind.set(bare, f.kind as never, undefined), undefined)).toBe(f.roughness);
  expect(() => finishOf('waxed')).toThrow('there is no finish “waxed”');
  const waxed = { kind: 'waxed', label: 'Waxed', roughness: 0.3, roughnessShift: 0 };
  expect(finishOf('waxed', [...FINISHES, waxed])).toBe(waxed);
});
