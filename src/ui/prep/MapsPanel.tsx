'use client';

import { useEffect, useRef, useState } from 'react';
import { ROLE_LABELS } from '@/core/material/schema';
import { MAP_PRESETS } from '@/core/prep/maps';
import { type Curve, type Derived, type DerivedRole, TAKEN_ROLES, type TakenRole } from '@/core/prep/schema';
import { stepOf } from '@/core/prep/steps/registry';
import type { PrepRun, Shown } from '@/workers/prep.worker';
import { PercentField, Select, Tick } from '../shared/fields';
import { ValueField } from '../shared/ValueField';
import { toCanvas } from './drawShown';
import { CurveField } from './fields/CurveField';
import { GivenMap } from './fields/GivenMap';
import { LeafFields } from './fields/LeafFields';
import { ReadFrom } from './fields/ReadFrom';
import { usePrep } from './prepStore';
import { SampleBoard } from './SampleBoard';

const ROLES = ['height', 'normal', 'roughness', 'metallic', 'occlusion', 'opacity', 'emission'] as const;
type Role = (typeof ROLES)[number];

const FIRST: Derived = {
  ...MAP_PRESETS[0].derived,
  // bare where it is light, rusty or painted where it is dark
  metallic: {
    of: 'lightness',
    points: [
      [0, 0],
      [1, 1],
    ],
    joints: 1,
  },
  opacity: { threshold: 0.5, soft: 0.2, invert: false },
};

/** Maps made of the finished picture, and what they look like under a moving light. */
export function MapsPanel({ run, maps }: { run: PrepRun | null; maps: Partial<Record<Role, Shown>> }) {
  const { prep, change } = usePrep();
  const { derived: d, given } = prep!;
  const [open, setOpen] = useState<Role>('height');
  const set = (next: Partial<Derived>, gesture?: string) => change({ derived: { ...d, ...next } }, gesture);
  const toggle = (role: DerivedRole) => {
    const next: Partial<Derived> = { [role]: d[role] ? null : FIRST[role] };
    // slopes and occlusion are read from heights
    const heights = d.height ?? given.maps.height;
    if (!d[role] && (role === 'normal' || role === 'occlusion') && !heights) next.height = FIRST.height;
    if (d[role] && role === 'height' && !given.maps.height) Object.assign(next, { normal: null, occlusion: null });
    set(next);
    setOpen(role);
  };
  return (
    <section aria-label="Maps" className="segment min-w-[850px] flex-1">
      <header className="flex h-8 shrink-0 items-center px-2.5 pt-1.5">
        <h2 className="font-semibold">Maps</h2>
      </header>
      <div className="flex min-h-0 flex-1 gap-4 overflow-y-auto px-2.5 pt-1 pb-2">
        <div className="w-36 shrink-0 space-y-1">
          <Select
            label="Start from"
            hideLabel
            value=""
            options={[['', 'Begin with…'], ...MAP_PRESETS.map((p, i): [string, string] => [String(i), p.label])]}
            onChange={(v) => v && change({ derived: { ...MAP_PRESETS[Number(v)].derived, taken: d.taken } })}
          />
          <Select
            label="Grain runs"
            value={prep!.grain}
            options={[
              ['x', 'along x'],
              ['y', 'along y'],
              ['none', 'no way'],
            ]}
            onChange={(v) => change({ grain: v as 'x' })}
          />
          <LeafFields composed={run?.leaves ?? null} />
        </div>
        <div className="min-w-0 flex-1">
          <ul aria-label="Prints of the maps" className="print-line">
            {ROLES.filter((role) => role !== 'emission' || given.maps.emission).map((role) => {
              const derived = role !== 'emission' && !!d[role];
              const has = derived || !!given.maps[role];
              return (
                <li key={role} className="print">
                  <button
                    type="button"
                    aria-label={`Edit ${ROLE_LABELS[role]}`}
                    aria-pressed={open === role}
                    onClick={() => setOpen(role)}
                    className={
                      'block h-[72px] w-full overflow-hidden border ' +
                      `${open === role ? 'border-primary' : 'border-base-300'}`
                    }
                  >
                    {has && maps[role] ? (
                      <Small shown={maps[role]} />
                    ) : (
                      <span className="quiet text-2xs">{has ? 'being made' : 'none'}</span>
                    )}
                  </button>
                  {role === 'emission' ? (
                    <span className="flex items-center pt-1 text-2xs">{ROLE_LABELS[role]}</span>
                  ) : (
                    <Tick
                      label={ROLE_LABELS[role]}
                      className="items-center gap-1 pt-1 text-2xs"
                      checked={derived}
                      onChange={() => toggle(role)}
                    />
                  )}
                  {given.maps[role] && !derived && (
                    <span className="quiet block text-2xs leading-none">as it came</span>
                  )}
                </li>
              );
            })}
          </ul>
          <MapFields
            role={open}
            d={d}
            set={set}
            taken={isTaken(open) && d[open] ? <TakenField key="taken" role={open} /> : null}
          />
          <GivenMap key={open} role={open} derived={open !== 'emission' && !!d[open]} />
        </div>
        <SampleBoard run={run} maps={maps} />
      </div>
    </section>
  );
}

const isTaken = (role: Role): role is TakenRole => (TAKEN_ROLES as readonly Role[]).includes(role);

/** After which step a map is taken from the picture. */
function TakenField({ role }: { role: TakenRole }) {
  const { prep, change } = usePrep();
  const { steps, derived } = prep!;
  if (!steps.length) return null;
  const { [role]: step = '', ...others } = derived.taken ?? {};
  const usual = role === 'opacity' ? 'the finished picture' : 'the picture before dirt';
  return (
    <div className="col-span-2 max-w-44">
      <Select
        label="Taken from"
        value={step}
        options={[
          ['', usual],
          ...steps.map((s, i): [string, string] => [s.id, `after ${i + 1} ${stepOf(s).label}${s.on ? '' : ' (off)'}`]),
        ]}
        onChange={(id) => change({ derived: { ...derived, taken: id ? { ...others, [role]: id } : others } })}
      />
    </div>
  );
}

function MapFields({
  role,
  d,
  set,
  taken,
}: {
  role: Role;
  d: Derived;
  set: (n: Partial<Derived>, g?: string) => void;
  /** After which step it is taken, as a field. */
  taken: React.ReactNode;
}) {
  const percent = (label: string, value: number, on: (v: number, g?: string) => void) => (
    <PercentField key={label} label={label} value={value} onChange={on} />
  );
  const grid = (...children: React.ReactNode[]) => (
    <div className="mt-1.5 grid grid-cols-[repeat(auto-fill,minmax(96px,1fr))] gap-1.5">
      {children}
      {taken}
    </div>
  );
  if (role === 'height' && d.height) {
    const h = d.height;
    const on = (c: Partial<NonNullable<Derived['height']>>, g?: string) => set({ height: { ...h, ...c } }, g);
    return grid(
      <ValueField
        key="r"
        label="Relief"
        kind="length"
        unit="mm"
        min={0}
        max={500}
        step={0.1}
        value={h.reliefMm}
        onChange={(reliefMm, g) => on({ reliefMm }, g)}
      />,
      <ReadFrom key="of" patches={h.patches} onChange={({ patches }, g) => on({ patches }, g)} />,
      percent('Lowest at', h.low, (low, g) => on({ low }, g)),
      percent('Highest at', h.high, (high, g) => on({ high }, g)),
      <Tick
        key="i"
        label="Invert"
        className="items-end pb-1"
        checked={h.invert}
        onChange={(invert) => on({ invert })}
      />,
      <Tick
        key="j"
        label="Joints only"
        className="items-end pb-1"
        checked={h.joints !== null}
        onChange={(only) => on({ joints: only ? 0.4 : null })}
      />,
      ...(h.joints !== null
        ? [
            percent('Darker than', h.joints, (joints, g) => on({ joints }, g)),
            <ValueField
              key="c"
              label="Cleaned of"
              kind="length"
              unit="mm"
              min={0}
              max={1000}
              value={h.cleanMm}
              onChange={(cleanMm, g) => on({ cleanMm }, g)}
            />,
            <ValueField
              key="s"
              label="Softened over"
              kind="length"
              unit="mm"
              min={0}
              max={1000}
              value={h.softenMm}
              onChange={(softenMm, g) => on({ softenMm }, g)}
            />,
            percent('Detail on faces', h.detail, (detail, g) => on({ detail }, g)),
          ]
        : []),
      percent('Fine noise', h.noise, (noise, g) => on({ noise }, g)),
    );
  }
  if (role === 'normal' && d.normal)
    return grid(
      <ValueField
        key="n"
        label="Strength"
        kind="number"
        suffix=" ×"
        step={0.1}
        min={0}
        max={8}
        value={d.normal.strength}
        onChange={(strength, g) => set({ normal: { strength } }, g)}
      />,
    );
  const curve = (role === 'roughness' || role === 'metallic') && d[role];
  if (curve) {
    const on = (c: Partial<Curve>, g?: string) => set({ [role]: { ...curve, ...c } }, g);
    const inJoints = role === 'metallic' ? 'Less in joints' : 'More in joints';
    return (
      <CurveField key={role} role={ROLE_LABELS[role]} curve={curve} inJoints={inJoints} taken={taken} onChange={on} />
    );
  }
  if (role === 'occlusion' && d.occlusion) {
    const o = d.occlusion;
    return grid(
      <ValueField
        key="r"
        label="Reaches"
        kind="length"
        unit="mm"
        min={0.1}
        max={1000}
        value={o.radiusMm}
        onChange={(radiusMm, g) => set({ occlusion: { ...o, radiusMm } }, g)}
      />,
      <ValueField
        key="s"
        label="Strength"
        kind="number"
        suffix=" ×"
        step={0.1}
        min={0}
        max={4}
        value={o.strength}
        onChange={(strength, g) => set({ occlusion: { ...o, strength } }, g)}
      />,
    );
  }
  if (role === 'opacity' && d.opacity) {
    const o = d.opacity;
    return grid(
      <ReadFrom key="of" patches={o.patches} onChange={({ patches }, g) => set({ opacity: { ...o, patches } }, g)} />,
      percent('Solid above', o.threshold, (threshold, g) => set({ opacity: { ...o, threshold } }, g)),
      percent('Soft over', o.soft, (soft, g) => set({ opacity: { ...o, soft } }, g)),
      <Tick
        key="i"
        label="Invert"
        className="items-end pb-1"
        checked={o.invert}
        onChange={(invert) => set({ opacity: { ...o, invert } })}
      />,
    );
  }
  return null;
}

function Small({ shown }: { shown: Shown }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const c = canvas.current!;
    [c.width, c.height] = [184, 168];
    const g = c.getContext('2d')!;
    const k = Math.max(184 / shown.width, 168 / shown.height);
    g.imageSmoothingQuality = 'high';
    g.drawImage(toCanvas(shown), 0, 0, shown.width * k, shown.height * k);
  }, [shown]);
  return <canvas ref={canvas} className="h-full w-full" />;
}
