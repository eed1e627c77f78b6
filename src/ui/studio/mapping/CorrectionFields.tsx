'use client';

import { X } from 'lucide-react';
import type { SheetSummary } from '@/core/mapping/sheet';
import { type CorrectionSpec, corrects, noCorrection, type Pull } from '@/core/mapping/correctionSchema';
import type { MappingSpec } from '@/core/mapping/schema';
import { formatLength, type LengthUnit } from '@/core/units/length';
import { useSelection } from '../../project/selection';
import type { OnEach } from '../../shared/FieldView';
import { MIXED, ValueField } from '../../shared/ValueField';

/** What is set right by hand on the sheet, and what it costs. */
export function CorrectionFields({
  mappings,
  sheet,
  unit,
  onEach,
}: {
  /** Of all that is picked, the first picked first. */
  mappings: MappingSpec[];
  sheet: SheetSummary | null;
  unit: LengthUnit;
  onEach: OnEach<MappingSpec>;
}) {
  const tool = useSelection((s) => s.pullTool);
  const setTool = useSelection((s) => s.setPullTool);
  const [mapping] = mappings;
  const of = (m: MappingSpec) => m.correction ?? noCorrection();
  const c = of(mapping);
  const edit = (change: (own: CorrectionSpec) => CorrectionSpec, gesture?: string) =>
    onEach((own) => corrected(own, change(of(own))), gesture);
  const field = (label: string, key: 'shearDeg' | 'taperPercent' | 'alignMm', min: number, max: number) => ({
    label,
    min,
    max,
    value: (mappings.every((m) => of(m)[key] === c[key]) ? c[key] : MIXED) as number | typeof MIXED,
    onChange: (v: number, g?: string) => edit((own) => ({ ...own, [key]: v }), g),
    onStep: (by: number, g: string) =>
      edit((own) => ({ ...own, [key]: Math.min(max, Math.max(min, own[key] + by)) }), g),
  });
  return (
    <fieldset className="space-y-1.5 border-t border-base-300 pt-1.5 first:border-t-0 first:pt-0">
      <legend className="sr-only">Corrected by hand</legend>
      <div className="grid grid-cols-3 gap-2">
        <ValueField kind="angle" {...field('Shear', 'shearDeg', -80, 80)} />
        <ValueField kind="number" suffix=" %" decimals={1} {...field('Wider at the top', 'taperPercent', -95, 400)} />
        <ValueField kind="length" unit={unit} {...field('Level rows within', 'alignMm', 0, 1e5)} />
      </div>
      <div className="flex flex-wrap gap-1">
        {(['point', 'row'] as const).map((kind) => (
          <button
            key={kind}
            type="button"
            className="tool tool-line h-[22px] px-1.5 text-2xs"
            aria-pressed={tool === kind}
            title={`Then drag a ${kind} on the sheet`}
            onClick={() => setTool(tool === kind ? null : kind)}
          >
            Pull a {kind}…
          </button>
        ))}
        {corrects(mapping.correction) && (
          <button type="button" className="tool h-[22px] px-1 text-2xs" onClick={() => edit(noCorrection)}>
            Let go of all
          </button>
        )}
      </div>
      {c.pulls.map((p, i) => (
        <p key={i} className="num flex items-center gap-1 text-2xs">
          {p.kind === 'row'
            ? `row at ${formatLength(p.yMm, unit)} by ${formatLength(p.upMm, unit)}`
            : `point at ${formatLength(p.xMm, unit)}, ${formatLength(p.yMm, unit)} ` +
              `by ${formatLength(p.rightMm, unit)}, ${formatLength(p.upMm, unit)}`}
          <button
            type="button"
            className="tool ml-auto h-5 px-1"
            aria-label={`Let go of pull ${i + 1}`}
            onClick={() => edit((own) => ({ ...own, pulls: own.pulls.filter((pull) => !samePull(pull, p)) }))}
          >
            <X size={11} />
          </button>
        </p>
      ))}
      {corrects(mapping.correction) && sheet && (
        <p className="quiet num text-2xs">
          It costs: sizes {Math.round(sheet.stretch.least * 1000) / 10} to {Math.round(sheet.stretch.most * 1000) / 10}%
          of true.
        </p>
      )}
    </fieldset>
  );
}

function corrected(mapping: MappingSpec, correction: CorrectionSpec): MappingSpec {
  const { correction: _before, ...plain } = mapping;
  return (corrects(correction) ? { ...plain, correction } : plain) as MappingSpec;
}

const samePull = (a: Pull, b: Pull) => JSON.stringify(a) === JSON.stringify(b);
