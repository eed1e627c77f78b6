'use client';

import { ArrowDown, ArrowUp, Eye, EyeOff, Plus, Trash2, TriangleAlert } from 'lucide-react';
import { STACKS, type Step, STEP_LABELS, type StepKind } from '@/core/prep/schema';
import { formatLength } from '@/core/units/length';
import type { PrepRun } from '@/workers/prep.worker';
import { Menu } from '../shared/Menu';
import { newStep, usePrep } from './prepStore';
import { StepFields } from './fields/StepFields';

const KINDS = Object.keys(STEP_LABELS) as StepKind[];
/** The order in which steps are usually done; a new one goes in after those that come before it. */
const ORDER: StepKind[] = ['corners', 'turn', 'size', 'crop', 'even', 'colour', 'seamless', 'heal', 'resize'];

const WHAT: Record<StepKind, string> = {
  size: 'how large the picture is: by a line, by pieces, typed',
  corners: 'four corners of a known rectangle',
  turn: 'the grain level or upright, found or by hand',
  crop: 'to what is wanted; to whole periods',
  even: 'large light and dark, drifts of colour',
  colour: 'exposure, warmth, saturation, levels',
  seamless: 'so that it closes on itself',
  heal: 'patch, copy, paint or sharpen by hand',
  resize: 'to a power of two, or pixels per millimetre',
};

/** Everything done to the picture, in order: each step can be switched off, moved and edited at any time. */
export function StepStack({ run }: { run: PrepRun | null }) {
  const { prep, step, look, change } = usePrep();
  const steps = prep!.steps;
  const set = (next: Step[], gesture?: string) => change({ steps: next }, gesture);
  const add = (kind: StepKind) => {
    const made = newStep(kind);
    const at = ORDER.indexOf(kind);
    let index = steps.length;
    while (index > 0 && ORDER.indexOf(steps[index - 1].kind) > at) index--;
    set([...steps.slice(0, index), made, ...steps.slice(index)]);
    look(made.id);
  };
  const stack = ({ steps: of }: (typeof STACKS)[number]) => {
    const made = ORDER.filter((k) => of[k]).map((k) => ({ ...newStep(k), ...of[k] }) as Step);
    set(made);
    look(made[0].id);
  };
  const oneClick = () => {
    const made = newStep('seamless');
    set([...steps.filter((s) => s.kind !== 'seamless'), made]);
    look(made.id);
  };
  const move = (i: number, by: number) => {
    const next = [...steps];
    [next[i], next[i + by]] = [next[i + by], next[i]];
    set(next);
  };
  return (
    <section aria-label="Steps" className="flex min-h-0 flex-1 flex-col">
      <div className="hair flex items-center gap-1 border-b px-1.5 py-1">
        <Menu
          label={
            <>
              <Plus size={13} /> Add a step
            </>
          }
          title="Add a step where it belongs"
        >
          {(close) => (
            <div className="w-72">
              {STACKS.map((p) => (
                <button
                  key={p.label}
                  type="button"
                  className="tool h-auto w-full items-baseline py-1"
                  onClick={() => (stack(p), close())}
                >
                  <span className="text-left">
                    {p.label} <span className="quiet block text-2xs">{p.what}; in place of all there is</span>
                  </span>
                </button>
              ))}
              <hr className="hair my-1" />
              {KINDS.map((k) => (
                <button
                  key={k}
                  type="button"
                  className="tool h-auto w-full items-baseline py-1"
                  onClick={() => (add(k), close())}
                >
                  <span className="w-24 shrink-0 text-left">{STEP_LABELS[k]}</span>{' '}
                  <span className="quiet text-left text-2xs">{WHAT[k]}</span>
                </button>
              ))}
            </div>
          )}
        </Menu>
        <button
          type="button"
          className="tool ml-auto"
          title="Evened and joined in both directions, its size kept"
          onClick={oneClick}
        >
          Make it seamless
        </button>
      </div>
      <ol className="min-h-0 flex-1 overflow-auto" aria-label="Steps in order">
        {!steps.length && (
          <li className="quiet space-y-1 p-3 text-2xs leading-tight">
            <p>Three things make a photograph a material:</p>
            <p>
              1. Say how large it is: draw a <b>Size</b> line along something known, or set <b>four corners</b> of a
              known rectangle.
            </p>
            <p>
              2. <b>Even out</b> its light and <b>make it seamless</b>.
            </p>
            <p>
              3. Choose its <b>maps</b> below, then <b>Make the material</b>.
            </p>
          </li>
        )}
        {steps.map((s, i) => {
          const failed = run?.failed?.step === s.id ? run.failed.text : null;
          const remarks = run?.remarks.filter((r) => r.step === s.id) ?? [];
          const open = step === s.id;
          return (
            <li key={s.id} className={`hair border-b ${open ? 'bg-base-200/60' : ''}`}>
              <div className="flex h-8 items-center gap-0.5 pl-2">
                <button
                  type="button"
                  className={
                    'min-w-0 flex-1 truncate text-left ' +
                    `${s.on ? '' : 'line-through opacity-60'} ${open ? 'font-semibold' : ''}`
                  }
                  aria-expanded={open}
                  onClick={() => look(open ? null : s.id)}
                >
                  <span className="num quiet mr-1.5 text-2xs">{i + 1}</span>
                  {STEP_LABELS[s.kind]} <span className="quiet num text-2xs font-normal">{brief(s)}</span>
                </button>
                {failed && <TriangleAlert size={13} className="text-error" />}
                <button
                  type="button"
                  className="tool px-1"
                  disabled={i === 0}
                  aria-label={`Move ${STEP_LABELS[s.kind]} up`}
                  title="Earlier"
                  onClick={() => move(i, -1)}
                >
                  <ArrowUp size={12} />
                </button>
                <button
                  type="button"
                  className="tool px-1"
                  disabled={i === steps.length - 1}
                  aria-label={`Move ${STEP_LABELS[s.kind]} down`}
                  title="Later"
                  onClick={() => move(i, 1)}
                >
                  <ArrowDown size={12} />
                </button>
                <button
                  type="button"
                  className="tool px-1"
                  aria-pressed={s.on}
                  aria-label={`${s.on ? 'Switch off' : 'Switch on'} ${STEP_LABELS[s.kind]}`}
                  title={s.on ? 'Switch off' : 'Switch on'}
                  onClick={() => set(steps.map((x) => (x.id === s.id ? { ...x, on: !x.on } : x)))}
                >
                  {s.on ? <Eye size={13} /> : <EyeOff size={13} />}
                </button>
                <button
                  type="button"
                  className="tool px-1"
                  aria-label={`Remove ${STEP_LABELS[s.kind]}`}
                  title="Remove"
                  onClick={() => set(steps.filter((x) => x.id !== s.id))}
                >
                  <Trash2 size={12} />
                </button>
              </div>
              {failed && (
                <p role="alert" className="px-2 pb-1 text-2xs leading-tight text-error">
                  {failed}
                </p>
              )}
              {remarks.map((r) => (
                <p key={r.text} className="quiet px-2 pb-1 text-2xs leading-tight">
                  {r.text}
                </p>
              ))}
              {open && (
                <div className="px-2 pb-2">
                  <StepFields
                    step={s}
                    index={i}
                    run={run}
                    onChange={(next, gesture) =>
                      set(
                        steps.map((x) => (x.id === s.id ? next : x)),
                        gesture,
                      )
                    }
                  />
                </div>
              )}
            </li>
          );
        })}
      </ol>
    </section>
  );
}

function brief(s: Step): string {
  switch (s.kind) {
    case 'size':
      return s.by.kind === 'line'
        ? formatLength(s.by.lengthMm, 'mm')
        : s.by.kind === 'count'
          ? `${s.by.count} of ${formatLength(s.by.pieceMm, 'mm')}`
          : s.by.kind === 'typed'
            ? `${formatLength(s.by.widthMm, 'mm')} wide`
            : `${s.by.pixelsPerInch} px/in`;
    case 'corners':
      return `${formatLength(s.widthMm, 'mm', { withUnit: false })} × ${formatLength(s.heightMm, 'mm')}`;
    case 'turn':
      return `${s.turnDeg}°`;
    case 'even':
      return `over ${formatLength(s.radiusMm, 'mm')}`;
    case 'seamless':
      return s.mode === 'period' ? 'on whole periods' : s.mode === 'mirror' ? 'mirrored' : 'blended';
    case 'heal':
      return `${s.strokes.length} ${s.strokes.length === 1 ? 'stroke' : 'strokes'}`;
    default:
      return '';
  }
}
