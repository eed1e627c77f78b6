'use client';

import { Bar, BarChart, ResponsiveContainer, XAxis } from 'recharts';
import type { PrepRun } from '@/workers/prep.worker';
import { ValueField } from '../../shared/ValueField';
import { length, type Of, share } from './common';

/** Large differences of light and colour taken away. */
export function EvenFields({ step: s, onChange }: Of<'even'>) {
  return (
    <div className="grid grid-cols-3 gap-1.5">
      {length('Larger than', s.radiusMm, (radiusMm, g) => onChange({ ...s, radiusMm }, g), 1)}
      {share('Lightness', s.lightness, (lightness, g) => onChange({ ...s, lightness }, g))}
      {share('Colour', s.colour, (c, g) => onChange({ ...s, colour: c }, g))}
    </div>
  );
}

export function ColourFields({ step: s, run, onChange }: Of<'colour'>) {
  return (
    <>
      <div className="grid grid-cols-4 gap-1.5">
        <ValueField
          label="Exposure"
          kind="number"
          suffix=" st"
          step={0.1}
          min={-6}
          max={6}
          value={s.exposure}
          onChange={(exposure, g) => onChange({ ...s, exposure }, g)}
        />
        <ValueField
          label="Warmth"
          kind="number"
          step={0.1}
          min={-2}
          max={2}
          value={s.warmth}
          onChange={(warmth, g) => onChange({ ...s, warmth }, g)}
        />
        <ValueField
          label="Saturation"
          kind="number"
          step={0.1}
          min={0}
          max={3}
          value={s.saturation}
          onChange={(saturation, g) => onChange({ ...s, saturation }, g)}
        />
        <ValueField
          label="Hue"
          kind="angle"
          min={-180}
          max={180}
          value={s.hueDeg}
          onChange={(hueDeg, g) => onChange({ ...s, hueDeg }, g)}
        />
      </div>
      {run && <Histogram run={run} />}
      <div className="grid grid-cols-3 gap-1.5">
        {share('Black at', s.black, (black, g) => onChange({ ...s, black }, g))}
        {share('White at', s.white, (white, g) => onChange({ ...s, white }, g))}
        <ValueField
          label="Gamma"
          kind="number"
          step={0.05}
          min={0.1}
          max={10}
          value={s.gamma}
          onChange={(gamma, g) => onChange({ ...s, gamma }, g)}
        />
      </div>
    </>
  );
}

function Histogram({ run }: { run: PrepRun }) {
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
