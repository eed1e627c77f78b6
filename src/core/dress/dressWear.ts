import type { Laid } from '../lay/lay';
import type { BakedWear } from '../wear/bake';
import { type DressedSurface, dressSurface } from './dressSurface';

/** How far the skin that carries wear stands off what it lies on, mm: enough to tell one from the other. */
export const SKIN_MM = 0.3;

/** Wear as a skin over a region: its coordinates are those of the baked pictures, once over all of them. */
export function dressWear({ sheet }: Pick<Laid, 'sheet'>, baked: BakedWear): DressedSurface {
  const { bounds, width, height, pixelMm } = baked;
  const dressed = dressSurface(
    sheet,
    {
      widthMm: width * pixelMm,
      heightMm: height * pixelMm,
      at: [bounds.minX, bounds.minY],
      turnDeg: 0,
      mirrorX: false,
      mirrorY: false,
    },
    { tangents: baked.isRaised },
  );
  const positions = dressed.positions.map((v, i) => v + dressed.normals[i] * SKIN_MM);
  return { ...dressed, positions };
}
