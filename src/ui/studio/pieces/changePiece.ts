import { toast } from 'sonner';
import type { FoundPiece } from '@/core/lay/evaluate';
import type { Spec } from '@/core/specification/schema';
import { plainVariation, type VariationSpec } from '@/core/variation/schema';
import { useProject } from '../../project/projectStore';
import type { PieceTool } from '../../project/selection';
import { laidRequest, sheetService, shownRegion } from '../../project/sheetService';

type Place = Parameters<ReturnType<typeof sheetService>['pieceAt']>[1];

/** What a tool makes of a variation when a piece is clicked: pinned or let go, dealt again. */
export function changeVariation(variation: VariationSpec, piece: FoundPiece, tool: PieceTool): VariationSpec {
  const { course, index, print, seed } = piece;
  const same = (p: { course: number; index: number }) => p.course === course && p.index === index;
  if (tool === 'pin') {
    const pinned = variation.pins.some(same);
    const others = variation.pins.filter((p) => !same(p));
    return { ...variation, pins: pinned ? others : [...others, { course, index, print, seed }] };
  }
  const before = variation.deals.find(same)?.deal ?? 0;
  // a pinned piece is let go when it is dealt again
  return {
    ...variation,
    pins: variation.pins.filter((p) => !same(p)),
    deals: [...variation.deals.filter((p) => !same(p)), { course, index, deal: before + 1 }],
  };
}

/** Uses a piece tool at a place of a surface; says what came of it. */
export async function applyPieceTool(surfaceId: string, at: Place, tool: PieceTool): Promise<void> {
  const { project } = useProject.getState();
  const surface = project?.surfaces[surfaceId];
  const spec = surface?.spec;
  if (!project || !surface || !spec?.pieces) return void toast('This surface is not laid in pieces.');
  const region = shownRegion(project, {}, surfaceId)!;
  const piece = await sheetService().pieceAt(laidRequest(project, region, region.spec!), at);
  if (!piece) return void toast('There is no piece here.');
  // the document may have changed while the worker looked
  const now = useProject.getState().project?.surfaces[surfaceId]?.spec;
  if (!now?.pieces) return;
  const before = now.variation ?? plainVariation();
  const variation = changeVariation(before, piece, tool);
  const next: Spec = { ...now, variation };
  useProject.getState().run([{ kind: 'setSpecs', specs: { [surfaceId]: next } }]);
  if (tool === 'pin')
    toast(variation.pins.length > before.pins.length ? 'Pinned: it keeps its print.' : 'Let go again.');
}
