import type { Server } from 'node:http';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';

/** Nothing was asked for so long, ms. */
const IDLE = 8000;

/**
 * Gives memory back when nobody asks for anything: by itself the engine collects only when it needs room, and what a
 * busy hour took would stay taken all night.
 * @returns ends it
 */
export function collectWhenIdle(server: Server, collect: () => void = collector(), idleMs = IDLE): () => void {
  let asked = 0;
  let last = performance.now();
  server.on('request', () => {
    asked++;
    last = performance.now();
  });
  const timer = setInterval(() => {
    if (!asked || performance.now() - last < idleMs) return;
    asked = 0;
    collect();
  }, idleMs / 4);
  timer.unref();
  return () => clearInterval(timer);
}

function collector(): () => void {
  setFlagsFromString('--expose-gc');
  return runInNewContext('gc') as () => void;
}
