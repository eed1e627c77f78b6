'use client';

import { Aperture, Download, Trash2 } from 'lucide-react';
import { useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Project, Still } from '@/core/project/schema';
import { trimNumber } from '@/core/units/length';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { imageUrl, messageOf, sendFiles, urlOf } from '../../shared/api';
import { Select } from '../../shared/fields';
import { newId } from '../../shared/ids';
import { Menu } from '../../shared/Menu';
import { ValueField } from '../../shared/ValueField';
import type { Room } from '../room/Room';
import { pieceWidth } from '../room/nearness';
import { useRoomSettings } from '../room/settings';
import { whatIsSeen } from './whatIsSeen';
import { useStillSize } from './stillSize';
import { TracedStill } from './TracedStill';

const NOW = 'now';
const SIZES: [string, number, number][] = [
  ['Screen 1920 × 1080', 1920, 1080],
  ['Large 3840 × 2160', 3840, 2160],
  ['Poster 8192 × 4608', 8192, 4608],
  ['Square 2400 × 2400', 2400, 2400],
  ['Upright 2160 × 2880', 2160, 2880],
];
const MOST_PX = 8192;

/** Pictures of any size, from a kept view or from where one stands; kept with the project. */
export function StillsMenu({ room, project }: { room: Room | null; project: Project }) {
  const count = Object.keys(project.stills ?? {}).length;
  return (
    <Menu
      wide
      title="Stills: pictures of any size, kept with the project"
      label={
        <>
          <Aperture size={14} /> Stills{count ? ` ${count}` : ''}
        </>
      }
    >
      {() => <Panel room={room} project={project} />}
    </Menu>
  );
}

function Panel({ room, project }: { room: Room | null; project: Project }) {
  const { widthPx, heightPx, set } = useStillSize();
  const [from, setFrom] = useState(NOW);
  const [done, setDone] = useState<number | null>(null);
  const stop = useRef<AbortController | null>(null);
  const { light, shown } = useRoomSettings();
  const possible = light === 'true' && shown === 'all';
  const views = Object.values(project.views);
  const [made, setMade] = useState<'drawn' | 'traced'>('drawn');
  const own = SIZES.find(([, w, h]) => w === widthPx && h === heightPx)?.[0] ?? '';

  const stillName = () => project.views[from]?.name ?? `Still ${Object.keys(project.stills ?? {}).length + 1}`;
  const stillView = () => {
    const { eye, target, lensMm } = project.views[from] ?? room!.view.getCamera();
    return { eye, target, ...(lensMm ? { lensMm } : {}) };
  };

  async function make() {
    if (!room || stop.current) return;
    const control = new AbortController();
    stop.current = control;
    setDone(0);
    try {
      const at = stillView();
      const name = stillName();
      const blob = await room.makeStill(at, { widthPx, heightPx }, setDone, control.signal);
      if (!blob) return;
      const { revision, run } = useProject.getState();
      const [{ hash }] = await sendFiles('POST /api/images', { files: [new File([blob], 'still.png')] });
      const still: Still = { id: newId('still'), name, ...at, widthPx, heightPx, image: hash, revision };
      run([{ kind: 'saveStill', still }]);
    } catch (error) {
      toast.error('The still could not be made', { description: messageOf(error) });
    } finally {
      stop.current = null;
      setDone(null);
    }
  }

  return (
    <div className="w-[400px] p-2" role="group" aria-label="Stills">
      <div className="grid grid-cols-2 gap-2">
        <Select
          label="From"
          value={from}
          options={[[NOW, 'Where I stand'], ...views.map((v): [string, string] => [v.id, v.name])]}
          onChange={setFrom}
        />
        <Select
          label="Size"
          value={own}
          options={[...SIZES.map(([name]): [string, string] => [name, name]), ['', 'Own']]}
          onChange={(name) => {
            const size = SIZES.find(([n]) => n === name);
            if (size) set({ widthPx: size[1], heightPx: size[2] });
          }}
        />
        <ValueField
          label="Width, px"
          kind="number"
          value={widthPx}
          min={16}
          max={MOST_PX}
          step={10}
          onChange={(v) => set({ widthPx: Math.round(v) })}
        />
        <ValueField
          label="Height, px"
          kind="number"
          value={heightPx}
          min={16}
          max={MOST_PX}
          step={10}
          onChange={(v) => set({ heightPx: Math.round(v) })}
        />
      </div>
      <div className="mt-2">
        <Select
          label="Made"
          value={made}
          options={[
            ['drawn', 'At once, as the room is drawn'],
            ['traced', 'By traced light, ray by ray'],
          ]}
          onChange={(way) => setMade(way === 'traced' ? 'traced' : 'drawn')}
        />
      </div>
      {made === 'traced' ? (
        <div className="mt-2">{room && <TracedStill project={project} view={stillView} name={stillName} />}</div>
      ) : (
        <div className="my-2 flex items-center gap-2">
          {done === null ? (
            <>
              <button
                type="button"
                className="tool tool-main"
                disabled={!room || !possible}
                onClick={() => void make()}
              >
                Make the still
              </button>
              {!possible && (
                <button
                  type="button"
                  className="tool"
                  onClick={() => useRoomSettings.getState().set({ light: 'true', shown: 'all' })}
                >
                  Stills are made in true light: show it
                </button>
              )}
            </>
          ) : (
            <>
              <progress className="progress progress-primary w-full" value={done} max={1} aria-label="Still" />
              <button type="button" className="tool" onClick={() => stop.current?.abort()}>
                Stop
              </button>
            </>
          )}
        </div>
      )}
      {room && from === NOW && <Shows room={room} project={project} heightPx={heightPx} />}
      <Kept project={project} />
    </div>
  );
}

const WORDS = { pieces: 'Pieces', joints: 'Joints', grain: 'The finest figure', relief: 'Relief' };
const HOW = { clearly: 'show', barely: 'are a tone', not: 'do not show' };

/** Places of the view that are looked at, across and down. */
const LOOKS = [11, 7];

/** Pixels for each millimetre of a surface in a still so high, where it is nearest; null where it is not in view. */
function nearestPx(room: Room, id: string, heightPx: number): number | null {
  const { clientWidth: w, clientHeight: h } = room.canvas;
  let best: number | null = null;
  for (let i = 0; i < LOOKS[0]; i++)
    for (let j = 0; j < LOOKS[1]; j++) {
      const hit = room.pick(((i + 0.5) * w) / LOOKS[0], ((j + 0.5) * h) / LOOKS[1]);
      if (hit?.surface === id) best = Math.max(best ?? 0, heightPx / h / room.view.mmPerPixel(hit.point));
    }
  return best;
}

/** What of the picked surface such a still can show, before time is spent on it. */
function Shows({ room, project, heightPx }: { room: Room; project: Project; heightPx: number }) {
  const id = useSelection((s) => s.ids[0]);
  const surface = id ? project.surfaces[id] : undefined;
  const material = surface?.spec ? project.materials[surface.spec.material] : undefined;
  if (!surface?.spec || !material) return null;
  const pxPerMm = nearestPx(room, surface.id, heightPx);
  if (!pxPerMm) return <p className="quiet mb-2 text-2xs">{surface.name} is not in view.</p>;
  const seen = whatIsSeen(surface.spec, material, pxPerMm, pieceWidth({ spec: surface.spec }));
  return (
    <p className="quiet mb-2 text-2xs">
      {surface.name}, where it is nearest:{' '}
      {seen
        .map(({ what, mm, px, how }) => `${WORDS[what]} (${trimNumber(mm, 1)} mm, ${trimNumber(px, 1)} px) ${HOW[how]}`)
        .join('; ')}
      .
    </p>
  );
}

function Kept({ project }: { project: Project }) {
  const run = useProject((s) => s.run);
  const revision = useProject((s) => s.revision);
  const stills = Object.values(project.stills ?? {}).reverse();
  if (!stills.length)
    return <p className="quiet text-2xs">Stills stand here when they are made, with what they show.</p>;
  return (
    <ul className="max-h-72 space-y-1 overflow-auto border-t border-base-300 pt-1.5" aria-label="Kept stills">
      {stills.map((s) => (
        <li key={s.id} className="flex items-center gap-2">
          <a href={imageUrl(s.image)} target="_blank" rel="noreferrer" className="shrink-0">
            <img src={imageUrl(s.image, 256, 'colour')} alt={s.name} className="h-12 w-20 rounded object-cover" />
          </a>
          <span className="min-w-0 flex-1">
            <span className="block truncate">{s.name}</span>
            <span className="quiet num block text-2xs">
              {s.widthPx} × {s.heightPx}
              {s.samples ? `, traced, ${s.samples} rays` : ''}
              {/* keeping it was a step, too */}
              {revision > s.revision + 1 ? `, ${revision - s.revision - 1} steps ago` : ''}
            </span>
          </span>
          {(['png', 'jpeg'] as const).map((as) => (
            <a
              key={as}
              className="tool px-1"
              href={`${urlOf('GET /api/projects/{id}/stills/{still}', { id: project.id, still: s.id })}?as=${as}`}
              download={`${s.name}.${as === 'png' ? 'png' : 'jpg'}`}
              title={as === 'png' ? 'Nothing is lost' : 'Smaller, at quality 92: a little is lost'}
            >
              <Download size={12} /> {as.toUpperCase()}
            </a>
          ))}
          <button
            type="button"
            className="tool px-1"
            aria-label={`Remove ${s.name}`}
            title="Remove"
            onClick={() => run([{ kind: 'removeStill', id: s.id }])}
          >
            <Trash2 size={12} />
          </button>
        </li>
      ))}
    </ul>
  );
}
