'use client';

import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import type { Vec2 } from '@/core/geometry/vec';
import { placesOfMask } from '@/core/prep/steps/places';
import { type Step, stepOf } from '@/core/prep/steps/registry';
import { formatLength } from '@/core/units/length';
import type { PrepRun } from '@/workers/prep.worker';
import { toCanvas } from './drawShown';
import { contextOf } from './fields/of';
import { BoardHandles } from './BoardHandles';
import { usePrep } from './prepStore';
import { LeafHandles, LeafOutlines } from './LeafHandles';
import { PlaceHandles } from './TableHandles';

/** The picture on a light table: what goes into the step that is looked at, or what comes out; its handles over it. */
export function LightTable({ run, busy }: { run: PrepRun | null; busy: boolean }) {
  const { prep, step: lookedId, before, showBefore, change, brush, setBrush, pinning, setPinning } = usePrep();
  const step = prep?.steps.find((s) => s.id === lookedId) ?? null;
  // their handles come first; what comes out is shown when asked for
  const [outOf, setOutOf] = useState<string | null>(null);
  const { paint, draw, places, placesAfter, cutsOut } = step ? stepOf<Step>(step) : {};
  const handled = cutsOut || (!!places && !placesAfter);
  const onInput = !!step && (handled ? outOf !== step.id : before);
  // leaves and maps are of the finished picture, which is shown while no step is looked at
  const finished = !step || step.id === prep!.steps.at(-1)!.id;
  const shown = run ? (onInput ? run.before : step ? run.after : run.result) : null;
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [size, setSize] = useState<Vec2>([600, 400]);
  const [view, setView] = useState({ zoom: 1, x: 0, y: 0 });
  useEffect(() => {
    const observer = new ResizeObserver(([e]) => setSize([e.contentRect.width, e.contentRect.height]));
    observer.observe(box.current!);
    return () => observer.disconnect();
  }, []);
  const picture = useMemo(() => (shown ? toCanvas(shown) : null), [shown]);
  const fit = shown ? Math.min((size[0] - RULE - 16) / shown.width, (size[1] - RULE - 16) / shown.height) : 1;
  const scale = fit * view.zoom;
  const origin: Vec2 = shown
    ? [
        RULE + (size[0] - RULE - shown.width * scale) / 2 + view.x,
        RULE + (size[1] - RULE - shown.height * scale) / 2 + view.y,
      ]
    : [0, 0];

  useEffect(() => {
    const c = canvas.current;
    if (!c) return;
    const ratio = window.devicePixelRatio || 1;
    c.width = size[0] * ratio;
    c.height = size[1] * ratio;
    const g = c.getContext('2d')!;
    g.scale(ratio, ratio);
    g.clearRect(0, 0, size[0], size[1]);
    if (!picture) return;
    g.imageSmoothingEnabled = scale < 3;
    g.imageSmoothingQuality = 'high';
    g.drawImage(picture, origin[0], origin[1], picture.width * scale, picture.height * scale);
  });

  const toShare = (e: { clientX: number; clientY: number }): Vec2 => {
    const r = box.current!.getBoundingClientRect();
    return [
      (e.clientX - r.left - origin[0]) / (shown!.width * scale),
      (e.clientY - r.top - origin[1]) / (shown!.height * scale),
    ];
  };
  const toScreen = ([x, y]: Vec2 | readonly number[]): Vec2 => [
    origin[0] + x * (shown?.width ?? 0) * scale,
    origin[1] + y * (shown?.height ?? 0) * scale,
  ];
  const set = (next: Step, gesture?: string) =>
    change({ steps: prep!.steps.map((s) => (s.id === next.id ? next : s)) }, gesture);

  const [stroke, setStroke] = useState<Vec2[] | null>(null);
  /** The stroke as the hand has drawn it: what a busy page shows of it may be some points behind. */
  const drawn = useRef<Vec2[] | null>(null);
  const [from, setFrom] = useState<Vec2 | null>(null);
  const [pan, setPan] = useState<{ at: Vec2; view: typeof view } | null>(null);
  const painting = paint && !onInput && !!shown;
  const lining = draw && pinning && onInput && !!shown;
  const after = step && !onInput && run ? placesAfter?.(step, contextOf(run)) : null;
  const placed = (step && onInput && places?.(step)) || (after ? [after] : []);
  const masked = step?.mask ? placesOfMask(step.mask) : null;
  const startDraw = (e: PointerEvent) => {
    if (!shown) return;
    if (lining && e.button === 0) {
      e.currentTarget.setPointerCapture(e.pointerId);
      return setStroke((drawn.current = [toShare(e)]));
    }
    if (painting && e.button === 0) {
      const at = toShare(e);
      if (pinning) {
        setPinning(false);
        if (brush.kind === 'paint') {
          const [x, y] = [Math.floor(at[0] * shown.width), Math.floor(at[1] * shown.height)];
          const i = (y * shown.width + x) * 4;
          setBrush({ colour: `#${[0, 1, 2].map((c) => shown.bytes[i + c].toString(16).padStart(2, '0')).join('')}` });
        } else setFrom(at);
        return;
      }
      e.currentTarget.setPointerCapture(e.pointerId);
      return setStroke((drawn.current = [at]));
    }
    e.currentTarget.setPointerCapture(e.pointerId);
    setPan({ at: [e.clientX, e.clientY], view });
  };
  const moveDraw = (e: PointerEvent) => {
    if (drawn.current) setStroke((drawn.current = [...drawn.current, toShare(e)]));
    else if (pan)
      setView({ ...pan.view, x: pan.view.x + e.clientX - pan.at[0], y: pan.view.y + e.clientY - pan.at[1] });
  };
  const endDraw = () => {
    const points = drawn.current;
    drawn.current = null;
    if (points && step && draw) {
      // a click is no line yet
      if (points.length > 2) {
        setPinning(false);
        set(draw(step, points));
      }
    } else if (points && step && paint) {
      const offset =
        from && brush.kind === 'copy' ? ([from[0] - points[0][0], from[1] - points[0][1]] as Vec2) : undefined;
      set(
        paint(step, {
          kind: brush.kind,
          points: thin(points),
          radius: brush.radius,
          hardness: brush.hardness,
          opacity: brush.opacity,
          ...(offset ? { offset } : {}),
          ...(brush.kind === 'paint' ? { colour: brush.colour } : {}),
        }),
      );
    }
    setStroke(null);
    setPan(null);
  };

  return (
    <div
      ref={box}
      className="relative min-h-0 flex-1 touch-none overflow-hidden bg-base-200"
      data-testid="light-table"
      aria-busy={busy}
      onWheel={(e) => setView((v) => ({ ...v, zoom: Math.min(40, Math.max(0.2, v.zoom * Math.exp(-e.deltaY / 400))) }))}
    >
      <canvas
        ref={canvas}
        className={`absolute inset-0 h-full w-full ${painting || lining ? 'cursor-crosshair' : 'cursor-grab'}`}
        onPointerDown={startDraw}
        onPointerMove={moveDraw}
        onPointerUp={endDraw}
      />
      {shown && (
        <Rules
          size={size}
          origin={origin}
          scale={scale}
          mmPerPx={onInput ? (run!.before.mmPerPx ?? null) : shown.mmPerPx}
        />
      )}
      {/* below the handles: one that lies here can be taken hold of */}
      {shown && (
        <output className="num card-panel absolute bottom-2 left-7 px-2 py-1 text-2xs" data-testid="picture-size">
          {shown.mmPerPx && !onInput
            ? `${formatLength(shown.width * shown.mmPerPx[0], 'mm', { decimals: 1 })} ` +
              `× ${formatLength(shown.height * shown.mmPerPx[1], 'mm', { decimals: 1 })}`
            : onInput
              ? 'into this step'
              : 'size not known yet'}{' '}
          · {shown.width} × {shown.height} px shown
        </output>
      )}
      {shown && (
        <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden={!step && !prep?.leaves}>
          {!onInput && finished && prep?.leaves && (
            <LeafHandles
              leaves={prep.leaves}
              shown={shown}
              toScreen={toScreen}
              toShare={toShare}
              onChange={(leaves, g) => change({ leaves }, g)}
            />
          )}
          {!onInput && finished && !prep?.leaves && run?.leaves && (
            <LeafOutlines leaves={run.leaves} shown={shown} toScreen={toScreen} />
          )}
          {onInput && step?.kind === 'compose' && (
            <BoardHandles step={step} toScreen={toScreen} toShare={toShare} onChange={set} />
          )}
          {placed.map((one) => (
            <PlaceHandles key={one.points[0].label} places={one} toScreen={toScreen} toShare={toShare} onChange={set} />
          ))}
          {step && masked && !onInput && (
            <PlaceHandles
              places={masked}
              dashed
              toScreen={toScreen}
              toShare={toShare}
              onChange={(mask, g) => set({ ...step, mask }, g)}
            />
          )}
          {stroke && (
            <polyline
              points={stroke.map((p) => toScreen(p).join(',')).join(' ')}
              fill="none"
              stroke="var(--color-primary)"
              strokeOpacity="0.55"
              strokeLinecap="round"
              strokeLinejoin="round"
              strokeWidth={lining ? 2 : brush.radius * shown.width * scale * 2}
            />
          )}
          {brush.kind === 'copy' && painting && from && (
            <g>
              <circle
                cx={toScreen(from)[0]}
                cy={toScreen(from)[1]}
                r={brush.radius * shown.width * scale}
                fill="none"
                stroke="var(--color-secondary)"
                strokeDasharray="4 3"
              />
              <path
                d={`M${toScreen(from).join(' ')}l-5 -13a5.5 5.5 0 1 1 10 0z`}
                fill="var(--color-primary)"
                stroke="var(--color-base-100)"
              />
            </g>
          )}
        </svg>
      )}
      <div className="absolute top-7 right-2 flex gap-1 rounded-[6px] bg-base-100">
        {step && (
          <button
            type="button"
            className="tool card-panel h-[26px]"
            aria-pressed={onInput}
            onClick={() => (handled ? setOutOf(onInput ? step.id : null) : showBefore(!before))}
            title="What goes into this step, or what comes out of it"
          >
            {onInput ? 'Before' : 'After'}
          </button>
        )}
        <button
          type="button"
          className="tool card-panel h-[26px]"
          onClick={() => setView({ zoom: 1, x: 0, y: 0 })}
          title="All of it"
        >
          Fit
        </button>
      </div>
    </div>
  );
}

const RULE = 20;
const thin = (points: Vec2[]): Vec2[] =>
  points
    .filter((p, i) => i === 0 || i === points.length - 1 || i % 2 === 0)
    .map(([x, y]) => [Math.round(x * 1e5) / 1e5, Math.round(y * 1e5) / 1e5]);

/** Rules in millimetres along two edges, where the size is known. */
function Rules({ size, origin, scale, mmPerPx }: { size: Vec2; origin: Vec2; scale: number; mmPerPx: Vec2 | null }) {
  if (!mmPerPx) return null;
  const marks = (axis: 0 | 1) => {
    const pxPerMm = scale / mmPerPx[axis];
    const step = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000].find((s) => s * pxPerMm > 46) ?? 10_000;
    const out: [number, number][] = [];
    for (
      let mm = Math.ceil(-origin[axis] / pxPerMm / step) * step;
      mm * pxPerMm + origin[axis] < size[axis];
      mm += step
    )
      out.push([mm * pxPerMm + origin[axis], mm]);
    return out;
  };
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden>
      <rect width={size[0]} height={RULE} fill="var(--color-base-100)" />
      <rect width={RULE} height={size[1]} fill="var(--color-base-100)" />
      {marks(0).map(
        ([at, mm]) =>
          at > RULE && (
            <g key={`x${mm}`}>
              <line x1={at} x2={at} y1={13} y2={RULE} stroke="currentColor" strokeOpacity="0.5" />
              <text x={at + 3} y={12} className="num" fontSize="10" fill="currentColor">
                {mm}
              </text>
            </g>
          ),
      )}
      {marks(1).map(
        ([at, mm]) =>
          at > RULE && (
            <g key={`y${mm}`}>
              <line y1={at} y2={at} x1={13} x2={RULE} stroke="currentColor" strokeOpacity="0.5" />
              <text
                x={-at - 3}
                y={12}
                transform="rotate(-90)"
                textAnchor="end"
                className="num"
                fontSize="10"
                fill="currentColor"
              >
                {mm}
              </text>
            </g>
          ),
      )}
      <text x={2} y={12} fontSize="9" fill="currentColor" className="num">
        mm
      </text>
    </svg>
  );
}
