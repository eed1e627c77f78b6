'use client';

import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { readMeshes } from '@/core/formats/meshFile';
import type { PartMesh } from '@/core/mesh/types';
import { messageOf, urlOf } from '../shared/api';
import { useThemeColours } from '../shared/themeColours';
import { type ComparedPart, type Fate, type MarkPlace, RevisionStage } from './RevisionStage';
import { useStage } from './useStage';

/** A part as the list has it, with the mark it has in the picture. */
export interface Listed {
  key: string;
  fate: Fate;
  name: string;
  /** Its mesh's number in the newer file, or in the older one. */
  next?: number;
  old?: number;
  oldId?: string;
}

const LEGEND: [Fate, string, string][] = [
  ['changed', 'bg-[#8fa3c9]', 'changed; as it was in madder'],
  ['new', 'bg-[#9db27a]', 'new'],
  ['gone', 'bg-[#c9796f]', 'gone'],
  ['unsure', 'bg-[#dcb95a]', 'to decide'],
];

const fetchMeshes = async (url: string): Promise<PartMesh[]> =>
  readMeshes(new Uint8Array(await (await fetch(url)).arrayBuffer()));

/** The changed model over the one that is there. */
export function RevisionView({
  project,
  model,
  upload,
  listed,
  pointed,
  flown,
  onPick,
}: {
  project: string;
  model: string;
  upload: string;
  /** What differs; the first ones carry numbers. */
  listed: Listed[];
  /** Parts that are asked about now. */
  pointed: string[];
  flown: { key: string } | null;
  onPick: (key: string) => void;
}) {
  const pressed = useRef<[number, number] | null>(null);
  const [meshes, setMeshes] = useState<{ old: PartMesh[]; next: PartMesh[] } | null>(null);
  const [places, setPlaces] = useState<MarkPlace[]>([]);
  const [drawing, setDrawing] = useState(false);
  const { stage, canvas, host } = useStage((on) => new RevisionStage(on, setDrawing, setPlaces));
  const shown = useRef(false);
  const { cloth } = useThemeColours();

  useEffect(() => {
    let stale = false;
    void Promise.all([
      fetchMeshes(urlOf('GET /api/projects/{id}/models/{model}/mesh', { id: project, model })),
      fetchMeshes(urlOf('GET /api/uploads/{id}/mesh', { id: upload })),
    ])
      .then(([old, next]) => !stale && setMeshes({ old, next }))
      .catch((e: unknown) => toast.error('The models cannot be shown', { description: messageOf(e) }));
    return () => {
      stale = true;
    };
  }, [project, model, upload]);

  useEffect(() => {
    if (!meshes) return;
    stage.current?.show(comparedOf(meshes, listed), cloth, shown.current);
    shown.current = true;
    stage.current?.mark(marksOf(listed).map((l) => l.key));
  }, [meshes, listed, cloth, stage]);

  useEffect(() => stage.current?.point(pointed), [pointed, meshes, listed, stage]);
  useEffect(() => {
    if (flown) stage.current?.fly(flown.key);
  }, [flown, stage]);

  const marks = marksOf(listed);
  return (
    <section
      aria-label="Both models"
      aria-busy={!meshes || drawing}
      ref={host}
      className="relative min-w-0 flex-1 overflow-hidden bg-base-200"
    >
      <canvas
        ref={canvas}
        data-testid="revision-canvas"
        className="absolute inset-0 h-full w-full touch-none"
        onPointerDown={(e) => (pressed.current = [e.clientX, e.clientY])}
        onPointerUp={(e) => {
          const start = pressed.current;
          if (!start || Math.hypot(e.clientX - start[0], e.clientY - start[1]) > 4) return;
          const rect = e.currentTarget.getBoundingClientRect();
          const key = stage.current?.pick(e.clientX - rect.left, e.clientY - rect.top);
          if (key) onPick(key);
        }}
      />
      {places.map(
        (place, n) =>
          place &&
          marks[n] && (
            <button
              key={place.key}
              type="button"
              title={marks[n].name}
              className={
                'num absolute -translate-x-1/2 -translate-y-1/2 rounded-full border border-base-100 px-1.5 text-2xs ' +
                `${pointed.includes(place.key) ? 'bg-primary text-primary-content' : 'bg-base-content text-base-100'}`
              }
              style={{ left: place.x, top: place.y }}
              onClick={() => onPick(place.key)}
            >
              {n + 1}
            </button>
          ),
      )}
      <ul className="card-panel on-canvas quiet left-3 flex items-center gap-3">
        {LEGEND.filter(([fate]) => listed.some((l) => l.fate === fate)).map(([fate, colour, words]) => (
          <li key={fate} className="flex items-center gap-1.5">
            <span className={`h-2.5 w-2.5 rounded-[2px] ${colour}`} /> {words}
          </li>
        ))}
        <li>Click a part to find it in the list.</li>
      </ul>
    </section>
  );
}

const MOST_MARKS = 60;

/** Those that carry a number, in the order of the list. */
export const marksOf = (listed: Listed[]): Listed[] => listed.filter((l) => l.fate !== 'same').slice(0, MOST_MARKS);

function comparedOf({ old, next }: { old: PartMesh[]; next: PartMesh[] }, listed: Listed[]): ComparedPart[] {
  return listed.flatMap((l): ComparedPart[] => [
    ...(l.next !== undefined && next[l.next] ? [{ key: l.key, mesh: next[l.next], fate: l.fate, isOld: false }] : []),
    ...(l.old !== undefined && old[l.old] && l.fate !== 'same'
      ? [
          {
            key: l.next === undefined ? l.key : `old:${l.oldId}`,
            mesh: old[l.old],
            fate: l.next === undefined ? l.fate : 'changed',
            isOld: true,
          } satisfies ComparedPart,
        ]
      : []),
  ]);
}
