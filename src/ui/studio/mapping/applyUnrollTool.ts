import { toast } from 'sonner';
import { useProject } from '../../project/projectStore';
import { type UnrollTool, useSelection } from '../../project/selection';
import { meshUrl, sheetService } from '../../project/sheetService';

/**
 * Settles where unrolling starts, or cuts along the arris nearest to a click; the same arris again joins it. A
 * development is cut at one arris alone.
 */
export async function applyUnrollTool(
  surfaceId: string,
  face: number,
  world: [number, number, number],
  tool: UnrollTool,
): Promise<void> {
  const { project, run } = useProject.getState();
  const surface = project?.surfaces[surfaceId];
  const mapping = surface?.spec?.mapping;
  if (project && surface?.spec && mapping?.kind === 'develop') {
    const spec = { ...surface.spec, mapping: { ...mapping, cutAt: world } };
    return run([{ kind: 'setSpecs', specs: { [surfaceId]: spec } }]);
  }
  if (!project || !surface?.spec || mapping?.kind !== 'unroll') {
    return void toast('Click on a surface that is unrolled or developed.');
  }
  const set = (change: Partial<typeof mapping>) =>
    run([{ kind: 'setSpecs', specs: { [surfaceId]: { ...surface.spec!, mapping: { ...mapping, ...change } } } }]);
  if (tool === 'start') {
    set({ from: face });
    useSelection.getState().setUnrollTool(null);
    return;
  }
  const part = project.parts[surface.part];
  const edges = await sheetService().edgeNear(
    { url: meshUrl(project, part.model), mesh: part.mesh, faces: surface.faces },
    face,
    world,
  );
  if (!edges.length) return void toast('There is no arris of this surface here.');
  const before = mapping.cuts ?? [];
  const cut = edges.every((e) => before.includes(e));
  set({ cuts: cut ? before.filter((e) => !edges.includes(e)) : [...new Set([...before, ...edges])] });
}
