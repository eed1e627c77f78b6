'use client';

import { finishOn } from '@/core/specification/finish';
import { Maximize2 } from 'lucide-react';
import { type PointerEvent, useCallback, useEffect, useRef, useState } from 'react';
import { startOn } from '@/core/setout/marks';
import { countsAcross, type Placement, placeSpec, repeatOnSheet } from '@/core/setout/placement';
import type { Vec2 } from '@/core/geometry/vec';
import type { Bounds2 } from '@/core/geometry/bounds';
import type { Material } from '@/core/material/schema';
import { pictureFrame, pullSize, pullTurn, roundStep } from '@/core/setout/handles';
import type { Spec } from '@/core/specification/schema';
import { formatArea, formatLength, trimNumber } from '@/core/units/length';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { useThemeColours } from '../../shared/themeColours';
import { MarkDrawing } from '../setout/MarkDrawing';
import { useRoomSettings } from '../room/settings';
import { useBench } from '../useBench';
import { useSheet } from '../useSheet';
import { drawSheet } from './drawSheet';
import { liesInPieces } from '@/core/specification/schema';
import { applyPieceTool } from '../pieces/changePiece';
import { usePieces } from '../usePieces';
import { PullDrawing, withPull } from '../mapping/PullDrawing';
import { ZoneBar, ZoneMenu } from '../zones/ZoneBar';
import { WearDrawing, WearOutlines } from '../wear/WearDrawing';
import { ZoneDrawing } from '../zones/ZoneDrawing';
import { fit, type SheetViewport, toSheet, zoomAt } from './view';
import { FindingMarks, Findings } from './Findings';
import { type Handle, Handles } from './Handles';
import { sizeOfPiece, withPieceSize } from './pieceSize';
import { slide } from './slide';
import { useDrawnPieces, usePicture } from './useSheetPictures';

interface Drag {
  handle: Handle;
  from: Vec2;
  placement: Placement;
  view: SheetViewport;
}

/** A hand that has not moved for so long rests, ms. */
const RESTS_MS = 140;

/** The picked surface laid flat, true to scale, with handles to slide, size and turn what is laid on it. */
export function SheetView() {
  const ids = useSelection((s) => s.ids);
  const pieceTool = useSelection((s) => s.pieceTool);
  const zoneTool = useSelection((s) => s.zoneTool);
  const pullTool = useSelection((s) => s.pullTool);
  const markTool = useSelection((s) => s.markTool);
  const wearTool = useSelection((s) => s.wearTool);
  const primary = ids[0] ?? null;
  const project = useProject((s) => s.project);
  const preview = useProject((s) => s.preview);
  const setPreview = useProject((s) => s.setPreview);
  const { laid, edit, unit } = useBench();
  const snaps = useRoomSettings((s) => s.snaps);
  const colours = useThemeColours();
  const found = useSheet(primary);
  const sheet = found && found.surface === primary ? found.sheet : null;
  const surface = primary ? project?.surfaces[primary] : undefined;
  const laidSpec = (primary ? preview[primary] : null) ?? surface?.spec ?? null;
  // while it is dragged what is there moves along; it is laid anew when the hand rests
  const [ghost, setGhost] = useState<Spec | null>(null);
  const spec = ghost ?? laidSpec;
  const material = spec && project ? (project.materials[spec.material] ?? null) : null;
  const part = surface ? project?.parts[surface.part] : undefined;
  const title = surface && (surface.run ? surface.name : `${part?.name}, ${surface.name}`);
  const placed = (of: Spec | null) =>
    sheet && of && material && part ? placeSpec(of, material, sheet, part.origin) : null;
  const placement = placed(spec);

  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [size, setSize] = useState<[number, number]>([0, 0]);
  const [lookedAt, setLookedAt] = useState(false);
  const [view, setView] = useState<SheetViewport | null>(null);
  const [guides, setGuides] = useState<[number | null, number | null]>([null, null]);
  const drag = useRef<Drag | null>(null);
  const frame = useRef(0);
  const rest = useRef(0);
  const [dragging, setDragging] = useState<Handle | null>(null);
  const inPieces = !!spec && liesInPieces(spec);
  const { counted, request, busy: counting } = usePieces(primary);
  const tint = spec && material ? finishOn(spec.finish, material).tint : null;
  const picture = usePicture(inPieces ? null : material, placement, view, tint);
  // in pieces the handles hold one piece, not one picture
  const holds = (of: Spec | null): Placement | null => {
    const at = placed(of);
    const one = at && of && liesInPieces(of) ? sizeOfPiece(of) : null;
    return at && one ? { ...at, widthMm: one[0], heightMm: one[1] } : at;
  };
  const pieceSize = inPieces ? sizeOfPiece(spec) : null;
  const held = holds(spec);
  const { pieces, busy: drawing } = useDrawnPieces(inPieces ? request : null, view, colours, holds(laidSpec), held);

  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setSize([entry.contentRect.width, entry.contentRect.height]));
    observer.observe(box.current!);
    return () => observer.disconnect();
  }, []);

  // a new surface or another mapping is looked at whole; a change of the spec leaves the view alone
  // a picture laid once is looked for beside the surface too; while it is dragged the view stands still
  const laidNow = surface?.spec;
  const aside =
    laidNow?.repeat.once && sheet && material && part
      ? pictureFrame(placeSpec(laidNow, material, sheet, part.origin))
      : [];
  const bounds = sheet ? JSON.stringify(boundsWith(sheet.bounds, aside)) : null;
  const refit = useCallback(() => {
    if (bounds && size[0] > 0) setView(fit(JSON.parse(bounds) as Bounds2, size[0], size[1]));
  }, [bounds, size]);
  useEffect(refit, [refit]);

  useEffect(() => {
    const element = canvas.current;
    if (!element || !sheet || !view) return;
    const ratio = window.devicePixelRatio || 1;
    element.width = Math.round(view.width * ratio);
    element.height = Math.round(view.height * ratio);
    // drawn by the processor: it never waits for what the room has its card do
    const ctx = element.getContext('2d', { willReadFrequently: true })!;
    ctx.scale(ratio, ratio);
    const aside = spec?.repeat.once?.rest;
    const below = aside && 'material' in aside ? aside.material : aside?.kind === 'below' ? aside.spec.material : null;
    const beside = aside?.kind === 'colour' ? aside.colour : below ? (project?.materials[below]?.colour ?? null) : null;
    const colour = inPieces ? spec.pieces.joint.colour : aside ? beside : (material?.colour ?? null);
    drawSheet(ctx, view, {
      sheet,
      picture,
      once: !!spec?.repeat.once,
      pieces: inPieces ? pieces : null,
      colour,
      unit,
      colours,
      guides,
    });
  }, [sheet, view, picture, pieces, inPieces, spec, material, project, unit, colours, guides]);

  // wheel listeners of React are passive; zooming must stop the page from scrolling
  useEffect(() => {
    const element = box.current!;
    const onWheel = (e: WheelEvent) => {
      e.preventDefault();
      const rect = element.getBoundingClientRect();
      const at: Vec2 = [e.clientX - rect.left, e.clientY - rect.top];
      setView((v) => (v ? zoomAt(v, at, Math.exp(-e.deltaY * 0.0015)) : v));
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, []);

  const pointOf = (e: PointerEvent): Vec2 => {
    const rect = box.current!.getBoundingClientRect();
    return [e.clientX - rect.left, e.clientY - rect.top];
  };

  function begin(handle: Handle, e: PointerEvent) {
    if (!view || e.button === 2) return;
    const pan = e.button === 1 || !placement;
    e.stopPropagation();
    (e.target as Element).setPointerCapture(e.pointerId);
    drag.current = { handle: pan ? 'pan' : handle, from: pointOf(e), placement: held ?? ({} as Placement), view };
    setDragging(drag.current.handle);
  }

  /** The change a drag means, for one spec. */
  function changed(d: Drag, to: Vec2, free: boolean): ((s: Spec, m: Material) => Spec) | null {
    if (!sheet || !spec || !part) return null;
    const p = d.placement;
    const step = free ? 0 : roundStep(4 / d.view.scale);
    const at = toSheet(d.view, to);
    if (d.handle === 'slide') {
      if (!laidSpec || !material) return null;
      const slid = { spec: laidSpec, material, sheet, origin: part.origin };
      const { xMm, yMm, guides: met } = slide(slid, [toSheet(d.view, d.from), at], 1 / d.view.scale, free);
      setGuides(met);
      return (s) => ({ ...s, start: { ...s.start, xMm, yMm } });
    }
    if (d.handle === 'size') {
      const own = pullSize(p, at, spec.repeat.locked && !inPieces, step);
      if (inPieces) return (s) => withPieceSize(s, [own.widthMm, own.heightMm]);
      return (s) => ({ ...s, repeat: { ...s.repeat, own } });
    }
    const turnDeg = pullTurn(p, at, free);
    return (s) => ({ ...s, direction: { ...s.direction, turnDeg } });
  }

  function move(e: PointerEvent) {
    const d = drag.current;
    if (!d) return;
    const to = pointOf(e);
    if (d.handle === 'pan') {
      const dx = (to[0] - d.from[0]) / d.view.scale;
      const dy = (to[1] - d.from[1]) / d.view.scale;
      setView({ ...d.view, x: d.view.x - dx, y: d.view.y + dy });
      return;
    }
    const free = e.altKey === snaps;
    cancelAnimationFrame(frame.current);
    frame.current = requestAnimationFrame(() => {
      const change = changed(d, to, free);
      const own = laid.find((l) => l.surface.id === primary);
      if (!change || !own) return;
      setGhost(change(own.spec, own.material));
      clearTimeout(rest.current);
      rest.current = window.setTimeout(
        () => setPreview(Object.fromEntries(laid.map((l) => [l.surface.id, change(l.spec, l.material)]))),
        RESTS_MS,
      );
    });
  }

  /** Nothing is dragged any more. */
  function letGo(): void {
    cancelAnimationFrame(frame.current);
    clearTimeout(rest.current);
    drag.current = null;
    setDragging(null);
    setGuides([null, null]);
    setGhost(null);
    setPreview({});
  }

  function end(e: PointerEvent) {
    const d = drag.current;
    if (!d || d.handle === 'pan') {
      drag.current = null;
      return setDragging(null);
    }
    const to = pointOf(e);
    const still = Math.hypot(to[0] - d.from[0], to[1] - d.from[1]) < 3;
    const change = still ? null : changed(d, to, e.altKey === snaps);
    letGo();
    if (still && pieceTool && primary) void applyPieceTool(primary, { sheet: toSheet(d.view, to) }, pieceTool);
    if (change) edit((l) => change(l.spec, l.material));
  }

  const counts =
    sheet && spec && material
      ? countsAcross(sheet, repeatOnSheet(spec, material, sheet), spec.direction.turnDeg)
      : null;
  return (
    <section
      aria-label="Sheet view"
      aria-busy={(!!primary && !sheet) || counting || drawing}
      className="relative flex h-full min-w-0 flex-col bg-base-200"
    >
      <div className="hair flex h-8 shrink-0 items-center gap-2 border-b bg-base-100 px-2">
        <span className="min-w-[5.5rem] truncate font-medium" title={title ?? undefined}>
          {title ?? 'Sheet'}
        </span>
        {sheet && (
          <span
            className="num quiet line-clamp-2 min-w-0 text-2xs leading-tight"
            title={
              counted
                ? `${counted.whole.toLocaleString('en')} whole, ${counted.cut.toLocaleString('en')} cut`
                : undefined
            }
          >
            {formatArea(sheet.trueArea, unit)}
            {counted && (
              <span data-testid="piece-counts" data-fingerprint={counted.fingerprint}>
                {` · ${counted.pieces.toLocaleString('en')} pieces, ${counted.cut.toLocaleString('en')} cut`}
              </span>
            )}
            {counts && !inPieces && ` · ${trimNumber(counts[0], 2)} × ${trimNumber(counts[1], 2)} repeats`}
            {Math.abs(sheet.stretch.most - 1) > 0.005 || Math.abs(sheet.stretch.least - 1) > 0.005
              ? ` · stretched ${trimNumber(sheet.stretch.least * 100, 0)}–${trimNumber(sheet.stretch.most * 100, 0)}%`
              : ''}
          </span>
        )}
        <span className="ml-auto" />
        {surface && sheet && !surface.zone && <ZoneMenu surface={surface} sheet={sheet} />}
        <button
          type="button"
          className="tool"
          onClick={refit}
          disabled={!sheet}
          title="Show the whole sheet"
          aria-label="Show the whole sheet"
        >
          <Maximize2 size={14} />
        </button>
      </div>
      {surface?.zone && <ZoneBar zone={surface} unit={unit} />}
      <div
        ref={box}
        className="relative min-h-0 flex-1 touch-none overflow-hidden"
        onPointerDown={(e) => begin('pan', e)}
        onPointerMove={move}
        onPointerUp={end}
        onPointerCancel={letGo}
        onKeyDown={(e) => e.key === 'Escape' && letGo()}
        style={{ cursor: dragging === 'pan' ? 'grabbing' : undefined }}
      >
        <canvas ref={canvas} className="absolute inset-0 h-full w-full" data-testid="sheet-canvas" />
        {view && sheet && placement && (
          <Handles
            view={view}
            placement={held!}
            sizable={!inPieces || !!pieceSize}
            piecing={pieceTool !== null}
            outline={sheet.charts.map((c) => c.outline)}
            begin={begin}
          />
        )}
        {zoneTool && surface && sheet && view && !surface.zone && (
          <ZoneDrawing tool={zoneTool} surface={surface} sheet={sheet} view={view} unit={unit} />
        )}
        {view && sheet && spec?.wear && project && (
          <WearOutlines wear={spec.wear} materials={project.materials} view={view} />
        )}
        {wearTool && surface && sheet && view && (
          <WearDrawing tool={wearTool} surface={surface.id} sheet={sheet} view={view} unit={unit} />
        )}
        {pullTool && sheet && view && spec && surface && !surface.zone && (
          <PullDrawing
            tool={pullTool}
            sheet={sheet}
            view={view}
            unit={unit}
            onPull={(pull) => edit((l) => (l.surface.id === primary ? withPull(l.spec, pull) : l.spec))}
          />
        )}
        {markTool && sheet && view && placement && surface && (
          <MarkDrawing
            tool={markTool}
            sheet={sheet}
            view={view}
            onStart={(at) => edit((l) => (l.surface.id === primary ? startOn(l.spec, placement, at) : l.spec))}
            onAlong={(turnDeg) => edit((l) => ({ ...l.spec, direction: { ...l.spec.direction, turnDeg } }))}
          />
        )}
        {dragging && dragging !== 'pan' && placement && spec && (
          <output className="num card-panel absolute right-3 bottom-3 px-2 py-1 text-2xs">
            {dragging === 'slide' &&
              `start ${formatLength(spec.start.xMm, unit)}, ${formatLength(spec.start.yMm, unit)}`}
            {dragging === 'size' && `${formatLength(held!.widthMm, unit)} × ${formatLength(held!.heightMm, unit)}`}
            {dragging === 'turn' && `${trimNumber(placement.turnDeg, 2)}°`}
          </output>
        )}
        {view && <FindingMarks findings={lookedAt ? (counted?.findings ?? []) : []} view={view} />}
        {!primary && (
          <p className="quiet absolute inset-0 grid place-items-center p-8 text-center">
            Pick a surface in the room or in the list: here it lies flat, in millimetres.
          </p>
        )}
      </div>
      <Findings findings={counted?.findings ?? []} breaks={sheet?.breaks ?? []} unit={unit} onLook={setLookedAt} />
    </section>
  );
}

function boundsWith(b: Bounds2, points: Vec2[]): Bounds2 {
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
  return {
    minX: Math.min(b.minX, ...xs),
    minY: Math.min(b.minY, ...ys),
    maxX: Math.max(b.maxX, ...xs),
    maxY: Math.max(b.maxY, ...ys),
  };
}
