'use client';

import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { useMemo } from 'react';
import type { Rooms, SurfaceKind } from '@/core/rooms/inRooms';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { type GroupBy, ofKind } from './groups';

interface ListSettings {
  by: GroupBy;
  setBy: (by: GroupBy) => void;
}

/** How this artist likes the list; kept in the browser. */
export const useListSettings = create<ListSettings>()(
  persist((set) => ({ by: 'room' as GroupBy, setBy: (by) => set({ by }) }), { name: 'jute-grid-surfaces' }),
);

const KINDS: [SurfaceKind, string][] = [
  ['floor', 'Floors'],
  ['wall', 'Walls'],
  ['ceiling', 'Ceilings'],
];

/** All floors, walls or ceilings at once, by facing, size and height; what a click would pick is shown first. */
export function KindBar({ rooms }: { rooms: Rooms | null }) {
  const project = useProject((s) => s.project)!;
  const select = useSelection((s) => s.select);
  const foresee = useSelection((s) => s.foresee);
  const { by, setBy } = useListSettings();
  const kinds = useMemo(
    () => KINDS.map(([kind, label]) => ({ label, ids: rooms ? ofKind(project, rooms, kind) : [] })),
    [project, rooms],
  );
  return (
    <div className="hair flex h-8 shrink-0 items-center gap-0.5 border-b px-1">
      {kinds.map(({ label, ids }) => (
        <button
          key={label}
          type="button"
          className="tool h-6 px-1.5 text-[12px]"
          disabled={!ids.length}
          title={rooms ? `Pick all ${ids.length} of them: by facing, size and height` : 'Rooms are being looked for'}
          onMouseEnter={() => foresee(ids)}
          onMouseLeave={() => foresee([])}
          onFocus={() => foresee(ids)}
          onBlur={() => foresee([])}
          onClick={(e) => {
            foresee([]);
            select(e.ctrlKey || e.metaKey || e.shiftKey ? [...new Set([...useSelection.getState().ids, ...ids])] : ids);
          }}
        >
          {label}
        </button>
      ))}
      <select
        aria-label="Group by"
        title="What surfaces are grouped by"
        className="field ml-auto h-6 w-auto px-1 text-[12px]"
        value={by}
        onChange={(e) => setBy(e.target.value as GroupBy)}
      >
        <option value="room">by room</option>
        <option value="part">by part</option>
        <option value="material">by material</option>
        <option value="facing">by facing</option>
      </select>
    </div>
  );
}
