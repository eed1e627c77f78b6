/** Longer than this no one reads in a list. */
const MOST = 110;

/**
 * What changed between two sentences of the same portion, clause by clause: `joints 2 mm → 3 mm`.
 * @returns null where they say the same, or too much to be read in a line
 * @example sayDifference('planks, joints 2 mm', 'planks, joints 3 mm') // 'joints 2 mm → 3 mm'
 */
export function sayDifference(before: string, after: string): string | null {
  if (before === after) return null;
  const [old, now] = [before.split(', '), after.split(', ')];
  const said =
    old.length === now.length
      ? old.flatMap((clause, i) => (clause === now[i] ? [] : [arrow(clause, now[i])])).join(', ')
      : arrow(before, after);
  return said.length > MOST ? null : said;
}

/** The words with which both begin are said once. */
function arrow(before: string, after: string): string {
  const [old, now] = [before.split(' '), after.split(' ')];
  let same = 0;
  while (same < Math.min(old.length, now.length) - 1 && old[same] === now[same]) same++;
  return `${before} → ${now.slice(same).join(' ')}`;
}
