'use client';

import { ArrowDown, ArrowUp, Eye, EyeOff, Plus, Trash2, TriangleAlert } from 'lucide-react';
import { STACKS } from '@/core/prep/schema';
import { type Step, type StepKind, stepOf, STEPS } from '@/core/prep/steps/registry';
import type { PrepRun } from '@/workers/prep.worker';
import { Menu } from '../shared/Menu';
import { newStep, usePrep } from './prepStore';
import { StepFields } from './fields/StepFields';

/** A new one goes in after those that usually come before it. */
const ORDER = STEPS.map((d) => d.kind);

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
            <div className="w-80">
              {STACKS.map((p) => (
                <button
                  key={p.label}
                  type="button"
                  className="tool h-auto w-full items-baseline py-1 whitespace-normal"
                  onClick={() => (stack(p), close())}
                >
                  <span className="text-left">
                    {p.label} <span className="quiet block text-2xs">{p.what}; in place of all there is</span>
                  </span>
                </button>
              ))}
              <hr className="hair my-1" />
              {STEPS.map(({ kind: k, label, what }) => (
                <button
                  key={k}
                  type="button"
                  className="tool h-auto w-full items-baseline py-1 whitespace-normal"
                  onClick={() => (add(k), close())}
                >
                  <span className="w-24 shrink-0 text-left">{label}</span>{' '}
                  <span className="quiet text-left text-2xs">{what}</span>
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
                  {stepOf(s).label} <span className="quiet num text-2xs font-normal">{stepOf(s).brief(s)}</span>
                </button>
                {failed && <TriangleAlert size={13} className="text-error" />}
                <button
                  type="button"
                  className="tool px-1"
                  disabled={i === 0}
                  aria-label={`Move ${stepOf(s).label} up`}
                  title="Earlier"
                  onClick={() => move(i, -1)}
                >
                  <ArrowUp size={12} />
                </button>
                <button
                  type="button"
                  className="tool px-1"
                  disabled={i === steps.length - 1}
                  aria-label={`Move ${stepOf(s).label} down`}
                  title="Later"
                  onClick={() => move(i, 1)}
                >
                  <ArrowDown size={12} />
                </button>
                <button
                  type="button"
                  className="tool px-1"
                  aria-pressed={s.on}
                  aria-label={`${s.on ? 'Switch off' : 'Switch on'} ${stepOf(s).label}`}
                  title={s.on ? 'Switch off' : 'Switch on'}
                  onClick={() => set(steps.map((x) => (x.id === s.id ? { ...x, on: !x.on } : x)))}
                >
                  {s.on ? <Eye size={13} /> : <EyeOff size={13} />}
                </button>
                <button
                  type="button"
                  className="tool px-1"
                  aria-label={`Remove ${stepOf(s).label}`}
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
