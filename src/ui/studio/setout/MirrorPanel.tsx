'use client';

import { FlipHorizontal, LoaderCircle } from 'lucide-react';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { type Plane, planeThrough } from '@/core/geometry/plane';
import type { Vec3 } from '@/core/geometry/vec';
import type { FoundMirror } from '@/core/lay/findMirrors';
import type { MirrorSpec } from '@/core/mapping/mirrorSchema';
import type { Surface } from '@/core/project/schema';
import { describePlane } from '@/core/specification/portions';
import { formatLength } from '@/core/units/length';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { messageOf } from '../../shared/api';
import { DrivingContext } from '../../shared/driving';
import { Menu } from '../../shared/Menu';
import { ValueField } from '../../shared/ValueField';
import { layMirrored, mirrorsOf } from './layMirrored';

const AXES: [string, Vec3][] = [
  ['x', [1, 0, 0]],
  ['y', [0, 1, 0]],
  ['z', [0, 0, 1]],
];
/** No more planes are offered. */
const MOST_SHOWN = 6;

/** Lays what is on the picked surfaces on the half that matches it, as its mirror image. */
export function MirrorMenu({ picked }: { picked: Surface[] }) {
  const why = !picked.some((s) => s.spec)
    ? 'Pick surfaces on which something is laid'
    : picked.some((s) => s.zone)
      ? 'A zone goes with its surface: pick that'
      : null;
  const [plane, setPlane] = useState<Plane | null>(null);
  return (
    <Menu
      up
      wide
      label={
        <>
          <FlipHorizontal size={13} /> Mirror…
        </>
      }
      title={why ?? 'Lay the same on the half that matches, mirrored'}
    >
      {(close) =>
        why ? (
          <p className="quiet max-w-64 p-2 text-2xs">{why}.</p>
        ) : (
          <Panel picked={picked} plane={plane} setPlane={setPlane} close={close} />
        )
      }
    </Menu>
  );
}

function Panel({
  picked,
  plane,
  setPlane,
  close,
}: {
  picked: Surface[];
  plane: Plane | null;
  setPlane: (plane: Plane | null) => void;
  close: () => void;
}) {
  const project = useProject((s) => s.project)!;
  const run = useProject((s) => s.run);
  const { foresee, select, setTakeFace } = useSelection.getState();
  const [within, setWithin] = useState(2);
  const [prints, setPrints] = useState<MirrorSpec['prints']>('mirrored');
  const { unit } = project;
  const { found, error } = useMirrors(picked, within, plane);
  useEffect(() => () => foresee([]), [foresee]);

  async function lay(mirror: FoundMirror) {
    try {
      const { commands, laid, left } = await layMirrored(project, mirror, prints);
      const description = left.map(({ name, why }) => `${name}: ${why}.`).join(' ');
      if (!laid.length) return void toast('Nothing was laid.', { description });
      run(commands);
      select(laid);
      close();
      toast(`Laid mirrored on ${laid.length} ${laid.length === 1 ? 'surface' : 'surfaces'}.`, { description });
    } catch (e) {
      toast.error('Not laid', { description: messageOf(e) });
    }
  }

  return (
    <DrivingContext.Provider value={null}>
      <div className="w-[340px] p-2" role="group" aria-label="Lay mirrored">
        <div className="grid grid-cols-2 gap-x-2 gap-y-1">
          <label className="block">
            <span className="quiet text-2xs">Pictures</span>
            <select
              className="field"
              aria-label="Pictures"
              value={prints}
              onChange={(e) => setPrints(e.target.value as MirrorSpec['prints'])}
            >
              <option value="mirrored">mirrored, too</option>
              <option value="upright">as they are: lettering reads</option>
            </select>
          </label>
          <ValueField
            label="Alike within"
            kind="length"
            unit={unit}
            min={0.01}
            max={100}
            value={within}
            onChange={setWithin}
          />
        </div>
        <p className="quiet mt-2 text-2xs">
          {plane ? 'Through the plane that is given' : 'Planes with a matching half'}
        </p>
        {error && <p className="text-2xs text-error">{error}</p>}
        {!found && !error && (
          <p className="quiet flex items-center gap-1.5 text-2xs">
            <LoaderCircle size={12} className="animate-spin" /> Looking for the half that matches…
          </p>
        )}
        {found?.length === 0 && (
          <p className="text-2xs">Nothing matches what is picked, whatever the plane. Give one, or allow more.</p>
        )}
        <div role="group" aria-label="Planes" className="mt-0.5">
          {found?.slice(0, MOST_SHOWN).map((mirror, n) => (
            <button
              key={n}
              type="button"
              className="tool num w-full text-left"
              disabled={!mirror.pairs.length}
              title={
                mirror.pairs.length ? 'Lay it on what is marked in the room' : 'Nothing stands where the images are'
              }
              onMouseEnter={() => foresee(mirror.pairs.map(([, image]) => image))}
              onFocus={() => foresee(mirror.pairs.map(([, image]) => image))}
              onMouseLeave={() => foresee([])}
              onClick={() => void lay(mirror)}
            >
              {describePlane(mirror.plane, (mm) => formatLength(mm, unit))}
              <span className="quiet ml-auto pl-3 text-2xs">
                {mirror.pairs.length} of {picked.length}
              </span>
            </button>
          ))}
        </div>
        <p className="quiet mt-2 text-2xs">Or through</p>
        <div className="flex flex-wrap items-end gap-1">
          <button
            type="button"
            className="tool tool-line h-[22px] px-1.5 text-2xs"
            title="Then click a face in the room: its plane is the mirror"
            onClick={() => {
              close();
              setTakeFace((point, normal) => {
                setPlane(planeThrough(point, normal));
                toast('The plane of that face is the mirror: open Mirror… again.');
              });
            }}
          >
            a face…
          </button>
          {AXES.map(([name, normal]) => (
            <div key={name} className="w-[68px]">
              <ValueField
                label={`${name} =`}
                kind="length"
                unit={unit}
                min={-1e8}
                max={1e8}
                value={
                  plane && Math.abs(plane.normal[AXES.findIndex(([a]) => a === name)]) > 0.999999 ? plane.atMm : null
                }
                onChange={(atMm) => setPlane({ normal, atMm })}
              />
            </div>
          ))}
          {plane && (
            <button type="button" className="tool h-[22px] px-1 text-2xs" onClick={() => setPlane(null)}>
              Found ones
            </button>
          )}
        </div>
      </div>
    </DrivingContext.Provider>
  );
}

/** What is found anew whenever what is asked changes; a late answer to an earlier question is passed over. */
function useMirrors(picked: Surface[], within: number, plane: Plane | null) {
  const [answer, setAnswer] = useState<{ found?: FoundMirror[]; error?: string; asked: string }>({ asked: '' });
  const asked = JSON.stringify([picked.map((s) => s.id), within, plane]);
  useEffect(() => {
    let stale = false;
    const { project } = useProject.getState();
    const [ids, withinMm, through] = JSON.parse(asked) as [string[], number, Plane | null];
    const surfaces = ids.flatMap((id) => project?.surfaces[id] ?? []);
    if (project)
      mirrorsOf(project, surfaces, withinMm, through).then(
        (found) => stale || setAnswer({ found, asked }),
        (e: unknown) => stale || setAnswer({ error: messageOf(e), asked }),
      );
    return () => void (stale = true);
  }, [asked]);
  return answer.asked === asked ? answer : { found: undefined, error: undefined };
}
