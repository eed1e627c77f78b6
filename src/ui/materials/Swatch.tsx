import type { Material } from '@/core/material/schema';
import { imageUrl } from '../shared/api';

/** A material's picture as a square; with `mm`, exactly that much of it, so that swatches share one scale. */
export function Swatch({
  material,
  size,
  mm,
  className = '',
}: {
  material: Material;
  size: number;
  mm?: number;
  className?: string;
}) {
  const base = material.maps.baseColour;
  const pxPerMm = size / (mm ?? Math.max(material.widthMm, 120));
  const width = material.widthMm * pxPerMm;
  const served = [64, 128, 256, 512, 1024].find((s) => s >= width) ?? 2048;
  return (
    <span
      aria-hidden
      className={`block shrink-0 rounded-[5px] border border-base-300 ${className}`}
      style={{
        width: size,
        height: size,
        backgroundColor: material.colour,
        backgroundImage: base ? `url(${imageUrl(base.image, served)})` : undefined,
        backgroundSize: `${width}px ${material.heightMm * pxPerMm}px`,
        backgroundPosition: 'left bottom',
        imageRendering: material.sampling === 'sharp' ? 'pixelated' : undefined,
      }}
    />
  );
}
