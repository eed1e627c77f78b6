'use client';

import { useEffect, useMemo, useState } from 'react';
import { type Placement } from '@/core/setout/placement';
import type { Material } from '@/core/material/schema';
import { useProject } from '../../project/projectStore';
import { imageUrl } from '../../shared/api';
import { type SheetColours, type SheetPicture, type SheetPieces } from './drawSheet';
import type { LaidRequest } from '@/workers/held';
import { sheetService } from '../../project/sheetService';
import { useLatest } from '../../shared/useLatest';
import type { Tint } from '@/core/draw/pieces';
import { picturesOf, tintsOf } from '../usePieces';
import { type SheetViewport } from './view';

interface Drawn {
  bitmap: ImageBitmap;
  view: SheetViewport;
  region: string;
  held: Placement | null;
}
type Moved = NonNullable<SheetPieces['dragged']>;

/** Sizes in which pictures are served, px. */
const SERVED = [64, 128, 256, 512, 1024, 2048, 4096];

/**
 * Pieces as a picture of the view; the last one stays until a newer is there, and late answers are dropped.
 * @param held where their first piece lies as they are laid now
 * @param to where it is to lie, dragged or changed: until they are drawn anew they are moved there
 */
export function useDrawnPieces(
  request: LaidRequest | null,
  view: SheetViewport | null,
  colours: SheetColours,
  held: Placement | null,
  to: Placement | null,
): { pieces: SheetPieces | null; busy: boolean } {
  const project = useProject((s) => s.project);
  const ratio = typeof window === 'undefined' ? 1 : window.devicePixelRatio || 1;
  const main = request?.materials[request.region.spec.material];
  const seen = main && view ? Math.max(main.widthMm, 1) * view.scale * ratio : 0;
  const size = Math.min(2048, SERVED.find((s) => s >= seen * 0.9) ?? 2048);
  const { ink, thread } = colours;
  const pictures = request && project ? picturesOf(project, request.region.spec, size) : [];
  // the finish is no part of what is laid: the surface says which it has now
  const spec = request && project?.surfaces[request.region.id]?.spec;
  const tints = spec && project ? tintsOf(project, spec) : [];
  const question =
    request && view
      ? {
          key: [request.key, Object.values(view), pictures, ink, thread, tints].join('#'),
          request,
          view,
          pictures,
          tints,
          held,
        }
      : null;
  const answer = useLatest(question, async (asked): Promise<Drawn | null> => {
    const { request: of, view: seenFrom } = asked;
    const sharp = {
      ...seenFrom,
      scale: seenFrom.scale * ratio,
      width: Math.round(seenFrom.width * ratio),
      height: Math.round(seenFrom.height * ratio),
    };
    const bitmap = await sheetService().drawPieces(of, sharp, asked.pictures, { ink, thread }, asked.tints);
    return bitmap && { bitmap, view: seenFrom, region: of.region.id, held: asked.held };
  });
  const drawn = answer?.value ?? null;
  // a picture that has been replaced lets go of its memory
  useEffect(() => () => drawn?.bitmap.close(), [drawn]);
  const own = drawn && request && drawn.region === request.region.id ? drawn : null;
  const moved =
    own?.held && to && JSON.stringify(own.held) !== JSON.stringify(to) ? JSON.stringify({ from: own.held, to }) : null;
  const pieces = useMemo(
    () => own && { bitmap: own.bitmap, view: own.view, dragged: moved ? (JSON.parse(moved) as Moved) : null },
    [own, moved],
  );
  return { pieces, busy: question !== null && answer?.asked.key !== question.key };
}

/** The base colour at about the size it is seen, as a picture a canvas can tile. */
export function usePicture(
  material: Material | null,
  placement: Placement | null,
  view: SheetViewport | null,
  tint: Tint | null,
): SheetPicture | null {
  const [loaded, setLoaded] = useState<{ url: string; hash: string; image: HTMLImageElement } | null>(null);
  const hash = material?.maps.baseColour?.image ?? null;
  const seen = placement && view ? placement.widthMm * view.scale * (window.devicePixelRatio || 1) : 0;
  const size = SERVED.find((s) => s >= seen * 0.9) ?? 4096;
  const url = hash && seen > 0 ? imageUrl(hash, Math.min(size, 2048)) : null;
  useEffect(() => {
    if (!url || !hash) return;
    let stale = false;
    const image = new Image();
    image.onload = () => {
      if (!stale) setLoaded({ url, hash, image });
    };
    image.src = url;
    return () => {
      stale = true;
    };
  }, [url, hash]);
  const sharp = material?.sampling === 'sharp';
  // a placement is made anew at every drawing; only another value is another picture
  const placed = JSON.stringify(placement);
  const toned = JSON.stringify(tint);
  return useMemo(
    () =>
      loaded && loaded.hash === hash && placed !== 'null'
        ? {
            image: loaded.image,
            placement: JSON.parse(placed) as Placement,
            sharp,
            tint: JSON.parse(toned) as Tint | null,
          }
        : null,
    [loaded, hash, placed, sharp, toned],
  );
}
