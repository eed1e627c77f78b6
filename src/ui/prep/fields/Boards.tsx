'use client';

import { RotateCw, Trash2 } from 'lucide-react';
import { toast } from 'sonner';
import { boardAt, boardsOfMaterial, renewed, withBoards } from '@/core/prep/steps/boards';
import { type Board, MOST_BOARDS } from '@/core/prep/steps/compose';
import { useLibrary } from '../../materials/useLibrary';
import { Select } from '../../shared/fields';
import { usePrep } from '../prepStore';
import { contextOf, type Of } from './of';
import { FindPieces } from './FindPieces';

/** What boards are cut out of: this picture, by its joints or by hand, and the leaves of other materials. */
export function Boards({ step, index, run, onChange }: Of<'compose'>) {
  const { board: picked, pickBoard } = usePrep();
  const { data = [] } = useLibrary();
  const { boards } = step;
  const { sizeBefore } = contextOf(run);
  const put = (next: readonly Board[], from = step) => {
    onChange(withBoards(from, next, sizeBefore));
    if (next.length > MOST_BOARDS)
      toast.warning(`The first ${MOST_BOARDS} of ${next.length} boards are taken`, {
        description: 'One step cuts out no more. Make a material of these, and take its leaves in another.',
        duration: 12_000,
      });
  };
  const mine = boards.filter(({ of }) => !of);
  const others = new Map(boards.flatMap(({ of }) => (of ? [[of.material, of] as const] : [])));
  const library = data.filter((m) => m.maps.baseColour);
  const own = picked === null ? undefined : boards[picked];
  return (
    <div className="space-y-1" role="group" aria-label="Boards">
      <div className="flex flex-wrap items-center gap-1">
        <FindPieces
          upTo={index}
          title="Boards, bricks or tiles in the picture, by their joints: each becomes a board"
          onFound={(places) =>
            put([...places.map((p) => boardAt(p)), ...boards.filter(({ of }) => of)], { ...step, boards: [] })
          }
        />
        <button
          type="button"
          className="tool tool-line h-[22px] px-1.5 text-2xs"
          disabled={boards.length >= MOST_BOARDS}
          title="One more, in the middle of the picture; drag its four corners on the light table"
          onClick={() => {
            pickBoard(boards.length);
            put([...boards, boardAt({ x: 0.3, y: 0.4, width: 0.4, height: 0.2 })]);
          }}
        >
          Draw a board
        </button>
      </div>
      <Select
        label="Those of another"
        value=""
        options={[['', 'Take the leaves of…'], ...library.map((m): [string, string] => [m.id, m.name])]}
        onChange={(id) => {
          const material = library.find((m) => m.id === id);
          if (material) put([...boards, ...boardsOfMaterial(material)]);
        }}
      />
      <ul className="text-2xs" aria-label="Cut out of">
        {mine.length > 0 && (
          <Source count={mine.length} name="this picture" remove={() => put(boards.filter(({ of }) => of))} />
        )}
        {[...others.values()].map((of) => {
          const now = library.find((m) => m.id === of.material);
          const anew = now && now.maps.baseColour!.image !== of.image;
          return (
            <Source
              key={of.material}
              count={boards.filter((b) => b.of?.material === of.material).length}
              name={of.name}
              remove={() => put(boards.filter((b) => b.of?.material !== of.material))}
            >
              {anew && (
                <button type="button" className="tool h-[20px] px-1" onClick={() => put(renewed(boards, now))}>
                  made anew: take that
                </button>
              )}
            </Source>
          );
        })}
      </ul>
      {own && (
        <div className="flex items-center gap-1 text-2xs">
          <span className="quiet num flex-1">Board {picked! + 1}</span>
          <button
            type="button"
            className="tool h-[22px] px-1.5"
            title="An oblong one by half, a square one by a quarter"
            onClick={() => put(boards.map((b, n) => (n === picked ? { ...b, turns: (b.turns + 1) % 4 } : b)))}
          >
            <RotateCw size={12} /> Turn it on
          </button>
          <button
            type="button"
            className="tool h-[22px] px-1"
            aria-label={`Remove board ${picked! + 1}`}
            onClick={() => {
              pickBoard(null);
              put(boards.filter((_, n) => n !== picked));
            }}
          >
            <Trash2 size={12} />
          </button>
        </div>
      )}
    </div>
  );
}

function Source({
  count,
  name,
  remove,
  children,
}: {
  count: number;
  name: string;
  remove: () => void;
  children?: React.ReactNode;
}) {
  return (
    <li className="flex items-center gap-1">
      <span className="min-w-0 flex-1 truncate">
        <span className="num">{count}</span> of {name}
      </span>
      {children}
      <button type="button" className="tool h-[20px] px-1" aria-label={`Take out those of ${name}`} onClick={remove}>
        <Trash2 size={11} />
      </button>
    </li>
  );
}
