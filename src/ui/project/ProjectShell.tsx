'use client';

import Link from 'next/link';
import { usePathname } from 'next/navigation';
import { type ReactNode, useEffect } from 'react';
import { TopStrip } from '../shared/TopStrip';
import { Palette } from '../studio/palette/Palette';
import { SidePanels } from '../studio/SidePanels';
import { usePanels } from './panels';
import { useProject } from './projectStore';
import { useSelection } from './selection';

/** Loads a project and puts the top strip over whatever is shown of it. */
export function ProjectShell({ id, children }: { id: string; children: ReactNode }) {
  const { project, load, loadError } = useProject();
  useEffect(() => {
    if (useProject.getState().project?.id !== id)
      useSelection.setState({ ids: [], past: [], future: [], lifted: null, laying: false, once: false });
    void load(id);
  }, [id, load]);

  // what was open over one view does not wait over the next
  const path = usePathname();
  useEffect(() => usePanels.getState().close(), [path]);

  // a tab that comes back shows what other tabs have done meanwhile
  useEffect(() => {
    const onFocus = () => {
      if (useProject.getState().pending === 0) void load(id);
    };
    window.addEventListener('focus', onFocus);
    return () => window.removeEventListener('focus', onFocus);
  }, [id, load]);

  return (
    <div className="flex h-screen min-w-[1000px] flex-col overflow-hidden">
      <TopStrip id={id} />
      <main className="flex min-h-0 flex-1 flex-col" aria-busy={project?.id !== id && !loadError}>
        {project?.id === id ? (
          children
        ) : (
          <div className="grid flex-1 place-items-center">
            {loadError ? (
              <p className="text-center">
                {loadError}{' '}
                <Link href="/" className="text-secondary underline">
                  To the projects
                </Link>
              </p>
            ) : (
              <p className="quiet">Opening…</p>
            )}
          </div>
        )}
      </main>
      <SidePanels />
      <Palette />
    </div>
  );
}
