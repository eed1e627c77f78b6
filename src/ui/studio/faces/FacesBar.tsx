'use client';

import { BoxSelect, Brush, FlipVertical, MousePointerClick, Spline, Undo2, X } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import type { Grow } from '@/core/mesh/growFaces';
import { invertFaces } from '@/core/mesh/growFaces';
import { faceCount, listFaces, packFaces } from '@/core/mesh/types';
import type { CommandOf } from '@/core/project/commands';
import type { Project, Surface } from '@/core/project/schema';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { meshUrl, sheetService } from '../../project/sheetService';
import { messageOf } from '../../shared/api';
import { newId } from '../../shared/ids';
import { PushMenu } from '../surfaces/PushMenu';
import { Menu } from '../../shared/Menu';
import { ValueField } from '../../shared/ValueField';
import { type FaceTool, useFaces } from './facesStore';

const TOOLS: [FaceTool, string, typeof Brush][] = [
  ['click', 'One by one', MousePointerClick],
  ['paint', 'Chalk', Brush],
  ['rectangle', 'Frame', BoxSelect],
];

/** Picking faces by hand, and what can be made of them. */
export function FacesBar() {
  const { tool, through, part, faces, past, setActive, setTool, setThrough, put, back } = useFaces();
  const project = useProject((s) => s.project)!;
  const run = useProject((s) => s.run);
  const select = useSelection((s) => s.select);
  const [deg, setDeg] = useState(20);
  const count = faceCount(faces);
  const of = part ? project.parts[part] : undefined;
  const request = () => ({ url: meshUrl(project, of!.model), mesh: of!.mesh, faces, flipped: of!.flipped });
  const guarded = (work: () => Promise<void>) => () => void work().catch((e: unknown) => toast.error(messageOf(e)));

  const grow = (how: Grow) => guarded(async () => put(part, await sheetService().growFaces(request(), how)));
  const makeSurface = guarded(async () => {
    const command = await carve(project, part!, faces);
    if (!command) return void toast('These faces are a surface already.');
    run([command]);
    put(null, []);
    setActive(false);
    select([command.into.id]);
  });
  const growths: [string, string, Grow][] = [
    ['Over the whole flat', 'M3 13 8 4h13l-5 9z', { how: 'plane' }],
    [`On round turns up to ${deg}°`, 'M2 13 7 5h5v8zM12 5l9 3v8l-9-3z', { how: 'angle', deg }],
    ['Along the strip', 'M2 6h20v5H2zM8 6v5M15 6v5', { how: 'strip' }],
    ['Over all that hangs together', 'M4 6l8-3 8 3v8l-8 3-8-3zM4 6l8 3 8-3M12 9v8', { how: 'body' }],
    ['To all that face this way', 'M3 14V5l4-2v9zM11 14V5l4-2v9zM19 9h4m-2-2 2 2-2 2', { how: 'facing', deg: 5 }],
    ['To all at this height', 'M2 9h20M5 6h4v6H5zM14 7h5v4h-5z', { how: 'level' }],
    ['To all of its size', 'M2 5h5v8H2zM10 5h5v8h-5zM18 5h5v8h-5z', { how: 'alike' }],
  ];
  return (
    <div
      role="group"
      aria-label="Mark out"
      className="hair flex min-h-8 shrink-0 flex-wrap items-center gap-0.5 border-b bg-base-100 px-1"
    >
      {TOOLS.map(([kind, label, Icon]) => (
        <button
          key={kind}
          type="button"
          className="tool px-1.5"
          aria-pressed={tool === kind}
          title={`${label}: adds; with Alt takes away`}
          onClick={() => setTool(kind)}
        >
          <Icon size={13} /> {label}
        </button>
      ))}
      {tool === 'rectangle' && (
        <label className="flex items-center gap-1 px-1 text-2xs">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={through}
            onChange={(e) => setThrough(e.target.checked)}
          />
          through
        </label>
      )}
      <Menu
        label={
          <>
            <Spline size={13} /> Carry on
          </>
        }
        title="Carry what is marked on over the part"
      >
        {(close) => (
          <>
            {growths.map(([label, drawing, how]) => (
              <button
                key={label}
                type="button"
                className="tool"
                disabled={!count}
                onClick={() => (close(), grow(how)())}
              >
                <svg
                  viewBox="0 0 25 18"
                  className="h-4 w-6 fill-primary/15 stroke-base-content stroke-[1.2]"
                  aria-hidden
                >
                  <path d={drawing} />
                </svg>
                {label}
              </button>
            ))}
            <div className="px-2 pt-1">
              <ValueField label="Turns up to" kind="angle" value={deg} min={0} max={180} step={5} onChange={setDeg} />
            </div>
          </>
        )}
      </Menu>
      <PushMenu part={part} what={{ faces }} disabled={!count} />
      <button
        type="button"
        className="tool px-1.5"
        disabled={!of}
        title="Mark the rest of the part instead"
        onClick={() => put(part, invertFaces(facesOfPart(project, part!), faces))}
      >
        The rest
      </button>
      <button
        type="button"
        className="tool px-1.5"
        disabled={!past.length}
        title="What was picked before"
        aria-label="Picked before"
        onClick={back}
      >
        <Undo2 size={13} />
      </button>
      <span className="num quiet px-1 text-2xs" data-testid="faces-picked">
        {count ? `${count.toLocaleString('en')} faces of ${of?.name ?? ''}` : 'nothing marked'}
      </span>
      <span className="ml-auto flex">
        <button
          type="button"
          className="tool px-1.5"
          disabled={!count}
          title="Turn them the other way round"
          onClick={() => run([{ kind: 'flipFaces', part: part!, faces }])}
        >
          <FlipVertical size={13} /> Flip
        </button>
        <button type="button" className="tool tool-main px-2" disabled={!count} onClick={makeSurface}>
          Make a surface
        </button>
        <button
          type="button"
          className="tool px-1"
          title="Back to picking surfaces"
          aria-label="Stop picking faces"
          onClick={() => setActive(false)}
        >
          <X size={13} />
        </button>
      </span>
    </div>
  );
}

const facesOfPart = (project: Project, part: string) =>
  packFaces(
    Object.values(project.surfaces)
      .filter((s) => s.part === part && !s.zone)
      .flatMap((s) => [...listFaces(s.faces)]),
  );

/** The command that makes a surface of picked faces; null where they are one already. */
async function carve(project: Project, part: string, faces: number[]): Promise<CommandOf<'carveSurface'> | null> {
  const picked = new Set(listFaces(faces));
  const of = project.parts[part];
  const measure = (runs: number[]) =>
    sheetService().measure({ url: meshUrl(project, of.model), mesh: of.mesh, faces: runs, flipped: of.flipped });
  const from: CommandOf<'carveSurface'>['from'] = {};
  let most: { surface: Surface; share: number } | null = null;
  for (const s of Object.values(project.surfaces)) {
    if (s.part !== part || s.zone) continue;
    const own = listFaces(s.faces);
    const rest = own.filter((f) => !picked.has(f));
    const taken = own.length - rest.length;
    if (!taken) continue;
    if (!rest.length && taken === picked.size) return null;
    if (!most || taken > most.share) most = { surface: s, share: taken };
    if (!rest.length) from[s.id] = null;
    else {
      const left = packFaces(rest);
      const { area, normal } = await measure(left);
      from[s.id] = { faces: left, areaMm2: area, normal };
    }
  }
  if (!most) return null;
  const { area, normal } = await measure(faces);
  const names = new Set(Object.values(project.surfaces).map((s) => s.name));
  let n = 1;
  while (names.has(`Picked faces ${n}`)) n++;
  const { surface } = most;
  const into: Surface = { ...surface, id: newId('surface'), name: `Picked faces ${n}`, faces, areaMm2: area, normal };
  return { kind: 'carveSurface', into, from };
}
