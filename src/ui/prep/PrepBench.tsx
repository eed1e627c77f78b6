'use client';

import { ChevronLeft, ChevronRight, Trash2, TriangleAlert } from 'lucide-react';
import { useLayoutEffect, useRef, useState } from 'react';
import { GIVEN_ROLES, type GivenRole } from '@/core/prep/given';
import { STACKS } from '@/core/prep/schema';
import { type Step, stepOf } from '@/core/prep/steps/registry';
import type { PrepRun, Shown } from '@/workers/prep.worker';
import { Tick } from '../shared/fields';
import { StepFields } from './fields/StepFields';
import { MapsPanel } from './MapsPanel';
import { usePrep } from './prepStore';
import { beginWith, moveStep, setSteps } from './steps';

/** Widths, CSS pixels: a folded segment, an unfolded one, one with more beside its fields, and that of the maps. */
const SPINE = 92;
const PLAIN = 300;
const WIDE = 560;
const MAPS = 850;

const isWide = (step: Step) => !!stepOf(step).masked || !!stepOf(step).cutsOut;

/** The steps as segments of a folding rule, in the order of work, and at its end the maps made of the picture. */
export function PrepBench({ run, maps }: { run: PrepRun | null; maps: Partial<Record<GivenRole, Shown>> }) {
  const { prep, step: looked, look } = usePrep();
  const steps = prep!.steps;
  const ref = useRef<HTMLElement>(null);
  const [room, setRoom] = useState(1264);
  useLayoutEffect(() => {
    const bench = ref.current!;
    const observer = new ResizeObserver(() => setRoom(bench.clientWidth - 16));
    observer.observe(bench);
    return () => observer.disconnect();
  }, []);
  const open = steps.find((s) => s.id === looked);
  const taken = steps.reduce((sum, s) => sum + (s === open ? (isWide(s) ? WIDE : PLAIN) : SPINE) + 6, 0);
  const mapsOpen = !open || room - taken >= MAPS;
  const { derived, given } = prep!;
  const drawn = GIVEN_ROLES.filter((role) => given.maps[role] ?? (role !== 'emission' && derived[role]));
  return (
    <section ref={ref} aria-label="Bench" className="bench overflow-x-auto">
      {!steps.length && <First />}
      {steps.map((s, i) =>
        s === open ? (
          <StepSegment key={s.id} step={s} index={i} last={i === steps.length - 1} run={run} />
        ) : (
          <section
            key={s.id}
            aria-label={`${stepOf(s).label}, step ${i + 1}`}
            className="segment"
            style={{ flex: `0 0 ${SPINE}px` }}
          >
            <button
              type="button"
              className="spine"
              aria-expanded={false}
              aria-label={`Unfold ${stepOf(s).label}`}
              onClick={() => look(s.id)}
            >
              <span className={`flex w-full items-center gap-1 font-semibold ${s.on ? '' : 'line-through opacity-60'}`}>
                <span className="num quiet text-2xs font-normal">{i + 1}</span> {stepOf(s).label}
              </span>
              <span className="quiet text-2xs leading-[1.35]">{s.on ? stepOf(s).said(s) : 'switched off'}</span>
              {run?.failed?.step === s.id && <TriangleAlert size={13} className="text-error" />}
            </button>
          </section>
        ),
      )}
      {mapsOpen ? (
        <MapsPanel run={run} maps={maps} />
      ) : (
        <section aria-label="Maps" className="segment" style={{ flex: `1 0 ${SPINE}px` }}>
          <button
            type="button"
            className="spine"
            aria-expanded={false}
            aria-label="Unfold Maps"
            onClick={() => look(null)}
          >
            <span className="font-semibold">Maps</span>
            <span className="quiet text-2xs leading-[1.35]">{drawn.length ? drawn.join(', ') : 'none yet'}</span>
          </button>
        </section>
      )}
    </section>
  );
}

function StepSegment({ step: s, index, last, run }: { step: Step; index: number; last: boolean; run: PrepRun | null }) {
  const { prep } = usePrep();
  const steps = prep!.steps;
  const { label } = stepOf(s);
  const put = (next: Step, gesture?: string) =>
    setSteps(
      steps.map((x) => (x.id === s.id ? next : x)),
      gesture,
    );
  const failed = run?.failed?.step === s.id ? run.failed.text : null;
  const remarks = run?.remarks.filter((r) => r.step === s.id) ?? [];
  return (
    <section
      aria-label={`${label}, step ${index + 1}`}
      className="segment"
      style={{ flex: `0 0 ${isWide(s) ? WIDE : PLAIN}px` }}
    >
      <header className="flex h-8 shrink-0 items-center gap-0.5 px-2.5 pt-1.5">
        <h2 className="font-semibold">
          <span className="num quiet mr-1 text-2xs font-normal">{index + 1}</span>
          {label}
        </h2>
        <span className="ml-auto" />
        <Tick
          label="On"
          className="h-6 items-center pr-1 text-2xs"
          checked={s.on}
          onChange={(on) => put({ ...s, on })}
        />
        <button
          type="button"
          className="tool h-6 px-0.5"
          disabled={index === 0}
          aria-label={`Move ${label} earlier`}
          title="Earlier"
          onClick={() => moveStep(index, index - 1)}
        >
          <ChevronLeft size={14} />
        </button>
        <button
          type="button"
          className="tool h-6 px-0.5"
          disabled={last}
          aria-label={`Move ${label} later`}
          title="Later"
          onClick={() => moveStep(index, index + 1)}
        >
          <ChevronRight size={14} />
        </button>
        <button
          type="button"
          className="tool h-6 px-1"
          aria-label={`Take ${label} out`}
          title="Take it out"
          onClick={() => setSteps(steps.filter((x) => x.id !== s.id))}
        >
          <Trash2 size={12} />
        </button>
      </header>
      <div className="min-h-0 flex-1 overflow-y-auto px-2.5 pt-1 pb-2">
        {failed && (
          <p role="alert" className="pb-1 text-2xs leading-tight text-error">
            {failed}
          </p>
        )}
        {remarks.map((r) => (
          <p key={r.text} className="quiet pb-1 text-2xs leading-tight">
            {r.text}
          </p>
        ))}
        <StepFields step={s} index={index} run={run} onChange={put} />
      </div>
    </section>
  );
}

/** Before there is any step: what makes a material of it, and the usual ways to begin. */
function First() {
  return (
    <section aria-label="How to begin" className="segment w-[400px] shrink-0">
      <div className="grid grid-cols-[1.3fr_1fr] gap-3 p-3">
        <ul className="space-y-1">
          {STACKS.map((way) => (
            <li key={way.label}>
              <button
                type="button"
                className="tool tool-line h-auto w-full flex-col items-start gap-0 py-1 text-left whitespace-normal"
                onClick={() => beginWith(way)}
              >
                <span>Begin with {way.label.toLowerCase()}</span>
                <span className="quiet text-2xs">{way.what}</span>
              </button>
            </li>
          ))}
        </ul>
        <div className="quiet space-y-1 text-2xs leading-tight">
          <p>Three things make a photograph a material:</p>
          <p>
            1. Say how large it is: draw a <b>Size</b> line along something known, or set <b>four corners</b> of a known
            rectangle.
          </p>
          <p>
            2. <b>Even out</b> its light and <b>make it seamless</b>.
          </p>
          <p>
            3. Choose its <b>maps</b>, then <b>Make the material</b>.
          </p>
        </div>
      </div>
    </section>
  );
}
