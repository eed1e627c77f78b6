import type { Material } from '@/core/material/schema';
import type { Project } from '@/core/project/schema';
import { materialsOf, repeatOf } from '@/core/specification/schema';
import type { Entry } from './entry';
import type { Sight } from './nearness';
import type { TextureStore } from './textures';

/** Asks for pictures as large as they are seen. */
export function refine({ materials }: Project, entries: readonly Entry[], sight: Sight, textures: TextureStore): void {
  const seen = new Map<Material, number>();
  for (const entry of entries) {
    const { spec } = entry.region;
    if (!spec || !sight.sees(entry)) continue;
    const pxPerMm = sight.pxPerMm(entry);
    for (const id of materialsOf(spec)) {
      const material = materials[id];
      if (!material) continue;
      const { widthMm, heightMm } = id === spec.material ? repeatOf(spec, material) : material;
      seen.set(material, Math.max(seen.get(material) ?? 0, pxPerMm * Math.max(widthMm, heightMm)));
    }
  }
  for (const [{ maps }, px] of seen) for (const ref of Object.values(maps)) if (ref) textures.refine(ref.image, px);
}
