'use client';

import { Check, FlipHorizontal, Wand2 } from 'lucide-react';
import { goAround } from '@/core/setout/around';
import { sayFinding } from '@/core/finding/finding';
import { formatLength } from '@/core/units/length';
import { aroundOf, type MappingKind, type MappingSpec } from '@/core/mapping/schema';
import { mappingOf, MAPPINGS } from '@/core/mapping/registry';
import type { Stroke } from '@/core/mapping/types';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import type { OnEach } from '../../shared/FieldView';
import { MIXED } from '../../shared/ValueField';
import { Segment } from '../bench/Segment';
import { CorrectionFields } from '../mapping/CorrectionFields';
import { throwPicture } from '../mapping/throwPicture';
import { MappingFields } from '../mapping/MappingFields';
import { type Laid, useBench } from '../useBench';
import { sharedBy } from '../../shared/sharedValue';
import { useSheet } from '../useSheet';
import { useSuggestions } from '../useSuggestions';

/** How the surface becomes its sheet. */
export function MappingCard() {
  const { laid, edit, unit } = useBench();
  const select = useSelection((s) => s.select);
  const surfaces = useProject((s) => s.project?.surfaces);
  const picked = useSelection((s) => s.ids[0] ?? null);
  const first = laid[0];
  const advice = useSuggestions(picked);
  const sheet = useSheet(first?.surface.id ?? null)?.sheet ?? null;
  const kind = laid.length ? sharedBy(laid, (l) => l.spec.mapping.kind) : null;
  const mapping = first?.spec.mapping;
  const onEach: OnEach<MappingSpec> = (change, gesture) =>
    edit((l) => (l.surface.zone ? l.spec : { ...l.spec, mapping: change(l.spec.mapping) }), gesture);
  const unmirror = () =>
    onEach((own) => {
      const { mirror: _gone, ...plain } = own;
      return plain as MappingSpec;
    });
  // another mapping leaves what was set right by hand behind; the same one leaves all as it is
  const become = (next: MappingSpec) => onEach((own) => (own.kind === next.kind && laid.length > 1 ? own : next));
  const base = first?.surface.zone ? surfaces?.[first.surface.zone.of] : undefined;
  if (base) {
    return (
      <Segment id="mapping">
        <p className="quiet text-2xs leading-tight">
          A zone lies on the sheet of its surface, {base.name}: that one’s mapping lays it flat.
        </p>
        <button type="button" className="tool tool-line mt-1.5" onClick={() => select([base.id])}>
          Pick {base.name}
        </button>
      </Segment>
    );
  }
  const best = advice?.suggestions[0];
  const reason = (k: MappingKind) => advice?.suggestions.find((s) => s.mapping.kind === k)?.reason;
  const agreed = best && kind === best.mapping.kind;
  const verdict = mapping?.kind === 'own' ? advice?.own[mapping.set] : undefined;
  const around = first && sheet && kind !== MIXED ? goAround(first.spec, sheet.ring) : null;
  const context = { closed: !!sheet && sheet.ring !== null, own: advice?.own ?? [] };
  const mappings = laid.filter((l) => !l.surface.zone).map((l) => l.spec.mapping);
  const off = sheet && Math.max(Math.abs(sheet.stretch.most - 1), Math.abs(sheet.stretch.least - 1)) > 0.005;
  return (
    <Segment
      id="mapping"
      further={
        mapping && kind !== MIXED ? (
          <div className="max-w-[460px] space-y-2">
            <MappingFields mappings={mappings} unit={unit} context={context} further onEach={onEach} />
            <CorrectionFields mappings={mappings} sheet={sheet} unit={unit} onEach={onEach} />
            {laid.length > 1 && <ThrowButton laid={laid} />}
            {sheet?.notes.map((n) => (
              <p key={n.code} className="quiet text-2xs leading-tight">
                {sayFinding(n, unit)}
              </p>
            ))}
          </div>
        ) : laid.length > 1 ? (
          <ThrowButton laid={laid} />
        ) : undefined
      }
    >
      <div className="grid grid-cols-2 gap-0.5" role="group" aria-label="Mappings">
        {MAPPINGS.map(({ kind: k, label, first: start, drawing }) => (
          <button
            key={k}
            type="button"
            aria-pressed={kind === k}
            disabled={!laid.length}
            title={reason(k) ?? label}
            onClick={() => become(advice?.suggestions.find((s) => s.mapping.kind === k)?.mapping ?? start)}
            className={
              'flex h-[23px] min-w-0 items-center gap-1.5 rounded-[5px] border px-1 disabled:opacity-50 ' +
              `${kind === k ? 'border-primary' : 'border-transparent hover:bg-base-200'}`
            }
          >
            <MappingPicture drawing={drawing} className="h-[18px] w-[24px] shrink-0" />
            <span className="text-[12px] whitespace-nowrap">{label}</span>
          </button>
        ))}
      </div>
      {kind === MIXED && <p className="quiet mt-1 text-2xs">mixed</p>}
      {mapping && kind !== MIXED && (
        <p className="mt-1 text-2xs leading-tight">
          {agreed && (
            <span className="quiet" title="This mapping suits the shape">
              <Check size={10} className="inline" /> {best.reason}
            </span>
          )}
          {verdict && !agreed && (
            <span className={verdict.usable ? 'quiet' : 'text-error'}>{sayFinding(verdict.finding, unit)}</span>
          )}
          {!verdict && !agreed && sheet && (
            <span className="quiet">
              {off
                ? `stretched ${Math.round(sheet.stretch.least * 100)} to ${Math.round(sheet.stretch.most * 100)}%`
                : 'every size true'}
            </span>
          )}
        </p>
      )}
      {best && laid.length > 0 && !agreed && kind !== MIXED && (
        <button
          type="button"
          className="tool tool-line mt-1 h-auto w-full items-start px-1.5 py-0.5 text-left text-2xs whitespace-normal"
          onClick={() => become(best.mapping)}
          title="Take the mapping that suits the shape"
        >
          <Wand2 size={12} className="mt-px shrink-0" />
          <span className="line-clamp-2">
            {mappingOf(best.mapping).label} suits it: {best.reason}
          </span>
        </button>
      )}
      {mapping && kind !== MIXED && (
        <div className="mt-1">
          <MappingFields mappings={mappings} unit={unit} context={context} further={false} onEach={onEach} />
          {around?.ring && sheet?.ring && (
            <p className="quiet num mt-0.5 text-2xs">
              each {formatLength(sheet.ring / aroundOf(first.spec.mapping)!, unit)}
              {around.layout ? ' with its joint' : ''}
            </p>
          )}
          {around?.why && (
            <p role="alert" className="mt-0.5 text-2xs leading-tight text-error">
              {sayFinding(around.why, unit)}
            </p>
          )}
        </div>
      )}
      {mapping?.mirror && (
        <p className="mt-1 flex items-center gap-1 text-2xs leading-tight">
          <FlipHorizontal size={11} className="shrink-0" />
          <span className="min-w-0" title="Laid as that is in the mirror; the sheet is shown as that one is">
            mirrors {surfaces?.[mapping.mirror.of]?.name ?? 'a surface that is gone'}, seen from behind
          </span>
          <button
            type="button"
            className="tool ml-auto h-[18px] shrink-0 px-1 text-2xs"
            title="Lay it as seen from its front, on its own"
            onClick={unmirror}
          >
            Not mirrored
          </button>
        </p>
      )}
      {!laid.length && (
        <p className="quiet mt-1.5 text-2xs leading-tight">How a surface is laid flat, in millimetres.</p>
      )}
    </Segment>
  );
}

function ThrowButton({ laid }: { laid: Laid[] }) {
  return (
    <button
      type="button"
      className="tool tool-line w-full"
      title="The same flat frame for all that is picked, as wide as all of it"
      onClick={() => void throwPicture(laid)}
    >
      One picture through all {laid.length}
    </button>
  );
}

const STROKES = {
  face: 'fill-base-200 stroke-base-content stroke-[1.3]',
  line: 'fill-none stroke-base-content stroke-[1.3]',
  arrow: 'fill-none stroke-primary stroke-2',
};

function MappingPicture({ drawing, className }: { drawing: readonly Stroke[]; className: string }) {
  return (
    <svg viewBox="0 0 48 38" className={className} aria-hidden>
      {drawing.map(({ as, d }) => (
        <path key={d} d={d} className={STROKES[as]} />
      ))}
    </svg>
  );
}
