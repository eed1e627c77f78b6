'use client';

import { type ReactNode, useEffect, useRef, useState } from 'react';

/** A button that opens a small panel; closes on Escape and on a press elsewhere. */
export function Menu({
  label,
  children,
  align = 'left',
  up = false,
  title,
  className = 'tool',
}: {
  label: ReactNode;
  children: (close: () => void) => ReactNode;
  align?: 'left' | 'right';
  up?: boolean;
  title?: string;
  className?: string;
}) {
  const [open, setOpen] = useState(false);
  const root = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!open) return;
    const outside = (e: PointerEvent) => {
      if (!root.current?.contains(e.target as Node)) setOpen(false);
    };
    const key = (e: KeyboardEvent) => {
      if (e.key === 'Escape') {
        setOpen(false);
        e.stopPropagation();
      }
    };
    document.addEventListener('pointerdown', outside);
    document.addEventListener('keydown', key, true);
    return () => {
      document.removeEventListener('pointerdown', outside);
      document.removeEventListener('keydown', key, true);
    };
  }, [open]);
  return (
    <div ref={root} className="relative">
      <button
        type="button"
        className={className}
        aria-expanded={open}
        aria-haspopup="true"
        title={title}
        onClick={() => setOpen(!open)}
      >
        {label}
      </button>
      {open && (
        <div
          className={
            `menu-list absolute ${up ? 'bottom-full mb-1' : 'top-full mt-1'} ` +
            `${align === 'right' ? 'right-0' : 'left-0'}`
          }
        >
          {children(() => setOpen(false))}
        </div>
      )}
    </div>
  );
}
