'use client';

import { type Material, ROLE_LABELS, ROLES } from '@/core/material/schema';
import type { LengthUnit } from '@/core/units/length';
import type { PercentRange, Slide, VariationSpec } from '@/core/variation/schema';
import { Select } from '../../shared/fields';
import type { OnEach } from '../../shared/FieldView';
import { MIXED, ValueField } from '../../shared/ValueField';

/** Everything in which pieces can differ. */
export function VariationFields({
  variations,
  material,
  unit,
  onEach,
}: {
  /** Of all that is picked, the first picked first. */
  variations: VariationSpec[];
  material: Material;
  unit: LengthUnit;
  onEach: OnEach<VariationSpec>;
}) {
  const [v] = variations;
  const put = (values: Partial<VariationSpec>, gesture?: string) => onEach((own) => ({ ...own, ...values }), gesture);
  const same = <T,>(read: (own: VariationSpec) => T): T | typeof MIXED =>
    variations.every((own) => JSON.stringify(read(own)) === JSON.stringify(read(v))) ? read(v) : MIXED;
  const number = (
    read: (own: VariationSpec) => number,
    write: (own: VariationSpec, value: number) => VariationSpec,
    min: number,
    max: number,
  ) => ({
    value: same<number>(read) as number | typeof MIXED,
    min,
    max,
    onChange: (n: number, g?: string) => onEach((own) => write(own, n), g),
    onStep: (by: number, g: string) => onEach((own) => write(own, Math.min(max, Math.max(min, read(own) + by))), g),
  });
  const percents = (
    label: string,
    read: (own: VariationSpec) => PercentRange,
    write: (own: VariationSpec, range: PercentRange) => VariationSpec,
    min = -100,
    max = 100,
  ) => (
    <div className="grid grid-cols-2 items-end gap-1">
      <ValueField
        label={`${label}, from`}
        kind="number"
        suffix="%"
        {...number(
          (own) => read(own).from,
          (own, from) => write(own, { ...read(own), from }),
          min,
          max,
        )}
      />
      <ValueField
        label="to"
        kind="number"
        suffix="%"
        {...number(
          (own) => read(own).to,
          (own, to) => write(own, { ...read(own), to }),
          min,
          max,
        )}
      />
    </div>
  );
  const tone = (key: keyof VariationSpec['tone'], label: string) =>
    percents(
      label,
      (own) => own.tone[key],
      (own, range) => ({ ...own, tone: { ...own.tone, [key]: range } }),
    );
  const check = (label: string, on: boolean, set: (on: boolean) => void) => (
    <label className="flex h-[26px] items-center gap-2 self-end">
      <input type="checkbox" className="checkbox checkbox-xs" checked={on} onChange={(e) => set(e.target.checked)} />
      <span className="leading-tight">{label}</span>
    </label>
  );
  const { leaves } = material;
  const turns = same((own) => String(own.turnStepDeg));
  return (
    <div className="grid w-[360px] grid-cols-2 gap-x-2 gap-y-1.5">
      {check('Each piece takes its own print', v.on, (on) => put({ on }))}
      <ValueField
        label="Prints alike from an overlap of"
        kind="number"
        suffix="%"
        {...number(
          (own) => own.overlapShare * 100,
          (own, n) => ({ ...own, overlapShare: n / 100 }),
          0,
          90,
        )}
      />
      <SlideFields
        label="Slide along"
        slides={variations.map((own) => own.slideAlong)}
        unit={unit}
        onEach={(change, g) => onEach((own) => ({ ...own, slideAlong: change(own.slideAlong) }), g)}
      />
      <SlideFields
        label="Slide across"
        slides={variations.map((own) => own.slideAcross)}
        unit={unit}
        onEach={(change, g) => onEach((own) => ({ ...own, slideAcross: change(own.slideAcross) }), g)}
      />
      <Select
        label="Prints turned"
        value={turns === MIXED ? '' : turns}
        options={[
          ...(turns === MIXED ? [['', 'mixed'] as [string, string]] : []),
          ['0', 'never'],
          ['180', 'end for end'],
          ['90', 'by quarters'],
          ['1', 'any way'],
        ]}
        onChange={(n) => n && put({ turnStepDeg: Number(n) })}
      />
      <div className="flex gap-3">
        {check('Flip along', v.flipAlong, (flipAlong) => put({ flipAlong }))}
        {check('across', v.flipAcross, (flipAcross) => put({ flipAcross }))}
      </div>
      {percents(
        'Picture size',
        (own) => own.sizePercent,
        (own, sizePercent) => ({ ...own, sizePercent }),
        10,
        1000,
      )}
      <ValueField
        label="Faces lean up to"
        kind="angle"
        step={0.1}
        {...number(
          (own) => own.tiltDeg,
          (own, tiltDeg) => ({ ...own, tiltDeg }),
          0,
          10,
        )}
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

function SlideFields({
  label,
  slides,
  unit,
  onEach,
}: {
  label: string;
  slides: (Slide | null)[];
  unit: LengthUnit;
  onEach: OnEach<Slide | null>;
}) {
  const ranges = slides.filter((s) => s !== null);
  const kind = ranges.length === 0 ? 'any' : ranges.length === slides.length ? 'range' : 'mixed';
  const side = (name: string, key: keyof Slide) => (
    <ValueField
      label={name}
      kind="length"
      unit={unit}
      value={ranges.every((s) => s[key] === ranges[0][key]) ? ranges[0][key] : MIXED}
      min={key === 'stepMm' ? 0 : -100_000}
      max={100_000}
      onChange={(mm, g) => onEach((own) => own && { ...own, [key]: mm }, g)}
      onStep={(by, g) => onEach((own) => own && { ...own, [key]: own[key] + by }, g)}
    />
  );
  return (
    <div>
      <Select
        label={label}
        value={kind}
        options={[
          ...(kind === 'mixed' ? [['mixed', 'mixed'] as [string, string]] : []),
          ['any', 'anywhere in the picture'],
          ['range', 'within a range'],
        ]}
        onChange={(next) =>
          next !== 'mixed' && onEach((own) => (next === 'range' ? (own ?? { fromMm: 0, toMm: 400, stepMm: 0 }) : null))
        }
      />
      {ranges.length > 0 && (
        <div className="mt-1 grid grid-cols-3 gap-1">
          {side('From', 'fromMm')}
          {side('To', 'toMm')}
          {side('Step', 'stepMm')}
        </div>
      )}
    </div>
  );
}
