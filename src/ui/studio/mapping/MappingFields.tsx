'use client';

import { normalise, subtract, type Vec3 } from '@/core/geometry/vec';
import { mappingOf } from '@/core/mapping/registry';
import type { MappingContext } from '@/core/mapping/parts';
import type { MappingSpec } from '@/core/mapping/schema';
import type { DevelopMapping } from '@/core/mapping/develop';
import type { UnrollMapping } from '@/core/mapping/unroll';
import type { LengthUnit } from '@/core/units/length';
import { useSelection } from '../../project/selection';
import { FieldViews, type OnEach } from '../../shared/FieldView';
import { openRoom } from '../room/RoomView';

/** What can be set about a mapping: the one or two things used all the time, or, with `further`, the rest. */
export function MappingFields({
  mappings,
  unit,
  context,
  further,
  onEach,
}: {
  /** Of one kind. */
  mappings: MappingSpec[];
  unit: LengthUnit;
  context: MappingContext;
  further: boolean;
  onEach: OnEach<MappingSpec>;
}) {
  const [first] = mappings;
  const fields = mappingOf(first).fields.filter((f) => !!f.further === further);
  return (
    <>
      {fields.length > 0 && (
        <div className={fields.length > 1 ? 'grid grid-cols-2 gap-x-2 gap-y-1' : ''}>
          <FieldViews fields={fields} specs={mappings} context={context} unit={unit} onEach={onEach} />
        </div>
      )}
      {first.kind === 'flat' && !further && <LookTools onEach={onEach} />}
      {first.kind === 'develop' && !further && <CutTool mapping={first} onChange={(next) => onEach(() => next)} />}
      {first.kind === 'unroll' &&
        (further ? (
          <p className="quiet text-2xs">
            {first.cuts?.length ? `Cut along ${first.cuts.length} chosen edges.` : 'Cut only where it must be.'}
          </p>
        ) : (
          <UnrollTools mapping={first} onChange={(next) => onEach(() => next)} />
        ))}
    </>
  );
}

/** Thrown on along the present view, or square onto a face that is clicked in the room. */
function LookTools({ onEach }: { onEach: OnEach<MappingSpec> }) {
  const taking = useSelection((s) => s.takeFace);
  const setTakeFace = useSelection((s) => s.setTakeFace);
  const throwFrom = (direction: Vec3) => {
    const from = normalise(direction).map((v) => Math.round(v * 1e6) / 1e6) as Vec3;
    onEach((own) => (own.kind === 'flat' ? { ...own, direction: 'given', from } : own));
  };
  const asSeen = () => {
    const camera = openRoom.current?.view.getCamera();
    if (camera) throwFrom(subtract(camera.eye, camera.target));
  };
  return (
    <div className="mt-1 flex flex-wrap gap-1">
      <button
        type="button"
        className="tool tool-line h-[22px] px-1.5 text-2xs"
        title="As you look at it in the room now"
        onClick={asSeen}
      >
        Along the view
      </button>
      <button
        type="button"
        className="tool tool-line h-[22px] px-1.5 text-2xs"
        aria-pressed={!!taking}
        title="Then click a face in the room: thrown on square to that"
        onClick={() => setTakeFace(taking ? null : (_point, normal) => throwFrom(normal))}
      >
        Square to a face…
      </button>
    </div>
  );
}

/** Where a development is cut, picked in the room. */
function CutTool({ mapping, onChange }: { mapping: DevelopMapping; onChange: (next: DevelopMapping) => void }) {
  const tool = useSelection((s) => s.unrollTool);
  const setTool = useSelection((s) => s.setUnrollTool);
  return (
    <div className="mt-1 flex flex-wrap gap-1">
      <button
        type="button"
        className="tool tool-line h-[22px] px-1.5 text-2xs"
        aria-pressed={tool === 'cut'}
        title="Then click near a corner in the room: what closes round is cut there"
        onClick={() => setTool(tool === 'cut' ? null : 'cut')}
      >
        Cut at…
      </button>
      {mapping.cutAt && (
        <button
          type="button"
          className="tool h-[22px] px-1 text-2xs"
          title="At an inner corner, else where the saved views see least of it"
          onClick={() => onChange({ ...mapping, cutAt: null })}
        >
          Where it suits best
        </button>
      )}
    </div>
  );
}

/** Where to start and where to cut, picked in the room. */
function UnrollTools({ mapping, onChange }: { mapping: UnrollMapping; onChange: (next: UnrollMapping) => void }) {
  const tool = useSelection((s) => s.unrollTool);
  const setTool = useSelection((s) => s.setUnrollTool);
  const own = mapping.from !== undefined || (mapping.cuts?.length ?? 0) > 0;
  return (
    <div className="flex flex-wrap gap-1">
      <button
        type="button"
        className="tool tool-line h-[22px] px-1.5 text-2xs"
        aria-pressed={tool === 'start'}
        title="Then click a face in the room: unrolling starts there"
        onClick={() => setTool(tool === 'start' ? null : 'start')}
      >
        Start at…
      </button>
      <button
        type="button"
        className="tool tool-line h-[22px] px-1.5 text-2xs"
        aria-pressed={tool === 'cut'}
        title="Then click near an edge in the room: it is cut there, or joined again"
        onClick={() => setTool(tool === 'cut' ? null : 'cut')}
      >
        Scribe a cut…
      </button>
      {own && (
        <button
          type="button"
          className="tool h-[22px] px-1 text-2xs"
          title="Start at the largest face, cut only where it must be"
          onClick={() => onChange({ kind: 'unroll' })}
        >
          Let go
        </button>
      )}
    </div>
  );
}
