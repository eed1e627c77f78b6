'use client';

import { useShallow } from 'zustand/react/shallow';
import { Combine, EyeOff, Scissors, Unlink, Waypoints } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { DEFAULT_CREASE_DEG } from '@/core/mesh/creases';
import { laidAlone } from '@/core/project/runs';
import type { Surface } from '@/core/project/schema';
import { formatArea } from '@/core/units/length';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { meshUrl, sheetService } from '../../project/sheetService';
import { type Areas, surfaceArea } from '../../project/useAreas';
import { messageOf } from '../../shared/api';
import { newId } from '../../shared/ids';
import { Menu } from '../../shared/Menu';
import { mergeSurfaces } from './merge';
import { partRun, setOutAsOne, whyNoRun } from './runs';
import { MirrorMenu } from '../setout/MirrorPanel';
import { PushMenu } from './PushMenu';
import { ValueField } from '../../shared/ValueField';

/** What can be done with the picked surfaces as such. */
export function SelectionTools({ areas }: { areas: Areas }) {
  const project = useProject((s) => s.project)!;
  const run = useProject((s) => s.run);
  const { ids, select } = useSelection(useShallow(({ ids, select }) => ({ ids, select })));
  const [angle, setAngle] = useState(DEFAULT_CREASE_DEG);
  const picked = ids.flatMap((id) => (project.surfaces[id] ? [project.surfaces[id]] : []));
  if (!picked.length) {
    const all = laidAlone(project);
    const dressed = all.filter((s) => s.spec).length;
    return (
      <p className="hair num quiet border-t px-2 py-1.5 text-2xs">
        {dressed} of {all.length} surfaces dressed
      </p>
    );
  }
  const area = picked.reduce((sum, s) => sum + surfaceArea(areas, s), 0);
  const onePart = picked.every((s) => s.part === picked[0].part);
  const zoned = picked.some((s) => s.zone);
  const runs = picked.filter((s) => s.run);
  const noRun = whyNoRun(project, picked);
  const hidden = picked.every((s) => s.hidden);
  const bare = picked.every((s) => s.leftBare);

  async function split() {
    const commands: Parameters<typeof run>[0] = [];
    const made: string[] = [];
    for (const s of picked.filter((one) => !one.run && !one.zone)) {
      const part = project.parts[s.part];
      const found = await sheetService().split(
        { url: meshUrl(project, part.model), mesh: part.mesh, faces: s.faces, flipped: part.flipped },
        angle,
      );
      if (found.length < 2) continue;
      const into = found.map((f, i): Surface => ({
        ...s,
        id: newId('surface'),
        name: `${s.name} ${i + 1}`,
        faces: f.faces,
        areaMm2: f.area,
        normal: f.normal,
      }));
      made.push(...into.map((i) => i.id));
      commands.push({ kind: 'splitSurface', id: s.id, into });
    }
    if (!commands.length) return void toast(`No edge turns by ${angle}° or more: nothing to split.`);
    run(commands);
    select(made);
  }

  const guarded = (work: () => Promise<void>) => () => void work().catch((e: unknown) => toast.error(messageOf(e)));
  return (
    <div className="hair border-t px-1.5 py-1">
      <p className="num quiet px-0.5 pb-0.5 text-2xs">
        {picked.length} picked, {formatArea(area, project.unit)}
      </p>
      <div className="flex flex-wrap gap-0.5">
        <button
          type="button"
          className="tool"
          disabled={picked.length < 2 || !onePart || zoned || runs.length > 0}
          title={
            picked.length < 2
              ? 'Pick two or more surfaces to merge them'
              : zoned || runs.length
                ? 'A zone or a run has no faces of its own to merge'
                : onePart
                  ? 'Make them one surface'
                  : 'Only surfaces of one part can become one'
          }
          onClick={guarded(() => mergeSurfaces(picked))}
        >
          <Combine size={13} /> Merge
        </button>
        {runs.length === 1 && picked.length === 1 ? (
          <button
            type="button"
            className="tool"
            title="Its surfaces go their own ways again, and keep what is laid"
            onClick={() => partRun(runs[0])}
          >
            <Unlink size={13} /> Part the run
          </button>
        ) : (
          <button
            type="button"
            className="tool"
            disabled={noRun !== null}
            title={noRun ?? (runs.length ? 'Set these out together with the run' : 'Set them out as one sheet')}
            onClick={() => setOutAsOne(picked)}
          >
            <Waypoints size={13} /> {runs.length ? 'Join the run' : 'Run'}
          </button>
        )}
        <Menu
          up
          label={
            <>
              <Scissors size={13} /> Split
            </>
          }
          title="Split where faces meet at an angle"
        >
          {(close) => (
            <div className="flex w-44 flex-col gap-2 p-2">
              <ValueField
                label="Split at edges of at least"
                kind="angle"
                value={angle}
                min={0.5}
                max={180}
                step={5}
                onChange={setAngle}
              />
              <button
                type="button"
                className="tool tool-main justify-center"
                onClick={() => (close(), guarded(split)())}
              >
                Split by crease
              </button>
            </div>
          )}
        </Menu>
        <MirrorMenu picked={picked} />
        {picked.length === 1 && !picked[0].zone && !picked[0].run && (
          <PushMenu part={picked[0].part} what={{ surface: picked[0].id }} />
        )}
        <button
          type="button"
          className="tool"
          title="Hide (H)"
          onClick={() => run([{ kind: 'setSurfaces', ids, hidden: !hidden }])}
        >
          <EyeOff size={13} /> {hidden ? 'Show' : 'Hide'}
        </button>
        <button
          type="button"
          className="tool"
          aria-pressed={bare}
          title="Nobody will ever see it: out of quantities and checks"
          onClick={() => run([{ kind: 'setSurfaces', ids, leftBare: !bare }])}
        >
          Leave bare
        </button>
      </div>
    </div>
  );
}
