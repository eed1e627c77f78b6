/** One measured claim: what it took, what it is measured against in the same run, and the ratio allowed. */
export interface Row {
  name: string;
  value: number;
  unit: string;
  against: string;
  ratio: number | null;
  budget: number | null;
}

function median(values: number[]): number {
  return [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
}

/** Median of some runs, ms. */
export async function time(work: () => unknown, runs = 7): Promise<number> {
  const taken: number[] = [];
  for (let i = 0; i < runs; i++) {
    global.gc?.();
    const start = performance.now();
    await work();
    taken.push(performance.now() - start);
  }
  return median(taken);
}
