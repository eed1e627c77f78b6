'use client';

import type { Step } from '@/core/prep/steps/registry';
import { Select } from '../../shared/fields';
import { ValueField } from '../../shared/ValueField';
import { length, type Of } from './common';

/** How large the picture is. */
export function SizeFields({ step: s, run, onChange }: Of<'size'>) {
  const { by } = s;
  const line =
    by.kind === 'line' || by.kind === 'count'
      ? { from: by.from, to: by.to }
      : { from: [0.25, 0.5] as [number, number], to: [0.75, 0.5] as [number, number] };
  const after = run?.after;
  return (
    <>
      <Select
        label="Known by"
        value={by.kind}
        options={[
          ['line', 'a line of known length'],
          ['count', 'pieces counted along a line'],
          ['typed', 'its width and height'],
          ['resolution', 'its resolution'],
        ]}
        onChange={(kind) =>
          onChange({
            ...s,
            by:
              kind === 'line'
                ? { kind, ...line, lengthMm: 500 }
                : kind === 'count'
                  ? { kind, ...line, count: 7, pieceMm: 75 }
                  : kind === 'typed'
                    ? {
                        kind,
                        widthMm: 1000,
                        heightMm: Math.round((1000 * (after?.height ?? 3)) / (after?.width ?? 4)),
                      }
                    : { kind: 'resolution', pixelsPerInch: 300 },
          } as Step)
        }
      />
      {by.kind === 'line' &&
        length('It is really', by.lengthMm, (lengthMm, g) => onChange({ ...s, by: { ...by, lengthMm } }, g))}
      {by.kind === 'count' && (
        <div className="grid grid-cols-2 gap-1.5">
          <ValueField
            label="Pieces along it"
            kind="number"
            decimals={0}
            min={1}
            max={10_000}
            value={by.count}
            onChange={(v, g) => onChange({ ...s, by: { ...by, count: Math.round(v) } }, g)}
          />
          {length('Each with its joint', by.pieceMm, (pieceMm, g) => onChange({ ...s, by: { ...by, pieceMm } }, g))}
        </div>
      )}
      {by.kind === 'typed' && (
        <div className="grid grid-cols-2 gap-1.5">
          {length('Width', by.widthMm, (widthMm, g) => onChange({ ...s, by: { ...by, widthMm } }, g))}
          {length('Height', by.heightMm, (heightMm, g) => onChange({ ...s, by: { ...by, heightMm } }, g))}
        </div>
      )}
      {by.kind === 'resolution' && (
        <ValueField
          label="Pixels per inch"
          kind="number"
          min={1}
          max={100_000}
          value={by.pixelsPerInch}
          onChange={(pixelsPerInch, g) => onChange({ ...s, by: { ...by, pixelsPerInch } }, g)}
        />
      )}
      {(by.kind === 'line' || by.kind === 'count') && (
        <p className="quiet text-2xs leading-tight">Drag the ends of the line on the picture.</p>
      )}
    </>
  );
}
