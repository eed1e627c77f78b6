'use client';

import { Pipette, X } from 'lucide-react';
import { type PointerEvent, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Reference } from '@/core/project/schema';
import { useProject } from '../../project/projectStore';
import { imageUrl } from '../../shared/api';

type Place = Pick<Reference, 'left' | 'top' | 'width'>;

const share = (v: number) => Math.min(1, Math.max(0, v));
/** No narrower than one can look at, share of the view. */
const LEAST_WIDTH = 0.06;

/** Photographs that are looked at beside the room: moved by hand, sized at their corner, colours picked from them. */
export function PinnedPhotographs() {
  const references = useProject((s) => s.project?.references);
  return Object.values(references ?? {}).map((r) => <Photograph key={r.id} reference={r} />);
}

function Photograph({ reference }: { reference: Reference }) {
  const run = useProject((s) => s.run);
  const [moved, setMoved] = useState<Place | null>(null);
  const [picking, setPicking] = useState(false);
  const from = useRef<{ x: number; y: number; place: Place; view: DOMRect; sizes: boolean } | null>(null);
  const picture = useRef<HTMLImageElement>(null);
  const place = moved ?? reference;

  const begin = (e: PointerEvent<HTMLElement>, sizes: boolean) => {
    if (picking || e.button !== 0) return;
    e.stopPropagation();
    e.currentTarget.setPointerCapture(e.pointerId);
    const view = e.currentTarget.closest('[data-testid="room"]')!.getBoundingClientRect();
    from.current = { x: e.clientX, y: e.clientY, place: reference, view, sizes };
  };
  /** Where it lies while it is dragged. */
  const placeAt = (e: PointerEvent): Place | null => {
    const f = from.current;
    if (!f || (e.clientX === f.x && e.clientY === f.y)) return null;
    const [dx, dy] = [(e.clientX - f.x) / f.view.width, (e.clientY - f.y) / f.view.height];
    const { left, top, width } = f.place;
    return f.sizes
      ? { left, top, width: Math.min(1 - left, Math.max(LEAST_WIDTH, width + dx)) }
      : { left: Math.min(1 - width, share(left + dx)), top: Math.min(0.95, share(top + dy)), width };
  };
  const move = (e: PointerEvent) => {
    if (from.current) setMoved(placeAt(e));
  };
  const end = (e: PointerEvent) => {
    // by the pointer: what a busy page has drawn of the drag may be a moment behind
    const at = placeAt(e);
    from.current = null;
    if (at) run([{ kind: 'saveReference', reference: { ...reference, ...at } }]);
    setMoved(null);
  };
  const pick = (e: PointerEvent) => {
    const image = picture.current!;
    const box = image.getBoundingClientRect();
    const colour = colourAt(image, (e.clientX - box.left) / box.width, (e.clientY - box.top) / box.height);
    setPicking(false);
    void navigator.clipboard?.writeText(colour);
    toast(
      <span className="flex items-center gap-2">
        <span className="h-5 w-5 rounded border border-base-300" style={{ background: colour }} /> {colour} is copied.
      </span>,
    );
  };
  const { left, top, width } = place;
  return (
    <figure
      className="group absolute touch-none overflow-hidden rounded-[6px] border border-base-300 bg-base-100"
      style={{ left: `${left * 100}%`, top: `${top * 100}%`, width: `${width * 100}%` }}
      aria-label={`Photograph ${reference.name}`}
    >
      <img
        ref={picture}
        src={imageUrl(reference.image, 1024)}
        alt={reference.name}
        draggable={false}
        className={`block w-full ${picking ? 'cursor-crosshair' : 'cursor-move'}`}
        onPointerDown={(e) => begin(e, false)}
        onPointerMove={move}
        onPointerUp={picking ? pick : end}
      />
      <figcaption
        className={
          'absolute inset-x-0 top-0 flex items-center gap-1 bg-base-100/85 px-1 text-2xs opacity-0 ' +
          'group-focus-within:opacity-100 group-hover:opacity-100'
        }
      >
        <span className="min-w-0 flex-1 truncate">{reference.name}</span>
        <button
          type="button"
          className="tool h-5 px-0.5"
          aria-pressed={picking}
          aria-label={`Pick a colour from ${reference.name}`}
          title="Pick a colour"
          onClick={() => setPicking(!picking)}
        >
          <Pipette size={12} />
        </button>
        <button
          type="button"
          className="tool h-5 px-0.5"
          aria-label={`Take ${reference.name} away`}
          title="Take it away"
          onClick={() => run([{ kind: 'removeReference', id: reference.id }])}
        >
          <X size={12} />
        </button>
      </figcaption>
      <span
        aria-hidden
        className="absolute right-0 bottom-0 h-4 w-4 cursor-nwse-resize border-r-2 border-b-2 border-primary/70"
        onPointerDown={(e) => begin(e, true)}
        onPointerMove={move}
        onPointerUp={end}
      />
    </figure>
  );
}

/** sRGB at a place of a picture, shares from its upper left. */
function colourAt(image: HTMLImageElement, x: number, y: number): string {
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = 1;
  const paper = canvas.getContext('2d')!;
  paper.drawImage(
    image,
    -Math.floor(share(x) * (image.naturalWidth - 1)),
    -Math.floor(share(y) * (image.naturalHeight - 1)),
  );
  const [r, g, b] = paper.getImageData(0, 0, 1, 1).data;
  return `#${[r, g, b].map((v) => v.toString(16).padStart(2, '0')).join('')}`;
}
