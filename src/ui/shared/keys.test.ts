import { isTyping, press, withAny } from './keys';
import { ACTIONS } from '../studio/keys';

const event = (key: string, ...held: string[]) =>
  ({ key, code: `Key${key.toUpperCase()}`, getModifierState: (m: string) => held.includes(m) }) as KeyboardEvent;

test('a press is its key with the modifiers that are named, and no others', () => {
  const undo = press('$mod+z');
  expect(undo(event('z', 'Control'))).toBe(true);
  expect(undo(event('Z', 'Control'))).toBe(true);
  expect(undo(event('z'))).toBe(false);
  expect(undo(event('z', 'Control', 'Shift'))).toBe(false);
  expect(undo(event('y', 'Control'))).toBe(false);
  const any = press(...withAny('(Arrow.*)', 'Shift', 'Alt'));
  for (const held of [[], ['Shift'], ['Alt']]) expect(any(event('ArrowLeft', ...held))).toBe(true);
  expect(any(event('ArrowLeft', 'Control'))).toBe(false);
});

test.each([
  [event('ArrowUp', 'Shift'), 'Slide the layout'],
  [event(','), 'Turn by'],
  [event('<', 'Shift'), 'Turn by'],
  [event(';', 'Shift'), 'Turn by'],
  [event('['), 'Previous surface'],
  [event('r'), 'Shuffle again'],
  [event('Z', 'Shift'), 'Forward to'],
  [event('z'), 'Back to'],
  [event('z', 'Control'), 'Undo'],
  [event('Z', 'Control', 'Shift'), 'Redo'],
  [event('?', 'Shift'), 'Keys'],
  [event('?'), 'Keys'],
  [event('k', 'Control'), 'Find a command'],
  [event('Escape'), 'Leave what is under way'],
  [{ ...event('!', 'Shift'), code: 'Digit1' }, 'To Material'],
  [{ ...event(')', 'Shift'), code: 'Digit0' }, 'Views and bench'],
])('%j does what it says, and only one thing', (e, label) => {
  const found = ACTIONS.filter((a) => a.matches(e));
  expect(found).toHaveLength(1);
  expect(found[0].label.startsWith(label)).toBe(true);
});

test('what is typed is not a key of the studio', () => {
  // stand-ins: unit tests have no page
  class Element {
    readonly isContentEditable: boolean = false;
  }
  class Input extends Element {
    constructor(readonly type: string) {
      super();
    }
  }
  class SelectElement extends Element {}
  class TextArea extends Element {}
  Object.assign(globalThis, {
    HTMLElement: Element,
    HTMLInputElement: Input,
    HTMLSelectElement: SelectElement,
    HTMLTextAreaElement: TextArea,
  });
  const at = (target: unknown, ctrlKey = false) => isTyping({ target, ctrlKey } as KeyboardEvent);
  expect([at(new Input('text')), at(new TextArea()), at(new SelectElement())]).toEqual([true, true, true]);
  expect([at(new Input('checkbox')), at(new SelectElement(), true), at(new Element()), at(null)]).toEqual(
    Array(4).fill(false),
  );
  expect(at(Object.assign(new Element(), { isContentEditable: true }))).toBe(true);
});
