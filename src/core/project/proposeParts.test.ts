import { type NewPart, proposeParts } from './revise';
import type { Part } from './schema';

/** Parts as boxes: name, lower corner, size in mm. */
type Box = [name: string, at: [number, number, number], size: [number, number, number], path?: string[]];

const newer = ([name, min, size, path = []]: Box): NewPart => ({
  name,
  path,
  origin: [0, 0, 0],
  min,
  max: [min[0] + size[0], min[1] + size[1], min[2] + size[2]],
  surfaces: [],
});
const older = (box: Box, n: number): Part => {
  const { surfaces: _surfaces, ...rest } = newer(box);
  return { id: `old-${n}`, model: 'm', mesh: n, locked: false, ...rest };
};
const propose = (old: Box[], next: Box[], decided?: Record<number, string | null>) =>
  proposeParts(old.map(older), next.map(newer), decided);
const found = (old: Box[], next: Box[]) => propose(old, next).parts.map((p) => [p.old, p.how]);

const door: [number, number, number] = [900, 2100, 50];

describe('by name', () => {
  test('the same name at the same place, however much of it changed', () => {
    const { parts, gone } = propose([['Wall', [0, 0, 0], [4000, 2600, 200]]], [['Wall', [0, 0, 0], [6000, 2600, 200]]]);
    expect(parts).toEqual([
      { next: 0, name: 'Wall', old: 'old-0', how: 'name', others: [], changed: ['larger by 2000 mm east to west'] },
    ]);
    expect(gone).toEqual([]);
  });

  test('of one name and two paths, the path tells', () => {
    const old: Box[] = [
      ['Door', [0, 0, 0], door, ['Flat 1']],
      ['Door', [100, 0, 0], door, ['Flat 2']],
    ];
    const next: Box[] = [
      ['Door', [0, 0, 0], door, ['Flat 2']],
      ['Door', [100, 0, 0], door, ['Flat 1']],
    ];
    expect(found(old, next)).toEqual([
      ['old-1', 'name'],
      ['old-0', 'name'],
    ]);
  });

  test('numbers behind a name are the file’s own: of several alike each takes the nearest', () => {
    const at = (x: number): [number, number, number] => [x, 0, 0];
    const old: Box[] = [
      ['Door 1', at(0), door],
      ['Door 2', at(3000), door],
    ];
    const next: Box[] = [
      ['Door 1', at(2990), door],
      ['Door 2', at(10), door],
    ];
    expect(found(old, next)).toEqual([
      ['old-1', 'name'],
      ['old-0', 'name'],
    ]);
    for (const name of ['Door.3', 'Door_3', 'Door-3', 'Door 3', 'Door3'])
      expect(found([['Door 1', at(0), door]], [[name, at(20), door]])).toEqual([['old-0', 'name']]);
    // a number within the name is part of it; such a one is found by its shape
    expect(found([['Door 1 left', at(0), door]], [['Door 2 left', at(20), door]])).toEqual([['old-0', 'shape']]);
  });

  test('a name that moved far is still that name, when nothing else fits', () => {
    expect(found([['Sink', [0, 0, 0], [600, 200, 500]]], [['Sink', [9000, 0, 0], [700, 200, 500]]])).toEqual([
      ['old-0', 'name'],
    ]);
  });

  test('the nearest pair is taken first, whatever the order of the file', () => {
    const old: Box[] = [['Post', [1000, 0, 0], [100, 2600, 100]]];
    const next: Box[] = [
      ['Post', [1080, 0, 0], [100, 2600, 100]],
      ['Post', [1010, 0, 0], [100, 2600, 100]],
    ];
    expect(found(old, next)).toEqual([
      [null, 'new'],
      ['old-0', 'name'],
    ]);
  });
});

describe('by shape', () => {
  const bed: [number, number, number] = [1600, 450, 2050];

  test('another name of the very same size: the nearest', () => {
    const old: Box[] = [
      ['Bed', [0, 0, 0], bed],
      ['Cot', [20_000, 0, 0], bed],
    ];
    const { parts, gone } = propose(old, [['Berth', [300, 0, 0], bed]]);
    expect(parts[0]).toMatchObject({ old: 'old-0', how: 'shape', others: [] });
    expect(parts[0].changed).toEqual(['was “Bed”', 'moved by 300 mm']);
    expect(gone).toEqual(['old-1']);
  });

  test('unsure where another is nearly as near, and only then', () => {
    const old = (x: number): Box[] => [
      ['Bed', [0, 0, 0], bed],
      ['Cot', [x, 0, 0], bed],
    ];
    const others = (x: number) => propose(old(x), [['Berth', [1000, 0, 0], bed]]).parts[0].others;
    expect(others(2400)).toEqual(['old-1']);
    expect(others(2600)).toEqual([]);
    expect(others(2505)).toEqual(['old-1']);
  });

  test('one that is taken already is no rival', () => {
    const old: Box[] = [
      ['Bed', [0, 0, 0], bed],
      ['Cot', [1200, 0, 0], bed],
    ];
    const { parts } = propose(old, [
      ['Cot', [1200, 0, 0], bed],
      ['Berth', [600, 0, 0], bed],
    ]);
    expect(parts[1]).toMatchObject({ old: 'old-0', how: 'shape', others: [] });
  });

  test('each older part goes to one newer alone, the nearer', () => {
    const next: Box[] = [
      ['A', [900, 0, 0], bed],
      ['B', [200, 0, 0], bed],
    ];
    expect(found([['Bed', [0, 0, 0], bed]], next)).toEqual([
      [null, 'new'],
      ['old-0', 'shape'],
    ]);
  });

  test('a millimetre and a thousandth is the same size, more is not', () => {
    const at = (w: number): Box => ['Plank', [0, 50_000, 0], [w, 20, 190]];
    expect(found([['Board', [0, 0, 0], [2000, 20, 190]]], [at(2002.5)])).toEqual([['old-0', 'shape']]);
    expect(found([['Board', [0, 0, 0], [2000, 20, 190]]], [at(2004)])).toEqual([[null, 'new']]);
  });
});

describe('by place', () => {
  const wall: Box = ['Wall', [0, 0, 0], [4000, 2600, 200]];

  test('most of it lies where the other lay', () => {
    const { parts } = propose([wall], [['Screen', [200, 0, 0], [4100, 2500, 180]]]);
    expect(parts[0]).toMatchObject({ old: 'old-0', how: 'place' });
    expect(parts[0].changed).toContain('was “Wall”');
    expect(propose([wall], [['Screen', [3000, 0, 0], [4100, 2500, 180]]]).parts[0].how).toBe('new');
  });

  test('the one it shares most with, and the others are named', () => {
    const old: Box[] = [wall, ['Lining', [0, 0, 150], [4000, 2600, 100]], ['Far', [90_000, 0, 0], [10, 10, 10]]];
    const { parts } = propose(old, [['Panel', [0, 0, 145], [4000, 2590, 110]]]);
    expect(parts[0]).toMatchObject({ old: 'old-1', how: 'place', others: ['old-0', 'old-2'] });
  });

  test('touching is not lying there', () => {
    expect(found([wall], [['Next', [4100, 0, 0], [3900, 2500, 190]]])).toEqual([[null, 'new']]);
  });
});

describe('what is new and what is gone', () => {
  test('are listed; a new one could be any that is free', () => {
    const old: Box[] = [
      ['Wall', [0, 0, 0], [4000, 2600, 200]],
      ['Stair', [0, 0, 9000], [1000, 3000, 4000]],
    ];
    const { parts, gone } = propose(old, [
      ['Wall', [0, 0, 0], [4000, 2600, 200]],
      ['Lamp', [50_000, 0, 0], [30, 30, 30]],
    ]);
    expect(parts[1]).toEqual({ next: 1, name: 'Lamp', old: null, how: 'new', others: ['old-1'], changed: [] });
    expect(gone).toEqual(['old-1']);
  });

  test('of many that are free, eight are offered', () => {
    const old = Array.from({ length: 12 }, (_, n): Box => [`W${n}x`, [n * 5000, 0, 0], [4000 + n * 40, 2600, 200]]);
    const lamp: Box = ['Lamp', [500_000, 0, 0], [30, 30, 30]];
    expect(propose(old, [lamp]).parts[0].others).toHaveLength(8);
    const inPlace: Box = ['Screen', [0, 0, 0], [4010, 2500, 190]];
    expect(propose(old, [inPlace]).parts[0].others).toHaveLength(8);
  });

  test('nothing changed says nothing; what is smaller says by how much, and which way', () => {
    const change = (next: Box) => propose([['Slab', [0, 0, 0], [4000, 200, 3000]]], [next]).parts[0].changed;
    expect(change(['Slab', [0, 0, 0], [4000, 200, 3000]])).toEqual([]);
    expect(change(['Slab', [0, 0, 0], [3900, 260, 2990.5]])).toEqual([
      'smaller by 100 mm east to west',
      'larger by 60 mm in height',
      'smaller by 9.5 mm north to south',
    ]);
    expect(change(['Slab', [0, 0, 0], [4000.9, 200, 3000]])).toEqual([]);
    expect(change(['Slab', [0.5, 0, 0], [4000, 200, 3000]])).toEqual([]);
    expect(change(['Slab', [3, 4, 0], [4000, 200, 3000]])).toEqual(['moved by 5 mm']);
  });
});

describe('what people decided', () => {
  const old: Box[] = [
    ['Wall', [0, 0, 0], [4000, 2600, 200]],
    ['Other', [0, 0, 5000], [3000, 2600, 200]],
  ];
  const next: Box[] = [['Wall', [0, 0, 0], [4000, 2600, 200]]];

  test('comes first: another part, or a new one', () => {
    expect(propose(old, next, { 0: 'old-1' })).toMatchObject({
      parts: [{ old: 'old-1', how: 'name' }],
      gone: ['old-0'],
    });
    expect(propose(old, next, { 0: null })).toMatchObject({
      parts: [{ old: null, how: 'new' }],
      gone: ['old-0', 'old-1'],
    });
  });

  test('of a part that is not there is let be', () => {
    expect(propose(old, next, { 0: 'nowhere', 7: 'old-0' }).parts[0].old).toBe('old-0');
  });
});
