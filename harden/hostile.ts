/** A file that somebody sends who means no good, or whose disk went bad. */
export interface Hostile {
  what: string;
  files: Record<string, Uint8Array>;
  at: '/api/uploads' | '/api/images' | '/api/materials' | '/api/preps' | '/api/modules/read';
}

export type Random = () => number;
export const bytesOf = (text: string) => new TextEncoder().encode(text);
export const pick = <T>(random: Random, of: readonly T[]): T => of[Math.floor(random() * of.length)];

/** A few bytes otherwise, a piece missing, twice or from elsewhere: as files come from bad disks and worse people. */
export function mutate(random: Random, bytes: Uint8Array): Uint8Array {
  const out = Uint8Array.from(bytes);
  const at = () => Math.floor(random() * out.length);
  switch (Math.floor(random() * 5)) {
    case 0:
      for (let n = 0; n < 1 + random() * 12; n++) out[at()] = Math.floor(random() * 256);
      return out;
    case 1:
      return out.slice(0, at());
    case 2: {
      const [from, to] = [at(), at()].sort((a, b) => a - b);
      return Buffer.concat([out.slice(0, to), out.slice(from)]);
    }
    case 3:
      out.fill(pick(random, [0, 255, 0x20, 0x7f]), at(), at());
      return out;
    default: {
      // a large number where a small one was
      new DataView(out.buffer).setUint32(
        Math.min(at(), out.length - 4),
        pick(random, [0xffffffff, 0x7fffffff, 0x10000000, 0]),
        true,
      );
      return out;
    }
  }
}
