'use client';

import { Camera } from 'lucide-react';
import type { Project, SavedView } from '@/core/project/schema';
import { useProject } from '../../project/projectStore';
import { newId } from '../../shared/ids';
import { Menu } from '../../shared/Menu';
import type { Room } from './Room';

const FACES = [
  ['face', 'Picked face, straight on'],
  ['plan', 'Plan from above'],
  ['north', 'North elevation'],
  ['east', 'East elevation'],
  ['south', 'South elevation'],
  ['west', 'West elevation'],
] as const;

/** Kept views, straight-on ones, and the way to stand. */
export function ViewsMenu({ room, project, ids }: { room: Room | null; project: Project; ids: string[] }) {
  const run = useProject((s) => s.run);
  const keep = () => {
    if (!room) return;
    const { eye, target } = room.view.getCamera();
    const view: SavedView = { id: newId('view'), name: `View ${Object.keys(project.views).length + 1}`, eye, target };
    run([{ kind: 'saveView', view }]);
  };
  return (
    <Menu
      title="Views"
      label={
        <>
          <Camera size={14} /> Views
        </>
      }
    >
      {(close) => (
        <div className="max-h-96 overflow-auto">
          {Object.values(project.views).map((v) => (
            <div key={v.id} className="flex items-center">
              <button type="button" className="tool flex-1" onClick={() => (room?.view.setCamera(v), close())}>
                {v.name}
              </button>
              <button
                type="button"
                className="tool"
                aria-label={`Remove ${v.name}`}
                title="Remove"
                onClick={() => run([{ kind: 'removeView', id: v.id }])}
              >
                ×
              </button>
            </div>
          ))}
          <button type="button" className="tool w-full" onClick={() => (keep(), close())}>
            Keep this view
          </button>
          <hr className="hair my-1" />
          {FACES.map(([which, label]) => (
            <button
              key={which}
              type="button"
              className="tool w-full"
              disabled={which === 'face' && !ids.length}
              onClick={() => (room?.view.straightOn(which, ids, project.northDeg), close())}
            >
              {label}
            </button>
          ))}
          <button type="button" className="tool w-full" onClick={() => (room?.eyeHeight(), close())}>
            At eye height, 1.6 m
          </button>
          <button type="button" className="tool w-full" onClick={() => (room?.view.frame([]), close())}>
            All of it
          </button>
          <button type="button" className="tool w-full" onClick={() => (room?.view.back(), close())}>
            Back to the last view
          </button>
        </div>
      )}
    </Menu>
  );
}
