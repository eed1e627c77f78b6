const FIELDS = 'input,select,textarea,button';

/** What a field is called, as a screen reader would say it. */
function nameOf(field: HTMLElement): string {
  const own = field.getAttribute('aria-label');
  if (own) return own;
  const labels = (field as HTMLInputElement).labels;
  if (labels?.length) return labels[0].textContent ?? '';
  const group = field.closest('[role="group"][aria-label],fieldset[aria-label]');
  return field.textContent || (group?.getAttribute('aria-label') ?? '');
}

const can = (field: HTMLElement) => !(field as HTMLInputElement).disabled;

/** The field whose label, or whose group's, begins with `label`; null where there is none. */
export function fieldIn(root: HTMLElement, label: string): HTMLElement | null {
  const wanted = label.toLowerCase();
  const begins = (text: string | null | undefined) => !!text?.trim().toLowerCase().startsWith(wanted);
  const all = [...root.querySelectorAll<HTMLElement>(FIELDS)].filter(can);
  const group = [...root.querySelectorAll<HTMLElement>('[role="group"][aria-label],fieldset')].find((g) =>
    begins(g.getAttribute('aria-label') ?? g.querySelector('legend')?.textContent),
  );
  return (
    all.find((f) => begins(nameOf(f))) ??
    (group &&
      (group.querySelector<HTMLElement>('[aria-pressed="true"]') ??
        [...group.querySelectorAll<HTMLElement>(FIELDS)].find(can))) ??
    null
  );
}

/** Where work in it begins: its first field that is not one of the head's. */
export const firstFieldIn = (root: HTMLElement): HTMLElement | null =>
  [...root.querySelectorAll<HTMLElement>(FIELDS)].find((f) => can(f) && !f.closest('header')) ?? null;
