'use client';

import { useEffect, useMemo, useRef, useState } from 'react';
import type { Blotch } from '@/core/picture/judge';
import type { CopyFigure } from '@/core/prep/judge';
import { formatLength } from '@/core/units/length';
import type { PrepRun } from '@/workers/prep.worker';
import { halvings, toCanvas } from './drawShown';
import { Figures } from './Figures';
import { coverAt, newStep, patchOf, usePrep } from './prepStore';
import { useInPieces } from './useInPieces';

/** Heights of a hand and a door, to see the size by. */
const HAND = 190;

/** The picture repeated: what stands out from afar stands out here. */
export function RepeatedView({ run, busy }: { run: PrepRun | null; busy: boolean }) {
  const [times, setTimes] = useState(4);
  const [heat, setHeat] = useState(false);
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [size, setSize] = useState<[number, number]>([300, 300]);
  useEffect(() => {
    const observer = new ResizeObserver(([e]) => setSize([e.contentRect.width, e.contentRect.height]));
    observer.observe(box.current!);
    return () => observer.disconnect();
  }, []);
  const shown = run?.result ?? null;
  const pictures = useMemo(() => (shown ? halvings(toCanvas(shown)) : null), [shown]);
  const warm = useMemo(() => (run ? heatCanvas(run) : null), [run]);
  const tile = shown ? size[0] / times : 0;
  const tileHigh = shown
    ? (tile * shown.height * (shown.mmPerPx?.[1] ?? 1)) / (shown.width * (shown.mmPerPx?.[0] ?? 1))
    : 0;
  const { drawn: inPieces, ask: asPieces, set: setAsPieces, leaves, tooMany } = useInPieces(run, size, tile);
  useEffect(() => {
    const c = canvas.current;
    if (!c) return;
    const ratio = window.devicePixelRatio || 1;
    [c.width, c.height] = [size[0] * ratio, size[1] * ratio];
    const g = c.getContext('2d')!;
    g.scale(ratio, ratio);
    if (!pictures || !(tile > 2)) return;
    const picture = pictures.findLast((p) => p.width >= tile * ratio) ?? pictures[0];
    for (let y = 0; y < size[1]; y += tileHigh) {
      for (let x = 0; x < size[0] - 0.5; x += tile) {
        // a hair larger, so that no background shines between
        g.drawImage(picture, x, y, tile + 0.5, tileHigh + 0.5);
        if (heat && warm) g.drawImage(warm, x, y, tile, tileHigh);
      }
    }
    if (!inPieces) return;
    const half = Math.round(size[0] / 2);
    g.drawImage(inPieces, half, 0, size[0] - half, size[1]);
    g.fillStyle = '#fffdf8';
    g.fillRect(half - 1, 0, 2, size[1]);
  });
  const wall = shown?.mmPerPx ? shown.width * shown.mmPerPx[0] * times : null;
  const mendHere = (e: React.MouseEvent) => {
    const { prep, change, look } = usePrep.getState();
    if (!prep || !run) return;
    const r = box.current!.getBoundingClientRect();
    const [x, y] = [((((e.clientX - r.left) / tile) % 1) + 1) % 1, ((((e.clientY - r.top) / tileHigh) % 1) + 1) % 1];
    const near = run.blotches.blotches.find(
      (b) => distanceTo(b, x, y, tileHigh / tile) < Math.max(b.radius * 1.5, 0.04),
    );
    const stroke = near
      ? patchOf(near)
      : run.copies && copyAt(run.copies, x, y)
        ? coverAt(x, y, run.copies.radius)
        : null;
    if (!stroke) return;
    const last = prep.steps.findLast((s) => s.kind === 'heal' && s.on);
    const step = last?.kind === 'heal' ? last : null;
    if (step) {
      change({
        steps: prep.steps.map((s) => (s.id === step.id ? { ...step, strokes: [...step.strokes, stroke] } : s)),
      });
      return look(step.id);
    }
    const made = { ...newStep('heal'), strokes: [stroke] } as ReturnType<typeof newStep>;
    const at = prep.steps.findIndex((s) => s.kind === 'resize');
    change({ steps: at < 0 ? [...prep.steps, made] : [...prep.steps.slice(0, at), made, ...prep.steps.slice(at)] });
    look(made.id);
  };
  return (
    <section aria-label="Repeated" className="flex h-full min-h-0 w-full flex-col">
      <div className="hair flex h-8 items-center gap-2 border-b bg-base-100 px-2">
        <span className="font-semibold">Repeated</span>
        <input
          type="range"
          className="range range-xs w-24"
          min={1}
          max={16}
          value={times}
          aria-label="Times across"
          onChange={(e) => setTimes(Number(e.target.value))}
        />
        <span className="num quiet text-2xs">
          {times} × across{wall ? `, ${formatLength(wall, 'm', { decimals: 2 })}` : ''}
        </span>
        {leaves && (
          <button
            type="button"
            className="tool ml-auto h-6"
            aria-pressed={asPieces}
            title="On the right the same, laid piece by piece of its leaves, at one scale"
            onClick={() => setAsPieces(!asPieces)}
          >
            Beside pieces
          </button>
        )}
        <button
          type="button"
          className={`tool h-6 ${leaves ? '' : 'ml-auto'}`}
          aria-pressed={heat}
          title="What will be seen to recur, what is copied (blue), dots where lines end; click one to mend it"
          onClick={() => setHeat(!heat)}
        >
          Heat
        </button>
      </div>
      <div
        ref={box}
        className="relative min-h-0 flex-1 overflow-hidden bg-base-200"
        data-testid="repeated"
        aria-busy={busy}
        onClick={heat ? mendHere : undefined}
      >
        <canvas ref={canvas} className={`absolute inset-0 h-full w-full ${heat ? 'cursor-pointer' : ''}`} />
        {tooMany && (
          <p className="card-panel absolute top-2 right-2 px-2 py-1 text-2xs">
            Its pieces are too small to be seen like this: repeat it fewer times across.
          </p>
        )}
        {wall && (
          <div className="card-panel absolute bottom-2 left-2 flex items-end gap-1 px-2 py-1 text-2xs">
            <span
              className="block border-l-2 border-primary"
              style={{ height: Math.max(2, (HAND / wall) * size[0]) }}
            />{' '}
            a hand, 190 mm
          </div>
        )}
      </div>
      {run && <Figures run={run} />}
    </section>
  );
}

/** How far a place of the repeated picture is from a blotch, as a share of its width. */
function distanceTo({ ends: [a, b] }: Blotch, x: number, y: number, high: number): number {
  let least = Infinity;
  for (const i of [-1, 0, 1]) {
    for (const j of [-1, 0, 1]) {
      const [px, py] = [x + i - a[0], (y + j - a[1]) * high];
      const [dx, dy] = [b[0] - a[0], (b[1] - a[1]) * high];
      const t = Math.min(1, Math.max(0, (px * dx + py * dy) / (dx * dx + dy * dy || 1)));
      least = Math.min(least, Math.hypot(px - t * dx, py - t * dy));
    }
  }
  return least;
}

/** Whether a place is more like another than any two of the sample are. */
function copyAt({ heat: { width, height, data }, own }: CopyFigure, x: number, y: number): boolean {
  const [i, j] = [Math.min(width - 1, Math.floor(x * width)), Math.min(height - 1, Math.floor(y * height))];
  return data[j * width + i] > own;
}

function heatCanvas(run: PrepRun): HTMLCanvasElement {
  const { heat, strongest } = run.blotches;
  const { copies } = run;
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [heat.width, heat.height];
  const image = new ImageData(heat.width, heat.height);
  const top = Math.max(strongest, 4);
  for (let i = 0; i < heat.data.length; i++) {
    const v = Math.min(1, heat.data[i] / top);
    image.data.set([168, 58, 46, v > 0.45 && strongest > 2 ? Math.round((v - 0.45) * 330) : 0], i * 4);
  }
  const g = canvas.getContext('2d')!;
  g.putImageData(image, 0, 0);
  if (copies) {
    g.globalCompositeOperation = 'destination-over';
    g.drawImage(copiesCanvas(copies), 0, 0, heat.width, heat.height);
    g.globalCompositeOperation = 'source-over';
  }
  // where lines end
  g.fillStyle = 'rgb(168 58 46 / 0.8)';
  for (const { x, y } of run.verdict.broken.places) g.fillRect(x * heat.width - 1, y * heat.height - 1, 2, 2);
  return canvas;
}

/** The more a place is like another, beyond what the sample has of that, the stronger. */
function copiesCanvas({ heat: { width, height, data }, own }: CopyFigure): HTMLCanvasElement {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [width, height];
  const image = new ImageData(width, height);
  data.forEach((alike, i) => {
    const v = Math.max(0, (alike - own) / Math.max(0.02, 1 - own));
    image.data.set([38, 84, 160, Math.round(v * 190)], i * 4);
  });
  canvas.getContext('2d')!.putImageData(image, 0, 0);
  return canvas;
}
