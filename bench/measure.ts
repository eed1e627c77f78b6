/** One measured claim: what it took, what it is measured against in the same run, and the ratio allowed. */
export interface Row {
  name: string;
  value: number;
  unit: string;
  against: string;
  ratio: number | null;
  budget: number | null;
}

export function median(values: number[]): number {
  return [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
}

/** Warm-up: at least so many runs, then more until so much time has gone. */
const WARM_RUNS = 3;
const WARM_MS = 2000;

/**
 * Medians of a piece of work and of what it is measured against, run in turn so that a slow minute of the machine falls
 * on both. Both are warmed up first, as in a worker that has been at it for a while, and memory is collected once,
 * before: a collection forced between runs would throw compiled code away, which happens in no running program.
 */
export async function compare(
  work: () => unknown,
  reference: () => unknown,
  {
    runs = 7,
    after,
  }: { runs?: number; /** Puts things back after each run of the work, unmeasured. */ after?: () => unknown } = {},
): Promise<{ taken: number; base: number; ratio: number }> {
  global.gc?.();
  const start = performance.now();
  for (let i = 0; i < WARM_RUNS || performance.now() - start < WARM_MS; i++) {
    await reference();
    await work();
    await after?.();
  }
  const [taken, base]: [number[], number[]] = [[], []];
  for (let i = 0; i < runs; i++) {
    base.push(await once(reference));
    taken.push(await once(work));
    await after?.();
  }
  return { taken: median(taken), base: median(base), ratio: median(taken) / median(base) };
}

async function once(work: () => unknown): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

/** Median of some runs, ms. */
export async function time(work: () => unknown, runs = 7): Promise<number> {
  const taken: number[] = [];
  for (let i = 0; i < runs; i++) taken.push(await once(work));
  return median(taken);
}

/** Rows as they are measured: each is said as soon as it is known. */
export class Rows {
  readonly list: Row[] = [];

  /**
   * @param names of rows, or parts of them; none for all
   * @param say prints a line; nothing is said where it is null
   */
  constructor(
    private readonly names: readonly string[],
    private readonly say: ((line: string) => void) | null,
  ) {}

  wants(name: string): boolean {
    return !this.names.length || this.names.some((n) => name.toLowerCase().includes(n.toLowerCase()));
  }

  push(row: Row): void {
    this.list.push(row);
    const { name, value, unit, against, ratio, budget } = row;
    const number = `${value.toFixed(value < 10 ? 3 : 0)} ${unit}`.trim();
    if (ratio === null) return this.say?.(`${name}\n    ${number}`);
    const verdict = budget === null ? '' : `, budget ${budget} ×, ${ratio <= budget ? 'within' : 'OVER'}`;
    this.say?.(`${name}\n    ${number} against ${against}: ${ratio.toFixed(2)} ×${verdict}`);
  }
}
