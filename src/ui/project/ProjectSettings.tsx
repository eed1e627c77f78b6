'use client';

import { useEffect, useState } from 'react';
import type { DecimalSign } from '@/core/units/digits';
import type { LengthUnit } from '@/core/units/length';
import { useDecimalSign } from '../shared/decimalSign';
import { Select } from '../shared/fields';
import { ValueField } from '../shared/ValueField';
import { Models } from './Models';
import { useProject } from './projectStore';

const UNITS: [LengthUnit, string][] = [
  ['mm', 'Millimetres'],
  ['cm', 'Centimetres'],
  ['m', 'Metres'],
  ['in', 'Inches'],
  ['ft-in', 'Feet and inches'],
];

const DECIMALS: [string, string][] = [
  ['', 'either; what is unclear is asked'],
  ['.', 'a point: 1,200.5'],
  [',', 'a comma: 1.200,5'],
];

/** Name, unit and north of the open project. */
export function ProjectSettings({ close }: { close: () => void }) {
  const { project, run } = useProject();
  const decimals = useDecimalSign();
  const [name, setName] = useState(project?.name ?? '');
  useEffect(() => setName(project?.name ?? ''), [project?.name]);
  if (!project) return null;
  const rename = () => {
    if (name.trim() && name.trim() !== project.name) run([{ kind: 'setProject', name: name.trim() }]);
  };
  return (
    <div className="flex w-64 flex-col gap-3 p-2">
      <label className="block">
        <span className="quiet mb-0.5 block text-2xs">Name</span>
        <input
          className="field"
          value={name}
          maxLength={200}
          onChange={(e) => setName(e.target.value)}
          onBlur={rename}
          onKeyDown={(e) => e.key === 'Enter' && (rename(), close())}
        />
      </label>
      <label className="block">
        <span className="quiet mb-0.5 block text-2xs">Lengths are shown in</span>
        <select
          className="field"
          value={project.unit}
          onChange={(e) => run([{ kind: 'setProject', unit: e.target.value as LengthUnit }])}
        >
          {UNITS.map(([unit, label]) => (
            <option key={unit} value={unit}>
              {label}
            </option>
          ))}
        </select>
      </label>
      <Select
        label="Decimals are parted by"
        value={decimals.sign ?? ''}
        options={DECIMALS}
        onChange={(v) => decimals.set((v || null) as DecimalSign)}
      />
      <ValueField
        label="North, clockwise from the model’s −z"
        kind="angle"
        value={project.northDeg}
        min={0}
        max={359.99}
        step={15}
        onChange={(northDeg, g) => run([{ kind: 'setProject', northDeg }], g)}
      />
      <Models close={close} />
    </div>
  );
}
