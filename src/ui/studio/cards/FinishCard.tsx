'use client';

import { finishOn } from '@/core/specification/finish';
import { FINISHES, type FinishKind } from '@/core/material/schema';
import type { FinishSpec } from '@/core/specification/schema';
import { MIXED, ValueField } from '../../shared/ValueField';
import { Card } from '../Card';
import { shared, useBench } from '../useBench';

/** How the face meets light. What is not set here follows the material. */
export function FinishCard() {
  const { laid, edit, unit } = useBench();
  const none = !laid.length;
  const kind = none ? null : shared(laid, (l) => l.spec.finish.kind ?? l.material.finish.kind);
  const own = none ? undefined : laid.some((l) => Object.keys(l.spec.finish).length > 0);
  const set = (values: Partial<FinishSpec>, gesture?: string) =>
    edit((l) => ({ ...l.spec, finish: { ...l.spec.finish, ...values } }), gesture);
  const first = laid[0];
  return (
    <Card
      id="finish"
      share={1.06}
      title="Finish"
      own={own}
      follows="the material"
      onLetGo={() => edit((l) => ({ ...l.spec, finish: {} }))}
    >
      <div role="group" aria-label="Finish" className="flex overflow-hidden rounded-[6px] border border-base-300">
        {(Object.keys(FINISHES) as FinishKind[]).map((k) => (
          <button
            key={k}
            type="button"
            disabled={none}
            aria-pressed={kind === k}
            className={
              'h-6 flex-auto px-0.5 text-[12px] disabled:opacity-40 ' +
              `${kind === k ? 'bg-secondary/15 text-secondary font-medium' : 'hover:bg-base-200'}`
            }
            onClick={() => set({ kind: k, roughness: undefined })}
          >
            {FINISHES[k].label}
          </button>
        ))}
      </div>
      {kind === MIXED && <p className="quiet text-2xs">mixed</p>}
      <div className="mt-1.5 grid grid-cols-2 gap-1">
        <ValueField
          label="Relief"
          kind="length"
          unit={unit}
          value={none ? null : shared(laid, (l) => l.spec.finish.reliefMm ?? l.material.finish.reliefMm)}
          min={0}
          max={500}
          step={0.1}
          disabled={none}
          onChange={(reliefMm, g) => set({ reliefMm }, g)}
        />
        <ValueField
          label="Bump strength"
          kind="number"
          value={none ? null : shared(laid, (l) => l.spec.finish.normalStrength ?? l.material.finish.normalStrength)}
          min={0}
          max={8}
          step={0.05}
          disabled={none || !first?.material.maps.normal}
          onChange={(normalStrength, g) => set({ normalStrength }, g)}
          suffix=" ×"
        />
        <ValueField
          label="Roughness"
          kind="number"
          value={
            none ? null : shared(laid, (l) => Math.round(finishOn(l.spec.finish, l.material).roughness * 1000) / 1000)
          }
          min={0}
          max={1}
          step={0.05}
          disabled={none}
          onChange={(roughness, g) => set({ roughness }, g)}
        />
        {first?.material.maps.roughness && (
          <p className="quiet self-end text-2xs leading-tight">
            It has a roughness map, moved by{' '}
            <span className="num">{finishOn(first.spec.finish, first.material).roughnessShift.toFixed(2)}</span>
          </p>
        )}
      </div>
    </Card>
  );
}
