import { type Field, optionsOf } from '../schema/fields';

/** A value that a field can take and does not have. */
function others<S, C>(field: Field<S, C>, spec: S, context: C): unknown[] {
  switch (field.kind) {
    case 'toggle':
      return [!field.get(spec, context)];
    case 'colour':
      return [field.get(spec, context) === '#123456' ? '#654321' : '#123456'];
    case 'choice':
      return optionsOf(field, spec, context)
        .map(([value]) => value)
        .filter((value) => value !== field.get(spec, context));
    case 'range': {
      const [least, most] = [field.min ?? -1000, field.max ?? 1000];
      return [
        { from: least, to: most },
        { from: least, to: (least + most) / 2 },
      ];
    }
    case 'sizes':
      return [{ kind: 'one', mm: 123 }];
    default: {
      const now = field.get(spec, context) ?? 0;
      const [least, most] = [field.min ?? -1000, field.max ?? 1000];
      return [least, most, (least + most) / 2].map((v) => (field.integer ? Math.round(v) : v)).filter((v) => v !== now);
    }
  }
}

/**
 * What holds of any fields: what is got can be set again and nothing changes; what is set is got; each changes what it
 * shows and no other field (but those of `moved`), and what comes out can be stored.
 * @param moved labels of fields that another may change, by the label of that other
 */
export function fieldsKeepTheirOwn<S, C>(
  fields: readonly Field<S, C>[],
  spec: S,
  context: C,
  valid: (spec: S) => unknown,
  moved: Record<string, readonly string[]> = {},
): void {
  const shown = fields.filter((f) => f.shown?.(spec, context) ?? true);
  for (const field of shown) {
    const value = field.get(spec, context);
    expect(field.get(field.set(spec, value as never, context), context)).toEqual(value);
    for (const other of others(field, spec, context)) {
      const next = field.set(spec, other as never, context);
      expect(valid(next)).toBe(true);
      const got = field.get(next, context);
      if (typeof other === 'number') expect(got).toBeCloseTo(other, 9);
      else expect(got).toEqual(other);
      const seen = shown.filter((f) => f.shown?.(next, context) ?? true);
      const changed = seen.filter((f) => JSON.stringify(f.get(next, context)) !== JSON.stringify(f.get(spec, context)));
      const may = [field.label, ...(moved[field.label] ?? [])];
      expect(changed.filter((f) => !may.includes(f.label)).map((f) => f.label)).toEqual([]);
      if (seen.includes(field)) expect(changed).toContain(field);
    }
  }
}
