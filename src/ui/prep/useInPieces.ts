'use client';

import { useEffect, useState } from 'react';
import type { Vec2 } from '@/core/geometry/vec';
import type { PrepRun } from '@/workers/prep.worker';
import { useLatest } from '../shared/useLatest';
import { usePrep } from './prepStore';
import { prepService } from './usePrepRun';

/**
 * The leaves of a finished picture laid piece by piece, as a picture of half of a view.
 * @param size of the view, CSS pixels
 * @param tile how wide the picture is in it
 * @returns the leaves there are, null where there are none or its size is not known; whether there are too many to see
 */
export function useInPieces(run: PrepRun | null, size: Vec2, tile: number) {
  const [ask, set] = useState(false);
  const prep = usePrep((s) => s.prep);
  const shown = run?.result;
  const sized = shown?.mmPerPx ? shown.width * shown.mmPerPx[0] : null;
  const leaves = sized ? (prep?.leaves ?? run?.leaves ?? null) : null;
  const ratio = typeof window === 'undefined' ? 1 : window.devicePixelRatio || 1;
  const scale = sized ? (tile * ratio) / sized : 0;
  const half: Vec2 = [size[0] - Math.round(size[0] / 2), size[1]];
  const view = { scale, width: Math.round(half[0] * ratio), height: Math.round(half[1] * ratio) };
  const wanted = ask && leaves && prep && scale > 0 && view.width > 0 && view.height > 0;
  // a picture that was made anew is drawn anew
  const [count, setCount] = useState(0);
  useEffect(() => setCount((n) => n + 1), [shown]);
  const question = wanted
    ? { key: JSON.stringify([leaves, prep.grain, view, count]), leaves, grain: prep.grain, view }
    : null;
  const answer = useLatest(question, (of) => prepService().inPieces(of.leaves, of.grain, of.view));
  const drawn = answer?.value ?? null;
  useEffect(() => () => drawn?.close(), [drawn]);
  return { ask, set, leaves, drawn: wanted ? drawn : null, tooMany: wanted && answer?.value === null };
}
