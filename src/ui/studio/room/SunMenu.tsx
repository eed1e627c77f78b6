'use client';

import { Cloud, Sun } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Light, Project } from '@/core/project/schema';
import { useProject } from '../../project/projectStore';
import { messageOf } from '../../shared/api';
import { Select } from '../../shared/fields';
import { Menu } from '../../shared/Menu';
import { ValueField } from '../../shared/ValueField';
import { lightOf } from '@/core/project/lightOf';
import { takeInSky } from './ownSky';
import { useRoomSettings } from './settings';

/** Hours of a day, for those who do not think in degrees. */
const HOURS: { name: string; light: Pick<Light, 'bearingDeg' | 'altitudeDeg' | 'strength' | 'lampsOff'> }[] = [
  { name: 'Morning', light: { bearingDeg: 105, altitudeDeg: 22, strength: 1, lampsOff: true } },
  { name: 'Noon', light: { bearingDeg: 185, altitudeDeg: 55, strength: 1, lampsOff: true } },
  { name: 'Afternoon', light: { bearingDeg: 235, altitudeDeg: 34, strength: 1, lampsOff: true } },
  { name: 'Overcast', light: { bearingDeg: 200, altitudeDeg: 40, strength: 0, lampsOff: true } },
  { name: 'Evening', light: { bearingDeg: 282, altitudeDeg: 5, strength: 1, lampsOff: false } },
  { name: 'Lamplight', light: { bearingDeg: 300, altitudeDeg: -5, strength: 1, lampsOff: false } },
];

const OUTSIDE = { ground: 'Ground to the horizon', water: 'Water to the horizon', nothing: 'Nothing' };
const METERING = { automatic: 'Automatic', fixed: 'Fixed: a card outside' };
const CURVE = { film: 'Film', neutral: 'Neutral' };

const pairs = (of: Record<string, string>) => Object.entries(of);

const SUN = { found: 'As found in it', project: 'Where it stands above' };

/** A sky of one's own: brought in, turned, brighter or darker. */
function SkyFields({ light, set }: { light: Light; set: (values: Partial<Light>, gesture?: string) => void }) {
  const [reading, setReading] = useState(false);
  const { sky } = light;
  const bring = async (files: FileList | null) => {
    if (!files?.length) return;
    setReading(true);
    try {
      set({ sky: await takeInSky(files[0]) });
    } catch (error) {
      toast.error('The sky was not taken in', { description: messageOf(error) });
    } finally {
      setReading(false);
    }
  };
  if (!sky)
    return (
      <label className="tool col-span-2 cursor-pointer focus-within:outline-2">
        <Cloud size={14} /> {reading ? 'Reading the sky…' : 'Bring in a sky of your own'}
        <input
          type="file"
          accept=".hdr,.exr,image/*"
          className="sr-only"
          disabled={reading}
          onChange={(e) => void bring(e.target.files)}
        />
      </label>
    );
  const change = (values: Partial<typeof sky>, gesture?: string) => set({ sky: { ...sky, ...values } }, gesture);
  return (
    <fieldset className="col-span-2 grid grid-cols-2 gap-2 border-t border-base-300 pt-1.5">
      <legend className="sr-only">Own sky</legend>
      <p className="col-span-2 flex items-center gap-1">
        <Cloud size={14} /> <span className="min-w-0 flex-1 truncate">{sky.name}</span>
        <button type="button" className="tool h-5 px-1" onClick={() => set({ sky: undefined })}>
          Take it down
        </button>
      </p>
      <ValueField
        label="Sky turned"
        kind="angle"
        value={sky.turnDeg}
        min={-360}
        max={360}
        step={5}
        onChange={(turnDeg, g) => change({ turnDeg }, g)}
      />
      <ValueField
        label="Sky brightness"
        kind="number"
        value={sky.brightness}
        min={0}
        max={100}
        step={0.1}
        onChange={(brightness, g) => change({ brightness }, g)}
      />
      <div className="col-span-2">
        <Select
          label="Its sun"
          value={sky.sun}
          options={pairs(SUN)}
          onChange={(v) => change({ sun: v as typeof sky.sun })}
        />
      </div>
    </fieldset>
  );
}

/** Where the sun stands, what lies outside, and how light becomes a picture. */
export function SunMenu({ project }: { project: Project }) {
  const run = useProject((s) => s.run);
  const settings = useRoomSettings();
  const { light } = project;
  const full = lightOf(light);
  const foot = Math.min(...Object.values(project.parts).map((p) => p.min[1]), 1e7);
  const set = (values: Partial<Light>, gesture?: string) =>
    run([{ kind: 'setProject', light: { ...light, ...values } }], gesture);
  return (
    <Menu
      title="Sun, sky and exposure"
      label={
        <>
          <Sun size={14} /> Sun
        </>
      }
    >
      {() => (
        <div className="grid max-h-[70vh] w-60 grid-cols-2 gap-2 overflow-auto p-2">
          <div className="col-span-2 grid grid-cols-3 gap-1" role="group" aria-label="Hour">
            {HOURS.map(({ name, light: hour }) => (
              <button key={name} type="button" className="tool justify-center px-1" onClick={() => set(hour)}>
                {name}
              </button>
            ))}
          </div>
          <ValueField
            label="Stands at (bearing)"
            kind="angle"
            value={light.bearingDeg}
            min={0}
            max={360}
            step={5}
            onChange={(bearingDeg, g) => set({ bearingDeg }, g)}
          />
          <ValueField
            label="Height"
            kind="angle"
            value={light.altitudeDeg}
            min={-12}
            max={90}
            step={5}
            onChange={(altitudeDeg, g) => set({ altitudeDeg }, g)}
          />
          <ValueField
            label="Strength (0 overcast)"
            kind="number"
            value={light.strength}
            min={0}
            max={10}
            step={0.1}
            onChange={(strength, g) => set({ strength }, g)}
          />
          <ValueField
            label="Brighter by, stops"
            kind="number"
            value={full.stops}
            min={-8}
            max={8}
            step={0.5}
            onChange={(stops, g) => set({ stops }, g)}
          />
          <div className="col-span-2">
            <Select
              label="Metering"
              value={full.metering}
              options={pairs(METERING)}
              onChange={(v) => set({ metering: v as typeof full.metering })}
            />
          </div>
          <div className="col-span-2">
            <Select
              label="Curve"
              value={full.curve}
              options={pairs(CURVE)}
              onChange={(v) => set({ curve: v as typeof full.curve })}
            />
          </div>
          <div className="col-span-2">
            <Select
              label="Outside"
              value={full.outside}
              options={pairs(OUTSIDE)}
              onChange={(v) => set({ outside: v as typeof full.outside })}
            />
          </div>
          <ValueField
            label="Lies at"
            kind="length"
            unit={project.unit}
            value={light.outsideMm ?? foot}
            step={50}
            onChange={(outsideMm, g) => set({ outsideMm }, g)}
          />
          <ValueField
            label="Near shade reaches"
            kind="length"
            unit={project.unit}
            value={full.occlusionMm}
            min={0}
            max={5000}
            step={50}
            onChange={(occlusionMm, g) => set({ occlusionMm }, g)}
          />
          <SkyFields light={light} set={set} />
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={settings.shadows}
              onChange={(e) => settings.set({ shadows: e.target.checked })}
            />
            Shadows
          </label>
          <label className="flex items-center gap-2" title="G">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={!light.lampsOff}
              onChange={(e) => set({ lampsOff: !e.target.checked })}
            />
            Lamps
          </label>
        </div>
      )}
    </Menu>
  );
}
