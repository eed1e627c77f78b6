'use client';

import { LoaderCircle } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { SIDES, type Side, type StartOptions } from '@/core/lay/proposeStarts';
import { liesInPieces, type Spec } from '@/core/specification/schema';
import { formatLength, type LengthUnit, trimNumber } from '@/core/units/length';
import type { ProposedStarts } from '@/workers/sheet.worker';
import { useProject } from '../../project/projectStore';
import { laidRequest, searchService, shownRegion } from '../../project/sheetService';
import { messageOf } from '../../shared/api';
import { Menu } from '../../shared/Menu';
import { ValueField } from '../../shared/ValueField';
import { type Laid, useBench } from '../useBench';

const SIDE_WORDS: Record<Side, string> = { left: 'Left', right: 'Right', low: 'Lower', high: 'Upper' };
/** Of a drawing, CSS pixels. */
const DRAWING = { width: 180, height: 84 };

type Found = ProposedStarts['found'][number];
type Asked = Omit<StartOptions, 'stopped'>;

/** Searches the start that leaves no slivers and fewest cuts: the best five as drawings, one click takes one. */
export function BestStartMenu({ laid }: { laid: Laid[] }) {
  const [first] = laid;
  const usable = !!first && liesInPieces(first.spec);
  return (
    <Menu
      up
      wide
      label="Best start…"
      title="Where to start so that no slivers are left and fewest pieces are cut"
      className="tool tool-line h-[22px] px-1.5 text-2xs"
    >
      {(close) =>
        usable ? (
          <Panel key={first.surface.id} first={first} close={close} />
        ) : (
          <p className="quiet max-w-64 p-2 text-2xs">
            Lay something in pieces first: where it starts is searched here.
          </p>
        )
      }
    </Menu>
  );
}

function Panel({ first, close }: { first: Laid; close: () => void }) {
  const { edit, unit } = useBench();
  const setPreview = useProject((s) => s.setPreview);
  const [asked, setAsked] = useState<Asked>({ symmetric: false, turned: false, jointsByMm: 0, hidden: [] });
  const { answer, error } = useProposals(first, asked);
  const { surface } = first;
  // what is only tried goes with the panel
  useEffect(() => () => setPreview({}), [setPreview]);
  const take = (spec: Spec) => {
    setPreview({});
    const joint = spec.pieces && { alongMm: spec.pieces.joint.alongMm, acrossMm: spec.pieces.joint.acrossMm };
    edit(({ spec: own }) => {
      const { pieces } = own;
      const joints = pieces && joint ? { pieces: { ...pieces, joint: { ...pieces.joint, ...joint } } } : {};
      return { ...own, ...joints, start: spec.start, direction: spec.direction };
    });
    close();
  };
  const hide = (side: Side) =>
    setAsked({
      ...asked,
      hidden: asked.hidden.includes(side) ? asked.hidden.filter((s) => s !== side) : [...asked.hidden, side],
    });
  return (
    <div className="w-[420px] p-2" role="group" aria-label="Best start">
      <div className="flex flex-wrap items-center gap-1 text-2xs">
        <button
          type="button"
          className="tool h-[22px] px-1.5 text-2xs"
          aria-pressed={asked.symmetric}
          title="As much is cut on the left as on the right"
          onClick={() => setAsked({ ...asked, symmetric: !asked.symmetric })}
        >
          Equal ends
        </button>
        <button
          type="button"
          className="tool h-[22px] px-1.5 text-2xs"
          aria-pressed={asked.turned}
          title="Search turned by a quarter as well"
          onClick={() => setAsked({ ...asked, turned: !asked.turned })}
        >
          Turned, too
        </button>
        <span className="quiet ml-2">Joints by up to</span>
        <div className="w-16">
          <ValueField
            hideLabel
            label="Joints by up to"
            kind="length"
            unit={unit}
            min={0}
            max={20}
            value={asked.jointsByMm ?? 0}
            title="So much narrower or wider, so that whole pieces come out from edge to edge"
            onChange={(jointsByMm) => setAsked({ ...asked, jointsByMm })}
          />
        </div>
        <span className="w-full" />
        <span className="quiet">Hidden edges</span>
        {SIDES.map((side) => (
          <button
            key={side}
            type="button"
            className="tool h-[22px] px-1.5 text-2xs"
            aria-pressed={asked.hidden.includes(side)}
            aria-label={`${SIDE_WORDS[side]} edge is hidden`}
            title="Behind skirting, under units: cuts there hardly count"
            onClick={() => hide(side)}
          >
            {SIDE_WORDS[side]}
          </button>
        ))}
      </div>
      {error && <p className="mt-2 text-2xs text-error">{error}</p>}
      {!answer && !error && (
        <p className="quiet mt-3 flex items-center gap-1.5 text-2xs">
          <LoaderCircle size={12} className="animate-spin" /> Searching…
        </p>
      )}
      {answer && (
        <>
          <p className="num quiet mt-2 text-2xs">Now: {wordsOf(answer.before, unit)}</p>
          {answer.found.length > 0 && answer.before.laidCost <= answer.found[0].laidCost && (
            <p className="mt-1 text-2xs">Nothing better was found: it starts well as it does.</p>
          )}
          {!answer.found.length && (
            <p className="mt-1 text-2xs">This layout does not repeat, so that it has no start to choose.</p>
          )}
          <div className="mt-1 grid grid-cols-2 gap-1.5" role="group" aria-label="Starts that were found">
            {answer.found.map((found, n) => (
              <button
                key={n}
                type="button"
                aria-label={`Take start ${n + 1}`}
                className="rounded-[5px] border border-transparent p-1 text-left hover:border-primary"
                onMouseEnter={() => setPreview({ [surface.id]: found.spec })}
                onMouseLeave={() => setPreview({})}
                onFocus={() => setPreview({ [surface.id]: found.spec })}
                onBlur={() => setPreview({})}
                onClick={() => take(found.spec)}
              >
                <Drawing picture={found.picture} />
                <span className="num block text-2xs">{wordsOf(found, unit)}</span>
                {found.turned && <span className="quiet block text-2xs">turned by a quarter</span>}
                {jointsOf(found.spec) !== jointsOf(first.spec) && (
                  <span className="num quiet block text-2xs">joints {jointsOf(found.spec, unit)}</span>
                )}
              </button>
            ))}
          </div>
          {answer.found.length > 0 && (
            <p className="quiet mt-1 text-2xs">Light is whole, brown is cut, red is a sliver.</p>
          )}
        </>
      )}
    </div>
  );
}

/** Joints as they are read: one width, or that along and that across. */
function jointsOf({ pieces }: Spec, unit: LengthUnit = 'mm'): string {
  const { alongMm = 0, acrossMm = 0 } = pieces?.joint ?? {};
  const said = (mm: number) => formatLength(Math.round(mm * 100) / 100, unit);
  return alongMm === acrossMm ? said(acrossMm) : `${said(alongMm)} at ends, ${said(acrossMm)} between courses`;
}

const wordsOf = (
  { whole, cut, narrowestMm, wastePercent }: Pick<Found, 'whole' | 'cut' | 'narrowestMm' | 'wastePercent'>,
  unit: LengthUnit,
): string =>
  `${whole} whole, ${cut} cut, narrowest ${formatLength(narrowestMm, unit)}, ${trimNumber(wastePercent, 1)}% waste`;

/** Proposals for what is picked first; late answers are dropped. */
function useProposals(first: Laid, asked: Asked): { answer: ProposedStarts | null; error: string | null } {
  const [state, setState] = useState<{ key: string; answer: ProposedStarts | null; error: string | null } | null>(null);
  const project = useProject((s) => s.project);
  // what is only shown is no new question
  const region = shownRegion(project, {}, first.surface.id);
  const request = project && region?.spec ? laidRequest(project, region, region.spec) : null;
  const key = request ? `${request.key} ${JSON.stringify(asked)}` : null;
  const question = useRef({ request, asked });
  useEffect(() => {
    question.current = { request, asked };
  });
  useEffect(() => {
    const { request: of, asked: how } = question.current;
    if (!key || !of) return;
    let stale = false;
    const ratio = window.devicePixelRatio || 1;
    const size = { width: Math.round(DRAWING.width * ratio), height: Math.round(DRAWING.height * ratio) };
    const search = searchService();
    search.service
      .proposeStarts(of, how, size)
      .then((answer) => stale || setState({ key, answer, error: null }))
      .catch((e: unknown) => stale || setState({ key, answer: null, error: messageOf(e) }));
    // another question, or a closed panel, stops the search itself
    return () => {
      stale = true;
      search.stop();
    };
  }, [key]);
  return state && state.key === key ? state : { answer: null, error: null };
}

function Drawing({ picture }: { picture: ImageBitmap }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    canvas.current?.getContext('2d')?.drawImage(picture, 0, 0);
  }, [picture]);
  return (
    <canvas
      ref={canvas}
      width={picture.width}
      height={picture.height}
      style={{ width: DRAWING.width, height: (DRAWING.width * picture.height) / picture.width }}
      className="max-w-full"
      aria-hidden
    />
  );
}
