/** What a drag tells of itself, px in the window. */
export interface DragSteps {
  moved: (x: number, y: number) => void;
  dropped: (x: number, y: number) => void;
  /** However it ended, before `dropped`. */
  ended: () => void;
}

/**
 * Follows a drag by the pointer itself until it is let go of or called off (Escape, or the browser takes the pointer).
 * What a page has drawn of a drag may be a moment behind while it is busy, and nothing at all of a quick one.
 */
export function followDrag({ moved, dropped, ended }: DragSteps) {
  const over = new AbortController();
  const options = { capture: true, signal: over.signal };
  const end = () => {
    over.abort();
    ended();
  };
  window.addEventListener('pointermove', (e) => moved(e.clientX, e.clientY), options);
  window.addEventListener(
    'pointerup',
    (e) => {
      end();
      dropped(e.clientX, e.clientY);
    },
    options,
  );
  window.addEventListener('pointercancel', end, options);
  window.addEventListener('keydown', (e) => e.key === 'Escape' && end(), options);
}

/** Marks a row of a surface, and the room, as what takes a swatch: their `data-takes`. */
export const THE_ROOM = 'the room';

/** What takes a swatch at a place of the window: a surface's id, the room, or nothing. */
export function takerAt(x: number, y: number): string | null {
  for (const element of document.elementsFromPoint(x, y)) {
    const taker = element.closest<HTMLElement>('[data-takes]');
    if (taker) return taker.dataset.takes!;
  }
  return null;
}
