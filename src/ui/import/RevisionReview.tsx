'use client';

import { useMemo, useState } from 'react';
import type { KnownMaterial, Revision } from '@/api/answers';
import { useProject } from '../project/projectStore';
import { Select } from '../shared/fields';
import { KnownMaterials } from './KnownMaterials';
import type { Fate } from './RevisionStage';
import { type Listed, marksOf, RevisionView } from './RevisionView';
import { Working } from './Working';

const HOW: Record<Revision['parts'][number]['how'], string> = {
  name: 'same name',
  shape: 'same shape',
  place: 'same place',
  new: 'new',
};

type Found = Revision['parts'][number];

const isUnsure = (p: Found) => p.how === 'place' || p.others.length > 0;
const fateOf = (p: Found): Fate => (isUnsure(p) ? 'unsure' : !p.old ? 'new' : p.changed.length ? 'changed' : 'same');

const TITLES: [Fate, string][] = [
  ['unsure', 'to decide'],
  ['changed', 'changed'],
  ['gone', 'gone'],
  ['new', 'new'],
  ['same', 'as they were'],
];

/** A changed model over the old one, with a list that flies to each difference; unsure pairs are settled here. */
export function RevisionReview({
  found,
  upload,
  busy,
  error,
  known,
  setKnown,
  settle,
  apply,
  leave,
}: {
  found: Revision;
  upload: string;
  busy: string | null;
  error: string | null;
  known: KnownMaterial;
  setKnown: (known: KnownMaterial) => void;
  settle: (next: number, old: string | null) => void;
  apply: () => void;
  leave: () => void;
}) {
  const project = useProject((s) => s.project)!;
  const [at, setAt] = useState<{ key: string } | null>(null);
  const listed = useMemo(() => listOf(found, (id) => project.parts[id]?.mesh), [found, project.parts]);
  const marks = marksOf(listed);
  const current = at ? listed.find((l) => l.key === at.key) : undefined;
  const asked = current?.fate === 'unsure' ? found.parts.find((p) => p.next === current.next) : undefined;
  const candidates = asked ? [...(asked.old ? [asked.old] : []), ...asked.others] : [];
  const nameOf = (id: string) => project.parts[id]?.name ?? id;
  const keyOfOld = (id: string) => listed.find((l) => l.oldId === id && l.next === undefined)?.key ?? `old:${id}`;

  /** A click on an old part while one is asked about settles the pair; any other goes to it. */
  function pick(key: string) {
    const chosen = candidates.find((id) => keyOfOld(id) === key);
    if (asked && chosen && chosen !== asked.old) settle(asked.next, chosen);
    else setAt({ key: listed.some((l) => l.key === key) ? key : keyOfNew(key) });
  }
  const keyOfNew = (key: string) => listed.find((l) => l.oldId && `old:${l.oldId}` === key)?.key ?? key;

  return (
    <div className="flex min-h-0 flex-1">
      <RevisionView
        project={project.id}
        model={found.model.id}
        upload={upload}
        listed={listed}
        pointed={current ? [current.key, ...candidates.map(keyOfOld)] : NONE}
        flown={at}
        onPick={pick}
      />
      <aside aria-label="What changed" className="hair flex w-[400px] shrink-0 flex-col border-l bg-base-100">
        <div className="min-h-0 flex-1 overflow-auto p-4">
          <h1 className="text-lg font-semibold">{found.model.name}, brought in again</h1>
          <p className="quiet mb-3">
            Nothing changes before you agree. Materials, layouts, pins and zones stay; what is new is laid as the file
            has it.
          </p>
          <Working busy={busy} error={error} />
          {asked && (
            <div className="asks mb-3 flex flex-col gap-1">
              <p>
                Which part was <strong>{asked.name}</strong>? Click it in the picture, or choose.
              </p>
              <Select
                label={`What ${asked.name} is`}
                hideLabel
                value={asked.old ?? ''}
                options={[['', 'a new part'], ...candidates.map((o): [string, string] => [o, nameOf(o)])]}
                onChange={(v) => settle(asked.next, v || null)}
              />
            </div>
          )}
          {TITLES.map(([fate, title]) => {
            const own = listed.filter((l) => l.fate === fate);
            if (!own.length) return null;
            return (
              <details key={fate} className="card-panel mb-2 px-3 py-2" open={fate !== 'same'}>
                <summary className="cursor-pointer font-medium">
                  {own.length} {title}
                </summary>
                <ul className="pt-1">
                  {own.map((l) => (
                    <li key={l.key}>
                      <button
                        type="button"
                        className="tool h-auto w-full items-start py-1 text-left leading-tight whitespace-normal"
                        aria-pressed={at?.key === l.key}
                        onClick={() => setAt({ key: l.key })}
                      >
                        <span className="num quiet w-6 shrink-0 text-2xs">{numberOf(marks, l)}</span>
                        <span className="min-w-0">
                          {l.name} <span className="quiet block text-2xs">{wordsOf(found, l)}</span>
                        </span>
                      </button>
                    </li>
                  ))}
                </ul>
              </details>
            );
          })}
          <KnownMaterials known={found.known} value={known} onChange={setKnown} />
          {found.lost.length > 0 && (
            <details className="card-panel mb-2 px-3 py-2" open>
              <summary className="cursor-pointer font-medium">{found.lost.length} could not be found again</summary>
              <ul className="list-disc pt-1 pl-4">
                {found.lost.map((l) => (
                  <li key={l}>{l}</li>
                ))}
              </ul>
            </details>
          )}
        </div>
        <footer className="hair flex justify-end gap-2 border-t p-3">
          <button type="button" className="tool" onClick={leave}>
            Leave it as it is
          </button>
          <button type="button" className="tool tool-main" disabled={!!busy} onClick={apply}>
            Take the changed model
          </button>
        </footer>
      </aside>
    </div>
  );
}

const NONE: string[] = [];

const numberOf = (marks: Listed[], l: Listed): string => {
  const n = marks.indexOf(l);
  return n < 0 ? '' : String(n + 1);
};

/** What is to be said of a part of the list. */
function wordsOf({ parts, goneParts }: Revision, l: Listed): string {
  const part = parts.find((p) => p.next === l.next);
  if (part) return [HOW[part.how], ...part.changed].join(', ');
  const dressed = goneParts.find((p) => p.id === l.oldId)?.dressed ?? 0;
  return dressed ? `${dressed} dressed surfaces go with it` : 'nothing was laid on it';
}

/** Every part of both models once, what differs first. */
function listOf({ parts, goneParts }: Revision, meshOf: (id: string) => number | undefined): Listed[] {
  const all: Listed[] = [
    ...parts.map((p): Listed => ({
      key: `new:${p.next}`,
      fate: fateOf(p),
      name: p.name,
      next: p.next,
      ...(p.old ? { oldId: p.old, old: meshOf(p.old) } : {}),
    })),
    ...goneParts.map((p): Listed => ({
      key: `gone:${p.id}`,
      fate: 'gone',
      name: p.name,
      oldId: p.id,
      old: meshOf(p.id),
    })),
  ];
  const order = TITLES.map(([fate]) => fate);
  return all.sort((a, b) => order.indexOf(a.fate) - order.indexOf(b.fate));
}
