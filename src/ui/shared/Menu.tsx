'use client';

import * as Popover from '@radix-ui/react-popover';
import { type KeyboardEvent, type ReactNode, useId, useState } from 'react';

/** A button that opens a small panel beside it, on whichever side there is room; Escape and a press elsewhere close. */
export function Menu({
  label,
  children,
  align = 'left',
  up = false,
  title,
  className = 'tool',
  wide = false,
}: {
  label: ReactNode;
  children: (close: () => void) => ReactNode;
  align?: 'left' | 'right';
  up?: boolean;
  title?: string;
  className?: string;
  /** For panels with tables. */
  wide?: boolean;
}) {
  const [open, setOpen] = useState(false);
  const id = useId();
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger id={id} type="button" className={className} aria-haspopup="true" title={title}>
        {label}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side={up ? 'top' : 'bottom'}
          align={align === 'right' ? 'end' : 'start'}
          sideOffset={4}
          collisionPadding={8}
          aria-labelledby={id}
          className={`menu-list ${ROOM} w-max ${wide ? 'max-w-140' : 'max-w-84'} overflow-auto outline-none`}
          onEscapeKeyDown={(e) => e.stopPropagation()}
          // a field that an entry opened keeps the focus
          onCloseAutoFocus={(e) => document.activeElement !== document.body && e.preventDefault()}
          onKeyDown={walk}
        >
          {children(() => setOpen(false))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** No higher than there is room for. */
const ROOM = 'max-h-(--radix-popover-content-available-height)';

/** Up and down go from entry to entry, and round. */
function walk(e: KeyboardEvent<HTMLElement>): void {
  const by = { ArrowDown: 1, ArrowUp: -1 }[e.key];
  if (!by || !(e.target instanceof HTMLButtonElement)) return;
  const entries = [...e.currentTarget.querySelectorAll<HTMLElement>('button:not(:disabled)')];
  const at = entries.indexOf(e.target);
  entries[(at + by + entries.length) % entries.length]?.focus();
  e.preventDefault();
}
