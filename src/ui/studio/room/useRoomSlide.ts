'use client';

import { type PointerEvent, useRef } from 'react';
import type { Vec2 } from '@/core/geometry/vec';
import type { Project, Surface } from '@/core/project/schema';
import type { Spec } from '@/core/specification/schema';
import { useProject } from '../../project/projectStore';
import { useSelection } from '../../project/selection';
import { sheetRequest, sheetService, shownRegion } from '../../project/sheetService';
import type { SheetRequest } from '@/workers/held';
import { slide, type Slid } from '../sheet/slide';
import type { Room } from './Room';
import { useRoomSettings } from './settings';

interface Drag {
  surface: Surface;
  request: SheetRequest;
  slid: Slid;
  from: Vec2;
  mmPerPixel: number;
  /** The start as it would be now. */
  to: { xMm: number; yMm: number } | null;
}

/** A hand that has not moved for so long rests, ms: then what is dragged is laid anew. */
const RESTS_MS = 120;

async function beginOn(project: Project, room: Room, at: [number, number]): Promise<Omit<Drag, 'to'> | null> {
  const hit = room.pick(...at);
  const surface = hit && project.surfaces[hit.surface];
  const material = surface?.spec && project.materials[surface.spec.material];
  const region = surface && shownRegion(project, {}, surface.id);
  if (!hit || !surface?.spec || !material || !region) return null;
  const request = sheetRequest(project, region);
  const [sheet, from] = await Promise.all([
    sheetService().summary(request),
    sheetService().sheetPoint(request, hit.face, hit.point),
  ]);
  const slid = { spec: surface.spec, material, sheet, origin: region.origin };
  return { surface, request, slid, from, mmPerPixel: room.view.mmPerPixel(hit.point) };
}

/** Drags what is laid over the surface it lies on, in the room, with the snaps of the sheet. */
export function useRoomSlide(room: Room | null): {
  begin: (e: PointerEvent, at: [number, number]) => void;
  move: (e: PointerEvent, at: [number, number]) => void;
  end: () => void;
} {
  const drag = useRef<Promise<Drag | null> | null>(null);
  const rest = useRef(0);
  const specOf = ({ slid }: Drag, to: NonNullable<Drag['to']>): Spec => ({
    ...slid.spec,
    start: { ...slid.spec.start, ...to },
  });
  return {
    begin: (e, at) => {
      const { project } = useProject.getState();
      if (!room?.ready || !project || e.button !== 0) return;
      (e.target as Element).setPointerCapture(e.pointerId);
      drag.current = beginOn(project, room, at).then((found) => found && { ...found, to: null });
      void drag.current.then((d) => d && useSelection.getState().select([d.surface.id]));
    },
    move: (e, at) => {
      const own = drag.current;
      const free = e.altKey === useRoomSettings.getState().snaps;
      const hit = own && room?.pick(...at);
      if (!hit) return;
      void own.then(async (d) => {
        if (!d || hit.surface !== d.surface.id) return;
        const place = await sheetService().sheetPoint(d.request, hit.face, hit.point);
        if (drag.current !== own) return;
        const { xMm, yMm } = slide(d.slid, [d.from, place], d.mmPerPixel, free);
        d.to = { xMm, yMm };
        clearTimeout(rest.current);
        rest.current = window.setTimeout(
          () => useProject.getState().setPreview({ [d.surface.id]: specOf(d, d.to!) }),
          RESTS_MS,
        );
      });
    },
    end: () => {
      const own = drag.current;
      drag.current = null;
      clearTimeout(rest.current);
      void own?.then((d) => {
        useProject.getState().setPreview({});
        if (d?.to) useProject.getState().run([{ kind: 'setSpecs', specs: { [d.surface.id]: specOf(d, d.to) } }]);
      });
    },
  };
}
