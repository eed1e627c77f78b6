import Ajv from 'ajv';
import type { Field } from '../schema/fields';
import { fieldsKeepTheirOwn } from '../testing/fields';
import { oak } from '../testing/surfaces';
import { VARIATION_FIELDS, type VariationOfMaterial } from './fields';
import { plainVariation, VariationSpec } from './schema';

const valid = new Ajv().compile(VariationSpec);
const stored = ({ variation }: VariationOfMaterial) => valid(variation);
const fields = VARIATION_FIELDS.flatMap((g) => g.fields);
const find = (label: string) => fields.find((f) => f.label === label) as Field<VariationOfMaterial>;
const map = { image: '0'.repeat(64), widthPx: 10, heightPx: 10, file: 'a.png' };
const material = oak({ maps: { baseColour: map, normal: map }, leaves: { columns: 2, rows: 3, insetMm: 0 } });
const plain: VariationOfMaterial = { variation: plainVariation(), material };
const shown = (of: VariationOfMaterial) => fields.filter((f) => f.shown?.(of, undefined) ?? true).map((f) => f.label);

test('each sets its own value alone, whatever else is set', () => {
  fieldsKeepTheirOwn(fields, plain, undefined, stored);
  const slides = {
    ...plain,
    variation: {
      ...plain.variation,
      slideAlong: { fromMm: 10, toMm: 20, stepMm: 5 },
      slideAcross: { fromMm: 1, toMm: 2, stepMm: 0 },
      maps: ['baseColour' as const],
      leaf: { column: 1, row: 2 },
    },
  };
  fieldsKeepTheirOwn(fields, slides, undefined, stored);
});

test('labels are their names: no two alike', () => {
  expect(new Set(fields.map((f) => f.label)).size).toBe(fields.length);
});

test('a slide is free, or has a range that is kept when it is chosen again', () => {
  const along = find('Slide along');
  const ranged = along.set(plain, 'range' as never, undefined);
  expect(ranged.variation.slideAlong).toEqual({ fromMm: 0, toMm: 400, stepMm: 0 });
  expect(shown(plain)).not.toContain('Slide along by');
  expect(shown(ranged)).toContain('Slide along by');
  expect(shown(ranged)).not.toContain('Slide across by');
  const to = find('Slide along by').set(ranged, { from: 0, to: 90 } as never, undefined);
  expect(along.set(to, 'range' as never, undefined)).toEqual(to);
  // of several picked, one that slides anywhere is let be
  expect(find('Slide along by').set(plain, { from: 0, to: 90 } as never, undefined)).toBe(plain);
});

test('leaves: those the picture has', () => {
  const leaf = find('Leaves');
  expect(shown({ ...plain, material: oak() })).not.toContain('Leaves');
  const options = leaf.kind === 'choice' ? leaf.optionsFor!(plain, undefined) : [];
  expect(options).toHaveLength(7);
  expect(options[4]).toEqual(['1,1', 'only column 2, row 2']);
  const strips = { ...plain, material: oak({ leaves: { columns: 1, rows: 4, insetMm: 0 } }) };
  expect(leaf.kind === 'choice' && leaf.optionsFor!(strips, undefined)[2]).toEqual([
    '0,1',
    'only strip 2, from the top',
  ]);
  // the first picked has it, this one does not
  expect(leaf.set(strips, '1,1' as never, undefined)).toBe(strips);
  expect(leaf.set(plain, '1,2' as never, undefined).variation.leaf).toEqual({ column: 1, row: 2 });
});

test('maps move together, or those that are ticked', () => {
  const all = find('All maps move together');
  expect(shown(plain)).not.toContain('Normals');
  const some = all.set(plain, false as never, undefined);
  expect(some.variation.maps).toEqual(['baseColour']);
  const roles = shown(some).slice(-2);
  expect(roles).toHaveLength(2);
  const both = find(roles[1]).set(some, true as never, undefined);
  expect(both.variation.maps).toEqual(['baseColour', 'normal']);
  expect(find(roles[1]).set(plain, false as never, undefined)).toBe(plain);
  expect(all.set(both, true as never, undefined).variation.maps).toBeNull();
});
