'use client';

import { useQuery } from '@tanstack/react-query';
import { Copy, LogOut, MoreHorizontal, Pencil, Plus, RotateCcw, Trash2 } from 'lucide-react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import type { ProjectCard } from '@/api/answers';
import { call, messageOf, urlOf } from '../shared/api';
import { Menu } from '../shared/Menu';
import { ThemeSwitch } from '../shared/ThemeSwitch';
import { Mark } from '../shared/TopStrip';
import { CardFacts } from './CardFacts';
import { Notices } from './Notices';

/** All projects, as cards. Deleting is a move to the bin, with a way back. */
export function ProjectsBoard() {
  const router = useRouter();
  const [bin, setBin] = useState(false);
  const [renaming, setRenaming] = useState<string | null>(null);
  const projects = useQuery({
    queryKey: ['projects'],
    queryFn: () => call('GET /api/projects', { query: { deleted: 'true' } }),
  });
  const health = useQuery({ queryKey: ['health'], queryFn: () => call('GET /api/health', {}) });
  const all = projects.data ?? [];
  const shown = all.filter((p) => p.deleted === bin);
  const binned = all.filter((p) => p.deleted).length;

  const attempt = (work: Promise<unknown>) =>
    work.then(() => projects.refetch()).catch((e: unknown) => toast.error(messageOf(e)));
  const create = async () => {
    try {
      const { project } = await call('POST /api/projects', { body: { name: 'New project' } });
      router.push(`/projects/${project.id}`);
    } catch (e) {
      toast.error(messageOf(e));
    }
  };
  const remove = (p: ProjectCard) =>
    attempt(
      call('DELETE /api/projects/{id}', { id: p.id }).then(() =>
        toast(`“${p.name}” is in the bin.`, {
          action: {
            label: 'Bring it back',
            onClick: () => void attempt(call('PATCH /api/projects/{id}', { id: p.id, body: { deleted: false } })),
          },
        }),
      ),
    );
  const rename = (p: ProjectCard, name: string) => {
    setRenaming(null);
    if (name.trim() && name.trim() !== p.name)
      void attempt(call('PATCH /api/projects/{id}', { id: p.id, body: { name: name.trim() } }));
  };

  return (
    <div className="min-h-screen">
      <header className="hair flex h-[42px] items-center gap-2 border-b bg-base-100 px-4">
        <Mark /> <span className="text-[15px] font-semibold">Jute Grid</span>
        <span className="ml-auto" />
        {health.data?.asks && (
          <button
            type="button"
            className="tool"
            onClick={() => void call('DELETE /api/session', {}).then(() => window.location.assign('/sign-in'))}
          >
            <LogOut size={14} /> Sign out
          </button>
        )}
        <ThemeSwitch />
      </header>
      <main className="mx-auto max-w-6xl p-6">
        <div className="mb-4 flex items-center gap-3">
          <h1 className="text-xl font-semibold">{bin ? 'The bin' : 'Projects'}</h1>
          <button
            type="button"
            className="tool"
            aria-pressed={bin}
            onClick={() => setBin(!bin)}
            disabled={!binned && !bin}
          >
            <Trash2 size={14} /> {bin ? 'Back to the projects' : `Bin (${binned})`}
          </button>
          {!bin && (
            <button type="button" className="tool tool-main ml-auto" onClick={() => void create()}>
              <Plus size={15} /> New project
            </button>
          )}
        </div>
        <Notices sentences={health.data?.notices ?? []} />
        {projects.isError && <p className="text-error">{messageOf(projects.error)}</p>}
        {projects.isPending && (
          <p role="status" className="sr-only">
            Projects are being read
          </p>
        )}
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(270px,1fr))] gap-4" aria-busy={projects.isPending}>
          {projects.isPending &&
            [1, 2, 3].map((n) => (
              <li key={n} className="card-panel animate-pulse motion-reduce:animate-none" aria-hidden>
                <Weave colours={[]} />
                <div className="space-y-2 p-3">
                  <div className="h-4 w-32 rounded-[4px] bg-base-300" />
                  <div className="h-3 w-44 rounded-[4px] bg-base-300" />
                </div>
              </li>
            ))}
          {shown.map((p) => (
            <li key={p.id} className="card-panel overflow-visible">
              <Link
                href={p.deleted ? '#' : `/projects/${p.id}`}
                aria-label={`Open ${p.name}`}
                className="block overflow-hidden rounded-t-[5px]"
                tabIndex={p.deleted ? -1 : 0}
              >
                {p.still ? (
                  <img
                    src={`${urlOf('GET /api/projects/{id}/still', { id: p.id })}?${p.updated}`}
                    alt=""
                    className="block h-[126px] w-full object-cover"
                  />
                ) : (
                  <Weave colours={p.colours} />
                )}
              </Link>
              <div className="flex items-start gap-2 p-3">
                <div className="min-w-0 flex-1">
                  {renaming === p.id ? (
                    <input
                      autoFocus
                      aria-label="Project name"
                      className="field"
                      defaultValue={p.name}
                      onBlur={(e) => rename(p, e.target.value)}
                      onKeyDown={(e) =>
                        e.key === 'Enter' ? e.currentTarget.blur() : e.key === 'Escape' && setRenaming(null)
                      }
                    />
                  ) : (
                    <h2 className="truncate font-semibold">
                      {p.deleted ? p.name : <Link href={`/projects/${p.id}`}>{p.name}</Link>}
                    </h2>
                  )}
                  <CardFacts project={p} />
                </div>
                {p.deleted ? (
                  <div className="flex flex-col">
                    <button
                      type="button"
                      className="tool"
                      onClick={() =>
                        void attempt(call('PATCH /api/projects/{id}', { id: p.id, body: { deleted: false } }))
                      }
                    >
                      <RotateCcw size={13} /> Bring back
                    </button>
                    <button
                      type="button"
                      className="tool text-error"
                      onClick={() =>
                        confirm(`Delete “${p.name}” and its history for good?`) &&
                        void attempt(call('DELETE /api/projects/{id}', { id: p.id, query: { forever: 'true' } }))
                      }
                    >
                      <Trash2 size={13} /> Delete for good
                    </button>
                  </div>
                ) : (
                  <Menu
                    align="right"
                    title={`More for ${p.name}`}
                    label={<MoreHorizontal size={15} aria-label={`More for ${p.name}`} />}
                  >
                    {(close) => (
                      <>
                        <button type="button" className="tool" onClick={() => (close(), setRenaming(p.id))}>
                          <Pencil size={13} /> Rename
                        </button>
                        <button
                          type="button"
                          className="tool"
                          onClick={() => (
                            close(),
                            void attempt(call('POST /api/projects', { body: { copyOf: p.id } }))
                          )}
                        >
                          <Copy size={13} /> Duplicate
                        </button>
                        <button type="button" className="tool" onClick={() => (close(), void remove(p))}>
                          <Trash2 size={13} /> Delete
                        </button>
                      </>
                    )}
                  </Menu>
                )}
              </div>
            </li>
          ))}
        </ul>
        {projects.isSuccess && !shown.length && (
          <p className="quiet p-10 text-center">
            {bin ? 'The bin is empty.' : 'No projects yet. Start one, and bring a model in.'}
          </p>
        )}
      </main>
    </div>
  );
}

/** What is laid in the project, woven: one thread for each material, most area first. */
function Weave({ colours }: { colours: string[] }) {
  const list = colours.length ? colours : ['var(--color-base-300)', 'var(--color-base-200)'];
  const cells = [];
  for (let y = 0; y < 9; y++) {
    for (let x = 0; x < 20; x++) {
      const over = (x + y) % 2 === 0;
      cells.push(
        <rect
          key={`${x}-${y}`}
          x={x * 14 + (over ? 0.8 : 0)}
          y={y * 14 + (over ? 0 : 0.8)}
          width={over ? 12.4 : 14}
          height={over ? 14 : 12.4}
          fill={list[over ? x % list.length : (y * 2 + 1) % list.length]}
        />,
      );
    }
  }
  return (
    <svg
      viewBox="0 0 280 126"
      className="block h-[126px] w-full bg-base-300"
      preserveAspectRatio="xMidYMid slice"
      aria-hidden
    >
      {cells}
    </svg>
  );
}
