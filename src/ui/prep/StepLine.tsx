'use client';

import {
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import { Plus } from 'lucide-react';
import { ROLE_LABELS } from '@/core/material/schema';
import { GIVEN_ROLES, type GivenRole } from '@/core/prep/given';
import { STACKS } from '@/core/prep/schema';
import { type Step, stepOf, STEPS } from '@/core/prep/steps/registry';
import { Menu } from '../shared/Menu';
import { usePrep } from './prepStore';
import { addStep, beginWith, makeSeamless, moveStep } from './steps';

/** What was done to the picture, as one sentence: each phrase unfolds its step, and is dragged to where it belongs. */
export function StepLine() {
  const { prep, look } = usePrep();
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const { steps, name, derived, given } = prep!;
  const isMade = (role: GivenRole) => role !== 'emission' && !!derived[role];
  const words = (roles: GivenRole[]) => roles.map((role) => ROLE_LABELS[role].toLowerCase()).join(', ');
  const maps = GIVEN_ROLES.filter(isMade);
  const came = GIVEN_ROLES.filter((role) => given.maps[role] && !isMade(role));
  const said = [
    maps.length ? words(maps) : '',
    came.length ? `${words(came)} as ${came.length > 1 ? 'they' : 'it'} came` : '',
  ];
  const dropped = (e: DragEndEvent) => {
    const to = steps.findIndex((s) => s.id === e.over?.id);
    const from = steps.findIndex((s) => s.id === e.active.id);
    if (to >= 0 && from >= 0 && to !== from) moveStep(from, to);
  };
  return (
    <div className="hair flex min-h-10 shrink-0 items-center gap-2 border-b bg-base-100 px-3 py-1">
      <DndContext sensors={sensors} onDragEnd={dropped}>
        <p data-testid="step-line" className="min-w-0 flex-1 leading-snug">
          {name}
          {!steps.length && <span className="quiet"> as it was taken</span>}
          {steps.map((s, i) => (
            <span key={s.id}>
              , <Phrase step={s} index={i} />
            </span>
          ))}
          {maps.length + came.length > 0 && (
            <>
              {', with '}
              <button type="button" className="spec-word" onClick={() => look(null)}>
                {said.filter(Boolean).join(', ')}
              </button>
            </>
          )}
          .
        </p>
      </DndContext>
      <button
        type="button"
        className="tool shrink-0"
        title="Evened and joined in both directions: what is laid on whole periods, all else by a blend"
        onClick={makeSeamless}
      >
        Make it seamless
      </button>
      <StepMenu />
    </div>
  );
}

function Phrase({ step, index }: { step: Step; index: number }) {
  const { step: looked, look, prep } = usePrep();
  const { attributes, listeners, setNodeRef: dragged, transform, isDragging } = useDraggable({ id: step.id });
  const { setNodeRef: dropped, isOver } = useDroppable({ id: step.id });
  const last = prep!.steps.length - 1;
  return (
    <button
      ref={(element) => {
        dragged(element);
        dropped(element);
      }}
      type="button"
      {...attributes}
      {...listeners}
      aria-pressed={looked === step.id}
      title={`${stepOf(step).label}: click to unfold it; drag it, or Alt and an arrow, to move it`}
      className={
        'spec-word touch-none ' +
        `${step.on ? '' : 'line-through opacity-60'} ${looked === step.id ? 'font-medium' : ''} ` +
        `${isOver && !isDragging ? 'decoration-primary' : ''} ${isDragging ? 'relative z-10 bg-base-100' : ''}`
      }
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
      onClick={() => look(looked === step.id ? null : step.id)}
      onKeyDown={(e) => {
        const by = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
        if (!e.altKey || !by || index + by < 0 || index + by > last) return;
        e.preventDefault();
        moveStep(index, index + by);
      }}
    >
      {stepOf(step).said(step)}
    </button>
  );
}

/** Steps to add, each where it belongs, and whole ways to begin. */
function StepMenu() {
  return (
    <Menu
      align="right"
      className="tool tool-line shrink-0"
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
              onClick={() => (beginWith(p), close())}
            >
              <span className="text-left">
                {p.label} <span className="quiet block text-2xs">{p.what}; in place of all there is</span>
              </span>
            </button>
          ))}
          <hr className="hair my-1" />
          {STEPS.map(({ kind, label, what }) => (
            <button
              key={kind}
              type="button"
              className="tool h-auto w-full items-baseline py-1 whitespace-normal"
              onClick={() => (addStep(kind), close())}
            >
              <span className="w-24 shrink-0 text-left">{label}</span>{' '}
              <span className="quiet text-left text-2xs">{what}</span>
            </button>
          ))}
        </div>
      )}
    </Menu>
  );
}
