'use client';

import { useShallow } from 'zustand/react/shallow';
import { Copy, HandGrab, PaintRoller } from 'lucide-react';
import { toast } from 'sonner';
import { lineText, specLine } from '@/core/specification/line';
import { type Portion, PORTIONS } from '@/core/specification/portions';
import { useBenchFold } from './bench/benchStore';
import { NamedValues } from '../project/NamedValues';
import { useProject } from '../project/projectStore';
import { useSelection } from '../project/selection';
import { Menu } from '../shared/Menu';
import { laySpec } from './lay';
import { OptionsMenu } from './options/OptionsPanel';

/** Unfolds the segment of a portion, at its field. */
function leadTo(portion: Portion): void {
  const { segment, field } = PORTIONS.find((p) => p.key === portion)!;
  useBenchFold.getState().goTo(segment, field);
}

/** The spec of what is picked, read as a sentence; its parts lead to their fields. */
export function SpecLine() {
  const project = useProject((s) => s.project)!;
  const preview = useProject((s) => s.preview);
  const run = useProject((s) => s.run);
  const { ids, lifted, laying, lift, setPortions, setLaying, drop } = useSelection(
    useShallow(({ ids, lifted, laying, lift, setPortions, setLaying, drop }) => ({
      ids,
      lifted,
      laying,
      lift,
      setPortions,
      setLaying,
      drop,
    })),
  );
  const surface = ids[0] ? project.surfaces[ids[0]] : undefined;
  const spec = surface ? (preview[surface.id] ?? surface.spec) : null;
  const part = surface ? project.parts[surface.part] : undefined;
  // a run may be of several parts
  const name = !surface ? '' : surface.run ? surface.name : `${part?.name}, ${surface.name.toLowerCase()}`;
  const parts = surface
    ? specLine(name, spec, spec ? (project.materials[spec.material] ?? null) : null, project.unit)
    : null;
  const more = ids.length - 1;

  const copy = () => {
    if (parts) void navigator.clipboard?.writeText(lineText(parts)).then(() => toast('Copied as text.'));
  };
  return (
    <div className="hair flex min-h-[40px] shrink-0 items-center gap-3 border-b bg-base-100 px-3 py-1">
      <p data-testid="spec-line" className="min-w-0 flex-1 text-[13px] leading-snug">
        {parts ? (
          <>
            {parts.map((p, i) =>
              p.portion ? (
                <button key={i} type="button" className="spec-word" onClick={() => leadTo(p.portion!)}>
                  {p.text}
                </button>
              ) : (
                <span key={i}>{p.text}</span>
              ),
            )}
            {more > 0 && <span className="quiet"> And {more} more picked.</span>}
          </>
        ) : (
          <span className="quiet">Pick a surface to read what is laid on it, or drag a material onto one.</span>
        )}
      </p>
      <div className="flex shrink-0 items-center gap-0.5">
        <OptionsMenu />
        <NamedValues />
        <button type="button" className="tool" disabled={!parts} onClick={copy} title="Copy the sentence">
          <Copy size={14} /> Copy
        </button>
        <button
          type="button"
          className="tool"
          disabled={!spec}
          onClick={() => (
            lift(spec!, name),
            toast(`Lifted from ${name}. Lay it on others with P, or click after click.`)
          )}
          title="Take this spec into the hand (L)"
        >
          <HandGrab size={14} /> Lift
        </button>
        <button
          type="button"
          className="tool"
          disabled={!lifted || !ids.length}
          onClick={() => run(laySpec(project, ids, lifted!.spec, lifted!.portions))}
          title="Lay the lifted spec on what is picked (P)"
        >
          <PaintRoller size={14} /> Lay
        </button>
        {lifted && (
          <Menu
            align="right"
            label={laying ? 'Laying…' : 'Portions'}
            title="Which portions are laid, and click after click"
            className={`tool ${laying ? 'tool-main' : ''}`}
          >
            {(close) => (
              <div className="w-52 p-1">
                <p className="quiet px-1 pb-1 text-2xs">Lifted from {lifted.from}</p>
                {PORTIONS.map(({ key, label }) => (
                  <label key={key} className="flex h-6 items-center gap-2 px-1 capitalize">
                    <input
                      type="checkbox"
                      className="checkbox checkbox-xs"
                      checked={lifted.portions.includes(key)}
                      onChange={(e) =>
                        setPortions(
                          PORTIONS.map((p) => p.key).filter((p) =>
                            p === key ? e.target.checked : lifted.portions.includes(p),
                          ),
                        )
                      }
                    />
                    {label}
                  </label>
                ))}
                <button type="button" className="tool w-full" onClick={() => (setLaying(!laying), close())}>
                  {laying ? 'Stop laying' : 'Lay click after click'}
                </button>
                <button type="button" className="tool w-full" onClick={() => (drop(), close())}>
                  Put it down
                </button>
              </div>
            )}
          </Menu>
        )}
      </div>
    </div>
  );
}
