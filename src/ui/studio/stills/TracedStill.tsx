'use client';

import { useState } from 'react';
import type { Project } from '@/core/project/schema';
import type { StillView } from '@/core/still/view';
import { urlOf } from '../../shared/api';
import { Select } from '../../shared/fields';
import { ValueField } from '../../shared/ValueField';
import { useStillSize } from './stillSize';
import { useTracing } from './tracing';

const NONE = '';
const PARTS = [
  ['x', 'From the left, px'],
  ['y', 'From the top, px'],
  ['width', 'Width of the part, px'],
  ['height', 'Height of the part, px'],
] as const;

/** A still by traced light: how many rays, all of it or a part, and how far it is. */
export function TracedStill({ project, view, name }: { project: Project; view: () => StillView; name: () => string }) {
  const { widthPx, heightPx } = useStillSize();
  const [samples, setSamples] = useState(32);
  const [part, setPart] = useState(false);
  const [region, setRegion] = useState({ x: 0, y: 0, width: 400, height: 300 });
  const [into, setInto] = useState(NONE);
  const { what, job, project: of, begin } = useTracing();
  if (what && job)
    return of === project.id ? <UnderWay /> : <p role="status">A still of another project, {what.name}, is traced.</p>;
  const fits = Object.values(project.stills ?? {}).filter((s) => s.widthPx === widthPx && s.heightPx === heightPx);
  const within = fits.find((s) => s.id === into)?.image;
  return (
    <div className="mb-2 space-y-2">
      <div className="grid grid-cols-2 gap-2">
        <ValueField
          label="Rays for each pixel"
          kind="number"
          value={samples}
          min={1}
          max={4096}
          step={8}
          onChange={(v) => setSamples(Math.round(v))}
        />
        <label className="flex items-end gap-2 pb-1.5">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={part}
            onChange={(e) => setPart(e.target.checked)}
          />
          A part of it
        </label>
        {part &&
          PARTS.map(([key, label]) => (
            <ValueField
              key={key}
              label={label}
              kind="number"
              value={region[key]}
              min={key === 'width' || key === 'height' ? 1 : 0}
              max={8192}
              step={10}
              onChange={(v) => setRegion({ ...region, [key]: Math.round(v) })}
            />
          ))}
      </div>
      {part && fits.length > 0 && (
        <Select
          label="Put it into"
          value={into}
          options={[[NONE, 'nothing: the part alone'], ...fits.map((s): [string, string] => [s.id, s.name])]}
          onChange={setInto}
        />
      )}
      <button
        type="button"
        className="tool tool-main"
        onClick={() =>
          void begin(project.id, {
            ...view(),
            name: name(),
            widthPx,
            heightPx,
            samples,
            ...(part ? { region, ...(within ? { within } : {}) } : {}),
          })
        }
      >
        Trace the still
      </button>
      <p className="quiet text-2xs">
        Every ray finds its way through the pieces of the hand-over, on the server: true light, in its own time.
      </p>
    </div>
  );
}

function UnderWay() {
  const { what, job, enough, stop, goOn, keep, leave } = useTracing();
  const running = job!.state === 'running';
  const ready = job!.state === 'done';
  return (
    <div className="mb-2" role="group" aria-label="Still under way">
      <img
        // anew with each ray
        key={job!.message}
        src={`${urlOf('GET /api/jobs/{id}/seen', { id: job!.id })}?${encodeURIComponent(job!.message)}`}
        alt="The still so far"
        className="mb-2 max-h-64 w-full rounded object-contain"
        // before the first ray is through there is none
        onError={(e) => (e.currentTarget.hidden = true)}
      />
      <p className="mb-1 truncate" role="status">
        {what!.name}: {running ? job!.message : ready ? 'ready' : 'stopped'}
      </p>
      {running && (
        <progress
          className="progress progress-primary w-full"
          value={job!.progress}
          max={1}
          aria-label="Traced still"
        />
      )}
      <div className="mt-1 flex gap-2">
        {running ? (
          <>
            <button type="button" className="tool tool-main" onClick={enough}>
              Good enough
            </button>
            <button type="button" className="tool" onClick={stop}>
              Stop
            </button>
          </>
        ) : (
          <>
            <button type="button" className="tool tool-main" onClick={() => (ready ? keep() : void goOn())}>
              {ready ? 'Keep it' : 'Go on'}
            </button>
            <button type="button" className="tool" onClick={leave}>
              Throw it away
            </button>
          </>
        )}
      </div>
    </div>
  );
}
