'use client';

/** Behind a field's label: the sum that its number follows. */
export function SumMark({ sum }: { sum: string | null }) {
  if (sum === null) return null;
  return (
    <span className="text-secondary" title={`It follows ${sum}`}>
      {' '}
      = {sum}
    </span>
  );
}

/** Going into a field shows the sum behind its number, to be changed, and selects all of it. */
export function enterField(field: HTMLInputElement, sum: string | null, setDraft: (draft: string) => void): void {
  field.select();
  if (sum === null) return;
  setDraft(sum);
  // it is there after the next drawing
  requestAnimationFrame(() => field.select());
}
