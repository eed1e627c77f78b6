import { type DecimalSign, readDigits } from './digits';

/**
 * Lengths as people type them: any unit, sums, feet and inches.
 * Everything inside the program is millimetres; these two functions are the border.
 */

export type LengthUnit = 'mm' | 'cm' | 'm' | 'in' | 'ft-in';

export const MM_PER_INCH = 25.4;
export const MM_PER_FOOT = 304.8;

/** Millimetres in one of the unit that a bare number stands for. In feet-inch, a bare number is inches. */
export const MM_PER_UNIT: Record<LengthUnit, number> = {
  mm: 1,
  cm: 10,
  m: 1000,
  in: MM_PER_INCH,
  'ft-in': MM_PER_INCH,
};

const SPELLINGS: Record<string, number> = {
  mm: 1,
  cm: 10,
  dm: 100,
  m: 1000,
  km: 1_000_000,
  in: MM_PER_INCH,
  inch: MM_PER_INCH,
  inches: MM_PER_INCH,
  '"': MM_PER_INCH,
  '″': MM_PER_INCH,
  '”': MM_PER_INCH,
  ft: MM_PER_FOOT,
  foot: MM_PER_FOOT,
  feet: MM_PER_FOOT,
  "'": MM_PER_FOOT,
  '′': MM_PER_FOOT,
  '’': MM_PER_FOOT,
};

export type Parsed =
  | { ok: true; value: number }
  | {
      ok: false;
      error: string;
      /** It can be read in two ways: what a decimal point and what a decimal comma make of it. */
      either?: [point: number, comma: number];
    };

/** What a sum comes to, and what a name stands for: a plain number, or a length in millimetres. */
export interface Quantity {
  value: number;
  isLength: boolean;
}

/** What words in a sum stand for, besides units. */
export type Names = ReadonlyMap<string, Quantity>;
const NO_NAMES: Names = new Map();

/** What a name may look like: letters, digits and underscores, a letter first; no unit is a name. */
export const NAME = /^[\p{L}_][\p{L}\p{N}_]*$/u;
export const isUnitWord = (word: string): boolean =>
  [word, word.toLowerCase()].some((w) => Object.hasOwn(SPELLINGS, w));

/** The words of a sum that are no units. */
export const namesIn = (text: string): string[] =>
  [...text.matchAll(/[\p{L}_][\p{L}\p{N}_]*/gu)].map(([word]) => word).filter((word) => !isUnitWord(word));

class Mistake extends Error {}
/** What is typed can be read in two ways. */
class Ambiguous extends Mistake {}

type Token =
  | { kind: 'number'; value: number; text: string }
  | { kind: 'unit'; mm: number; text: string }
  | { kind: 'name'; of: Quantity; text: string }
  | { kind: 'sign'; text: string };

/** In groups of three parted by spaces (but not “3 100/128”), with signs among the digits, or beginning with one. */
const NUMBER = String.raw`\d{1,3}(?:[ \u00a0\u202f]\d{3})+(?:[.,]\d+)?(?!\d|\s*\/)|\d+(?:[.,]\d+)*|[.,]\d+`;

function tokenise(text: string, decimal: DecimalSign, names: Names): Token[] {
  const tokens: Token[] = [];
  const pattern = new RegExp(
    `\\s*(?:(${NUMBER})(?:[eE]([+-]?\\d+))?|([\\p{L}µ_][\\p{L}\\p{N}_]*|["″”'′’])|([-+*/()×÷−]))`,
    'uy',
  );
  let at = 0;
  const trimmed = text.trimEnd();
  while (at < trimmed.length) {
    pattern.lastIndex = at;
    const match = pattern.exec(trimmed);
    if (!match) throw new Mistake(`“${trimmed.slice(at).trim()}” is not understood`);
    at = pattern.lastIndex;
    const [, digits, exponent, word, sign] = match;
    if (digits !== undefined) {
      const read = readDigits(digits, decimal);
      if ('wrong' in read) throw new Mistake(read.wrong);
      if ('either' in read) {
        throw new Ambiguous(`“${digits}” can be ${read.either.join(' or ')}`);
      }
      const value = exponent ? read.value * 10 ** Number(exponent) : read.value;
      tokens.push({ kind: 'number', value, text: digits });
    } else if (word !== undefined) {
      const spelt = [word, word.toLowerCase()].find((w) => Object.hasOwn(SPELLINGS, w));
      const mm = spelt === undefined ? undefined : SPELLINGS[spelt];
      const named = mm === undefined ? names.get(word) : undefined;
      if (named) tokens.push({ kind: 'name', of: named, text: word });
      else if (mm !== undefined) tokens.push({ kind: 'unit', mm, text: word });
      else {
        const known = names.size ? ', and no value of this project' : '';
        throw new Mistake(`“${word}” is not a unit${known}; use mm, cm, m, in, ft, ' or "`);
      }
    } else {
      const plain = sign.replace('×', '*').replace('÷', '/').replace('−', '-');
      tokens.push({ kind: 'sign', text: plain });
    }
  }
  return tokens;
}

/** Recursive descent over the tokens; bare numbers meet lengths in `unitMm`. */
function evaluate(tokens: Token[], unitMm: number | null): Quantity {
  let at = 0;
  const peekSign = (text: string) => {
    const token = tokens[at];
    return token?.kind === 'sign' && token.text === text;
  };
  const asLength = (q: Quantity): number => {
    if (q.isLength) return q.value;
    if (unitMm === null) throw new Mistake('a length cannot be added to a plain number here');
    return q.value * unitMm;
  };

  /** `7'6"`, `5 ft 3 1/2 in`, `1.2 m`, `75`: numbers with units, written side by side. */
  function measure(): Quantity {
    let total = 0;
    let isLength = false;
    let previousMm = Infinity;
    for (;;) {
      const number = tokens[at];
      if (number?.kind !== 'number') break;
      let value = number.value;
      let next = at + 1;
      // a fraction after a whole number: 3 1/2"
      const [numerator, slash, denominator] = tokens.slice(next, next + 3);
      if (
        numerator?.kind === 'number' &&
        slash?.kind === 'sign' &&
        slash.text === '/' &&
        denominator?.kind === 'number'
      ) {
        value += numerator.value / denominator.value;
        next += 3;
      }
      const unit = tokens[next];
      if (unit?.kind === 'unit') {
        if (unit.mm >= previousMm) throw new Mistake(`“${unit.text}” cannot follow here`);
        previousMm = unit.mm;
        total += value * unit.mm;
        isLength = true;
        at = next + 1;
        continue;
      }
      if (isLength) {
        // 7'6 means seven foot six
        if (previousMm !== MM_PER_FOOT) throw new Mistake('a sign is missing between two numbers');
        total += value * MM_PER_INCH;
        at = next;
        break;
      }
      at = next;
      return { value, isLength: false };
    }
    return { value: total, isLength };
  }

  function factor(): Quantity {
    if (peekSign('-')) {
      at++;
      const q = factor();
      return { ...q, value: -q.value };
    }
    if (peekSign('+')) {
      at++;
      return factor();
    }
    if (peekSign('(')) {
      at++;
      const inner = sum();
      if (!peekSign(')')) throw new Mistake('a closing bracket is missing');
      at++;
      const unit = tokens[at];
      if (unit?.kind === 'unit' && !inner.isLength) {
        at++;
        return { value: inner.value * unit.mm, isLength: true };
      }
      return inner;
    }
    const name = tokens[at];
    if (name?.kind === 'name') {
      at++;
      return name.of;
    }
    if (tokens[at]?.kind !== 'number') {
      const token = tokens[at];
      throw new Mistake(token ? `a number is expected before “${token.text}”` : 'the sum ends too early');
    }
    return measure();
  }

  function product(): Quantity {
    let left = factor();
    for (;;) {
      if (peekSign('*')) {
        at++;
        const right = factor();
        if (left.isLength && right.isLength) throw new Mistake('two lengths cannot be multiplied here');
        left = { value: left.value * right.value, isLength: left.isLength || right.isLength };
      } else if (peekSign('/')) {
        at++;
        const right = factor();
        if (right.value === 0) throw new Mistake('division by zero');
        if (right.isLength && !left.isLength) throw new Mistake('a number cannot be divided by a length here');
        left = { value: left.value / right.value, isLength: left.isLength && !right.isLength };
      } else return left;
    }
  }

  function sum(): Quantity {
    let left = product();
    while (peekSign('+') || peekSign('-')) {
      const sign = peekSign('+') ? 1 : -1;
      at++;
      const right = product();
      left =
        left.isLength || right.isLength
          ? { value: asLength(left) + sign * asLength(right), isLength: true }
          : { value: left.value + sign * right.value, isLength: false };
    }
    return left;
  }

  const result = sum();
  if (at < tokens.length) throw new Mistake(`“${tokens[at].text}” is not expected here`);
  return result;
}

/** @param sign that parts decimals, or null: then what can be read in two ways is given both ways */
function attempt(work: (sign: DecimalSign) => number, sign: DecimalSign): Parsed {
  try {
    const value = work(sign);
    if (!Number.isFinite(value)) return { ok: false, error: 'the result is not a finite number' };
    return { ok: true, value };
  } catch (error) {
    if (error instanceof Ambiguous) {
      const [point, comma] = (['.', ','] as const).map((s) => attempt(work, s));
      if (point.ok && comma.ok) return { ok: false, error: error.message, either: [point.value, comma.value] };
    }
    if (error instanceof Mistake) return { ok: false, error: error.message };
    throw error;
  }
}

/**
 * Reads a length. Bare numbers are in `unit`.
 * @param sign that parts decimals; null where nobody has said which
 * @returns millimetres, or what is wrong with the text
 * @example parseLength('3*75+10', 'mm') // { ok: true, value: 235 }
 * @example parseLength(`7'6"`, 'm')     // { ok: true, value: 2286 }
 */
export function parseLength(text: string, unit: LengthUnit, sign: DecimalSign = '.', names: Names = NO_NAMES): Parsed {
  if (!text.trim()) return { ok: false, error: 'a length is missing' };
  return attempt((by) => {
    const q = evaluate(tokenise(text, by, names), MM_PER_UNIT[unit]);
    return q.isLength ? q.value : q.value * MM_PER_UNIT[unit];
  }, sign);
}

/** The two sides of a size as they are written; an x within a word parts nothing. */
export const sidesOf = (text: string): string[] =>
  text.trim().split(/\s*(?:\bby\b|(?<![\p{L}_])[xX](?![\p{L}_])|×)\s*/u);

/**
 * Reads two lengths parted by `x`, `×` or `by`, as trades write sizes: `1200 x 190`; one alone is a square.
 * @returns [width, height] in millimetres
 * @example parseSize('120 x 19 mm', 'cm') // { ok: true, value: [1200, 19] }
 */
export function parseSize(
  text: string,
  unit: LengthUnit,
  sign: DecimalSign = '.',
  names: Names = NO_NAMES,
): { ok: true; value: [number, number] } | { ok: false; error: string } {
  const sides = sidesOf(text);
  if (sides.length > 2) return { ok: false, error: 'two lengths are expected, such as 1200 x 190' };
  const [width, height = width] = sides.map((side) => parseLength(side, unit, sign, names));
  if (!width.ok) return width;
  if (!height.ok) return height;
  return { ok: true, value: [width.value, height.value] };
}

/** Reads a plain number or a sum of plain numbers. Lengths are refused. */
export function parseNumber(text: string, sign: DecimalSign = '.', names: Names = NO_NAMES): Parsed {
  if (!text.trim()) return { ok: false, error: 'a number is missing' };
  return attempt((by) => {
    const q = evaluate(tokenise(text, by, names), null);
    if (q.isLength) throw new Mistake('a number without a unit is expected');
    return q.value;
  }, sign);
}

/**
 * Reads an angle in degrees; a degree sign or “deg” may follow.
 * @example parseAngle('45 + 22.5°') // { ok: true, value: 67.5 }
 */
export function parseAngle(text: string, sign: DecimalSign = '.', names: Names = NO_NAMES): Parsed {
  return parseNumber(text.replace(/(°|deg(rees)?)\s*$/i, ''), sign, names);
}

const DECIMALS: Record<Exclude<LengthUnit, 'ft-in'>, number> = { mm: 2, cm: 3, m: 4, in: 3 };

/**
 * Reads a sum that may come to a length or to a plain number, as a value of its own does. Bare numbers among lengths
 * are in `unit`; a sum of bare numbers alone is a number.
 */
export function parseQuantity(
  text: string,
  unit: LengthUnit,
  sign: DecimalSign,
  names: Names,
): { ok: true; of: Quantity } | { ok: false; error: string } {
  if (!text.trim()) return { ok: false, error: 'a value is missing' };
  let of: Quantity = { value: 0, isLength: false };
  const parsed = attempt((by) => (of = evaluate(tokenise(text, by, names), MM_PER_UNIT[unit])).value, sign);
  return parsed.ok ? { ok: true, of } : { ok: false, error: parsed.error };
}

/**
 * Trims a number to at most `decimals` places without trailing zeros; never “-0”.
 * @example trimNumber(-0.004, 2) // '0'
 */
export function trimNumber(value: number, decimals: number): string {
  const text = value.toFixed(decimals);
  const trimmed = text.includes('.') ? text.replace(/\.?0+$/, '') : text;
  return trimmed === '-0' ? '0' : trimmed;
}

const gcd = (a: number, b: number): number => (b ? gcd(b, a % b) : a);

function formatFeet(mm: number): string {
  const sign = mm < 0 ? '-' : '';
  const inches = Math.abs(mm) / MM_PER_INCH;
  const sixteenths = Math.round(inches * 16);
  // what is not a sixteenth to a thousandth of an inch is shown in decimals, so that nothing is rounded away
  if (Math.abs(inches * 16 - sixteenths) > 0.016) {
    const feet = Math.floor(inches / 12);
    const rest = trimNumber(inches - feet * 12, 3);
    return sign + (feet ? `${feet}' ${rest}"` : `${rest}"`);
  }
  const feet = Math.floor(sixteenths / 192);
  const whole = Math.floor((sixteenths - feet * 192) / 16);
  const part = sixteenths % 16;
  const divisor = gcd(part, 16);
  const fraction = part ? `${part / divisor}/${16 / divisor}` : '';
  const inchText = [whole || !fraction ? String(whole) : '', fraction].filter(Boolean).join(' ');
  if (!feet) return `${sign}${inchText}"`;
  return `${sign}${feet}'` + (whole || fraction ? ` ${inchText}"` : '');
}

export interface LengthFormat {
  /** Write the unit behind the number. Default true; feet and inches always carry theirs. */
  withUnit?: boolean;
  /** Most decimals; the default keeps 0.01 mm or finer. */
  decimals?: number;
}

/**
 * Writes millimetres in `unit`. What it writes, `parseLength` reads back to within 0.05 mm.
 * @example formatLength(2286, 'ft-in') // `7' 6"`
 * @example formatLength(1234.5, 'm', { decimals: 2 }) // '1.23 m'
 */
export function formatLength(mm: number, unit: LengthUnit, format: LengthFormat = {}): string {
  if (!Number.isFinite(mm)) return '–';
  if (unit === 'ft-in') return formatFeet(mm);
  const text = trimNumber(mm / MM_PER_UNIT[unit], format.decimals ?? DECIMALS[unit]);
  return (format.withUnit ?? true) ? `${text} ${unit}` : text;
}

/** Writes an area given in square millimetres: square metres, or square feet for inch users. */
export function formatArea(mm2: number, unit: LengthUnit): string {
  if (unit === 'in' || unit === 'ft-in') return `${trimNumber(mm2 / MM_PER_FOOT ** 2, 2)} sq ft`;
  return `${trimNumber(mm2 / 1e6, 2)} m²`;
}
