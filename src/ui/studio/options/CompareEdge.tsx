'use client';

import { Columns2, MoveHorizontal, X } from 'lucide-react';
import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import type { Room } from '../room/Room';
import { type Side, useCompare } from './compareStore';
import { Figures, laidOtherwise } from './Figures';

/** A camera that has not moved for so long stands, ms; so long a room that has drawn everything may still begin. */
const STANDS_MS = 350;
const SETTLES_MS = 250;

/**
 * Two answers under an edge that slides: the right one as the room draws it, the left one as a picture taken from the
 * same place. When the camera moves the picture is taken anew.
 */
export function CompareEdge({ room, busy }: { room: Room | null; busy: boolean }) {
  const sides = useCompare((s) => s.sides);
  return sides && room ? (
    <Edge key={`${sides.left.name} ${sides.right.name}`} {...sides} room={room} busy={busy} />
  ) : null;
}

function Edge({ left, right, room, busy }: { left: Side; right: Side; room: Room; busy: boolean }) {
  const { at, slideTo, stop, beside, setBeside } = useCompare();
  const setPreview = useProject((s) => s.setPreview);
  const picture = useLeftPicture(room, busy, left, right);
  const box = useRef<HTMLDivElement>(null);
  useEffect(
    () => () => {
      setPreview({});
      useCompare.getState().show(null);
    },
    [setPreview],
  );
  const now = useProject((s) => s.project)!;
  const figured = useMemo(
    () =>
      left.project
        ? { left: laidOtherwise(left.project, now), right: laidOtherwise(now, left.project) }
        : { left: left.specs, right: right.specs },
    [left, right, now],
  );
  // marks would stand on one side alone
  useEffect(() => {
    const { clean, setClean } = useSelection.getState();
    setClean(true);
    return () => setClean(clean);
  }, []);
  useEffect(() => {
    room.holdExposure(true);
    return () => room.holdExposure(false);
  }, [room]);
  // its middle in the right half; the left picture's middle lies in the left one
  useEffect(() => {
    const { style } = room.canvas;
    style.transform = beside ? 'translateX(25%)' : '';
    return () => void (style.transform = '');
  }, [room, beside]);
  // what is changed is no longer what was compared
  const project = useProject((s) => s.project);
  const compared = useRef(project);
  useEffect(() => {
    if (project !== compared.current) stop();
  }, [project, stop]);

  const move = (e: PointerEvent) => {
    const rect = box.current!.getBoundingClientRect();
    if (e.buttons === 1) slideTo((e.clientX - rect.left) / rect.width);
  };
  const percent = `${at * 100}%`;
  return (
    <div ref={box} className="pointer-events-none absolute inset-0" data-testid="compare">
      {picture && (
        <img
          src={picture}
          alt={left.name}
          className={`absolute inset-y-0 h-full w-full max-w-none ${beside ? '-left-1/4' : 'left-0'}`}
          style={{ clipPath: beside ? 'inset(0 25% 0 0)' : `inset(0 ${100 - at * 100}% 0 0)` }}
        />
      )}
      <div
        role="slider"
        tabIndex={0}
        aria-label="Edge between the two"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(at * 100)}
        aria-valuetext={`${left.name} on the left of ${Math.round(at * 100)}%, ${right.name} on the right`}
        className={
          'pointer-events-auto absolute inset-y-0 -ml-3 flex w-6 cursor-ew-resize touch-none justify-center ' +
          (beside ? 'hidden' : '')
        }
        style={{ left: percent }}
        onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
        onPointerMove={move}
        onKeyDown={(e) => {
          const by = { ArrowLeft: -0.02, ArrowRight: 0.02 }[e.key];
          if (by) slideTo(at + by);
          else if (e.key === 'Escape') stop();
          else return;
          // arrows elsewhere slide what is laid
          e.preventDefault();
          e.stopPropagation();
        }}
      >
        <span className="h-full w-0.5 bg-primary" />
        <span className="absolute top-1/2 grid h-6 w-6 place-items-center rounded-full bg-primary text-primary-content">
          <MoveHorizontal size={14} />
        </span>
      </div>
      {beside && <span className="absolute inset-y-0 left-1/2 -ml-px w-0.5 bg-primary" />}
      <p className="card-panel absolute top-2 left-2 px-2 py-0.5 text-2xs">
        {left.name} <Figures project={left.project ?? now} specs={figured.left} />
        {!picture && <span className="quiet"> is being drawn…</span>}
      </p>
      <p className="card-panel pointer-events-auto absolute top-2 right-14 flex items-center gap-1 px-2 text-2xs">
        {right.name} <Figures project={now} specs={figured.right} />
        <button
          type="button"
          className="tool h-5 px-1"
          aria-pressed={beside}
          title={beside ? 'One picture under a sliding edge' : 'Both middles beside each other'}
          onClick={() => setBeside(!beside)}
        >
          <Columns2 size={12} /> Beside
        </button>
        <button
          type="button"
          className="tool h-5 px-0.5"
          aria-label="Stop comparing"
          title="Stop comparing"
          onClick={stop}
        >
          <X size={12} />
        </button>
      </p>
    </div>
  );
}

/** First the left side is shown and its picture taken, then the right one is shown; and again when the camera moved. */
function useLeftPicture(room: Room, busy: boolean, left: Side, right: Side): string | null {
  const setPreview = useProject((s) => s.setPreview);
  const show = useCompare((s) => s.show);
  const [picture, setPicture] = useState<string | null>(null);
  /** Counts the places from which it was looked at. */
  const [round, setRound] = useState(0);
  const [settled, setSettled] = useState(false);

  useEffect(() => {
    let stands = 0;
    const moved = () => {
      setPicture(null);
      clearTimeout(stands);
      stands = window.setTimeout(() => setRound((n) => n + 1), STANDS_MS);
    };
    room.view.controls.addEventListener('change', moved);
    return () => {
      clearTimeout(stands);
      room.view.controls.removeEventListener('change', moved);
    };
  }, [room]);

  useEffect(() => {
    setSettled(false);
    setPreview(left.specs);
    show(left.project ?? null);
    const started = window.setTimeout(() => setSettled(true), SETTLES_MS);
    return () => clearTimeout(started);
  }, [round, left, setPreview, show]);

  useEffect(() => {
    if (busy || !settled) return;
    let stale = false;
    const done = window.setTimeout(() => {
      void room.still().then((blob) => {
        if (stale || !blob) return;
        setPicture(URL.createObjectURL(blob));
        setSettled(false);
        setPreview(right.specs);
        show(right.project ?? null);
      });
    }, SETTLES_MS);
    return () => {
      stale = true;
      clearTimeout(done);
    };
  }, [busy, settled, room, right, setPreview, show]);

  useEffect(() => () => void (picture && URL.revokeObjectURL(picture)), [picture]);
  return picture;
}
