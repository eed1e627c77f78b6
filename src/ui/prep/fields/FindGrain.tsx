'use client';

import { useState } from 'react';
import { usePrep } from '../prepStore';
import { prepService } from '../usePrepRun';
import type { Of } from './of';

/** The dominant direction of the picture, found and taken. */
export function FindGrain({ step, index, onChange }: Of<'turn'>) {
  const [found, setFound] = useState<string | null>(null);
  const find = async () => {
    const { prep } = usePrep.getState();
    const { grain } = await prepService().inspect(prep!.steps, prep!.pixelsPerInch, index);
    // to the nearer of level and upright
    const off = Math.abs(grain.deg) <= 45 ? grain.deg : grain.deg - Math.sign(grain.deg) * 90;
    setFound(`It runs at ${grain.deg.toFixed(1)}°, ${Math.round(grain.confidence * 100)}% of it agrees.`);
    onChange({ ...step, turnDeg: Math.round(-off * 100) / 100 });
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
