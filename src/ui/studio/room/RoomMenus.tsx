'use client';

import { Camera, Sun } from 'lucide-react';
import type { Project, SavedView } from '@/core/project/schema';
import { useProject } from '../../project/projectStore';
import { newId } from '../../shared/ids';
import { Menu } from '../../shared/Menu';
import { ValueField } from '../../shared/ValueField';
import type { Room } from './Room';
import { useRoomSettings } from './settings';

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

/** Where the sun stands. */
export function SunMenu({ project }: { project: Project }) {
  const run = useProject((s) => s.run);
  const settings = useRoomSettings();
  const { light } = project;
  const set = (values: Partial<typeof light>, gesture?: string) =>
    run([{ kind: 'setProject', light: { ...light, ...values } }], gesture);
  return (
    <Menu
      title="Sun and shadows"
      label={
        <>
          <Sun size={14} /> Sun
        </>
      }
    >
      {() => (
        <div className="grid w-56 grid-cols-2 gap-2 p-2">
          <ValueField
            label="Stands at (bearing)"
            kind="angle"
            value={light.bearingDeg}
            min={0}
            max={360}
            step={5}
            onChange={(bearingDeg, g) => set({ bearingDeg }, g)}
          />
          <ValueField
            label="Height"
            kind="angle"
            value={light.altitudeDeg}
            min={0}
            max={90}
            step={5}
            onChange={(altitudeDeg, g) => set({ altitudeDeg }, g)}
          />
          <ValueField
            label="Strength"
            kind="number"
            value={light.strength}
            min={0}
            max={10}
            step={0.1}
            onChange={(strength, g) => set({ strength }, g)}
          />
          <label className="flex items-end gap-2 pb-1">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={settings.shadows}
              onChange={(e) => settings.set({ shadows: e.target.checked })}
            />
            Shadows
          </label>
        </div>
      )}
    </Menu>
  );
}
