'use client';

import { type Material, ROLE_LABELS, ROLES } from '@/core/material/schema';
import type { LengthUnit } from '@/core/units/length';
import type { PercentRange, Slide, VariationSpec } from '@/core/variation/schema';
import { Select } from '../../shared/fields';
import { ValueField } from '../../shared/ValueField';

/** Everything in which pieces can differ. */
export function VariationFields({
  variation: v,
  material,
  unit,
  onChange,
}: {
  variation: VariationSpec;
  material: Material;
  unit: LengthUnit;
  onChange: (variation: VariationSpec, gesture?: string) => void;
}) {
  const put = (values: Partial<VariationSpec>, gesture?: string) => onChange({ ...v, ...values }, gesture);
  const tone = (key: keyof VariationSpec['tone'], label: string) => (
    <Percents
      label={label}
      value={v.tone[key]}
      onChange={(range, g) => put({ tone: { ...v.tone, [key]: range } }, g)}
    />
  );
  const check = (label: string, on: boolean, set: (on: boolean) => void) => (
    <label className="flex h-[26px] items-center gap-2 self-end">
      <input type="checkbox" className="checkbox checkbox-xs" checked={on} onChange={(e) => set(e.target.checked)} />
      <span className="leading-tight">{label}</span>
    </label>
  );
  const { leaves } = material;
  return (
    <div className="grid w-[360px] grid-cols-2 gap-x-2 gap-y-1.5">
      {check('Each piece takes its own print', v.on, (on) => put({ on }))}
      <ValueField
        label="Prints alike from an overlap of"
        kind="number"
        suffix="%"
        value={v.overlapShare * 100}
        min={0}
        max={90}
        onChange={(n, g) => put({ overlapShare: n / 100 }, g)}
      />
      <SlideFields
        label="Slide along"
        slide={v.slideAlong}
        unit={unit}
        onChange={(slideAlong, g) => put({ slideAlong }, g)}
      />
      <SlideFields
        label="Slide across"
        slide={v.slideAcross}
        unit={unit}
        onChange={(slideAcross, g) => put({ slideAcross }, g)}
      />
      <Select
        label="Prints turned"
        value={String(v.turnStepDeg)}
        options={[
          ['0', 'never'],
          ['180', 'end for end'],
          ['90', 'by quarters'],
          ['1', 'any way'],
        ]}
        onChange={(n) => put({ turnStepDeg: Number(n) })}
      />
      <div className="flex gap-3">
        {check('Flip along', v.flipAlong, (flipAlong) => put({ flipAlong }))}
        {check('across', v.flipAcross, (flipAcross) => put({ flipAcross }))}
      </div>
      <Percents
        label="Picture size"
        value={v.sizePercent}
        least={10}
        most={1000}
        onChange={(sizePercent, g) => put({ sizePercent }, g)}
      />
      <ValueField
        label="Faces lean up to"
        kind="angle"
        value={v.tiltDeg}
        min={0}
        max={10}
        step={0.1}
        onChange={(tiltDeg, g) => put({ tiltDeg }, g)}
      />
      {leaves && (
        <div className="col-span-2">
          <Select
            label={leaves.columns === 1 ? `Strips, ${leaves.rows}` : `Leaves, ${leaves.columns} × ${leaves.rows}`}
            value={v.leaf ? `${v.leaf.column},${v.leaf.row}` : ''}
            options={[
              ['', 'dealt'],
              ...Array.from({ length: leaves.columns * leaves.rows }, (_, i): [string, string] => {
                const [c, r] = [i % leaves.columns, Math.floor(i / leaves.columns)];
                return [
                  `${c},${r}`,
                  leaves.columns === 1 ? `only strip ${r + 1}, from the top` : `only column ${c + 1}, row ${r + 1}`,
                ];
              }),
            ]}
            onChange={(text) => {
              const [column, row] = text.split(',').map(Number);
              put({ leaf: text ? { column, row } : null });
            }}
          />
        </div>
      )}
      <div className="col-span-2 grid grid-cols-3 gap-2 border-t border-base-300 pt-1.5">
        {tone('lightness', 'Lightness')}
        {tone('warmth', 'Warmth')}
        {tone('saturation', 'Saturation')}
      </div>
      <fieldset className="col-span-2 border-t border-base-300 pt-1.5">
        <legend className="sr-only">Maps that move with the piece</legend>
        {check('All maps move together', v.maps === null, (all) => put({ maps: all ? null : ['baseColour'] }))}
        {v.maps && (
          <div className="grid grid-cols-3">
            {ROLES.filter((r) => material.maps[r]).map((role) => (
              <div key={role}>
                {check(ROLE_LABELS[role], v.maps!.includes(role), (on) =>
                  put({ maps: ROLES.filter((r) => (r === role ? on : v.maps!.includes(r))) }),
                )}
              </div>
            ))}
          </div>
        )}
      </fieldset>
    </div>
  );
}

function Percents({
  label,
  value,
  least = -100,
  most = 100,
  onChange,
}: {
  label: string;
  value: PercentRange;
  least?: number;
  most?: number;
  onChange: (value: PercentRange, gesture?: string) => void;
}) {
  return (
    <div className="grid grid-cols-2 items-end gap-1">
      <ValueField
        label={`${label}, from`}
        kind="number"
        suffix="%"
        value={value.from}
        min={least}
        max={most}
        onChange={(from, g) => onChange({ ...value, from }, g)}
      />
      <ValueField
        label="to"
        kind="number"
        suffix="%"
        value={value.to}
        min={least}
        max={most}
        onChange={(to, g) => onChange({ ...value, to }, g)}
      />
    </div>
  );
}

function SlideFields({
  label,
  slide,
  unit,
  onChange,
}: {
  label: string;
  slide: Slide | null;
  unit: LengthUnit;
  onChange: (slide: Slide | null, gesture?: string) => void;
}) {
  const side = (name: string, key: keyof Slide) => (
    <ValueField
      label={name}
      kind="length"
      unit={unit}
      value={slide![key]}
      min={key === 'stepMm' ? 0 : -100_000}
      max={100_000}
      onChange={(mm, g) => onChange({ ...slide!, [key]: mm }, g)}
    />
  );
  return (
    <div>
      <Select
        label={label}
        value={slide ? 'range' : 'any'}
        options={[
          ['any', 'anywhere in the picture'],
          ['range', 'within a range'],
        ]}
        onChange={(kind) => onChange(kind === 'range' ? { fromMm: 0, toMm: 400, stepMm: 0 } : null)}
      />
      {slide && (
        <div className="mt-1 grid grid-cols-3 gap-1">
          {side('From', 'fromMm')}
          {side('To', 'toMm')}
          {side('Step', 'stepMm')}
        </div>
      )}
    </div>
  );
}
