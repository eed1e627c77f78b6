'use client';

import { X } from 'lucide-react';
import type { SheetSummary } from '@/core/mapping/sheet';
import { type CorrectionSpec, corrects, noCorrection } from '@/core/mapping/correctionSchema';
import type { MappingSpec } from '@/core/mapping/schema';
import { formatLength, type LengthUnit } from '@/core/units/length';
import { useSelection } from '../../project/selection';
import { ValueField } from '../../shared/ValueField';

/** What is set right by hand on the sheet, and what it costs. */
export function CorrectionFields({
  mapping,
  sheet,
  unit,
  onChange,
}: {
  mapping: MappingSpec;
  sheet: SheetSummary | null;
  unit: LengthUnit;
  onChange: (m: MappingSpec, gesture?: string) => void;
}) {
  const tool = useSelection((s) => s.pullTool);
  const setTool = useSelection((s) => s.setPullTool);
  const c = mapping.correction ?? noCorrection();
  const set = (change: Partial<CorrectionSpec>, gesture?: string) => {
    const next = { ...c, ...change };
    const { correction: _before, ...plain } = mapping;
    onChange((corrects(next) ? { ...plain, correction: next } : plain) as MappingSpec, gesture);
  };
  return (
    <fieldset className="space-y-1.5 border-t border-base-300 pt-1.5">
      <legend className="sr-only">Corrected by hand</legend>
      <div className="grid grid-cols-3 gap-2">
        <ValueField
          label="Shear"
          kind="angle"
          value={c.shearDeg}
          min={-80}
          max={80}
          onChange={(shearDeg, g) => set({ shearDeg }, g)}
        />
        <ValueField
          label="Wider at the top"
          kind="number"
          suffix=" %"
          decimals={1}
          value={c.taperPercent}
          min={-95}
          max={400}
          onChange={(taperPercent, g) => set({ taperPercent }, g)}
        />
        <ValueField
          label="Level rows within"
          kind="length"
          unit={unit}
          value={c.alignMm}
          min={0}
          max={1e5}
          onChange={(alignMm, g) => set({ alignMm }, g)}
        />
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
          <button type="button" className="tool h-[22px] px-1 text-2xs" onClick={() => set(noCorrection())}>
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
            onClick={() => set({ pulls: c.pulls.filter((_, k) => k !== i) })}
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
