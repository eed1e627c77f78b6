import { useEffect } from 'react';
import { type KeyBindingMap, matchKeyBindingPress, parseKeybinding, tinykeys } from 'tinykeys';

/**
 * Whether a press is one of some keys: “$mod+z”, “Shift+?”, “(Arrow.*)” for a pattern. Modifiers that are not named
 * must not be held; `$mod` is Command on a Mac and Control elsewhere.
 */
export function press(...bindings: string[]): (e: KeyboardEvent) => boolean {
  const presses = bindings.flatMap((b) => parseKeybinding(b));
  return (e) => presses.some((p) => matchKeyBindingPress(e, p));
}

/** The same key alone, and with each of some modifiers. */
export const withAny = (key: string, ...modifiers: string[]): string[] => [key, ...modifiers.map((m) => `${m}+${key}`)];

/** Inputs in which keys mean nothing but Space. */
const PRESSED = ['checkbox', 'color', 'button', 'file'];

/** Keys that belong to what is being typed or chosen in. */
export function isTyping({ target: t, ctrlKey, metaKey }: KeyboardEvent): boolean {
  if (!(t instanceof HTMLElement)) return false;
  if (t instanceof HTMLInputElement) return !PRESSED.includes(t.type);
  // a list takes letters and arrows, and no chords
  if (t instanceof HTMLSelectElement) return !ctrlKey && !metaKey;
  return t instanceof HTMLTextAreaElement || t.isContentEditable;
}

/** Listens while it is on screen. @param capture before all others */
export function useKeys(bindings: KeyBindingMap, capture = false): void {
  useEffect(() => tinykeys(window, bindings, { capture }));
}
