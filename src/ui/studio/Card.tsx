'use client';

import type { ReactNode } from 'react';

/** One card of the bench. The knot says that it has a value of its own; a click lets go of it. */
export function Card({
  id,
  title,
  own,
  onLetGo,
  follows,
  children,
  wide,
}: {
  id: string;
  title: string;
  own?: boolean;
  onLetGo?: () => void;
  follows?: string;
  children: ReactNode;
  wide?: boolean;
}) {
  return (
    <section
      id={`card-${id}`}
      aria-label={title}
      className={`card-panel flex min-h-0 min-w-0 flex-col ${wide ? 'flex-[1.5]' : 'flex-1'}`}
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
      </header>
      <div className="min-h-0 flex-1 overflow-auto px-2.5 pt-0.5 pb-2">{children}</div>
    </section>
  );
}
