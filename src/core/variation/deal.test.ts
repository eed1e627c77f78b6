import fc from 'fast-check';
import type { MixEntry, MixSpec } from '../layout/mix';
import { noMix } from '../layout/mix';
import { hash } from '../noise/hash';
import { openDealer, type PieceRows } from './deal';
import type { Prints } from './prints';
import { plainVariation, type VariationSpec } from './schema';

/** A layout like a chequerboard's: four neighbours, two classes; even courses are stretchers, odd ones headers. */
const board = {
  classes: 2,
  mostNeighbours: 4,
  classOf: (course: number, index: number) => (((course + index) % 2) + 2) % 2,
  roleOf: (course: number) => (course % 2 === 0 ? ('stretcher' as const) : ('header' as const)),
  neighbours: (course: number, index: number, out: Int32Array) => {
    out.set([course - 1, index, course + 1, index, course, index - 1, course, index + 1]);
    return 4;
  },
};
const printsOf = (distinct: number) => ({ distinct }) as Prints;
const varied = (rest: Partial<VariationSpec> = {}): VariationSpec => ({ ...plainVariation(), ...rest });
const entry = (rest: Partial<MixEntry>): MixEntry => ({
  material: 'm',
  on: true,
  share: 0,
  every: 1,
  first: 0,
  role: 'header',
  ...rest,
});
const open = (distinct: number | number[], variation: Partial<VariationSpec> = {}, mix: MixSpec = noMix()) =>
  openDealer(board, varied(variation), [distinct].flat().map(printsOf), mix);

/** Some tens of pieces round the origin. */
const places = Array.from({ length: 21 * 21 }, (_, n) => [(n % 21) - 10, Math.floor(n / 21) - 10] as const);
const rowsOf = (list: readonly (readonly [number, number])[]): PieceRows => ({
  count: list.length,
  course: Int32Array.from(list, ([c]) => c),
  index: Int32Array.from(list, ([, i]) => i),
  seed: new Uint32Array(list.length),
  material: new Uint8Array(list.length).fill(9),
  print: new Int32Array(list.length),
});

describe('prints', () => {
  test('of one print every piece has it', () => {
    const dealer = open(1);
    for (const [c, i] of places) expect(dealer.printOf(c, i)).toBe(0);
  });

  test.each([5, 12, 31, 32, 33, 100, 5000])('of %i: no neighbour has the same, and all are used', (distinct) => {
    const dealer = open(distinct, { shuffle: 7 });
    const seen = new Set<number>();
    for (const [c, i] of places) {
      const own = dealer.printOf(c, i);
      expect(own).toBeGreaterThanOrEqual(0);
      expect(own).toBeLessThan(distinct);
      expect(dealer.printOf(c + 1, i)).not.toBe(own);
      expect(dealer.printOf(c, i + 1)).not.toBe(own);
      seen.add(own);
    }
    expect(seen.size).toBeGreaterThan(Math.min(distinct, places.length) * 0.4);
  });

  test('with fewer than neighbours ask for, as few are alike as can be', () => {
    const dealer = open(3);
    const alike = places.filter(([c, i]) => dealer.printOf(c, i) === dealer.printOf(c + 1, i)).length;
    // by chance it would be a third
    expect(alike / places.length).toBeLessThan(0.2);
  });

  test('with prints in plenty each class has its own, every other one', () => {
    const dealer = open(32);
    for (const [c, i] of places) expect(dealer.printOf(c, i) % 2).toBe(board.classOf(c, i));
    const few = open(31);
    expect(places.some(([c, i]) => few.printOf(c, i) % 2 !== board.classOf(c, i))).toBe(true);
  });

  test('are the same in whatever order they are asked, one by one or in rows', () => {
    for (const distinct of [3, 40]) {
      const rows = rowsOf(places);
      open(distinct).deal(rows);
      const backwards = open(distinct);
      for (const [n, [c, i]] of [...places.entries()].reverse()) {
        expect(backwards.printOf(c, i)).toBe(rows.print[n]);
        expect(rows.seed[n]).toBe(backwards.seedOf(c, i));
        expect(rows.material[n]).toBe(0);
      }
    }
  });

  test('the shuffle number changes them, and it alone', () => {
    const [a, b, c] = [open(50, { shuffle: 1 }), open(50, { shuffle: 1, tiltDeg: 3 }), open(50, { shuffle: 2 })];
    expect(places.every(([x, y]) => a.printOf(x, y) === b.printOf(x, y))).toBe(true);
    expect(places.filter(([x, y]) => a.printOf(x, y) !== c.printOf(x, y)).length).toBeGreaterThan(300);
    expect(a.seedOf(3, 4)).toBe(hash(1, 3, 4, 0));
  });
});

describe('pins and deals', () => {
  const pin = { course: 2, index: 3, print: 1, seed: 4711 };

  test('a pinned piece keeps print and seed under any shuffle; its neighbours still differ', () => {
    fc.assert(
      fc.property(fc.nat(1e6), fc.constantFrom(2, 3, 7, 31, 32, 40), (shuffle, distinct) => {
        const dealer = open(distinct, { shuffle, pins: [pin] });
        expect([dealer.printOf(2, 3), dealer.seedOf(2, 3)]).toEqual([1, 4711]);
        for (const [c, i] of [
          [1, 3],
          [3, 3],
          [2, 2],
          [2, 4],
        ] as const)
          if (distinct > 2 || board.classOf(c, i) === 0) expect(dealer.printOf(c, i)).not.toBe(1);
      }),
    );
  });

  test('a print that is no longer there is counted round', () => {
    expect(open(5, { pins: [{ ...pin, print: 12 }] }).printOf(2, 3)).toBe(2);
    expect(open(50, { pins: [{ ...pin, print: 112 }] }).printOf(2, 3)).toBe(12);
  });

  test('dealt again, that piece alone gets another chance', () => {
    const before = open(40);
    const again = open(40, { deals: [{ course: 2, index: 3, deal: 1 }] });
    const twice = open(40, { deals: [{ course: 2, index: 3, deal: 2 }] });
    expect(new Set([before, again, twice].map((d) => d.seedOf(2, 3))).size).toBe(3);
    for (const [c, i] of places) {
      if (c === 2 && i === 3) continue;
      expect(again.seedOf(c, i)).toBe(before.seedOf(c, i));
      expect(again.printOf(c, i)).toBe(before.printOf(c, i));
    }
    const rows = rowsOf([[2, 3]]);
    again.deal(rows);
    expect([rows.seed[0], rows.print[0]]).toEqual([again.seedOf(2, 3), again.printOf(2, 3)]);
  });

  test('with prints in plenty, a neighbour gives way to a print that is pinned', () => {
    // pinned to a print of the neighbours' own class
    for (const print of [0, 4, 38, 40]) {
      let gaveWay = 0;
      for (let shuffle = 0; shuffle < 300; shuffle++) {
        const bare = open(40, { shuffle });
        const dealer = open(40, { shuffle, pins: [{ ...pin, print }] });
        for (const [c, i] of [
          [1, 3],
          [3, 3],
          [2, 2],
          [2, 4],
        ] as const) {
          const own = dealer.printOf(c, i);
          expect(own).not.toBe(print % 40);
          // another of its own class, and only where it must
          expect(own % 2).toBe(0);
          expect(own).toBeLessThan(40);
          expect(own).toBeGreaterThanOrEqual(0);
          if (bare.printOf(c, i) === print % 40) gaveWay++;
          else expect(own).toBe(bare.printOf(c, i));
        }
      }
      expect(gaveWay).toBeGreaterThan(10);
    }
  });

  test('but not to one of another material', () => {
    const mix: MixSpec = { by: 'course', entries: [entry({ every: 2 })] };
    let same = 0;
    for (let shuffle = 0; shuffle < 200; shuffle++) {
      const dealer = open([40, 40], { shuffle, pins: [{ ...pin, print: 0 }] }, mix);
      const bare = open([40, 40], { shuffle }, mix);
      // the course above is of the main material, the pinned one of the other
      expect(dealer.printOf(3, 3)).toBe(bare.printOf(3, 3));
      if (dealer.printOf(3, 3) === 0) same++;
      expect(dealer.printOf(2, 4)).not.toBe(0);
    }
    expect(same).toBeGreaterThan(0);
  });

  test('two pins beside one piece: it takes neither', () => {
    const pins = [
      { course: 1, index: 3, print: 0, seed: 1 },
      { course: 2, index: 4, print: 2, seed: 2 },
    ];
    for (let shuffle = 0; shuffle < 300; shuffle++)
      for (const distinct of [5, 40]) {
        const dealer = open(distinct, { shuffle, pins });
        // (2, 3) touches both; its own class is the other one where prints are many
        expect([0, 2]).not.toContain(dealer.printOf(2, 3));
      }
  });

  test('pins of pieces elsewhere change nothing', () => {
    const [bare, pinned] = [open(40), open(40, { pins: [{ ...pin, course: 900 }] })];
    for (const [c, i] of places) expect(pinned.printOf(c, i)).toBe(bare.printOf(c, i));
  });
});

describe('mixes', () => {
  const share = (...shares: number[]): MixSpec => ({ by: 'share', entries: shares.map((s) => entry({ share: s })) });
  const countOf = (mix: MixSpec, shuffle = 1) => {
    const dealer = open([9, 9, 9], { shuffle }, mix);
    const counts = [0, 0, 0];
    for (let c = 0; c < 60; c++) for (let i = 0; i < 60; i++) counts[dealer.materialOf(c, i)]++;
    return counts.map((n) => n / 3600);
  };

  test('by share: each gets its share, the main material what is left', () => {
    const [main, first, second] = countOf(share(0.3, 0.2));
    expect(main).toBeCloseTo(0.5, 1);
    expect(first).toBeCloseTo(0.3, 1);
    expect(second).toBeCloseTo(0.2, 1);
    expect(countOf(share(0))).toEqual([1, 0, 0]);
    expect(countOf(share(1))[1]).toBe(1);
  });

  test('shares beyond the whole are drawn in proportion', () => {
    const [main, first, second] = countOf(share(0.5, 1));
    expect(main).toBe(0);
    expect(first).toBeCloseTo(1 / 3, 1);
    expect(second).toBeCloseTo(2 / 3, 1);
  });

  test('what is switched off is not laid, and numbers of the others stay', () => {
    const mix = share(0.5, 0.5);
    mix.entries[0].on = false;
    const [main, first, second] = countOf(mix);
    expect(first).toBe(0);
    expect(second).toBeCloseTo(0.5, 1);
    expect(main).toBeCloseTo(0.5, 1);
  });

  test('by course: every n-th, counted from the first, below it as well', () => {
    const dealer = open([9, 9, 9], {}, { by: 'course', entries: [entry({ every: 4, first: 1 }), entry({ every: 2 })] });
    const of = (course: number) => dealer.materialOf(course, 5);
    expect([-4, -3, -2, -1, 0, 1, 2, 3, 4, 5].map(of)).toEqual([2, 1, 2, 0, 2, 1, 2, 0, 2, 1]);
  });

  test('by role: the first entry that fits', () => {
    const entries = [entry({ role: 'closer' }), entry({ role: 'header' }), entry({ role: 'header' })];
    const dealer = open([9, 9, 9, 9], {}, { by: 'role', entries });
    expect([0, 1, 2, 3].map((c) => dealer.materialOf(c, 7))).toEqual([0, 2, 0, 2]);
  });

  test('a pinned piece keeps its material with its print', () => {
    const mix = share(0.4, 0.4);
    const seeds = [1, 2].map((shuffle) => {
      const dealer = open([9, 9, 9], { shuffle, pins: [{ course: 1, index: 1, print: 0, seed: 99 }] }, mix);
      return dealer.materialOf(1, 1);
    });
    expect(seeds[0]).toBe(seeds[1]);
  });

  test('each material deals its own prints; only those of one’s own kind must differ', () => {
    const dealer = open([3, 1], {}, { by: 'course', entries: [entry({ every: 2 })] });
    const rows = rowsOf(places);
    dealer.deal(rows);
    places.forEach(([c, i], n) => {
      const main = c % 2 !== 0;
      expect(rows.material[n]).toBe(main ? 0 : 1);
      expect(rows.print[n]).toBe(dealer.printOf(c, i));
      if (!main) expect(rows.print[n]).toBe(0);
      else expect(dealer.printOf(c, i + 1)).not.toBe(rows.print[n]);
    });
  });
});

describe('sequences and accents', () => {
  const letters = (mix: MixSpec, along: (k: number) => [number, number], count = 8) => {
    const dealer = open([99, 99, 99], {}, mix);
    return Array.from({ length: count }, (_, k) => 'ABC'[dealer.materialOf(...along(k))]).join('');
  };
  const mix = (rest: Partial<MixSpec>, ...entries: Partial<MixEntry>[]): MixSpec => ({
    ...noMix(),
    by: 'sequence',
    ...rest,
    entries: entries.map(entry),
  });

  test('A A B along a course, on both sides of the start; or from course to course', () => {
    const aab = mix({ times: 2 }, {});
    expect(letters(aab, (k) => [4, k])).toBe('AABAABAA');
    expect(letters(aab, (k) => [4, k - 3])).toBe('AABAABAA');
    expect(letters(aab, (k) => [k, 7])).toBe('AAAAAAAA');
    expect(letters({ ...aab, runs: 'across' }, (k) => [k, 7])).toBe('AABAABAA');
    expect(letters(mix({}, { times: 2 }, {}), (k) => [0, k])).toBe('ABBCABBC');
  });

  test('switched off, it keeps its place, and the main material fills it', () => {
    expect(letters(mix({}, { times: 2, on: false }, {}), (k) => [0, k])).toBe('AAACAAAC');
  });

  test('accents: one in so many, never nearer than asked, others after a shuffle', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 9, max: 80 }),
        fc.integer({ min: 0, max: 4 }),
        fc.nat(50),
        (oneIn, apart, shuffle) => {
          const rare = mix({ by: 'accent' }, { oneIn, apart });
          const dealer = open([99, 99], { shuffle }, rare);
          const found: [number, number][] = [];
          const side = 120;
          for (let c = -side / 2; c < side / 2; c++)
            for (let i = -side / 2; i < side / 2; i++) if (dealer.materialOf(c, i) === 1) found.push([c, i]);
          const high = Math.max(apart + 1, Math.floor(Math.sqrt(oneIn)));
          const block = high * Math.max(apart + 1, Math.round(oneIn / high));
          expect(Math.abs((found.length * block) / side ** 2 - 1)).toBeLessThan(0.25);
          let nearest = Infinity;
          for (const [c, i] of found)
            for (const [d, j] of found)
              if (c !== d || i !== j) nearest = Math.min(nearest, Math.max(Math.abs(c - d), Math.abs(i - j)));
          expect(nearest).toBeGreaterThan(apart);
        },
      ),
      { numRuns: 6 },
    );
    const where = (shuffle: number) => {
      const dealer = open([99, 99], { shuffle }, mix({ by: 'accent' }, {}));
      return places.map(([c, i]) => dealer.materialOf(c, i)).join('');
    };
    expect(where(1)).not.toBe(where(2));
    expect(where(1)).toBe(where(1));
  });
});
