'use client';

import { FoldHorizontal, HandGrab, UnfoldHorizontal } from 'lucide-react';
import { type ReactNode, useEffect, useRef } from 'react';
import { toast } from 'sonner';
import { PORTIONS } from '@/core/specification/portions';
import { formatLength } from '@/core/units/length';
import { useSelection } from '../../project/selection';
import { useBench } from '../useBench';
import { useBenchFold, useFold } from './benchStore';
import { fieldIn, firstFieldIn } from './findField';
import { type SegmentId, SEGMENTS, SPINE, WHOLE_LENGTH } from './fold';

/**
 * A segment of the folding rule. Folded it still says its value; opened over its whole length it shows what is rarely
 * used as well. The knot says that it has a value of its own; a click lets go of it.
 */
export function Segment({
  id,
  own,
  onLetGo,
  follows,
  children,
  further,
}: {
  id: SegmentId;
  own?: boolean;
  onLetGo?: () => void;
  follows?: string;
  children: ReactNode;
  /** What is rarely used: further along. */
  further?: ReactNode;
}) {
  const fold = useFold(id);
  const touch = useBenchFold((s) => s.touch);
  const setWhole = useBenchFold((s) => s.setWhole);
  const goTo = useBenchFold((s) => s.goTo);
  const ref = useRef<HTMLElement>(null);
  const { title, narrowest } = SEGMENTS.find((s) => s.id === id)!;
  const says = useWords(id);
  useGoal(id, ref, !!further);

  if (fold === 'spine') {
    return (
      <section ref={ref} id={`segment-${id}`} aria-label={title} className="segment" style={{ flex: `0 0 ${SPINE}px` }}>
        <button
          type="button"
          aria-label={`Unfold ${title}`}
          aria-expanded={false}
          title={`Unfold ${title}`}
          className="spine"
          onClick={() => goTo(id)}
        >
          <span className="flex w-full items-center font-semibold">
            {title}
            {own && <span className="knot ml-auto" />}
          </span>
          <span className="quiet line-clamp-[9] text-2xs leading-[1.35] wrap-break-word">{says}</span>
        </button>
      </section>
    );
  }
  const whole = fold === 'whole';
  return (
    <section
      ref={ref}
      id={`segment-${id}`}
      aria-label={title}
      className="segment"
      style={{ flex: whole ? `2000 1 ${WHOLE_LENGTH}px` : `${narrowest} 1 0`, minWidth: whole ? 0 : narrowest }}
      onFocus={() => touch(id)}
      onPointerDown={() => touch(id)}
    >
      <header className="flex h-7 shrink-0 items-center gap-1.5 px-2.5 pt-1.5">
        <h2 className="font-semibold">{title}</h2>
        {own && (
          <button
            type="button"
            className="flex items-center gap-1 text-2xs"
            onClick={onLetGo}
            title={`Its own value. Click to follow ${follows} again`}
          >
            <span className="knot" /> own
          </button>
        )}
        {own === false && follows && (
          <span className="quiet min-w-0 truncate text-2xs" title={`It follows ${follows}`}>
            as {follows}
          </span>
        )}
        <LiftAlone id={id} title={title} />
        {further && (
          <button
            type="button"
            className="tool -mr-1.5 h-5 gap-1 px-1 text-2xs"
            aria-expanded={whole}
            title={whole ? 'Fold what is rarely used' : 'Open it over its whole length'}
            onClick={() => setWhole(whole ? null : id)}
          >
            {whole ? <FoldHorizontal size={12} /> : <UnfoldHorizontal size={12} />} {whole ? 'Shorter' : 'Longer'}
          </button>
        )}
      </header>
      <div className="flex min-h-0 flex-1 gap-3 overflow-y-auto px-2.5 pt-1 pb-2">
        <div
          className="flex min-w-0 flex-col"
          style={whole && further ? { flex: `0 0 ${narrowest - 22}px` } : { flex: 1 }}
        >
          {children}
        </div>
        {whole && further && (
          <div role="group" aria-label={`${title}, rarely used`} className="hair min-w-0 flex-1 border-l pl-3">
            {further}
          </div>
        )}
      </div>
    </section>
  );
}

/** Takes what this segment says, and nothing else, into the hand: every click on a surface lays it. */
function LiftAlone({ id, title }: { id: SegmentId; title: string }) {
  const { laid } = useBench();
  const [first] = laid;
  if (!first) return <span className="ml-auto" />;
  const what = title.toLowerCase();
  return (
    <button
      type="button"
      className="tool ml-auto h-5 px-1"
      aria-label={`Lift the ${what} alone`}
      title={`Lift the ${what} alone and lay it on others, click after click`}
      onClick={() => {
        const { lift, setLaying } = useSelection.getState();
        const portions = PORTIONS.filter((p) => p.segment === id).map((p) => p.key);
        lift(first.spec, first.surface.name, portions);
        setLaying(true);
        toast(`The ${what} of ${first.surface.name} is in your hand: click others to lay it, Escape to stop.`);
      }}
    >
      <HandGrab size={12} />
    </button>
  );
}

/** What is picked, in the words of the spec line. */
function useWords(id: SegmentId): string {
  const { laid, ids, unit } = useBench();
  const length = (mm: number, withUnit = true) => formatLength(mm, unit, { withUnit });
  if (!laid.length) return ids.length ? 'nothing laid' : 'nothing picked';
  const words = laid.map(({ spec, material }) =>
    PORTIONS.filter((p) => p.segment === id)
      .flatMap((p) => p.words({ spec, material, unit, length }) ?? [])
      .join(', '),
  );
  return words.every((w) => w === words[0]) ? words[0] || 'has no say here' : 'mixed';
}

/** Focuses the field asked for as soon as it is there; one that is rarely used opens the whole length. */
function useGoal(id: SegmentId, ref: React.RefObject<HTMLElement | null>, hasFurther: boolean): void {
  const goal = useBenchFold((s) => s.goal);
  const fold = useFold(id);
  const setWhole = useBenchFold((s) => s.setWhole);
  const arrived = useBenchFold((s) => s.arrived);
  useEffect(() => {
    if (goal?.segment !== id || fold === 'spine' || !ref.current) return;
    const field = goal.field === null ? firstFieldIn(ref.current) : fieldIn(ref.current, goal.field);
    if (!field && hasFurther && fold !== 'whole') return setWhole(id);
    arrived();
    (field ?? firstFieldIn(ref.current))?.focus();
  }, [goal, id, fold, hasFurther, ref, setWhole, arrived]);
}
