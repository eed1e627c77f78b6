/** Halves of surrogate pairs: no characters, and nothing that could be stored. */
const HALVES = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;
/** As many as a name may have. */
const MOST = 200;

/**
 * A name that a file gives, as one of ours: text in one form (NFC), without control characters, no longer than names
 * may be.
 * @param otherwise where the file gives none, or something that is no text
 * @example nameFrom('  Oak\u0000floor ', 'Part') // 'Oak floor'
 */
export function nameFrom(given: unknown, otherwise: string): string {
  const text = typeof given === 'string' || typeof given === 'number' ? String(given) : '';
  const clean = text
    .replace(HALVES, '')
    .normalize('NFC')
    .replace(/[\u0000-\u001f\u007f-\u009f\u2028\u2029]+/g, ' ')
    .trim();
  return cutTo(clean, MOST) || otherwise;
}

/**
 * A name as that of a file, without its ending.
 * @example fileNameOf('Quay: fans', 'module') // 'quay-fans'
 */
export const fileNameOf = (name: string, otherwise: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '') || otherwise;

/** At most so many code units, and no character in halves. */
function cutTo(text: string, most: number): string {
  if (text.length <= most) return text;
  const cut = text.slice(0, most - 1).replace(/[\ud800-\udbff]$/, '');
  return `${cut.trimEnd()}…`;
}
