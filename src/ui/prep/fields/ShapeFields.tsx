'use client';

import { useState } from 'react';
import { Tick } from '../../shared/fields';
import { ValueField } from '../../shared/ValueField';
import { usePrep } from '../prepStore';
import { prepService } from '../usePrepRun';
import { length, type Of } from './common';

/** Four corners of a known rectangle; they are dragged on the picture. */
export function CornersFields({ step: s, onChange }: Of<'corners'>) {
  return (
    <>
      <div className="grid grid-cols-2 gap-1.5">
        {length('Width', s.widthMm, (widthMm, g) => onChange({ ...s, widthMm }, g))}
        {length('Height', s.heightMm, (heightMm, g) => onChange({ ...s, heightMm }, g))}
      </div>
      <p className="quiet text-2xs leading-tight">Drag the four corners to those of a rectangle you know.</p>
    </>
  );
}

/** Turned, and leaned until uprights stand and levels lie. */
export function TurnFields({ step: s, index, onChange }: Of<'turn'>) {
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
}

/** What is kept; its frame is dragged on the picture. */
export function CropFields({ step: s, onChange }: Of<'crop'>) {
  return (
    <Tick
      label="To whole periods of what is laid"
      checked={s.wholePeriods}
      onChange={(wholePeriods) => onChange({ ...s, wholePeriods })}
    />
  );
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
