'use client';

import { Link2, Link2Off } from 'lucide-react';
import { countsAcross, repeatOnSheet } from '@/core/setout/placement';
import { followMaterial, repeatOf, type Spec } from '@/core/specification/schema';
import { trimNumber } from '@/core/units/length';
import { TextField } from '../../shared/fields';
import { MIXED, ValueField } from '../../shared/ValueField';
import { Segment } from '../bench/Segment';
import { type Laid, useBench } from '../useBench';
import { sharedBy } from '../../shared/sharedValue';
import { useSheet } from '../useSheet';
import { EvenDensity } from './EvenDensity';
import { OnceFields } from './OnceFields';

const LEAST = 0.01;
const MOST = 1e6;

/** Larger or smaller than the material's, for whatever reason. */
const hasOwnSize = ({ repeat }: Spec): boolean => repeat.own !== null || repeat.percent !== undefined;

/** How large it is beside the material's, percent; by its width where it has a size of its own. */
const percentOf = ({ spec, material }: Laid): number => (repeatOf(spec, material).widthMm / material.widthMm) * 100;

/** How large the picture is: in millimetres, and as counts across the surface. */
export function RepeatCard() {
  const { laid, edit, unit } = useBench();
  const sheet = useSheet(laid[0]?.surface.id ?? null)?.sheet ?? null;
  // exactly so many round something closed: shown as it comes out there
  const comesOut = (l: Laid) =>
    sheet && l === laid[0] ? repeatOnSheet(l.spec, l.material, sheet) : repeatOf(l.spec, l.material);
  const size = (side: 'widthMm' | 'heightMm') => (laid.length ? sharedBy(laid, (l) => comesOut(l)[side]) : null);
  const own = laid.length ? sharedBy(laid, (l) => hasOwnSize(l.spec)) : undefined;
  const locked = laid.length ? sharedBy(laid, (l) => l.spec.repeat.locked) !== false : true;

  const sized = (l: Laid, side: 'widthMm' | 'heightMm', value: number) => {
    const now = repeatOf(l.spec, l.material);
    const other = side === 'widthMm' ? 'heightMm' : 'widthMm';
    const scale = l.spec.repeat.locked ? value / now[side] : 1;
    const clamp = (v: number) => Math.min(MOST, Math.max(LEAST, v));
    return {
      ...l.spec,
      repeat: { ...l.spec.repeat, own: { ...now, [side]: clamp(value), [other]: clamp(now[other] * scale) } },
    };
  };
  const set = (side: 'widthMm' | 'heightMm') => (value: number, gesture?: string) =>
    edit((l) => sized(l, side, value), gesture);

  const setPercent = (percent: number, gesture?: string) =>
    edit((l) => ({ ...l.spec, repeat: followMaterial(l.spec.repeat, percent) }), gesture);

  const first = laid[0];
  const counts =
    first && sheet
      ? countsAcross(sheet, repeatOnSheet(first.spec, first.material, sheet), first.spec.direction.turnDeg)
      : null;
  const setCount = (axis: 0 | 1) => (count: number, gesture?: string) => {
    if (!counts || !first) return;
    const side = axis === 0 ? 'widthMm' : 'heightMm';
    const value = (repeatOf(first.spec, first.material)[side] * counts[axis]) / count;
    edit((l) => sized(l, side, value), gesture);
  };
  return (
    <Segment
      id="repeat"
      own={own === MIXED ? true : own}
      follows="the material"
      onLetGo={() => setPercent(100)}
      further={
        first && (
          <div className="max-w-[420px] space-y-2">
            <ValueField
              label="Of the material’s size"
              kind="number"
              suffix=" %"
              decimals={2}
              min={0.1}
              max={10_000}
              value={sharedBy(laid, percentOf)}
              title="It follows the material: another size there is another size here"
              onChange={setPercent}
            />
            <EvenDensity first={first} />
            <BandFields laid={laid} edit={edit} />
            {first.material.maps.baseColour && <DensityFields laid={laid} edit={edit} />}
          </div>
        )
      }
    >
      <div className="grid grid-cols-[1fr_20px_1fr] items-end gap-1">
        <ValueField
          label="Width"
          kind="length"
          unit={unit}
          value={size('widthMm')}
          min={LEAST}
          max={MOST}
          disabled={!first}
          onChange={set('widthMm')}
          onPercent={setPercent}
        />
        <button
          type="button"
          className="tool justify-center px-0"
          aria-pressed={locked}
          disabled={!first}
          title={locked ? 'Width and height keep their proportion' : 'Width and height are free'}
          aria-label="Lock proportion"
          onClick={() => edit((l) => ({ ...l.spec, repeat: { ...l.spec.repeat, locked: !locked } }))}
        >
          {locked ? <Link2 size={14} /> : <Link2Off size={14} />}
        </button>
        <ValueField
          label="Height"
          kind="length"
          unit={unit}
          value={size('heightMm')}
          min={LEAST}
          max={MOST}
          disabled={!first}
          onChange={set('heightMm')}
          onPercent={setPercent}
        />
      </div>
      <div className="mt-1.5 grid grid-cols-[1fr_20px_1fr] gap-1">
        <ValueField
          label="Across"
          kind="number"
          value={counts ? counts[0] : null}
          min={0.001}
          max={1e5}
          decimals={2}
          disabled={!counts}
          suffix=" ×"
          onChange={setCount(0)}
          title="How often it repeats across the surface"
        />
        <span />
        <ValueField
          label="Up"
          kind="number"
          value={counts ? counts[1] : null}
          min={0.001}
          max={1e5}
          decimals={2}
          disabled={!counts}
          suffix=" ×"
          onChange={setCount(1)}
          title="How often it repeats up the surface"
        />
      </div>
      <OnceFields />
    </Segment>
  );
}

/** Picture pixels for each millimetre, and the way to make them alike on all that is picked. */
function DensityFields({ laid, edit }: Pick<ReturnType<typeof useBench>, 'laid' | 'edit'>) {
  const densityOf = (l: Laid) =>
    l.material.maps.baseColour ? l.material.maps.baseColour.widthPx / repeatOf(l.spec, l.material).widthMm : 0;
  const known = laid.map(densityOf).filter((d) => d > 0);
  const [least, most] = [Math.min(...known), Math.max(...known)];
  const alike = most / least < 1.005;
  const evenOut = () =>
    edit((l) => {
      const own = densityOf(l);
      if (!own) return l.spec;
      const now = repeatOf(l.spec, l.material);
      const k = own / densityOf(laid[0]);
      return { ...l.spec, repeat: { ...l.spec.repeat, own: { widthMm: now.widthMm * k, heightMm: now.heightMm * k } } };
    });
  return (
    <div>
      <p className="num">
        {alike ? least.toFixed(2) : `${least.toFixed(2)} to ${most.toFixed(2)}`} pixels per mm
        {laid.length > 1 && <span className="quiet"> over {laid.length} surfaces</span>}
      </p>
      {!alike && densityOf(laid[0]) > 0 && (
        <>
          <button type="button" className="tool tool-line mt-1" onClick={evenOut}>
            Even out to the first picked
          </button>
          <p className="quiet mt-1 text-2xs leading-tight">
            Repeats are made larger or smaller until all show as many pixels per mm. They leave their material’s true
            size.
          </p>
        </>
      )}
    </div>
  );
}

/** A band of the picture along a strip: as high as the strip, true along it. */
function BandFields({ laid, edit }: Pick<ReturnType<typeof useBench>, 'laid' | 'edit'>) {
  const band = laid[0]?.spec.repeat.band ?? null;
  const inPieces = !!laid[0]?.spec.pieces && laid[0].spec.pieces.layout.kind !== 'whole';
  const set = (next: NonNullable<Laid['spec']['repeat']['band']> | null, gesture?: string) =>
    edit((l) => ({ ...l.spec, repeat: { ...l.spec.repeat, band: next } }), gesture);
  return (
    <div>
      <label className="flex h-6 items-center gap-1.5">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={!!band}
          disabled={inPieces}
          onChange={(e) => set(e.target.checked ? { from: 0, to: 1 } : null)}
        />
        A band of it, exactly as high as the strip
      </label>
      {band && (
        <div className="grid grid-cols-2 gap-2">
          {(['from', 'to'] as const).map((end) => (
            <ValueField
              key={end}
              label={end === 'from' ? 'From, of the height' : 'To, of the height'}
              kind="number"
              suffix=" %"
              decimals={1}
              value={band[end] * 100}
              min={0}
              max={100}
              onChange={(v, g) => set({ ...band, [end]: v / 100 }, g)}
            />
          ))}
          <div className="col-span-2">
            <TextField
              label="Lines that fall on arrises, % of the height"
              value={(band.lines ?? []).map((l) => trimNumber(l * 100, 2)).join(', ')}
              onChange={(text) => {
                const lines = text
                  .split(/[,;\s]+/)
                  .map(Number)
                  .filter((v) => v > 0 && v < 100)
                  .map((v) => v / 100);
                const { lines: _before, ...rest } = band;
                set(lines.length ? { ...rest, lines } : rest);
              }}
            />
          </div>
        </div>
      )}
    </div>
  );
}
