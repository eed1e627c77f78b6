'use client';

import { Bar, BarChart, ResponsiveContainer, XAxis } from 'recharts';
import type { Of } from './of';

/** How much of the picture is how light. */
export function Histogram({ run }: Of<'colour'>) {
  if (!run) return null;
  const { red, green, blue } = run.histogram;
  const data = red.map((r, i) => ({
    at: Math.round((i / red.length) * 100),
    count: Math.sqrt(r + green[i] + blue[i]),
  }));
  return (
    <div className="h-14" role="img" aria-label="How many pixels have each lightness">
      <ResponsiveContainer width="100%" height="100%">
        <BarChart data={data} margin={{ top: 2, right: 0, bottom: 0, left: 0 }} barCategoryGap={0}>
          <XAxis dataKey="at" hide />
          <Bar dataKey="count" fill="var(--color-secondary)" isAnimationActive={false} />
        </BarChart>
      </ResponsiveContainer>
    </div>
  );
}
