import Ajv from 'ajv';
import fc from 'fast-check';
import { optionsOf } from '../schema/fields';
import { rectangle, wallMesh } from '../testing/surfaces';
import type { MappingContext } from './parts';
import { CutMesh, type Shares, splitPolygon, WHOLE_FACE } from './refine';
import { MAPPINGS, mappingOf } from './registry';
import { aroundOf, FIRST_MAPPING, type MappingSpec } from './schema';
import { buildSheet } from './sheet';
import type { AnyMappingSpec, Mapping } from './types';

/** Mappings by themselves: what is stored, its fields, its words; and the cutting of faces they share. */

const all = MAPPINGS as readonly unknown[] as readonly Mapping<AnyMappingSpec>[];
const context: MappingContext = {
  closed: true,
  own: [
    { usable: true, unit: { widthMm: 500, heightMm: 400 } },
    { usable: false, unit: null },
  ],
};
const wall = wallMesh([rectangle(3000, 2000)]);

describe('definitions', () => {
  test.each(all.map((m) => [m.label, m] as const))('%s: it starts valid, is drawn, and lays a wall', (_l, mapping) => {
    const valid = new Ajv({ strict: false }).compile(mapping.schema);
    expect(valid(mapping.first)).toBe(true);
    expect(valid({ ...mapping.first, correction: { shearDeg: 'much' } })).toBe(false);
    expect(mapping.first.kind).toBe(mapping.kind);
    expect(mapping.describe(mapping.first)).toMatch(/\w/);
    expect(mapping.drawing.length).toBeGreaterThan(1);
    for (const { d } of mapping.drawing) expect(d).toMatch(/^M[\d\s.,MmLlHhVvCcSsQqTtAaZz-]+$/);
    // whatever a wall is laid by, its faces are all there and as large as they are, or it says otherwise
    const sheet = buildSheet(wall, [0, wall.indices.length / 3], mapping.first);
    expect(new Set(sheet.source).size).toBe(wall.indices.length / 3);
    expect(sheet.trueArea).toBeCloseTo(6e6, -1);
    if (Math.abs(sheet.area - 6e6) > 1) expect(sheet.notes.length).toBeGreaterThan(0);
  });

  test.each(all.map((m) => [m.label, m] as const))(
    '%s: a field sets what it shows, and nothing else',
    (_l, mapping) => {
      const valid = new Ajv({ strict: false }).compile(mapping.schema);
      // a radius of one’s own says that it is one’s own; both sides of a unit are one value
      const hangTogether = ['fan', 'own'].includes(mapping.kind);
      for (const field of mapping.fields) {
        const { first } = mapping;
        if (field.shown && !field.shown(first, context)) continue;
        const value = field.get(first, context);
        const others: unknown[] =
          field.kind === 'toggle'
            ? [!value]
            : field.kind === 'choice'
              ? optionsOf(field, first, context).map(([o]) => o)
              : field.kind.startsWith('free')
                ? [12, ...(hangTogether ? [] : [null])]
                : [333];
        for (const other of others) {
          const next = field.set(first, other as never, context);
          expect(valid(next)).toBe(true);
          expect(field.get(next, context)).toBe(other);
          // another field’s value is not touched
          for (const beside of mapping.fields)
            if (beside !== field && !hangTogether)
              expect(beside.get(next, context)).toEqual(beside.get(first, context));
          // and back again it is as it was
          if (!hangTogether) expect(field.set(next, value as never, context)).toEqual(first);
        }
      }
    },
  );

  test('kinds are told apart, and one that is not there is named', () => {
    expect(new Set(all.map((m) => m.kind)).size).toBe(all.length);
    expect(Object.keys(FIRST_MAPPING)).toEqual(all.map((m) => m.kind));
    expect(() => mappingOf({ kind: 'cube' })).toThrow('there is no mapping “cube”');
    for (const m of all) expect(mappingOf(m.first)).toBe(m);
  });

  test.each<[MappingSpec, string]>([
    [{ kind: 'flat', direction: 'auto' }, 'flat'],
    [{ kind: 'box', axes: 'surface' }, 'as a box'],
    [{ kind: 'cylinder', axis: 'found', seamDeg: null, around: null }, 'round a cylinder'],
    [{ kind: 'cylinder', axis: 'found', seamDeg: null, around: 24 }, 'round a cylinder, exactly 24 around'],
    [{ kind: 'sphere', seamDeg: null, around: 12 }, 'round a ball, exactly 12 around'],
    [{ kind: 'unroll' }, 'unrolled'],
    [{ kind: 'own', set: 0, unit: null }, 'by the model’s own coordinates'],
    [{ kind: 'own', set: 1, unit: null }, 'by the model’s own coordinates, set 2'],
  ])('%j is said as “%s”', (spec, words) => expect(mappingOf(spec).describe(spec)).toBe(words));

  test('how many once round, where that is asked at all', () => {
    expect(aroundOf({ kind: 'cylinder', axis: 'found', seamDeg: null, around: 24 })).toBe(24);
    expect(aroundOf({ kind: 'sphere', seamDeg: null, around: null })).toBeNull();
    expect(aroundOf({ kind: 'flat', direction: 'auto' })).toBeNull();
    const field = all.find((m) => m.kind === 'cylinder')!.fields[0];
    const { first } = all.find((m) => m.kind === 'cylinder')!;
    // open, it cannot be asked; asked before, it can be let go of
    expect(field.fixed!(first, { ...context, closed: false })).toBe(true);
    expect(field.fixed!(first, context)).toBe(false);
    expect(field.fixed!(field.set(first, 5 as never, context), { ...context, closed: false })).toBe(false);
  });
});

describe('a face cut along a line', () => {
  /** Share of the triangle's area of a polygon within it. */
  const areaOf = (p: Shares[]) => {
    let sum = 0;
    for (let i = 0; i < p.length; i++) {
      const [a, b] = [p[i], p[(i + 1) % p.length]];
      sum += a[1] * b[2] - b[1] * a[2];
    }
    return sum;
  };

  test('both sides together are the face, each on its side of the line', () => {
    const number = fc.double({ min: -1, max: 1, noNaN: true });
    fc.assert(
      fc.property(number, number, number, (a, b, c) => {
        const at = (s: Shares) => s[0] * a + s[1] * b + s[2] * c;
        const sides = splitPolygon(WHOLE_FACE, at, 1e-6);
        expect(sides.reduce((sum, side) => sum + areaOf(side), 0)).toBeCloseTo(
          Math.max(a, b, c, -a, -b, -c) > 1e-6 ? 1 : 0,
          4,
        );
        for (const s of sides[0]) expect(at(s)).toBeGreaterThanOrEqual(-2e-6);
        for (const s of sides[1]) expect(at(s)).toBeLessThanOrEqual(2e-6);
        for (const s of sides.flat()) expect(s[0] + s[1] + s[2]).toBeCloseTo(1, 9);
      }),
    );
  });

  test('a line through a corner cuts there; one beside the face leaves it whole', () => {
    const [left, right] = splitPolygon(WHOLE_FACE, (s) => s[1] - s[2], 1e-6);
    expect([left.length, right.length]).toEqual([3, 3]);
    expect(areaOf(left)).toBeCloseTo(0.5, 12);
    expect(splitPolygon(WHOLE_FACE, () => 1, 1e-6)).toEqual([WHOLE_FACE, []]);
    expect(splitPolygon(WHOLE_FACE, () => -1, 1e-6)).toEqual([[], WHOLE_FACE]);
    // within the tolerance a corner lies on the line
    expect(splitPolygon(WHOLE_FACE, (s) => s[0] - s[1] - s[2] + 1e-7, 1e-6)[0]).toHaveLength(3);
  });

  test('polygons become a mesh of their own: corners that are not cut stay shared, all else is mixed', () => {
    const mesh = { ...wall, uvs: [Float32Array.from([0, 0, 1, 0, 1, 1, 0, 1])] };
    const made = new CutMesh(mesh);
    const seen: Shares[] = [];
    expect(made.add(0, WHOLE_FACE, (s) => seen.push(s))).toBe(1);
    expect(made.add(1, WHOLE_FACE)).toBe(1);
    const half: Shares[] = [
      [1, 0, 0],
      [0.5, 0.5, 0],
      [0.5, 0, 0.5],
    ];
    expect(made.add(0, half)).toBe(1);
    // a sliver is left out
    expect(made.add(0, [half[0], half[1], [0.75, 0.25, 1e-12]])).toBe(0);
    const { positions, normals, uvs, indices } = made.finish();
    expect(seen).toEqual(WHOLE_FACE);
    expect(made.source).toEqual([0, 1, 0]);
    expect(indices).toHaveLength(9);
    // four corners of the wall, two new ones, and what the sliver asked for
    expect([...indices].filter((v) => v >= 4)).toHaveLength(2);
    const [a, b] = [mesh.indices[0], mesh.indices[1]];
    const middle = [...indices].find((v) => v >= 4)!;
    for (let c = 0; c < 3; c++)
      expect(positions[middle * 3 + c]).toBeCloseTo((mesh.positions[a * 3 + c] + mesh.positions[b * 3 + c]) / 2, 3);
    for (let c = 0; c < 2; c++)
      expect(uvs[0][middle * 2 + c]).toBeCloseTo((mesh.uvs[0][a * 2 + c] + mesh.uvs[0][b * 2 + c]) / 2, 6);
    expect([...normals.subarray(middle * 3, middle * 3 + 3)]).toEqual([0, 0, 1]);
  });
});
