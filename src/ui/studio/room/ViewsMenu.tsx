'use client';

import { Camera as CameraIcon, ImagePlus } from 'lucide-react';
import { useEffect, useReducer } from 'react';
import { toast } from 'sonner';
import type { Project, SavedView } from '@/core/project/schema';
import { useProject } from '../../project/projectStore';
import { imageUrl, messageOf, sendFiles } from '../../shared/api';
import { newId } from '../../shared/ids';
import { Select, Tick } from '../../shared/fields';
import { Menu } from '../../shared/Menu';
import { ValueField } from '../../shared/ValueField';
import type { Room } from './Room';
import { type Camera, lensOf } from './RoomCamera';
import { useSeeIn } from './nearWalls';
import { type Section, useSection } from './section';
import { useWalking } from './walking';

const FACES = [
  ['face', 'Picked face, straight on'],
  ['plan', 'Plan from above'],
  ['north', 'North elevation'],
  ['east', 'East elevation'],
  ['south', 'South elevation'],
  ['west', 'West elevation'],
] as const;
const AXES = ['x', 'y', 'z'] as const;

/** Kept views, straight-on ones, the way to stand, and photographs to look at beside. */
export function ViewsMenu({ room, project, ids }: { room: Room | null; project: Project; ids: string[] }) {
  const run = useProject((s) => s.run);
  const seeIn = useSeeIn();
  const keep = async () => {
    if (!room) return;
    const view: SavedView = {
      id: newId('view'),
      name: `View ${Object.keys(project.views).length + 1}`,
      ...room.view.getCamera(),
    };
    run([{ kind: 'saveView', view: { ...view, ...(await pictureOf(room)) } }]);
  };
  const pin = async (files: FileList | null) => {
    if (!files?.length) return;
    try {
      const stored = await sendFiles('POST /api/images', { files: [...files] });
      const before = Object.keys(project.references ?? {}).length;
      run(
        stored.map(({ hash }, n) => ({
          kind: 'saveReference' as const,
          reference: {
            id: newId('reference'),
            name: files[n].name.replace(/\.\w+$/, ''),
            image: hash,
            left: 0.02 + 0.03 * ((before + n) % 6),
            top: 0.04 + 0.05 * ((before + n) % 6),
            width: 0.25,
          },
        })),
      );
    } catch (error) {
      toast.error('The photograph was not taken in', { description: messageOf(error) });
    }
  };
  return (
    <Menu
      title="Views"
      label={
        <>
          <CameraIcon size={14} /> Views
        </>
      }
    >
      {(close) => (
        <div className="w-72">
          {Object.values(project.views).map((v) => (
            <div key={v.id} className="flex items-center">
              <button type="button" className="tool flex-1" onClick={() => (room?.view.setCamera(v), close())}>
                {v.image && (
                  <img src={imageUrl(v.image, 256, 'colour')} alt="" className="h-8 w-14 rounded-[3px] object-cover" />
                )}
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
          <button type="button" className="tool w-full" onClick={() => (void keep(), close())}>
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
          <button
            type="button"
            className="tool w-full"
            title="W"
            onClick={() => (room?.eyeHeight(), useWalking.getState().set(true), close())}
          >
            Walk with the arrows
          </button>
          <button type="button" className="tool w-full" onClick={() => (room?.view.frame([]), close())}>
            All of it
          </button>
          <button type="button" className="tool w-full" onClick={() => (room?.view.back(), close())}>
            Back to the last view
          </button>
          <hr className="hair my-1" />
          {room && <Standing room={room} project={project} />}
          <Cut project={project} />
          <div className="px-2 pb-1">
            <Tick label="Near walls drop away" checked={seeIn.on} onChange={seeIn.set} />
          </div>
          <hr className="hair my-1" />
          <label className="tool w-full cursor-pointer focus-within:outline-2">
            <ImagePlus size={14} /> Pin a photograph beside the view
            <input
              type="file"
              accept="image/*"
              multiple
              className="sr-only"
              onChange={(e) => (void pin(e.target.files), close())}
            />
          </label>
        </div>
      )}
    </Menu>
  );
}

/** Where one stands and looks, and with which lens, typed. */
function Standing({ room, project }: { room: Room; project: Project }) {
  const [, again] = useReducer((n: number) => n + 1, 0);
  useEffect(() => {
    const { controls } = room.view;
    controls.addEventListener('change', again);
    return () => controls.removeEventListener('change', again);
  }, [room]);
  const at = room.view.getCamera();
  const go = (change: Partial<Camera>) => (room.view.setCamera({ ...at, ...change }), again());
  const triple = (label: string, of: 'eye' | 'target') =>
    AXES.map((axis, n) => (
      <ValueField
        key={axis}
        label={`${label} ${axis}`}
        kind="length"
        unit={project.unit}
        value={at[of][n]}
        step={10}
        decimals={0}
        onChange={(v) => go({ [of]: at[of].map((old, k) => (k === n ? v : old)) as Camera['eye'] })}
      />
    ));
  return (
    <div className="grid grid-cols-3 gap-1.5 px-2 py-1" role="group" aria-label="Where one stands">
      {triple('Eye', 'eye')}
      {triple('Looks at', 'target')}
      <ValueField
        label="Lens, mm"
        kind="number"
        value={at.lensMm ?? lensOf(50)}
        min={5}
        max={1000}
        step={1}
        decimals={0}
        title="Focal length on film of 36 × 24 mm"
        onChange={(lensMm) => go({ lensMm })}
      />
    </div>
  );
}

const CUTS: [string, string][] = [
  ['', 'No section'],
  ['x', 'Section square to x'],
  ['y', 'Section square to y, a plan'],
  ['z', 'Section square to z'],
];

/** The model cut through, to see into it. */
function Cut({ project }: { project: Project }) {
  const { section, set } = useSection();
  const middle = (axis: number) => {
    const parts = Object.values(project.parts);
    const ends = [Math.min(...parts.map((p) => p.min[axis])), Math.max(...parts.map((p) => p.max[axis]))];
    return parts.length ? Math.round((ends[0] + ends[1]) / 2) : 0;
  };
  return (
    <div className="grid grid-cols-2 items-end gap-1.5 px-2 py-1" role="group" aria-label="Section">
      <div className="col-span-2">
        <Select
          label="Section"
          hideLabel
          value={section?.axis ?? ''}
          options={CUTS}
          onChange={(axis) =>
            set(axis ? { axis: axis as Section['axis'], atMm: middle('xyz'.indexOf(axis)), other: false } : null)
          }
        />
      </div>
      {section && (
        <>
          <ValueField
            label="Cut at"
            kind="length"
            unit={project.unit}
            value={section.atMm}
            step={100}
            onChange={(atMm) => set({ ...section, atMm })}
          />
          <label className="flex items-center gap-2 pb-1">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={section.other}
              onChange={(e) => set({ ...section, other: e.target.checked })}
            />
            Other side
          </label>
        </>
      )}
    </div>
  );
}

/** What is seen now, stored; nothing where it cannot be. */
async function pictureOf(room: Room): Promise<Pick<SavedView, 'image'>> {
  try {
    const blob = await room.still();
    if (!blob) return {};
    const [{ hash }] = await sendFiles('POST /api/images', { files: [new File([blob], 'view.png')] });
    return { image: hash };
  } catch {
    return {};
  }
}
