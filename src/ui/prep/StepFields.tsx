'use client';

import { Bar, BarChart, ResponsiveContainer, XAxis } from 'recharts';
import { useState } from 'react';
import { type Mask, type Step } from '@/core/prep/schema';
import type { PrepRun } from '@/workers/prep.worker';
import { Select, Tick } from '../shared/fields';
import { ValueField } from '../shared/ValueField';
import { usePrep } from './prepStore';
import { prepService } from './usePrepRun';

type Change = (step: Step, gesture?: string) => void;

/** The numbers of one step. Places are set on the light table. */
export function StepFields({
  step,
  index,
  run,
  onChange,
}: {
  step: Step;
  index: number;
  run: PrepRun | null;
  onChange: Change;
}) {
  return (
    <div className="space-y-1.5">
      <OwnFields step={step} index={index} run={run} onChange={onChange} />
      {(step.kind === 'even' || step.kind === 'colour' || step.kind === 'heal') && (
        <MaskFields step={step} onChange={onChange} />
      )}
    </div>
  );
}

const share = (label: string, value: number, set: (v: number, g?: string) => void) => (
  <ValueField
    key={label}
    label={label}
    kind="number"
    suffix=" %"
    decimals={0}
    min={0}
    max={100}
    step={5}
    value={Math.round(value * 100)}
    onChange={(v, g) => set(v / 100, g)}
  />
);

function OwnFields({
  step: s,
  index,
  run,
  onChange,
}: {
  step: Step;
  index: number;
  run: PrepRun | null;
  onChange: Change;
}) {
  const length = (label: string, value: number, set: (v: number, g?: string) => void, min = 0.1) => (
    <ValueField key={label} label={label} kind="length" unit="mm" value={value} min={min} max={1e6} onChange={set} />
  );
  switch (s.kind) {
    case 'size': {
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
    case 'corners':
      return (
        <>
          <div className="grid grid-cols-2 gap-1.5">
            {length('Width', s.widthMm, (widthMm, g) => onChange({ ...s, widthMm }, g))}
            {length('Height', s.heightMm, (heightMm, g) => onChange({ ...s, heightMm }, g))}
          </div>
          <p className="quiet text-2xs leading-tight">Drag the four corners to those of a rectangle you know.</p>
        </>
      );
    case 'turn':
      return (
        <>
          <div className="grid grid-cols-3 gap-1.5">
            {(
              [
                ['turnDeg', 'Turn'],
                ['leanDeg', 'Uprights lean'],
                ['slopeDeg', 'Levels rise'],
              ] as const
            ).map(([k, label]) => (
              <ValueField
                key={k}
                label={label}
                kind="angle"
                value={s[k]}
                min={k === 'turnDeg' ? -180 : -60}
                max={k === 'turnDeg' ? 180 : 60}
                step={0.5}
                onChange={(v, g) => onChange({ ...s, [k]: v }, g)}
              />
            ))}
          </div>
          <FindGrain index={index} onFound={(deg) => onChange({ ...s, turnDeg: deg })} />
        </>
      );
    case 'crop':
      return (
        <Tick
          label="To whole periods of what is laid"
          checked={s.wholePeriods}
          onChange={(wholePeriods) => onChange({ ...s, wholePeriods })}
        />
      );
    case 'even':
      return (
        <div className="grid grid-cols-3 gap-1.5">
          {length('Larger than', s.radiusMm, (radiusMm, g) => onChange({ ...s, radiusMm }, g), 1)}
          {share('Lightness', s.lightness, (lightness, g) => onChange({ ...s, lightness }, g))}
          {share('Colour', s.colour, (c, g) => onChange({ ...s, colour: c }, g))}
        </div>
      );
    case 'colour':
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
    case 'seamless':
      return (
        <>
          <Select
            label="By"
            value={s.mode}
            options={[
              ['blend', 'the best seam through an overlap'],
              ['period', 'whole periods of what is laid'],
              ['mirror', 'mirroring, as a last resort'],
            ]}
            onChange={(mode) => onChange({ ...s, mode: mode as typeof s.mode })}
          />
          <div className="grid grid-cols-2 gap-1.5">
            {s.mode === 'blend' &&
              share('Overlap', s.overlap, (overlap, g) =>
                onChange({ ...s, overlap: Math.min(0.48, Math.max(0.02, overlap)) }, g),
              )}
            <Tick
              label="Evened first"
              className="items-end pb-1"
              checked={s.evened}
              disabled={s.mode === 'mirror'}
              onChange={(evened) => onChange({ ...s, evened })}
            />
          </div>
          <div className="flex gap-3">
            {(['across', 'down'] as const).map((k) => (
              <Tick
                key={k}
                label={k === 'across' ? 'Side to side' : 'Top to bottom'}
                checked={s[k]}
                onChange={(on) => onChange({ ...s, [k]: on })}
              />
            ))}
          </div>
        </>
      );
    case 'heal':
      return <HealFields step={s} run={run} onChange={onChange} />;
    case 'resize': {
      const { to } = s;
      return (
        <div className="grid grid-cols-2 gap-1.5">
          <Select
            label="To"
            value={to.kind}
            options={[
              ['powerOfTwo', 'a power of two'],
              ['density', 'pixels per mm'],
            ]}
            onChange={(kind) =>
              onChange({ ...s, to: kind === 'density' ? { kind, pxPerMm: 1 } : { kind: 'powerOfTwo' } })
            }
          />
          {to.kind === 'density' && (
            <ValueField
              label="Pixels per mm"
              kind="number"
              decimals={2}
              step={0.1}
              min={0.01}
              max={1000}
              value={to.pxPerMm}
              onChange={(pxPerMm, g) => onChange({ ...s, to: { kind: 'density', pxPerMm } }, g)}
            />
          )}
        </div>
      );
    }
  }
}

/** The dominant direction of the picture, found and taken. */
function FindGrain({ index, onFound }: { index: number; onFound: (turnDeg: number) => void }) {
  const [found, setFound] = useState<string | null>(null);
  const find = async () => {
    const { prep } = usePrep.getState();
    const { grain } = await prepService().inspect(prep!.steps, prep!.pixelsPerInch, index);
    // to the nearer of level and upright
    const off = Math.abs(grain.deg) <= 45 ? grain.deg : grain.deg - Math.sign(grain.deg) * 90;
    setFound(`It runs at ${grain.deg.toFixed(1)}°, ${Math.round(grain.confidence * 100)}% of it agrees.`);
    onFound(Math.round(-off * 100) / 100);
  };
  return (
    <div className="flex items-center gap-2">
      <button type="button" className="tool tool-line h-[22px] px-1.5 text-2xs" onClick={() => void find()}>
        Find the grain
      </button>
      {found && <span className="quiet num text-2xs">{found}</span>}
    </div>
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

const BRUSHES: [string, string, string][] = [
  ['patch', 'Patch', 'Covered by a piece from elsewhere that meets what lies around'],
  ['copy', 'Copy', 'Alt-click where to copy from, then paint'],
  ['paint', 'Paint', 'With a colour; Alt-click picks one from the picture'],
  ['sharpen', 'Sharpen', 'Where healing left it soft'],
];

function HealFields({
  step: s,
  run,
  onChange,
}: {
  step: Extract<Step, { kind: 'heal' }>;
  run: PrepRun | null;
  onChange: Change;
}) {
  const { brush, setBrush } = usePrep();
  const blotches = run?.blotches.blotches ?? [];
  return (
    <>
      <div className="flex flex-wrap gap-1" role="group" aria-label="Brush">
        {BRUSHES.map(([kind, label, what]) => (
          <button
            key={kind}
            type="button"
            className="tool tool-line h-[24px] px-1.5"
            aria-pressed={brush.kind === kind}
            title={what}
            onClick={() => setBrush({ kind: kind as typeof brush.kind })}
          >
            {label}
          </button>
        ))}
      </div>
      <div className="grid grid-cols-3 gap-1.5">
        <ValueField
          label="Radius"
          kind="number"
          suffix=" %"
          decimals={1}
          min={0.2}
          max={40}
          value={Math.round(brush.radius * 1000) / 10}
          onChange={(v) => setBrush({ radius: v / 100 })}
        />
        {share('Hardness', brush.hardness, (hardness) => setBrush({ hardness }))}
        {share('Opacity', brush.opacity, (opacity) => setBrush({ opacity }))}
      </div>
      {brush.kind === 'paint' && (
        <label className="flex items-center gap-2 text-2xs">
          Colour{' '}
          <input
            type="color"
            value={brush.colour ?? '#808080'}
            onChange={(e) => setBrush({ colour: e.target.value })}
          />
        </label>
      )}
      <div className="flex flex-wrap gap-1">
        <button
          type="button"
          className="tool tool-line h-[22px] px-1.5 text-2xs"
          disabled={!blotches.length}
          onClick={() =>
            onChange({
              ...s,
              strokes: [
                ...s.strokes,
                ...blotches.slice(0, 6).map((b) => ({
                  kind: 'patch' as const,
                  points: [[b.x, b.y] as [number, number]],
                  radius: Math.min(0.2, b.radius * 1.6),
                  hardness: 0.3,
                  opacity: 1,
                })),
              ],
            })
          }
        >
          Patch what stands out ({Math.min(6, blotches.length)})
        </button>
        <button
          type="button"
          className="tool h-[22px] px-1 text-2xs"
          disabled={!s.strokes.length}
          onClick={() => onChange({ ...s, strokes: s.strokes.slice(0, -1) })}
        >
          Last stroke off
        </button>
      </div>
      <p className="quiet text-2xs leading-tight">Paint on the picture.</p>
    </>
  );
}

function MaskFields({ step, onChange }: { step: Step; onChange: Change }) {
  const kind = step.mask?.kind ?? 'none';
  const set = (mask: Mask | null, g?: string) => onChange({ ...step, mask }, g);
  return (
    <div className="grid grid-cols-2 gap-1.5 border-t border-base-300 pt-1.5">
      <Select
        label="Where"
        value={kind === 'ellipse' && step.mask?.kind === 'ellipse' && step.mask.outside ? 'outside' : kind}
        options={[
          ['none', 'everywhere'],
          ['gradient', 'less and less along a line'],
          ['ellipse', 'within an ellipse'],
          ['outside', 'outside an ellipse'],
        ]}
        onChange={(v) =>
          set(
            v === 'none'
              ? null
              : v === 'gradient'
                ? { kind: 'gradient', from: [0.1, 0.5], to: [0.9, 0.5] }
                : { kind: 'ellipse', centre: [0.5, 0.5], radius: [0.3, 0.3], softness: 0.4, outside: v === 'outside' },
          )
        }
      />
      {step.mask?.kind === 'ellipse' &&
        share('Soft edge', step.mask.softness, (softness, g) =>
          set({ ...(step.mask as Extract<Mask, { kind: 'ellipse' }>), softness }, g),
        )}
    </div>
  );
}
