import fc from 'fast-check';
import { applyPatch, findDifference, findDifferences } from './patch';

describe('what differs', () => {
  test('is listed by place: changed, new, gone', () => {
    const from = { a: 1, b: { c: 2, d: [1, 2] }, e: 5 };
    const to = { a: 1, b: { c: 3, d: [1, 2] }, f: 6 };
    expect(findDifference(from, to)).toEqual([
      { path: ['b', 'c'], value: 3 },
      { path: ['e'] },
      { path: ['f'], value: 6 },
    ]);
  });

  test('is nothing between equal values, whether or not they are the same object', () => {
    const value = { a: [{ b: 1 }, [2, 3]], c: null, d: { e: 'x' } };
    expect(findDifference(value, value)).toEqual([]);
    expect(findDifference(value, structuredClone(value))).toEqual([]);
    expect(findDifference(null, null)).toEqual([]);
    expect(findDifference([1, { a: 2 }], [1, { a: 2 }])).toEqual([]);
  });

  test.each<[unknown, unknown]>([
    [
      [1, 2],
      [1, 3],
    ],
    [[1, 2], [1]],
    [[1], [1, 2]],
    [[{ a: 1 }], [{ a: 1, b: 2 }]],
    [[{ a: 1, b: 2 }], [{ a: 1 }]],
    [[{ a: 1 }], [{ b: 1 }]],
    [{ a: 1 }, [1]],
    [[1], { a: 1 }],
    [null, { a: 1 }],
    [{ a: 1 }, null],
    ['1', 1],
  ])('arrays and plain values are replaced whole: %j → %j', (from, to) => {
    expect(findDifference({ at: from }, { at: to })).toEqual([{ path: ['at'], value: to }]);
  });

  test('what is undefined is not there: it neither comes nor goes', () => {
    expect(findDifference({ a: undefined }, {})).toEqual([]);
    expect(findDifference({}, { a: undefined })).toEqual([]);
    expect(findDifference({ a: undefined }, { a: 1 })).toEqual([{ path: ['a'], value: 1 }]);
    expect(findDifference({ a: 1 }, { a: undefined })).toEqual([{ path: ['a'] }]);
  });
});

describe('a patch', () => {
  test('leaves everything it does not reach the same object', () => {
    const before = { a: { x: 1 }, b: { y: { z: 2 }, w: { v: 3 } } };
    const after = applyPatch(before, [{ path: ['b', 'y', 'z'], value: 9 }]);
    expect(after).toEqual({ a: { x: 1 }, b: { y: { z: 9 }, w: { v: 3 } } });
    expect(after.a).toBe(before.a);
    expect(after.b.w).toBe(before.b.w);
    expect(before.b.y.z).toBe(2);
  });

  test('makes the way to its place where there is none, and over what is no object', () => {
    expect(applyPatch({}, [{ path: ['a', 'b'], value: 1 }])).toEqual({ a: { b: 1 } });
    expect(applyPatch({ a: 5 }, [{ path: ['a', 'b'], value: 1 }])).toEqual({ a: { b: 1 } });
    expect(applyPatch({ a: [1, 2] }, [{ path: ['a', 'b'], value: 1 }])).toEqual({ a: { b: 1 } });
  });

  test('removes a place, or sets it to nothing, as it says', () => {
    expect(applyPatch({ a: 1, b: 2 }, [{ path: ['a'] }])).toEqual({ b: 2 });
    expect(applyPatch({ a: 1 }, [{ path: ['a'], value: null }])).toEqual({ a: null });
    expect(applyPatch({ a: 1 }, [{ path: [], value: { b: 2 } }])).toEqual({ b: 2 });
  });

  test('applies its edits one after the other', () => {
    const patch = [{ path: ['a'], value: { b: 1 } }, { path: ['a', 'c'], value: 2 }, { path: ['a', 'b'] }];
    expect(applyPatch({}, patch)).toEqual({ a: { c: 2 } });
  });

  test('copies a record once, however many of its places it edits, and changes none of its own values', () => {
    let copied = 0;
    const surfaces = new Proxy(
      Object.fromEntries(Array.from({ length: 300 }, (_, n) => [`s${n}`, { joint: 3, name: `S ${n}` }])),
      { ownKeys: (of) => (copied++, Reflect.ownKeys(of)) },
    );
    const before = { surfaces };
    const patch = Array.from({ length: 300 }, (_, n) => ({ path: ['surfaces', `s${n}`, 'joint'], value: 5 }));
    const after = applyPatch(before, patch);
    expect(copied).toBe(1);
    expect(Object.values(after.surfaces).every((s) => s.joint === 5)).toBe(true);
    expect(before.surfaces.s7).toEqual({ joint: 3, name: 'S 7' });
    const value = { b: 1 };
    expect(
      applyPatch({}, [
        { path: ['a'], value },
        { path: ['a', 'b'], value: 2 },
      ]),
    ).toEqual({ a: { b: 2 } });
    expect(value).toEqual({ b: 1 });
  });

  test('never reaches into prototypes', () => {
    const patch = JSON.parse('[{"path":["__proto__","polluted"],"value":true}]') as { path: string[] }[];
    expect(() => applyPatch({}, patch)).toThrow(/prototypes/);
    expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
    // what only looks like a method is a place like any other
    expect(applyPatch({}, [{ path: ['toString', 'a'], value: 1 }])).toEqual({ toString: { a: 1 } });
  });

  test('from one state to another and back again, for any two', () => {
    const leaf = fc.oneof(fc.integer(), fc.constant(null), fc.array(fc.integer(), { maxLength: 3 }));
    const doc = fc.dictionary(
      fc.constantFrom('a', 'b', 'c'),
      fc.oneof(leaf, fc.dictionary(fc.constantFrom('x', 'y'), leaf)),
    );
    fc.assert(
      fc.property(doc, doc, (from, to) => {
        const plain = (v: unknown) => JSON.parse(JSON.stringify(v)) as unknown;
        const { patch: there, inverse } = findDifferences(from, to);
        expect(there).toEqual(findDifference(from, to));
        expect(plain(applyPatch(to, inverse))).toEqual(plain(from));
        expect(plain(applyPatch(from, there))).toEqual(plain(to));
        expect(plain(applyPatch(to, findDifference(to, from)))).toEqual(plain(from));
        expect(findDifference(applyPatch(from, there), to)).toEqual([]);
      }),
    );
  });
});
