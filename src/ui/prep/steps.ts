import type { STACKS } from '@/core/prep/schema';
import { boardAt, withBoards } from '@/core/prep/steps/boards';
import { type Step, type StepKind, STEPS } from '@/core/prep/steps/registry';
import { newStep, usePrep } from './prepStore';
import { prepService } from './usePrepRun';

/** A new one goes in after those that usually come before it. */
const ORDER = STEPS.map((d) => d.kind);

const stepsNow = (): Step[] => usePrep.getState().prep?.steps ?? [];
export const setSteps = (steps: Step[], gesture?: string) => usePrep.getState().change({ steps }, gesture);

/** Puts a new step where it belongs, and unfolds it. */
export function addStep(kind: StepKind): void {
  const steps = stepsNow();
  const made = newStep(kind);
  const at = ORDER.indexOf(kind);
  let index = steps.length;
  while (index > 0 && ORDER.indexOf(steps[index - 1].kind) > at) index--;
  const { prep, change, look, sizeMm } = usePrep.getState();
  const put = (step: Step) => [...steps.slice(0, index), step, ...steps.slice(index)];
  if (made.kind === 'compose' && prep?.leaves) {
    // pieces that were found already are what is cut out, where nothing after them moves them
    const places = (index === steps.length && prep.leaves.places) || [];
    const boards = places.map((p) => boardAt(p));
    change({ steps: put(withBoards(made, boards, sizeMm)), leaves: null });
  } else setSteps(put(made));
  look(made.id);
}

/** Turns the picture before all that is done to it but its four corners. */
export function turnBy(turnDeg: number): void {
  const turn = { ...newStep('turn'), turnDeg: Math.round(turnDeg * 10) / 10 } as Step;
  const steps = stepsNow();
  const at = steps.findLastIndex((s) => s.kind === 'corners') + 1;
  setSteps([...steps.slice(0, at), turn, ...steps.slice(at)]);
  // the maps, from where it was asked for, stay in sight
  usePrep.getState().look(null);
}

/** A whole way to begin, in place of all there is. */
export function beginWith({ steps: of }: (typeof STACKS)[number]): void {
  const made = ORDER.filter((k) => of[k]).map((k) => ({ ...newStep(k), ...of[k] }) as Step);
  setSteps(made);
  // how large it is is what only people know
  usePrep.getState().look((made.find((s) => s.kind === 'size' || s.kind === 'corners') ?? made[0]).id);
}

/** One step that closes the picture, in place of any there is: what is laid on its periods, all else by a blend. */
export function makeSeamless(): void {
  const { prep } = usePrep.getState();
  const made = newStep('seamless');
  const before = stepsNow().filter((s) => s.kind !== 'seamless');
  // one step of the history, although what lies in the picture is known a little later
  const gesture = made.id;
  setSteps([...before, made], gesture);
  usePrep.getState().look(made.id);
  prepService()
    .inspect(before, prep!.pixelsPerInch, before.length)
    .then(({ laid }) => {
      if (!laid) return;
      const turn = { ...newStep('turn'), turnDeg: Math.round(laid.turnDeg * 10) / 10 } as Step;
      const steps = stepsNow().flatMap((s): Step[] =>
        s.id !== made.id || s.kind !== 'seamless' || s.mode !== 'blend'
          ? [s]
          : [...(laid.turnDeg ? [turn] : []), { ...s, mode: 'period' }],
      );
      setSteps(steps, gesture);
    })
    // a step that cannot be done says so itself
    .catch(() => {});
}

export function moveStep(from: number, to: number): void {
  const steps = [...stepsNow()];
  const [moved] = steps.splice(from, 1);
  steps.splice(to, 0, moved);
  setSteps(steps);
}
