/** What a file's own words say: comments, the name of what wrote it. */
export interface Said {
  /** The unit named outright, as “units: mm”. */
  unit: 'mm' | 'cm' | 'm' | 'in' | 'ft' | null;
  /** What programs of this name write unless they are told otherwise. */
  usual: { unit: 'mm' | 'cm' | 'm' | 'in' | 'ft'; by: string } | null;
  up: 'y' | 'z' | null;
}

const WORDS: [Exclude<Said['unit'], null>, RegExp][] = [
  ['mm', /^(mm|millimet(er|re)s?|millimeter)$/],
  ['cm', /^(cm|centimet(er|re)s?)$/],
  ['in', /^(in|inch|inches|zoll|")$/],
  ['ft', /^(ft|foot|feet)$/],
  ['m', /^(m|met(er|re)s?)$/],
];

/** Free programs that write meshes, by what they call themselves, and the unit they write unless told otherwise. */
const WRITERS: [RegExp, Exclude<Said['unit'], null>][] = [
  [/\bblender\b/i, 'm'],
  [/\bfreecad\b/i, 'mm'],
  [/\bopenscad\b/i, 'mm'],
  [/\bkicad\b/i, 'mm'],
  [/\bcad\b/i, 'mm'],
  [/\bbim\b|\bifc\b/i, 'm'],
];

/**
 * Reads a file's comments.
 * @example heard('# File units = millimeters').unit // 'mm'
 */
export function heard(notes: string): Said {
  const named =
    /\bunits?\b\s*(?:of\s+\w+\s*)?(?:[:=]|is|are|in)?\s*["'(]?(?:1\s*)?([a-z]+)/i.exec(notes)?.[1] ??
    /\b(?:in|all)\s+(millimet(?:er|re)s?|centimet(?:er|re)s?|met(?:er|re)s?|inches|feet|mm|cm)\b/i.exec(notes)?.[1];
  const unit = named ? (WORDS.find(([, word]) => word.test(named.toLowerCase()))?.[0] ?? null) : null;
  const writer = WRITERS.find(([name]) => name.test(notes));
  const up =
    /\b([yz])[\s-]*(?:axis\s*)?(?:is\s*)?up\b/i.exec(notes)?.[1] ??
    /\bup\b\s*(?:axis)?\s*[:=]\s*([yz])\b/i.exec(notes)?.[1];
  return {
    unit,
    usual: writer ? { unit: writer[1], by: writer[0].exec(notes)![0] } : null,
    up: (up?.toLowerCase() as 'y' | 'z' | undefined) ?? null,
  };
}
