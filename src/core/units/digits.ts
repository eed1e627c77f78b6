/** Which sign parts decimals for someone; null where they have not said. */
export type DecimalSign = '.' | ',' | null;

/** A number as people type it, or what is wrong with it. */
export type Digits = { value: number } | { wrong: string } | { either: [point: number, comma: number] };

/** Digits in groups of three, parted by one sign. */
const grouped = (text: string, sign: string): boolean =>
  new RegExp(`^[1-9]\\d{0,2}(${sign === '.' ? '\\.' : sign}\\d{3})+$`).test(text);

/**
 * Reads digits with decimals and groups of thousands, as both halves of the world write them. What can be read in one
 * way only is read so: `1,25`, `0,125`, `1,234.5`, `1.234,5`, `1 234`. Of `1,200` and `1.200` the sign that parts
 * decimals decides; to someone who has not said which it is, a point parts decimals, as it does wherever the program
 * writes, and a comma may be either.
 * @example readDigits('1,234.5', null) // { value: 1234.5 }
 */
export function readDigits(typed: string, sign: DecimalSign): Digits {
  const text = typed.replace(/[\s\u00a0\u202f]/g, '');
  const used = [...new Set(text.match(/[.,]/g))];
  const plain = (decimal: string) => Number(text.replaceAll(decimal === '.' ? ',' : '.', '').replace(decimal, '.'));
  if (!used.length) return { value: Number(text) };
  if (used.length === 2) {
    const decimal = text.lastIndexOf('.') > text.lastIndexOf(',') ? '.' : ',';
    const [whole, ...rest] = text.split(decimal);
    const group = decimal === '.' ? ',' : '.';
    return rest.length === 1 && grouped(whole, group)
      ? { value: plain(decimal) }
      : { wrong: `“${typed}” is no number` };
  }
  const [only] = used;
  const times = text.split(only).length - 1;
  if (times > 1)
    return grouped(text, only) ? { value: Number(text.replaceAll(only, '')) } : { wrong: `“${typed}” is no number` };
  const asDecimal = Number(text.replace(only, '.'));
  if (!grouped(text, only)) return { value: asDecimal };
  const asGroup = Number(text.replace(only, ''));
  if (sign) return { value: sign === only ? asDecimal : asGroup };
  return only === '.' ? { value: asDecimal } : { either: [asGroup, asDecimal] };
}
