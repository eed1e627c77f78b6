import type { Material } from '@/core/material/schema';
import { imageUrl } from '../shared/api';

/** A wall of 3 by 1.5 m with a person's height marked: how the repeat shows when it is laid. */
export function SampleWall({ material: m }: { material: Material }) {
  const px = 346 / 3000;
  return (
    <figure>
      <div
        className="relative h-[173px] w-full overflow-hidden rounded-[4px] border border-base-300"
        style={{
          backgroundColor: m.colour,
          backgroundImage: m.maps.baseColour ? `url(${imageUrl(m.maps.baseColour.image, 512)})` : undefined,
          backgroundSize: `${m.widthMm * px}px ${m.heightMm * px}px`,
          backgroundPosition: 'left bottom',
        }}
      />
      <figcaption className="num quiet mt-0.5 text-2xs">A wall of 3 m by 1.5 m</figcaption>
    </figure>
  );
}
