'use client';

import { useEffect, useRef, useState } from 'react';
import type { Room } from './Room';
import { useRoomSettings } from './settings';

/** A picture that takes longer is no pleasure, ms; so many in a row, so that one alone is none. */
const SLOW_MS = 1200;
const IN_A_ROW = 3;

type State = { kind: 'lost' } | { kind: 'plain' } | { kind: 'slow'; ms: number } | null;

/** What the graphics card cannot do, or does slowly, and the lighter way. */
export function CardNotice({ room, tracing }: { room: Room | null; tracing: boolean }) {
  const [state, setState] = useState<State>(null);
  const [dismissed, setDismissed] = useState(false);
  const { light, set } = useRoomSettings();
  const traces = useRef(tracing);
  useEffect(() => {
    traces.current = tracing;
  }, [tracing]);
  useEffect(() => {
    if (!room) return;
    let slow = 0;
    const canvas = room.canvas;
    const lost = () => setState({ kind: 'lost' });
    const back = () => setState(null);
    canvas.addEventListener('webglcontextlost', lost);
    canvas.addEventListener('webglcontextrestored', back);
    const stop = room.onDrawn((ms) => {
      // while light is traced the machine has other work
      slow = ms > SLOW_MS && !traces.current ? slow + 1 : 0;
      if (slow >= IN_A_ROW) setState((s) => s ?? { kind: 'slow', ms });
    });
    if (!room.develops) setState({ kind: 'plain' });
    return () => {
      stop();
      canvas.removeEventListener('webglcontextlost', lost);
      canvas.removeEventListener('webglcontextrestored', back);
    };
  }, [room]);
  if (state?.kind === 'lost')
    return (
      <p role="status" className="absolute inset-0 grid place-items-center bg-base-200/85 p-8 text-center">
        The graphics card has let go of the room. It comes back by itself; the sheet works meanwhile.
      </p>
    );
  if (!state || dismissed || light !== 'true') return null;
  return (
    <p
      role="status"
      className="card-panel absolute bottom-2 left-1/2 flex -translate-x-1/2 items-center gap-2 px-2 py-0.5 text-2xs"
    >
      {state.kind === 'slow'
        ? `A picture in true light takes ${(state.ms / 1000).toFixed(1)} s on this graphics card.`
        : 'This graphics card keeps no light: true light is drawn without exposure and near shade.'}
      <button type="button" className="tool h-5" onClick={() => set({ light: 'draft' })}>
        Draft
      </button>
      <button type="button" className="tool h-5" onClick={() => setDismissed(true)}>
        Keep it
      </button>
    </p>
  );
}
