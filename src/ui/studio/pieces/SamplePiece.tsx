'use client';

import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { toLinear, toSrgb } from '@/core/colour/srgb';
import type { Material } from '@/core/material/schema';
import type { SampleLook } from '@/core/schema/fields';
import { openTones } from '@/core/variation/tone';
import { imageUrl } from '../../shared/api';

/** Of a sample on the screen, CSS pixels. */
export const SAMPLE = { width: 96, height: 30 };

/** How much of a picture a sample shows along its length, mm: a board's width or a tile. */
export const shownMm = ({ widthMm, heightMm }: Material): number =>
  Math.min(widthMm, 3.2 * Math.min(widthMm, heightMm, 200));

/** A piece of a material as it looks at one end of a range. */
export function SamplePiece({ material, look }: { material: Material; look: Partial<SampleLook> }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const image = material.maps.baseColour?.image ?? null;
  const { data: picture } = useQuery({
    queryKey: ['sample picture', image],
    enabled: image !== null,
    staleTime: Infinity,
    queryFn: async () => createImageBitmap(await (await fetch(imageUrl(image!, 512))).blob()),
  });
  const key = JSON.stringify(look);
  useEffect(() => {
    const ctx = canvas.current?.getContext('2d', { willReadFrequently: true });
    if (ctx) drawSample(ctx, material, picture ?? null, JSON.parse(key) as Partial<SampleLook>);
  }, [material, picture, key]);
  return (
    <canvas ref={canvas} width={SAMPLE.width * 2} height={SAMPLE.height * 2} className="block w-full" aria-hidden />
  );
}

function drawSample(
  ctx: CanvasRenderingContext2D,
  material: Material,
  picture: ImageBitmap | null,
  { alongMm = 0, acrossMm = 0, sizePercent = 100, lightness = 0, warmth = 0, saturation = 0 }: Partial<SampleLook>,
): void {
  const { width, height } = ctx.canvas;
  ctx.fillStyle = material.colour;
  ctx.fillRect(0, 0, width, height);
  if (picture) {
    const pattern = ctx.createPattern(picture, 'repeat')!;
    const pxPerMm = (width / shownMm(material)) * (sizePercent / 100);
    pattern.setTransform(
      new DOMMatrix()
        .translate(alongMm * pxPerMm, -acrossMm * pxPerMm)
        .scale((material.widthMm * pxPerMm) / picture.width, (material.heightMm * pxPerMm) / picture.height),
    );
    ctx.fillStyle = pattern;
    ctx.fillRect(0, 0, width, height);
  }
  if (!lightness && !warmth && !saturation) return;
  const tables = gains(material, { lightness, warmth, saturation }).map((gain) =>
    Uint8ClampedArray.from({ length: 256 }, (_, v) => Math.round(255 * toSrgb(Math.min(1, toLinear(v / 255) * gain)))),
  );
  const shown = ctx.getImageData(0, 0, width, height);
  for (let i = 0; i < shown.data.length; i += 4)
    for (let c = 0; c < 3; c++) shown.data[i + c] = tables[c][shown.data[i + c]];
  ctx.putImageData(shown, 0, 0);
}

/** The linear gains of a tone, as pieces get them. */
function gains(material: Material, tone: Pick<SampleLook, 'lightness' | 'warmth' | 'saturation'>): number[] {
  const only = (v: number) => ({ from: v, to: v });
  const rows = {
    count: 1,
    material: new Uint8Array(1),
    seed: new Uint32Array(1),
    red: new Float64Array(1),
    green: new Float64Array(1),
    blue: new Float64Array(1),
  };
  const tones = openTones(
    {
      tone: { lightness: only(tone.lightness), warmth: only(tone.warmth), saturation: only(tone.saturation) },
    } as Parameters<typeof openTones>[0],
    material.colour,
  );
  tones.gain(rows, 0);
  return [rows.red[0], rows.green[0], rows.blue[0]].map((g) => g * tones.most);
}
