'use client';

import { proxy, type Remote, wrap } from 'comlink';
import { useCallback, useEffect, useState } from 'react';
import { PASSED_OVER } from '@/workers/passedOver';
import type { GivenUrl, PrepRun, PrepService, Shown } from '@/workers/prep.worker';
import { GIVEN_ROLES, type GivenRole } from '@/core/prep/given';
import { type Prep, takenOf } from '@/core/prep/schema';
import { picturesOf } from '@/core/prep/run';
import { stepOf } from '@/core/prep/steps/registry';
import { type AnyStep, WORKING_SIDE } from '@/core/prep/steps/step';
import { imageUrl } from '../shared/api';
import { useLatest } from '../shared/useLatest';
import { usePrep } from './prepStore';

let worker: Worker | null = null;
let service: Remote<PrepService> | null = null;
/** What waits for the worker, to be rejected when it is stopped. */
const waiting = new Set<(error: Error) => void>();

export function prepService(): Remote<PrepService> {
  if (!service) {
    worker = new Worker(new URL('../../workers/prep.worker.ts', import.meta.url), { type: 'module', name: 'prep' });
    service = wrap<PrepService>(worker);
  }
  return service;
}

/** Stops even in the middle of a step. What was computed is lost with the worker; the next run starts a new one. */
function stopWorker(): void {
  worker?.terminate();
  worker = service = null;
  for (const reject of waiting) reject(new Error(STOPPED));
  waiting.clear();
}

function unlessStopped<T>(work: Promise<T>): Promise<T> {
  return new Promise((resolve, reject) => {
    waiting.add(reject);
    work.then(resolve, reject).finally(() => waiting.delete(reject));
  });
}
const STOPPED = 'stopped';

export interface PrepWork {
  run: PrepRun | null;
  maps: Partial<Record<GivenRole, Shown>>;
  /** A newer answer is on its way. */
  busy: boolean;
  /** Number of the step under way, while busy. */
  at: number;
  /** Stopped by hand: what is shown is older than the steps. */
  stopped: boolean;
  error: string | null;
  stop: () => void;
  goOn: () => void;
}

const askForMaps = ({ derived, given }: Prep) => prepService().maps(derived, given.reliefMm);

/** Where the maps that came with a picture are found, at the size one works at. */
const urlsOf = ({ given: { maps } }: Prep): GivenUrl[] =>
  GIVEN_ROLES.flatMap((role) => (maps[role] ? [{ role, url: imageUrl(maps[role].image, WORKING_SIDE) }] : []));

/** What the steps make of the picture, as far as it is known. */
export function usePrepRun(): PrepWork {
  const prep = usePrep((s) => s.prep);
  const looked = usePrep((s) => s.prep?.steps.findIndex((x) => x.id === s.step) ?? -1);
  const [error, setError] = useState<string | null>(null);
  const [at, setAt] = useState(0);
  const [again, setAgain] = useState(0);
  const [stoppedAt, setStoppedAt] = useState<string | null>(null);
  // steps that go by the heights are done again when those are read otherwise
  const heights = prep?.steps.some((s) => stepOf<AnyStep>(s).readsHeights) ? prep.derived.height : null;
  const key = prep
    ? JSON.stringify({
        id: prep.id,
        steps: prep.steps,
        looked,
        image: prep.picture.image,
        given: urlsOf(prep),
        taken: takenOf(prep.derived),
        heights,
        again,
      })
    : null;
  const answer = useLatest(key === null ? null : { key }, async (): Promise<PrepRun> => {
    const now = usePrep.getState();
    const { steps, picture, pixelsPerInch, derived } = now.prep!;
    try {
      const made = await unlessStopped(
        (async () => {
          const worker = prepService();
          await worker.open(imageUrl(picture.image, WORKING_SIDE), picture.widthPx, urlsOf(now.prep!));
          return worker.run(
            steps,
            pixelsPerInch,
            steps.findIndex((x) => x.id === now.step),
            derived,
            Object.fromEntries(picturesOf(steps).map((hash) => [hash, imageUrl(hash, WORKING_SIDE)])),
            proxy(setAt),
          );
        })(),
      );
      setError(null);
      return made;
    } catch (e) {
      const { message } = e as Error;
      if (message !== STOPPED && message !== PASSED_OVER) setError(message);
      throw e;
    }
  });
  const busy = answer?.asked.key !== key;
  useEffect(() => {
    // whatever runs now is for an older key, or begins after this
    if (service) void service.pass();
  }, [key]);
  const mapsKey = prep && answer?.value ? JSON.stringify([answer.asked.key, prep.derived, prep.given.reliefMm]) : null;
  const maps = useLatest(mapsKey === null ? null : { key: mapsKey }, () =>
    unlessStopped(askForMaps(usePrep.getState().prep!)),
  );
  const [shown, setShown] = useState<PrepRun | null>(null);
  useEffect(() => {
    if (answer?.value) {
      setShown(answer.value);
      const { width, height, mmPerPx } = answer.value.result;
      usePrep.setState({ sizeMm: mmPerPx && [width * mmPerPx[0], height * mmPerPx[1]] });
    } else if (!key) setShown(null);
  }, [answer, key]);
  const stopNow = useCallback(() => {
    setStoppedAt(key);
    stopWorker();
  }, [key]);
  return {
    run: shown,
    maps: maps?.value ?? {},
    busy: busy || (maps?.asked.key ?? null) !== mapsKey,
    at,
    error,
    stop: stopNow,
    stopped: !busy && stoppedAt === key && !answer?.value,
    goOn: () => setAgain((n) => n + 1),
  };
}
