'use client';

import { ChevronDown, ChevronUp } from 'lucide-react';
import * as Popover from '@radix-ui/react-popover';
import { type ReactNode, useRef, useState } from 'react';

/** One card of the bench. The knot says that it has a value of its own; a click lets go of it. */
export function Card({
  id,
  title,
  own,
  onLetGo,
  follows,
  children,
  share = 1,
  more,
}: {
  id: string;
  title: string;
  own?: boolean;
  onLetGo?: () => void;
  follows?: string;
  children: ReactNode;
  /** Width against the other cards. */
  share?: number;
  /** The rest of the fields, opened above the card. */
  more?: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  const panel = useRef<HTMLDivElement>(null);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Anchor asChild>
        <section
          id={`card-${id}`}
          aria-label={title}
          className="card-panel relative flex min-h-0 min-w-0 flex-col"
          style={{ flex: `${share} 1 0` }}
        >
          <header className="flex h-7 shrink-0 items-center gap-2 px-2.5 pt-1">
            <h2 className="font-semibold">{title}</h2>
            {own && (
              <button
                type="button"
                className="ml-auto flex items-center gap-1 text-2xs"
                onClick={onLetGo}
                title={`Its own value. Click to follow ${follows} again`}
              >
                <span className="knot" /> own
              </button>
            )}
            {own === false && follows && <span className="quiet ml-auto truncate text-2xs">as {follows}</span>}
            {more && (
              <Popover.Trigger
                type="button"
                aria-haspopup="true"
                className="tool -mr-1.5 ml-auto h-5 gap-0.5 px-1 text-2xs"
              >
                {open ? 'Less' : 'More'} {open ? <ChevronDown size={12} /> : <ChevronUp size={12} />}
              </Popover.Trigger>
            )}
          </header>
          {more && (
            <Popover.Portal>
              <Popover.Content
                ref={panel}
                role="group"
                aria-label={`${title}, more`}
                side="top"
                align="end"
                sideOffset={4}
                collisionPadding={8}
                tabIndex={-1}
                className="menu-list max-h-(--radix-popover-content-available-height) overflow-auto p-2.5 outline-none"
                // it stays while one works elsewhere, until it is closed
                onInteractOutside={(e) => e.preventDefault()}
                onEscapeKeyDown={(e) => {
                  if (panel.current?.contains(document.activeElement)) e.stopPropagation();
                  else e.preventDefault();
                }}
                onOpenAutoFocus={(e) => {
                  e.preventDefault();
                  panel.current?.focus();
                }}
              >
                {more}
              </Popover.Content>
            </Popover.Portal>
          )}
          <div className="min-h-0 flex-1 overflow-auto px-2.5 pt-0.5 pb-2">{children}</div>
        </section>
      </Popover.Anchor>
    </Popover.Root>
  );
}
