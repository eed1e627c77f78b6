'use client';

import { LoaderCircle } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { SheetSummary } from '@/core/mapping/sheet';
import type { BondFound, JointLines } from '@/core/picture/jointLines';
import {
  asPieces,
  equivalentLayout,
  gaugePicture,
  jointsInMm,
  type OnLimit,
  pictureCounts,
  type PictureJoints,
  stackedAlong,
  startOnJoint,
} from '@/core/setout/jointsOfPicture';
import { layoutOf } from '@/core/layout/registry';
import { liesInPieces, repeatOf, type Spec } from '@/core/specification/schema';
import { formatLength, trimNumber } from '@/core/units/length';
import { useProject } from '../../project/projectStore';
import { searchService } from '../../project/sheetService';
import { imageUrl, messageOf } from '../../shared/api';
import { Menu } from '../../shared/Menu';
import { Select } from '../../shared/fields';
import { type Laid, useBench } from '../useBench';

const LIMITS: [OnLimit, string][] = [
  ['face', 'a face'],
  ['middle', 'a joint’s middle'],
  ['joint', 'a whole joint'],
];
const BONDS: Record<BondFound, string> = {
  'in line': 'ends in line',
  half: 'half bond',
  third: 'third bond',
  'stretchers and headers': 'stretchers and headers in turn',
  'courses in turn': 'courses of stretchers and of headers in turn',
  irregular: 'ends that follow no rule',
};
/** Pixels in which joints are looked for. */
const LOOKED_AT = 2048;

/** The joints in a picture of something laid: begun on, counted between edges, or laid in pieces. */
export function JointLinesMenu({ laid, sheet }: { laid: Laid[]; sheet: SheetSummary | null }) {
  const [first] = laid;
  const picture = first?.material.maps.baseColour;
  if (!first || !picture || liesInPieces(first.spec)) return null;
  return (
    <Menu
      up
      wide
      label="Joints in the picture…"
      title="Where the picture holds bricks, tiles or boards: begin on a joint, make whole courses, or lay it in pieces"
      className="tool tool-line h-[22px] px-1.5 text-2xs"
    >
      {(close) => <Panel key={picture.image} first={first} hash={picture.image} sheet={sheet} close={close} />}
    </Menu>
  );
}

type Found = { lines: JointLines | null; width: number; height: number };
const known = new Map<string, Found>();

/** What is found in a picture, by a worker of its own; once found it is kept. */
function useJointLines(hash: string): { found: Found | null; error: string | null } {
  const [found, setFound] = useState(known.get(hash) ?? null);
  const [error, setError] = useState<string | null>(null);
  useEffect(() => {
    if (known.has(hash)) return;
    const { service, stop } = searchService();
    service.jointLines(new URL(imageUrl(hash, LOOKED_AT), window.location.href).href).then(
      (answer) => {
        known.set(hash, answer);
        setFound(answer);
        stop();
      },
      (e: unknown) => setError(messageOf(e)),
    );
    return stop;
  }, [hash]);
  return { found, error };
}

function Panel({
  first,
  hash,
  sheet,
  close,
}: {
  first: Laid;
  hash: string;
  sheet: SheetSummary | null;
  close: () => void;
}) {
  const { found, error } = useJointLines(hash);
  const size = repeatOf(first.spec, first.material);
  return (
    <div className="w-[400px] p-2" role="group" aria-label="Joints in the picture">
      {error && <p className="text-2xs text-error">{error}</p>}
      {!found && !error && (
        <p className="quiet flex items-center gap-1.5 text-2xs">
          <LoaderCircle size={12} className="animate-spin" /> Looking for joints…
        </p>
      )}
      {found && !found.lines && (
        <p className="text-2xs">
          No joints run straight through this picture: nothing is laid in it, or it lies aslant.
        </p>
      )}
      {found?.lines && (
        <Joints
          joints={jointsInMm(found.lines, found, size)}
          colour={found.lines.colour}
          first={first}
          sheet={sheet}
          close={close}
        />
      )}
    </div>
  );
}

function Joints({
  joints,
  colour,
  first,
  sheet,
  close,
}: {
  joints: PictureJoints;
  colour: string;
  first: Laid;
  sheet: SheetSummary | null;
  close: () => void;
}) {
  const { edit, unit } = useBench();
  const setPreview = useProject((s) => s.setPreview);
  const [on, setOn] = useState<OnLimit>('face');
  useEffect(() => () => setPreview({}), [setPreview]);
  const length = (mm: number) => formatLength(Math.round(mm * 10) / 10, unit);
  const { bed, end, confidence } = joints;
  const pieces = equivalentLayout(joints);
  const stacked = stackedAlong(first.spec, joints.along);
  const span =
    sheet && stacked
      ? stacked === 'up'
        ? sheet.bounds.maxY - sheet.bounds.minY
        : sheet.bounds.maxX - sheet.bounds.minX
      : 0;
  const counts = span > 0 ? pictureCounts(joints, span, on) : [];
  const size = repeatOf(first.spec, first.material);
  const take = (change: (spec: Spec) => Spec) => {
    setPreview({});
    edit((l) => change(l.spec));
  };
  const shown = (spec: Spec) => ({
    onMouseEnter: () => setPreview({ [first.surface.id]: spec }),
    onMouseLeave: () => setPreview({}),
    onFocus: () => setPreview({ [first.surface.id]: spec }),
    onBlur: () => setPreview({}),
  });
  const laidInPieces = (spec: Spec): Spec => asPieces(spec, joints, pieces!, colour);
  return (
    <>
      <p className="num text-2xs">
        Courses every {length(bed.pitchMm)}, joints {length(bed.widthMm)}
        {joints.along === 'y' ? ', standing' : ''}
        {end ? `; pieces every ${length(end.pitchMm)}` : '; as long as the picture'}
        {end?.shorterMm ? ` and ${length(end.shorterMm)}` : ''}
        {end ? `, ${BONDS[end.bond]}` : ''}. <span className="quiet">{trimNumber(confidence * 100, 0)}% sure.</span>
      </p>
      <div className="mt-1.5 flex flex-wrap items-end gap-1">
        <div className="w-36">
          <Select label="Limits fall on" value={on} options={LIMITS} onChange={(v) => setOn(v as OnLimit)} />
        </div>
        <button
          type="button"
          className="tool tool-line"
          title="At the sheet’s lower left corner"
          {...shown({ ...first.spec, start: startOnJoint(first.spec, joints, on) })}
          onClick={() => take((spec) => ({ ...spec, start: startOnJoint(spec, joints, on) }))}
        >
          Begin on it
        </button>
        {pieces && (
          <button
            type="button"
            className="tool tool-line"
            title="The same in pieces, with joints of their own, where the picture has them"
            {...shown(laidInPieces(first.spec))}
            onClick={() => (take(laidInPieces), close())}
          >
            Lay in pieces: {layoutOf(pieces.layout).label.toLowerCase()}
          </button>
        )}
      </div>
      {counts.length > 0 && (
        <table className="num mt-2 w-full text-2xs" aria-label="Counts of the picture’s courses">
          <thead>
            <tr className="quiet text-left">
              <th className="font-normal">Courses {stacked}</th>
              <th className="font-normal">Every</th>
              <th className="font-normal">Joint</th>
              <th className="font-normal">Picture by</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {counts.map(({ count, grows, pitchMm, jointMm }) => (
              <tr key={count}>
                <td className="py-px">{count}</td>
                <td>{length(pitchMm)}</td>
                <td>{length(jointMm)}</td>
                <td>
                  {grows < 1 ? '−' : '+'}
                  {trimNumber(Math.abs(grows - 1) * 100, 2)}%
                </td>
                <td className="text-right">
                  <button
                    type="button"
                    className="tool tool-line h-5 px-1.5 text-2xs"
                    aria-label={`Take ${count} courses`}
                    {...shown(gaugePicture(first.spec, size, joints, on, grows))}
                    onClick={() => take((spec) => gaugePicture(spec, size, joints, on, grows))}
                  >
                    Take
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {!stacked && <p className="quiet mt-1 text-2xs">Turned aslant, its courses meet no edge as a whole.</p>}
    </>
  );
}
