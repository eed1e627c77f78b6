import Ajv from 'ajv';
import { fieldsKeepTheirOwn } from '../testing/fields';
import { MARGIN_FIELDS } from './marginFields';
import { MarginsSpec } from './margins';

const context = { materials: [['lime', 'Lime'] as const] };

test('each field sets its own and no other, there and back', () => {
  const [along, across, rest] = MARGIN_FIELDS;
  const choice = (f: (typeof MARGIN_FIELDS)[number], s: MarginsSpec, v: string) =>
    f.kind === 'choice' ? f.set(s, v, context) : s;
  const both = choice(across, choice(along, {}, 'both'), 'low');
  expect(both).toEqual({ along: 'both', across: 'low' });
  expect(choice(rest, both, 'lime')).toEqual({ along: 'both', across: 'low', material: 'lime' });
  expect(choice(along, choice(rest, { ...both, material: 'lime' }, 'nothing'), 'cut')).toEqual({ across: 'low' });
  expect(rest.shown!({}, context)).toBe(false);
  fieldsKeepTheirOwn(MARGIN_FIELDS, both, context, new Ajv().compile(MarginsSpec));
});
