'use client';

import { Eye, Frame, Grid3x3, Layers, PersonStanding, Shapes, SquareDashedMousePointer } from 'lucide-react';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { Tick } from '../../shared/fields';
import { Menu } from '../../shared/Menu';
import { useFaces } from '../faces/facesStore';
import type { Room } from './Room';
import { ViewsMenu } from './ViewsMenu';
import { StillsMenu } from '../stills/StillsMenu';
import { SunMenu } from './SunMenu';
import { SHOWN_LABELS, SHOWN_MAPS, useRoomSettings } from './settings';

const ON = 'bg-secondary/15 font-medium text-secondary';
const RECTANGLES = { seen: 'Seen', through: 'Through' };

/** How the room is looked at, and what a press in it does. */
export function RoomBar({ room }: { room: Room | null }) {
  const project = useProject((s) => s.project)!;
  const ids = useSelection((s) => s.ids);
  const rectangle = useSelection((s) => s.rectangle);
  const setRectangle = useSelection((s) => s.setRectangle);
  const settings = useRoomSettings();
  const { light, shown, person, grid, preview: size } = settings;
  const picking = useFaces();
  const { isolated } = project;
  return (
    <div className="hair flex h-8 shrink-0 items-center gap-0.5 overflow-visible border-b bg-base-100 px-1">
      <div
        role="group"
        aria-label="Light"
        title="Draft or true light (D)"
        className="mr-0.5 flex shrink-0 overflow-hidden rounded-[6px] border border-base-300"
      >
        {(['draft', 'true'] as const).map((kind) => (
          <button
            key={kind}
            type="button"
            aria-pressed={light === kind}
            className={`h-6 px-2 ${light === kind ? ON : 'hover:bg-base-200'}`}
            onClick={() => settings.set({ light: kind })}
          >
            {kind === 'draft' ? 'Draft' : 'True'}
          </button>
        ))}
      </div>
      <ViewsMenu room={room} project={project} ids={ids} />
      <StillsMenu room={room} project={project} />
      <Menu
        title="What is shown"
        label={
          <>
            <Layers size={14} /> {shown === 'all' ? 'Show' : SHOWN_LABELS[shown]}
          </>
        }
      >
        {(close) => (
          <>
            {SHOWN_MAPS.map((m) => (
              <button
                key={m}
                type="button"
                className="tool"
                aria-pressed={shown === m}
                onClick={() => (settings.set({ shown: m }), close())}
              >
                {SHOWN_LABELS[m]}
              </button>
            ))}
            <div className="mt-1 border-t border-base-300 px-2 pt-1">
              <Tick label="The mesh’s edges" checked={settings.edges} onChange={(edges) => settings.set({ edges })} />
            </div>
            <label className="quiet mt-1 block border-t border-base-300 px-2 pt-2 text-2xs">
              Preview pictures up to
              <select
                className="field mt-0.5"
                value={size}
                onChange={(e) => settings.set({ preview: Number(e.target.value) as typeof size })}
              >
                {[256, 512, 1024, 2048].map((s) => (
                  <option key={s} value={s}>
                    {s} px
                  </option>
                ))}
              </select>
            </label>
          </>
        )}
      </Menu>
      <button
        type="button"
        className="tool"
        aria-pressed={person}
        title="A person of 1.72 m"
        aria-label="A person of 1.72 m"
        onClick={() => settings.set({ person: !person })}
      >
        <PersonStanding size={14} />
      </button>
      <button
        type="button"
        className="tool"
        aria-pressed={grid}
        title="Ruler grid: every metre and every 100 mm"
        aria-label="Ruler grid"
        onClick={() => settings.set({ grid: !grid })}
      >
        <Grid3x3 size={14} />
      </button>
      <SunMenu project={project} />
      <button
        type="button"
        className="tool"
        aria-pressed={picking.active}
        title="Mark out faces of a part and make surfaces of them"
        onClick={() => picking.setActive(!picking.active)}
      >
        <Shapes size={14} /> Mark out
      </button>
      <button
        type="button"
        className="tool"
        title="Bring what is picked into view (F)"
        aria-label="Bring what is picked into view"
        onClick={() => room?.view.frame(ids)}
      >
        <Frame size={14} />
      </button>
      <Menu
        title="Pick surfaces by a rectangle drawn in the room"
        label={
          <>
            <SquareDashedMousePointer size={14} /> {rectangle ? RECTANGLES[rectangle] : ''}
            {!rectangle && <span className="sr-only">Pick by a rectangle</span>}
          </>
        }
        className={`tool ${rectangle ? 'tool-main' : ''}`}
      >
        {(close) =>
          (['seen', 'through'] as const).map((kind) => (
            <button
              key={kind}
              type="button"
              className="tool"
              aria-pressed={rectangle === kind}
              onClick={() => (setRectangle(rectangle === kind ? null : kind), close())}
            >
              {kind === 'seen' ? 'All that is seen in a rectangle' : 'All that lies in it, through everything'}
            </button>
          ))
        }
      </Menu>
      {isolated && (
        <button
          type="button"
          className="tool ml-auto"
          data-on="true"
          onClick={() => useProject.getState().run([{ kind: 'isolate', ids: null }])}
        >
          <Eye size={14} /> Show all again
        </button>
      )}
    </div>
  );
}
