'use client';

import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { shownSpec, useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { messageOf, urlOf } from '../../shared/api';
import { useThemeColours } from '../../shared/themeColours';
import { useLibrary } from '../../materials/useLibrary';
import { FacesBar } from '../faces/FacesBar';
import { useFaces } from '../faces/facesStore';
import { useFaceLines } from '../faces/useFaceLines';
import { laySpec } from '../lay';
import { layOnMember } from '../layOnMember';
import { layMarkOn } from '../wear/layWear';
import { applyUnrollTool } from '../mapping/applyUnrollTool';
import { CompareEdge } from '../options/CompareEdge';
import { useCompare } from '../options/compareStore';
import { PinnedPhotographs } from '../references/PinnedPhotographs';
import { applyPieceTool } from '../pieces/changePiece';
import { Room } from './Room';
import { RoomBar } from './RoomBar';
import { Compass, Legend } from './RoomSigns';
import { useRoomSettings } from './settings';
import { CardNotice } from './CardNotice';
import { useOwnSky } from './ownSky';
import { useSeeIn } from './nearWalls';
import { useSection } from './section';
import { useWalking } from './walking';
import { useRoomSlide } from './useRoomSlide';
import { useRooms } from '../surfaces/useRooms';
import { THE_ROOM } from '../swatchDrag';

/** The open room, for keys and drops that come from elsewhere in the studio. */
export const openRoom: { current: Room | null } = { current: null };

export function RoomView() {
  const project = useProject((s) => s.project)!;
  const preview = useProject((s) => s.preview);
  const selection = useSelection();
  const settings = useRoomSettings();
  const colours = useThemeColours();
  const library = useLibrary();
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState<Room | null>(null);
  const [busy, setBusy] = useState(true);
  const [azimuth, setAzimuth] = useState(0);
  const [tracing, setTracing] = useState(false);
  const walking = useWalking((s) => s.on);
  const [failed, setFailed] = useState<string | null>(null);
  const pressed = useRef<{ x: number; y: number } | null>(null);
  const moving = useRef(0);
  const strokes = useRef(0);

  useEffect(() => {
    let made: Room;
    try {
      made = new Room(
        canvas.current!,
        setBusy,
        (error) => toast.error('The room could not be drawn', { description: messageOf(error) }),
        setAzimuth,
        setTracing,
      );
    } catch {
      setFailed('This browser cannot draw in three dimensions (WebGL 2 is off). The sheet view works all the same.');
      return;
    }
    openRoom.current = made;
    setRoom(made);
    const observer = new ResizeObserver(([entry]) => made.resize(entry.contentRect.width, entry.contentRect.height));
    observer.observe(box.current!);
    return () => {
      observer.disconnect();
      openRoom.current = null;
      made.dispose();
    };
  }, []);

  const { light, shown, person, grid, edges, shadows, preview: size } = settings;
  const { ids, hovered, foreseen, clean } = selection;
  const { isolated } = project;
  const shownProject = useCompare((s) => s.shown);
  const rooms = useRooms();
  const boxes = useMemo(() => (rooms?.rooms ?? []).flatMap((r) => (r.box ? [r.box] : [])), [rooms]);
  const section = useSection((s) => s.section);
  const seeIn = useSeeIn((s) => s.on);
  const sky = useOwnSky((shownProject ?? project).light.sky, project.northDeg);
  const test = library.data?.find((m) => m.id === 'test-picture') ?? null;
  const picking = useFaces();
  const lines = useFaceLines(project, picking.part, picking.faces);
  const { active: facing, tool: faceTool } = picking;
  const drawing = selection.rectangle;
  const { sliding } = selection;
  const slide = useRoomSlide(room);
  useEffect(
    () => room?.view.setTurning(!(facing && faceTool !== 'click') && !drawing && !sliding),
    [room, facing, faceTool, drawing, sliding],
  );
  const [rectangle, setRectangle] = useState<[[number, number], [number, number]] | null>(null);
  useEffect(() => {
    room?.update({
      project: shownProject ?? project,
      ...(Object.keys(preview).length ? { specOf: (s) => shownSpec({ project, preview }, s.id) } : {}),
      mode: { light, shown, preview: light === 'draft' ? Math.min(size, 512) : size, test },
      shadows,
      person,
      grid,
      background: colours.cloth,
      rooms: boxes,
      sky,
      section,
      seeIn,
    });
  }, [
    room,
    project,
    shownProject,
    preview,
    light,
    shown,
    size,
    test,
    shadows,
    person,
    grid,
    colours,
    boxes,
    sky,
    section,
    seeIn,
  ]);
  useEffect(() => {
    room?.mark({
      selected: ids,
      hovered: foreseen.length ? foreseen : hovered ? [hovered] : [],
      faces: lines,
      edges,
      clean,
      colours: { selected: colours.thread, hovered: '#4a6db5' },
    });
  }, [room, ids, hovered, foreseen, lines, edges, clean, colours]);

  useStill(room, project.id, busy || tracing, light === 'true' && shown === 'all' && !grid && !isolated);

  const at = (e: PointerEvent): [number, number] => {
    const rect = canvas.current!.getBoundingClientRect();
    return [e.clientX - rect.left, e.clientY - rect.top];
  };

  /** Faces under the pointer are added to what is picked, or with Alt taken away. */
  function pickFaces(e: PointerEvent, radius: number) {
    const found = room?.picker.facesNear(at(e), radius);
    const brush = radius > 0 ? strokes.current : undefined;
    if (found) useFaces.getState().change(found.part, found.faces, e.altKey, brush);
  }

  /** The rectangle from where the pointer was pressed to where it is; null for a click. */
  function spanned(
    start: { x: number; y: number } | null,
    e: PointerEvent,
  ): [[number, number], [number, number]] | null {
    if (!start || Math.hypot(e.clientX - start.x, e.clientY - start.y) <= 4) return null;
    const rect = canvas.current!.getBoundingClientRect();
    return [[start.x - rect.left, start.y - rect.top], at(e)];
  }

  function onPointerUp(e: PointerEvent) {
    const start = pressed.current;
    pressed.current = null;
    if (sliding) return slide.end();
    // by the pointer: what a busy page has drawn of it may be a moment behind
    const box = spanned(start, e);
    if (facing) {
      setRectangle(null);
      if (!start || !room?.ready) return;
      if (faceTool === 'rectangle' && box) {
        const { through, part, change } = useFaces.getState();
        const found = room.picker.facesIn(box[0], box[1], through, e.altKey || e.shiftKey ? part : null);
        if (found) change(found.part, found.faces, e.altKey);
      } else if (faceTool === 'click' && Math.hypot(e.clientX - start.x, e.clientY - start.y) <= 4) pickFaces(e, 0);
      return;
    }
    if (drawing && box) {
      setRectangle(null);
      if (!room?.ready) return;
      const found = room.picker.surfacesIn(box[0], box[1], drawing === 'through');
      const { ids, select } = useSelection.getState();
      if (e.altKey) select(ids.filter((id) => !found.includes(id)));
      else select(e.shiftKey || e.ctrlKey || e.metaKey ? [...new Set([...ids, ...found])] : found);
      return;
    }
    if (!start || e.button !== 0 || Math.hypot(e.clientX - start.x, e.clientY - start.y) > 4) return;
    // before there is anything to hit, a press must not lose what is picked
    if (!room?.ready) return;
    const hit = room.pick(...at(e));
    const tools = useSelection.getState();
    const { lifted, laying, toggle, select, pieceTool, unrollTool, wearTool, takeFace, setTakeFace } = tools;
    if (takeFace && hit) {
      setTakeFace(null);
      return takeFace(hit.point, hit.normal);
    }
    if (unrollTool && hit) return void applyUnrollTool(hit.surface, hit.partFace, hit.point, unrollTool);
    if (wearTool?.kind === 'mark' && hit) {
      select([hit.surface]);
      return void layMarkOn(hit.surface, wearTool.material, hit.face, hit.point);
    }
    if (pieceTool && hit) {
      select([hit.surface]);
      void applyPieceTool(hit.surface, { face: hit.face, world: hit.point }, pieceTool);
      return;
    }
    if (laying && lifted) {
      const on =
        hit && (hit.surface in project.surfaces && project.surfaces[hit.surface].run ? hit.member : hit.surface);
      if (on) layOnMember(on, (then, id) => laySpec(then, [id], lifted.spec, lifted.portions));
      return;
    }
    if (!hit) return select([]);
    if (e.ctrlKey || e.metaKey || e.shiftKey) toggle(hit.surface);
    else select([hit.surface]);
  }

  function onPointerMove(e: PointerEvent) {
    if (sliding && pressed.current) return slide.move(e, at(e));
    if ((facing || drawing) && pressed.current && e.buttons === 1) {
      if (facing && faceTool === 'paint') pickFaces(e, 10);
      if (drawing || faceTool === 'rectangle') setRectangle(spanned(pressed.current, e));
      return;
    }
    if (e.buttons) return;
    cancelAnimationFrame(moving.current);
    const point = at(e);
    moving.current = requestAnimationFrame(() => selection.hover(room?.pick(...point)?.surface ?? null));
  }

  return (
    <section aria-label="Room view" aria-busy={busy} className="flex h-full min-w-0 flex-col">
      <RoomBar room={room} />
      {facing && <FacesBar />}
      <div
        ref={box}
        className="relative min-h-0 flex-1 overflow-hidden"
        data-testid="room"
        data-takes={THE_ROOM}
        data-tracing={tracing}
      >
        <canvas
          ref={canvas}
          className="absolute inset-0 h-full w-full touch-none"
          data-testid="room-canvas"
          style={{
            cursor: selection.laying ? 'copy' : selection.hasTool() || facing ? 'crosshair' : 'default',
          }}
          onPointerDown={(e) => {
            pressed.current = e.button === 0 ? { x: e.clientX, y: e.clientY } : null;
            strokes.current++;
            if (facing && faceTool === 'paint' && e.button === 0) pickFaces(e, 10);
            if (sliding) slide.begin(e, at(e));
          }}
          onPointerUp={onPointerUp}
          onPointerMove={onPointerMove}
          onPointerLeave={() => selection.hover(null)}
        />
        {rectangle && (
          <div
            className="pointer-events-none absolute border border-primary bg-primary/10"
            style={{
              left: Math.min(rectangle[0][0], rectangle[1][0]),
              top: Math.min(rectangle[0][1], rectangle[1][1]),
              width: Math.abs(rectangle[1][0] - rectangle[0][0]),
              height: Math.abs(rectangle[1][1] - rectangle[0][1]),
            }}
          />
        )}
        {hovered && project.surfaces[hovered] && !clean && (
          <p className="card-panel pointer-events-none absolute bottom-2 left-2 px-2 py-0.5 text-2xs">
            {project.surfaces[hovered].run ? '' : `${project.parts[project.surfaces[hovered].part].name}, `}
            {project.surfaces[hovered].name}
            <span className="quiet">
              {' '}
              {project.surfaces[hovered].spec
                ? project.materials[project.surfaces[hovered].spec!.material]?.name
                : 'bare'}
            </span>
          </p>
        )}
        {walking && (
          <p className="card-panel absolute top-2 left-2 flex items-center gap-2 px-2 py-0.5 text-2xs">
            Walking: arrows step, Shift a metre; drag to look about.
            <button type="button" className="tool h-5" onClick={() => useWalking.getState().set(false)}>
              Done
            </button>
          </p>
        )}
        <CardNotice room={room} tracing={tracing} />
        <Legend shown={shown} project={project} />
        {!clean && <PinnedPhotographs />}
        <CompareEdge room={room} busy={busy || tracing} />
        {tracing && (
          <p className="card-panel quiet pointer-events-none absolute right-2 bottom-2 px-2 py-0.5 text-2xs">
            Light is traced into the rooms…
          </p>
        )}
        <Compass deg={azimuth + project.northDeg} />
        {failed && <p className="absolute inset-0 grid place-items-center bg-base-200 p-8 text-center">{failed}</p>}
      </div>
    </section>
  );
}

/** How long a picture must stand before it becomes the project's card, ms. */
const STILL_AFTER = 4000;

/** Keeps the room's last true-light picture for the board of projects. */
function useStill(room: Room | null, project: string, busy: boolean, worthy: boolean) {
  useEffect(() => {
    if (!room || busy || !worthy) return;
    const timer = setTimeout(() => {
      void room.still().then((blob) => {
        // the card can do without; nobody needs to hear of it
        if (blob)
          void fetch(urlOf('PUT /api/projects/{id}/still', { id: project }), { method: 'PUT', body: blob }).catch(
            () => undefined,
          );
      });
    }, STILL_AFTER);
    return () => clearTimeout(timer);
  }, [room, project, busy, worthy]);
}
