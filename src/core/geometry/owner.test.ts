import fc from 'fast-check';
import { ownerOf } from './owner';

test('is the one that a plain search finds, empty ones passed over', () => {
  fc.assert(
    fc.property(fc.array(fc.nat(4), { minLength: 1, maxLength: 30 }), fc.nat(), (sizes, any) => {
      const firsts = [0];
      for (const size of sizes) firsts.push(firsts.at(-1)! + size);
      fc.pre(firsts.at(-1)! > 0);
      const n = any % firsts.at(-1)!;
      expect(ownerOf(firsts, n)).toBe(sizes.findIndex((size, i) => n >= firsts[i] && n < firsts[i] + size));
    }),
  );
});
