'use client';

import { ChevronDown, CircleHelp, History, LoaderCircle, Redo2, Undo2 } from 'lucide-react';
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import type { ReactNode } from 'react';
import { useProject } from '../project/projectStore';
import { ProjectSettings } from '../project/ProjectSettings';
import { Menu } from './Menu';
import { ThemeSwitch } from './ThemeSwitch';
import { usePanels } from '../project/panels';

export function Mark() {
  return (
    <svg width="20" height="20" viewBox="0 0 32 32" aria-hidden>
      <path d="M3 12h26M3 20h26M12 3v26M20 3v26" stroke="currentColor" strokeWidth="2.2" fill="none" />
      <path d="M3 20h9v9" fill="none" stroke="var(--color-primary)" strokeWidth="3.4" />
    </svg>
  );
}

function Tab({ href, also, children }: { href: string; also?: string; children: ReactNode }) {
  const path = usePathname();
  const current = path === href || path === also;
  return (
    <Link
      href={href}
      aria-current={current ? 'page' : undefined}
      className={
        'border-b-2 px-1 py-[11px] leading-none ' +
        `${current ? 'border-primary font-semibold' : 'quiet border-transparent hover:text-base-content'}`
      }
    >
      {children}
    </Link>
  );
}

/** The strip above everything inside a project. */
export function TopStrip({ id }: { id: string }) {
  const { project, canUndo, canRedo, pending, undo, redo } = useProject();
  const togglePanel = usePanels((s) => s.toggle);
  return (
    <header className="hair flex h-[42px] shrink-0 items-center gap-3 border-b bg-base-100 px-3">
      <Link href="/" className="flex items-center gap-2 font-semibold" title="All projects">
        <Mark /> <span className="sr-only">All projects</span>
      </Link>
      <Menu
        label={
          <>
            <span className="max-w-52 truncate font-semibold">{project?.name ?? '…'}</span> <ChevronDown size={14} />
          </>
        }
        title="Project settings"
      >
        {(close) => <ProjectSettings close={close} />}
      </Menu>
      <nav aria-label="Views" className="flex items-center gap-4 pl-1">
        <Tab href={`/projects/${id}`}>Studio</Tab>
        <Tab href={`/projects/${id}/materials`} also={`/projects/${id}/modules`}>
          Materials
        </Tab>
        <Tab href={`/projects/${id}/prep`}>Prep</Tab>
        <Tab href={`/projects/${id}/hand-over`}>Hand-over</Tab>
      </nav>
      <div className="ml-auto flex items-center gap-0.5">
        <span role="status" className="quiet mr-2 flex items-center gap-1 text-2xs">
          {pending > 0 && (
            <>
              <LoaderCircle size={12} className="animate-spin" /> Saving
            </>
          )}
        </span>
        <button type="button" className="tool" disabled={!canUndo} onClick={() => void undo()} title="Undo (Ctrl+Z)">
          <Undo2 size={15} /> Undo
        </button>
        <button
          type="button"
          className="tool"
          disabled={!canRedo}
          onClick={() => void redo()}
          title="Redo (Ctrl+Shift+Z)"
        >
          <Redo2 size={15} /> Redo
        </button>
        <button
          type="button"
          className="tool"
          onClick={() => togglePanel('history')}
          title="Every step, with its branches"
        >
          <History size={15} /> History
        </button>
        <button type="button" className="tool" onClick={() => togglePanel('keys')} title="Keys (?)" aria-label="Keys">
          <CircleHelp size={15} />
        </button>
        <ThemeSwitch />
      </div>
    </header>
  );
}
