/** As many points as are compared one by one. */
const LEAF = 12;
/** As many tell along which dimension all spread. */
const ENOUGH = 256;

/**
 * Points of many dimensions, ordered so that the nearest is found without looking at all: a k-d tree, halved along the
 * dimension in which its points spread most (J. L. Bentley, 1975; J. H. Friedman, J. L. Bentley, R. A. Finkel, 1977).
 */
export class Nearest {
  /** Points in the tree's order: a node's stand side by side. */
  private readonly order: Int32Array;
  private readonly sorted: Float32Array;
  /** Of the node that begins a half: along what it was halved, and where. */
  private readonly along: Uint8Array;
  private readonly at: Float32Array;

  /** @param numbers of each point in turn, `size` of them: no more than 255 */
  constructor(
    numbers: Float32Array,
    private readonly size: number,
  ) {
    const count = numbers.length / size;
    this.order = Int32Array.from({ length: count }, (_, i) => i);
    this.along = new Uint8Array(count);
    this.at = new Float32Array(count);
    this.halve(numbers, 0, count);
    this.sorted = new Float32Array(numbers.length);
    this.order.forEach((p, i) => this.sorted.set(numbers.subarray(p * size, (p + 1) * size), i * size));
  }

  private halve(numbers: Float32Array, from: number, to: number): void {
    if (to - from <= LEAF) return;
    const { size, order } = this;
    // some of many tell where they spread
    const every = Math.ceil((to - from) / ENOUGH);
    let widest = 0;
    let spread = -1;
    for (let k = 0; k < size; k++) {
      let [sum, squares, n] = [0, 0, 0];
      for (let i = from; i < to; i += every, n++) {
        const v = numbers[order[i] * size + k];
        sum += v;
        squares += v * v;
      }
      const variance = squares - (sum * sum) / n;
      if (variance > spread) [widest, spread] = [k, variance];
    }
    const middle = (from + to) >> 1;
    this.select(numbers, widest, from, to - 1, middle);
    this.along[middle] = widest;
    this.at[middle] = numbers[order[middle] * size + widest];
    this.halve(numbers, from, middle);
    this.halve(numbers, middle, to);
  }

  /** Orders points along a dimension: none before the middle is greater, none after it less (C. Hoare, 1961). */
  private select(numbers: Float32Array, dimension: number, low: number, high: number, middle: number): void {
    const { size, order } = this;
    while (low < high) {
      const pivot = numbers[order[(low + high) >> 1] * size + dimension];
      let [i, j] = [low, high];
      while (i <= j) {
        while (numbers[order[i] * size + dimension] < pivot) i++;
        while (numbers[order[j] * size + dimension] > pivot) j--;
        if (i > j) break;
        const swapped = order[i];
        order[i++] = order[j];
        order[j--] = swapped;
      }
      if (middle <= j) high = j;
      else if (middle >= i) low = i;
      else return;
    }
  }

  /**
   * Square of the distance to the nearest point that is looked at.
   *
   * @param counts tells whether a point does, asked only of those nearer than any before
   * @param enough a point at no more than this will do: it need not be the nearest
   */
  distance(own: Float32Array, counts: (point: number) => boolean, enough = -1): number {
    const { size, order, sorted, along, at } = this;
    let least = Infinity;
    const away = new Float32Array(size);
    const look = (from: number, to: number, apart: number): void => {
      if (to - from <= LEAF) {
        for (let i = from; i < to; i++) {
          const o = i * size;
          let sum = 0;
          for (let k = 0; k < size && sum < least; k++) {
            const d = own[k] - sorted[o + k];
            sum += d * d;
          }
          if (sum < least && counts(order[i])) least = sum;
          if (least <= enough) return;
        }
        return;
      }
      const middle = (from + to) >> 1;
      const k = along[middle];
      const side = own[k] - at[middle];
      const before = away[k];
      const further = apart - before * before + side * side;
      if (side < 0) look(from, middle, apart);
      else look(middle, to, apart);
      if (further >= least || least <= enough) return;
      away[k] = side;
      if (side < 0) look(middle, to, further);
      else look(from, middle, further);
      away[k] = before;
    };
    look(0, order.length, 0);
    return least;
  }
}
