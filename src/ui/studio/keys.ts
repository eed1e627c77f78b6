'use client';

import { useEffect } from 'react';
import { toast } from 'sonner';
import { liesInPieces, type Spec } from '@/core/specification/schema';
import { plainVariation } from '@/core/variation/schema';
import { isTyping, press, withAny } from '../shared/keys';
import { usePanels } from '../project/panels';
import { useProject } from '../project/projectStore';
import { useSelection } from '../project/selection';
import { useBenchFold } from './bench/benchStore';
import { SEGMENTS } from './bench/fold';
import { wrapTurn } from './cards/turn';
import { useFaces } from './faces/facesStore';
import { laySpec } from './lay';
import { openRoom } from './room/RoomView';
import { useRoomSettings } from './room/settings';
import { useWalking } from './room/walking';

export interface Action {
  /** As shown: “Shift+Z”. */
  keys: string;
  label: string;
  run: (e?: KeyboardEvent) => void;
  matches: (e: KeyboardEvent) => boolean;
}

const findsCommand = press('$mod+k');
const showsClean = press('v');
const LISTS = '[role="listbox"],[role="dialog"],[cmdk-root]';

/** One history entry for all presses of a key until it is let go. */
let gesture: string | null = null;
let gestures = 0;

function editPicked(change: (spec: Spec) => Spec): void {
  const { project, run } = useProject.getState();
  const laid = useSelection.getState().ids.filter((id) => project?.surfaces[id]?.spec);
  if (!project || !laid.length) return;
  gesture ??= `key-${Date.now()}-${gestures++}`;
  run(
    [{ kind: 'setSpecs', specs: Object.fromEntries(laid.map((id) => [id, change(project.surfaces[id].spec!)])) }],
    gesture,
  );
}

const tidy = (v: number) => Math.round(v * 1e4) / 1e4;
function slide(dx: number, dy: number, e?: KeyboardEvent): void {
  const step = e?.shiftKey ? 10 : e?.altKey ? 0.1 : 1;
  editPicked((s) => ({
    ...s,
    start: { ...s.start, xMm: tidy(s.start.xMm + dx * step), yMm: tidy(s.start.yMm + dy * step) },
  }));
}

/** A step of someone who walks, 250 mm, with Shift a metre, with Alt 50 mm. */
function stride(ahead: number, right: number, e?: KeyboardEvent): void {
  const room = openRoom.current;
  const far = e?.shiftKey ? 1 : e?.altKey ? 0.05 : 0.25;
  room?.view.walk(ahead * far, right * far, (from, direction) => room.picker.feel(from, direction));
}

function turn(direction: number, e?: KeyboardEvent): void {
  const step = e?.shiftKey ? 15 : e?.altKey ? 0.1 : 1;
  editPicked((s) => ({
    ...s,
    direction: { ...s.direction, turnDeg: wrapTurn(s.direction.turnDeg + direction * step) },
  }));
}

function step(by: number): void {
  const { project } = useProject.getState();
  const { ids, select } = useSelection.getState();
  const all = Object.keys(project?.surfaces ?? {});
  if (!all.length) return;
  const at = ids[0] ? all.indexOf(ids[0]) : -1;
  select([all[(at + by + all.length) % all.length]]);
}

/** One thing at a time, the innermost first. */
function leave(): void {
  const s = selection();
  if (panels().open) return panels().close();
  if (s.hasTool()) return s.leaveTools();
  if (useWalking.getState().on) return useWalking.getState().set(false);
  if (s.laying) return s.setLaying(false);
  if (useFaces.getState().active) return useFaces.getState().setActive(false);
  if (s.lifted) return s.drop();
  useBenchFold.getState().setWhole(null);
}

const selection = () => useSelection.getState();
const project = () => useProject.getState();
const panels = () => usePanels.getState();
const settings = () => useRoomSettings.getState();

/** Every key of the studio, in the order they are listed. */
export const ACTIONS: Action[] = [
  {
    keys: '← → ↑ ↓',
    label: 'Slide the layout by 1 mm (Shift 10, Alt 0.1); while walking, a step',
    matches: press(...withAny('(Arrow.*)', 'Shift', 'Alt')),
    run: (e) => {
      const d = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e?.key ?? ''];
      if (d && useWalking.getState().on) return stride(d[1], d[0], e);
      if (d) slide(d[0], d[1], e);
    },
  },
  {
    keys: ', .',
    label: 'Turn by 1° (Shift 15, Alt 0.1)',
    matches: press(...withAny('([,.<>;:])', 'Shift', 'Alt')),
    run: (e) => turn(e && [',', '<', ';'].includes(e.key) ? 1 : -1, e),
  },
  { keys: '[', label: 'Previous surface', matches: press('['), run: () => step(-1) },
  { keys: ']', label: 'Next surface', matches: press(']'), run: () => step(1) },
  {
    keys: 'L',
    label: 'Lift the spec',
    matches: press('l'),
    run: () => {
      const s = selection();
      const surface = project().project?.surfaces[s.ids[0]];
      if (surface?.spec) {
        s.lift(surface.spec, surface.name);
        toast(`Lifted from ${surface.name}.`);
      }
    },
  },
  {
    keys: 'P',
    label: 'Lay the lifted spec on what is picked',
    matches: press('p'),
    run: () => {
      const s = selection();
      const p = project();
      if (s.lifted && p.project) p.run(laySpec(p.project, s.ids, s.lifted.spec, s.lifted.portions));
    },
  },
  {
    keys: 'R',
    label: 'Shuffle again',
    matches: press('r'),
    run: () =>
      editPicked((s) =>
        liesInPieces(s)
          ? { ...s, variation: { ...(s.variation ?? plainVariation()), shuffle: (s.variation?.shuffle ?? 1) + 1 } }
          : s,
      ),
  },
  {
    keys: 'D',
    label: 'Draft or true light',
    matches: press('d'),
    run: () => settings().set({ light: settings().light === 'true' ? 'draft' : 'true' }),
  },
  {
    keys: 'G',
    label: 'Lamps on or off',
    matches: press('g'),
    run: () => {
      const p = project();
      if (p.project)
        p.run([{ kind: 'setProject', light: { ...p.project.light, lampsOff: !p.project.light.lampsOff } }]);
    },
  },
  {
    keys: 'W',
    label: 'Walk with the arrows, at eye height',
    matches: press('w'),
    run: () => {
      const { on, set } = useWalking.getState();
      if (!on) openRoom.current?.eyeHeight();
      set(!on);
    },
  },
  { keys: '1', label: 'Room alone', matches: press('1'), run: () => settings().set({ layout: 'room' }) },
  { keys: '2', label: 'Room and sheet', matches: press('2'), run: () => settings().set({ layout: 'both' }) },
  { keys: '3', label: 'Sheet alone', matches: press('3'), run: () => settings().set({ layout: 'sheet' }) },
  {
    keys: 'F',
    label: 'Bring what is picked into view',
    matches: press('f'),
    run: () => openRoom.current?.view.frame(selection().ids),
  },
  {
    keys: 'H',
    label: 'Hide or show what is picked',
    matches: press('h'),
    run: () => {
      const { ids } = selection();
      const p = project();
      if (ids.length && p.project)
        p.run([{ kind: 'setSurfaces', ids, hidden: !ids.every((id) => p.project!.surfaces[id]?.hidden) }]);
    },
  },
  {
    keys: 'I',
    label: 'What is picked alone, or all again',
    matches: press('i'),
    run: () => {
      const { ids } = selection();
      const p = project();
      if (p.project && (p.project.isolated || ids.length))
        p.run([{ kind: 'isolate', ids: p.project.isolated ? null : ids }]);
    },
  },
  { keys: 'Z', label: 'Back to what was picked before', matches: press('z'), run: () => selection().back() },
  {
    keys: 'Shift+Z',
    label: 'Forward to what was picked after',
    matches: press('Shift+z'),
    run: () => selection().forward(),
  },
  {
    keys: 'Ctrl+Z',
    label: 'Undo',
    matches: press('$mod+z'),
    run: () => {
      if (project().canUndo) void project().undo();
    },
  },
  {
    keys: 'Ctrl+Shift+Z',
    label: 'Redo',
    matches: press('$mod+Shift+z'),
    run: () => {
      if (project().canRedo) void project().redo();
    },
  },
  ...SEGMENTS.map(({ id, title }, n): Action => ({
    keys: `Shift+${n + 1}`,
    label: `To ${title} on the bench`,
    matches: press(`Shift+Digit${n + 1}`),
    run: () => useBenchFold.getState().goTo(id),
  })),
  {
    keys: 'Shift+0',
    label: 'Views and bench as at first',
    matches: press('Shift+Digit0'),
    run: () => {
      useBenchFold.getState().asAtFirst();
      settings().asAtFirst();
    },
  },
  { keys: 'Ctrl+K', label: 'Find a command', matches: findsCommand, run: () => panels().toggle('palette') },
  { keys: '?', label: 'Keys', matches: press(...withAny('?', 'Shift')), run: () => panels().toggle('keys') },
  {
    keys: 'Esc',
    label: 'Leave what is under way: a tool, faces, a rectangle, what is lifted, an open panel',
    matches: press('Escape'),
    run: () => leave(),
  },
];

/** Listens for the studio's keys; holding V shows the room without any marks. */
export function useStudioKeys(): void {
  useEffect(() => {
    const down = (e: KeyboardEvent) => {
      if (isTyping(e) && !findsCommand(e)) return;
      if (showsClean(e)) return selection().setClean(true);
      // arrows inside menus and lists belong to them
      if (e.key.startsWith('Arrow') && (e.target as HTMLElement | null)?.closest?.(LISTS)) return;
      const action = ACTIONS.find((a) => a.matches(e));
      if (!action) return;
      e.preventDefault();
      action.run(e);
    };
    const up = (e: KeyboardEvent) => {
      gesture = null;
      if (e.key.toLowerCase() === 'v') selection().setClean(false);
    };
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    return () => {
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
    };
  }, []);
}
