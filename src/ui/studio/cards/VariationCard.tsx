'use client';

import { useShallow } from 'zustand/react/shallow';
import { Dices, Pin, RefreshCw } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { liesInPieces } from '@/core/specification/schema';
import { plainVariation, type VariationSpec } from '@/core/variation/schema';
import { useSelection } from '../../project/selection';
import { sheetService } from '../../project/sheetService';
import { MIXED, ValueField } from '../../shared/ValueField';
import { useLatest } from '../../shared/useLatest';
import { Segment } from '../bench/Segment';
import { VariationFields } from '../pieces/VariationFields';
import { useBench } from '../useBench';
import { sharedBy } from '../../shared/sharedValue';
import { picturesOf, usePieces } from '../usePieces';

const SAMPLES = { width: 220, height: 62, columns: 2, rows: 3 };

/** How pieces differ: their prints, turns and tones, and the number that makes it repeatable. */
export function VariationCard() {
  const { laid: all, edit, unit, project } = useBench();
  const laid = all.filter((l) => liesInPieces(l.spec));
  const first = laid[0];
  const { pieceTool, setPieceTool } = useSelection(
    useShallow(({ pieceTool, setPieceTool }) => ({ pieceTool, setPieceTool })),
  );
  const { counted } = usePieces(first?.surface.id ?? null);
  const of = (s: (typeof laid)[0]) => s.spec.variation ?? plainVariation();
  const set = (change: (v: VariationSpec) => VariationSpec, gesture?: string) =>
    edit((l) => (liesInPieces(l.spec) ? { ...l.spec, variation: change(of(l)) } : l.spec), gesture);
  const shuffle = first ? sharedBy(laid, (l) => of(l).shuffle) : null;
  const on = first ? of(first).on : false;
  const variation = first ? of(first) : null;
  return (
    <Segment
      id="variation"
      further={
        variation ? (
          <VariationFields
            variations={laid.map((l) => ({ variation: of(l), material: l.material }))}
            unit={unit}
            onEach={(change, gesture) =>
              edit((l) => {
                if (!liesInPieces(l.spec)) return l.spec;
                return { ...l.spec, variation: change({ variation: of(l), material: l.material }).variation };
              }, gesture)
            }
          />
        ) : undefined
      }
    >
      {!first || !project ? (
        <p className="quiet text-2xs leading-tight">
          {all.length
            ? 'A whole picture has no pieces that could differ.'
            : 'Pieces laid on a surface each take a print of their own.'}
        </p>
      ) : (
        <>
          <div className="grid grid-cols-[1fr_auto] items-end gap-1">
            <ValueField
              label="Shuffle"
              kind="number"
              decimals={0}
              value={shuffle === MIXED ? MIXED : shuffle}
              min={0}
              max={2147483647}
              onChange={(v, g) => set((now) => ({ ...now, shuffle: Math.round(v) }), g)}
              onStep={(by, g) => set((now) => ({ ...now, shuffle: Math.max(0, Math.round(now.shuffle + by)) }), g)}
            />
            <button
              type="button"
              className="tool tool-line"
              disabled={!on}
              title="Shuffle again (R)"
              onClick={() => set((now) => ({ ...now, shuffle: now.shuffle + 1 }))}
            >
              <Dices size={13} /> Anew
            </button>
          </div>
          <Samples id={first.surface.id} />
          <div className="mt-1 flex flex-wrap items-center gap-0.5">
            <button
              type="button"
              className="tool h-[22px] gap-[3px] px-1 text-2xs"
              aria-pressed={pieceTool === 'pin'}
              title="Pin pieces by clicking them, in the room or on the sheet"
              onClick={() => setPieceTool(pieceTool === 'pin' ? null : 'pin')}
            >
              <Pin size={12} /> Pin pieces
            </button>
            <button
              type="button"
              className="tool h-[22px] gap-[3px] px-1 text-2xs"
              aria-pressed={pieceTool === 'deal'}
              title="Give single pieces another print by clicking them"
              onClick={() => setPieceTool(pieceTool === 'deal' ? null : 'deal')}
            >
              <RefreshCw size={12} /> New print
            </button>
            {counted && (
              <span
                data-testid="prints"
                className={
                  'num truncate px-1 text-2xs ' + `${on && counted.prints < counted.needed ? 'text-error' : 'quiet'}`
                }
                title={
                  `${counted.prints} different prints of this size; ` +
                  `${counted.needed} keep neighbours from looking alike`
                }
              >
                {on ? `${counted.prints} prints, need ${counted.needed}` : 'off'}
              </span>
            )}
          </div>
        </>
      )}
    </Segment>
  );
}

/** Six pieces as they will come out. */
function Samples({ id }: { id: string }) {
  const { project } = useBench();
  const { request } = usePieces(id);
  const canvas = useRef<HTMLCanvasElement>(null);
  const pictures = request && project ? picturesOf(project, request.region.spec, 512) : [];
  const question = request && { key: `${request.key}#${pictures.join()}`, request, pictures };
  const answer = useLatest(question, (asked) => sheetService().samplePieces(asked.request, SAMPLES, asked.pictures));
  const bitmap = answer?.value ?? null;
  useEffect(() => {
    const ctx = canvas.current?.getContext('2d');
    if (!bitmap || !ctx) return;
    ctx.clearRect(0, 0, SAMPLES.width, SAMPLES.height);
    ctx.drawImage(bitmap, 0, 0);
    return () => bitmap.close();
  }, [bitmap]);
  return (
    <canvas
      ref={canvas}
      width={SAMPLES.width}
      height={SAMPLES.height}
      role="img"
      aria-label="Six pieces as they come out"
      className="mt-1.5 w-full rounded-[4px] border border-base-300"
    />
  );
}
