import { type Static, Type } from '@sinclair/typebox';
import type { Vec2 } from '../../geometry/vec';
import { Side } from '../../schema/sizes';
import { chordsOf, grout, lengthOf, pattern } from '../pattern';
import type { PeriodCell } from '../period';

export const FansLayout = Type.Object({
  kind: Type.Literal('fans'),
  /** Side of a sett. */
  settMm: Side,
  /** From one fan’s middle to the next, with their joints. */
  spanMm: Side,
});
type FansLayout = Static<typeof FansLayout>;

/** Rings to a fan: of more, setts are larger. */
const MOST_RINGS = 12;
/** Where the fans beside it reach in to the middle of their outlines, in radii of a fan: √2 − 1. */
const WAIST = Math.SQRT2 - 1;

/**
 * Setts in fans, as fish scales overlap: each fan a half round above two hollows, its setts in rings about its middle.
 * Rings run full round as far as the hollows leave room; beyond that in an arch above, and in a tail below.
 */
export const fans = pattern<FansLayout>({
  kind: 'fans',
  label: 'Setts in fans',
  trade: 'stone',
  also: ['scallops', 'cobbles', 'street', 'paving', 'scales'],
  schema: FansLayout,
  first: { settMm: 90, spanMm: 1500 },
  joint: { ...grout(8), colour: '#8d8473', recessMm: 4, roundingMm: 6 },
  formats: [
    { label: 'Setts of 90, fans of 1500', spec: {} },
    { label: 'Small setts of 60, fans of 1000', spec: { settMm: 60, spanMm: 1000 } },
    { label: 'Large setts of 140, fans of 2400', spec: { settMm: 140, spanMm: 2400 } },
  ],
  roles: ['sett', 'middle'],
  size: null,
  lengths: ['settMm', 'spanMm'],
  fields: [lengthOf('Sett', 'settMm'), lengthOf('Fan', 'spanMm')],
  describe: (s, size) => `setts of ${size(s.settMm)} in fans of ${size(s.spanMm)}`,
  period({ settMm, spanMm }, { acrossMm: joint }) {
    const r = spanMm / 2;
    return { right: [spanMm, 0], up: [r, r], cells: new Fan(r, settMm + joint).cells() };
  },
});

/** A fan about 0, 0. Rounds are chords between the same directions in every ring and every fan, so that all fit. */
class Fan {
  /** Chords to a full round: by eights, so that fans meet in corners of both. */
  private readonly chords: number;
  private readonly step: number;
  /** Rings round a middle of half a sett. */
  private readonly rings: number;
  private readonly ring: number;
  private readonly sett: number;

  constructor(
    private readonly r: number,
    sett: number,
  ) {
    this.chords = 8 * Math.ceil(chordsOf(r, 45));
    this.step = (2 * Math.PI) / this.chords;
    this.rings = Math.min(MOST_RINGS, Math.max(1, Math.round(r / sett - 0.5)));
    this.ring = r / (this.rings + 0.5);
    this.sett = Math.max(sett, this.ring);
  }

  cells(): PeriodCell[] {
    const centre = Array.from({ length: this.chords }, (_, k) => this.at(this.ring / 2, k * this.step)).flat();
    const out: PeriodCell[] = [{ role: 'middle', cell: centre }];
    // a tail narrower than half a sett goes with the one before
    let tailTo = this.rings;
    while (tailTo > 1 && this.tailWidth(this.inner(tailTo - 1)) < 0.5 * this.sett) tailTo--;
    for (let k = 0; k < this.rings; k++) {
      const [from, to] = [this.inner(k), this.inner(k + 1)];
      out.push(...this.row(from, to, 'arch'));
      if (k < tailTo) out.push(...this.row(from, k === tailTo - 1 ? this.r : to, 'tail'));
    }
    return out;
  }

  /** Where a ring begins, counted from the middle. */
  private inner(k: number): number {
    return k === this.rings ? this.r : this.ring * (k + 0.5);
  }

  /** A place of the round of a radius: on the chord in this direction. */
  private at(radius: number, angle: number): Vec2 {
    const sector = Math.floor(angle / this.step + 1e-9);
    const off = angle - (sector + 0.5) * this.step;
    const d = (radius * Math.cos(this.step / 2)) / Math.cos(off);
    return [d * Math.cos(angle), d * Math.sin(angle)];
  }

  /** Of which round a place is. */
  private radiusOf([x, y]: Vec2): number {
    const angle = Math.atan2(y, x);
    const off = angle - (Math.floor(angle / this.step + 1e-9) + 0.5) * this.step;
    return (Math.hypot(x, y) * Math.cos(off)) / Math.cos(this.step / 2);
  }

  /** A corner of the fan below to the right, whose top is this one’s hollow; counted from its waist, outwards. */
  private hollow(n: number, which: 'arch' | 'tail'): Vec2 {
    const eighth = this.chords / 8;
    const angle = (3 * Math.PI) / 4 + (which === 'arch' ? -n : n) * this.step;
    if (n === eighth) return which === 'arch' ? [this.r, 0] : [0, -this.r];
    return [this.r + this.r * Math.cos(angle), -this.r + this.r * Math.sin(angle)];
  }

  /** From the waist outwards along the hollow, between two radii, both ends with it. */
  private side(from: number, to: number, which: 'arch' | 'tail'): Vec2[] {
    const waist = this.hollow(0, which);
    const ray = -Math.PI / 4;
    if (to <= WAIST * this.r) return [this.at(from, ray), this.at(to, ray)];
    const out: Vec2[] = from <= WAIST * this.r ? [this.at(from, ray), waist] : [];
    let before = waist;
    for (let n = 1; n <= this.chords / 8; n++) {
      const next = this.hollow(n, which);
      const [a, b] = [this.radiusOf(before), this.radiusOf(next)];
      if (a < from - 1e-9 && b > from + 1e-9) out.push(this.meet(before, next, from));
      else if (Math.abs(a - from) <= 1e-9 && !out.length) out.push(before);
      if (b > to + 1e-9) {
        out.push(this.meet(before, next, to));
        return out;
      }
      if (b > from + 1e-9) out.push(next);
      if (Math.abs(b - to) <= 1e-9) return out;
      before = next;
    }
    return out;
  }

  /** Where a line outwards crosses a round. */
  private meet(inner: Vec2, outer: Vec2, radius: number): Vec2 {
    let [low, high] = [0, 1];
    const on = (t: number): Vec2 => [inner[0] + t * (outer[0] - inner[0]), inner[1] + t * (outer[1] - inner[1])];
    for (let n = 0; n < 60; n++) {
      const t = (low + high) / 2;
      if (this.radiusOf(on(t)) < radius) low = t;
      else high = t;
    }
    return on(low);
  }

  /** How wide the tail is at a radius. */
  private tailWidth(radius: number): number {
    const [first] = this.side(radius, this.r, 'tail');
    return 2 * Math.abs(first[0]);
  }

  /** The setts of one ring: those above the waist, or those below. */
  private row(from: number, to: number, which: 'arch' | 'tail'): PeriodCell[] {
    const right = this.side(from, to, which);
    const left = right.map(([x, y]): Vec2 => [-x, y]);
    const angleOf = ([x, y]: Vec2) => Math.atan2(y, x);
    // counter-clockwise from side to side
    const [first, last] = which === 'arch' ? [right, left] : [left, right];
    const turn = (a: number) => (which === 'tail' || a > -Math.PI / 2 - 1e-9 ? a : a + 2 * Math.PI);
    const ends = (k: number) => [turn(angleOf(first[k])), turn(angleOf(last[k]))] as const;
    const [inner, outer] = [ends(0), ends(right.length - 1)];
    const middle = (inner[1] - inner[0] + outer[1] - outer[0]) / 2;
    const count = Math.max(1, Math.round((middle * (from + Math.min(to, from + this.ring))) / 2 / this.sett));
    // joints stand upright on the ring: as even as the narrower of its two ends allows
    const start = Math.max(inner[0], outer[0]);
    const end = Math.min(inner[1], outer[1]);
    const cut = (k: number) => start + ((end - start) * k) / count;
    const chain = (radius: number, a: number, b: number): Vec2[] => {
      const out: Vec2[] = [];
      for (let s = Math.floor(a / this.step + 1e-6) + 1; s * this.step < b - 1e-6 * this.step; s++)
        out.push(this.at(radius, s * this.step));
      return out;
    };
    return Array.from({ length: count }, (_, k): PeriodCell => {
      const isFirst = k === 0;
      const isLast = k === count - 1;
      const [i0, o0] = isFirst ? [inner[0], outer[0]] : [cut(k), cut(k)];
      const [i1, o1] = isLast ? [inner[1], outer[1]] : [cut(k + 1), cut(k + 1)];
      const begin = isFirst ? first : [this.at(from, i0), this.at(to, o0)];
      const close = isLast ? last : [this.at(from, i1), this.at(to, o1)];
      const corners = [...begin, ...chain(to, o0, o1), ...[...close].reverse(), ...chain(from, i0, i1).reverse()];
      const deg = (((i0 + i1 + o0 + o1) / 4) * 180) / Math.PI - 90;
      return { role: 'sett', deg, cell: withoutTwice(corners).flat() };
    });
  }
}

/** The tip of a tail is one corner. */
const withoutTwice = (corners: readonly Vec2[]): Vec2[] =>
  corners.filter((p, n) => {
    const next = corners[(n + 1) % corners.length];
    return Math.hypot(next[0] - p[0], next[1] - p[1]) > 1e-6;
  });
