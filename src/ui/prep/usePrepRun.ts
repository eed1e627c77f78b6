'use client';

import { type Remote, wrap } from 'comlink';
import { useEffect, useState } from 'react';
import type { PrepRun, PrepService, Shown } from '@/workers/prep.worker';
import type { Derived } from '@/core/prep/schema';
import { imageUrl } from '../shared/api';
import { useLatest } from '../shared/useLatest';
import { usePrep } from './prepStore';

/** Longest side of the picture that stands for the original while one works. */
export const WORKING_SIDE = 1024;

let service: Remote<PrepService> | null = null;
export function prepService(): Remote<PrepService> {
  service ??= wrap<PrepService>(new Worker(new URL('../../workers/prep.worker.ts', import.meta.url), { type: 'module', name: 'prep' })); // prettier-ignore
  return service;
}

/** What the steps make of the picture, as far as it is known; `busy` while a newer answer is on its way. */
export function usePrepRun(): { run: PrepRun | null; maps: Partial<Record<keyof Derived, Shown>>; busy: boolean; error: string | null } {
  const prep = usePrep((s) => s.prep);
  const looked = usePrep((s) => s.prep?.steps.findIndex((x) => x.id === s.step) ?? -1);
  const [error, setError] = useState<string | null>(null);
  const steps = prep?.steps.map((s) => s) ?? [];
  const key = prep ? JSON.stringify({ id: prep.id, steps, looked, image: prep.picture.image }) : null;
  const answer = useLatest<PrepRun>(key, async () => {
    const now = usePrep.getState();
    try {
      await prepService().open(imageUrl(now.prep!.picture.image, WORKING_SIDE), now.prep!.picture.widthPx);
      const run = await prepService().run(now.prep!.steps, now.prep!.pixelsPerInch, now.prep!.steps.findIndex((x) => x.id === now.step));
      setError(null);
      return run;
    } catch (e) {
      setError((e as Error).message);
      throw e;
    }
  });
  const mapsKey = prep && answer?.value ? JSON.stringify([answer.key, prep.derived]) : null;
  const maps = useLatest(mapsKey, () => prepService().maps(usePrep.getState().prep!.derived));
  const [shown, setShown] = useState<PrepRun | null>(null);
  useEffect(() => {
    if (answer?.value) setShown(answer.value);
    else if (!key) setShown(null);
  }, [answer, key]);
  return { run: shown, maps: maps?.value ?? {}, busy: answer?.key !== key || maps?.key !== mapsKey, error };
} // prettier-ignore
