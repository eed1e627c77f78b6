import Ajv from 'ajv';
import { fieldsKeepTheirOwn } from '../testing/fields';
import { MixEntry, MixSpec, noMix } from './mix';
import { firstEntry, MIX_ENTRY_FIELDS, MIX_FIELDS } from './mixFields';

const ajv = new Ajv();
const entry = firstEntry('ash', ['stretcher', 'header']);
const context = (by: MixSpec['by']) => ({
  by,
  materials: [
    ['ash', 'Ash'],
    ['elm', 'Elm'],
  ] as const,
  roles: ['stretcher', 'header'] as const,
});

test.each(['share', 'course', 'role', 'sequence', 'accent'] as const)('by %s: each sets its own value alone', (by) => {
  fieldsKeepTheirOwn(MIX_ENTRY_FIELDS, entry, context(by), ajv.compile(MixEntry));
  fieldsKeepTheirOwn(MIX_FIELDS, { ...noMix(), by }, undefined, ajv.compile(MixSpec));
});

test('only what decides it is shown', () => {
  const labels = (by: MixSpec['by']) =>
    MIX_ENTRY_FIELDS.filter((f) => f.shown?.(entry, context(by)) ?? true).map((f) => f.label);
  expect(labels('share')).toEqual(['laid', 'Material', 'Share']);
  expect(labels('course')).toEqual(['laid', 'Material', 'Every', 'From course']);
  expect(labels('role')).toEqual(['laid', 'Material', 'Role']);
  expect(labels('sequence')).toEqual(['laid', 'Material', 'Times']);
  expect(labels('accent')).toEqual(['laid', 'Material', 'One in', 'Between two, at least']);
});

test('a new one takes a fifth of the pieces, and the last of the roles', () => {
  expect(entry).toMatchObject({ on: true, share: 0.2, role: 'header' });
});
