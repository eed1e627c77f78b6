import { type Remote, wrap } from 'comlink';
import type { LightService } from '@/workers/light.worker';

let service: Remote<LightService> | null = null;

/** The worker that traces light and reads skies; made when it is first needed. */
export function lightService(): Remote<LightService> {
  service ??= wrap<LightService>(
    new Worker(new URL('../../../workers/light.worker.ts', import.meta.url), { type: 'module', name: 'light' }),
  );
  return service;
}
