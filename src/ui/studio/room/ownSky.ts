'use client';

import { useQuery } from '@tanstack/react-query';
import { transfer } from 'comlink';
import { useMemo } from 'react';
import type { OwnSky, SkyPicture } from '@/core/light/ownSky';
import type { Light } from '@/core/project/schema';
import { imageUrl, sendFiles } from '../../shared/api';
import { lightService } from './lightService';

/** A sky of one's own, ready to be drawn. */
export interface HungSky {
  /** What light is worked out from. */
  small: OwnSky;
  /** What is seen. */
  large: SkyPicture;
}

type Kept = NonNullable<Light['sky']>;

/** The sky a project hangs over itself; null until it is there, and where there is none. */
export function useOwnSky(sky: Kept | undefined, northDeg: number): HungSky | null {
  const { data } = useQuery({
    queryKey: ['sky', sky?.image],
    queryFn: () => read(sky!.image),
    enabled: !!sky,
    staleTime: Infinity,
    gcTime: 60_000,
  });
  return useMemo(() => {
    if (!sky || !data) return null;
    const { large, small, sun, gain } = data;
    return {
      large,
      small: {
        picture: small,
        sun: sky.sun === 'found' ? sun : null,
        turnDeg: sky.turnDeg + northDeg,
        gain: gain * sky.brightness,
      },
    };
  }, [sky, data, northDeg]);
}

async function read(image: string) {
  const answer = await fetch(imageUrl(image));
  if (!answer.ok) throw new Error('The sky is not stored here any more.');
  // numbers are to come out as they were put in
  const bitmap = await createImageBitmap(await answer.blob(), {
    premultiplyAlpha: 'none',
    colorSpaceConversion: 'none',
  });
  const { data, width, height } = pixelsOf(bitmap, bitmap.width, bitmap.height);
  return lightService().hang(transfer(data, [data.buffer]), width, height);
}

/** As large as a photograph is kept, px. */
const MOST_WIDE = 1024;

/**
 * Takes a sky in: a panorama as HDR or EXR, or a plain photograph of one.
 * @returns how it is kept with the project
 */
export async function takeInSky(file: File): Promise<Kept> {
  const kind = /\.(hdr|exr)$/i.exec(file.name)?.[1].toLowerCase() as 'hdr' | 'exr' | undefined;
  const packed = await (kind ? readHigh(file, kind) : readPhoto(file));
  const canvas = new OffscreenCanvas(packed.width, packed.height);
  canvas.getContext('2d')!.putImageData(new ImageData(packed.pixels, packed.width, packed.height), 0, 0);
  const blob = await canvas.convertToBlob({ type: 'image/png' });
  const [{ hash }] = await sendFiles('POST /api/images', { files: [new File([blob], 'sky.png')] });
  const name = file.name.replace(/\.\w+$/, '').slice(0, 200) || 'Sky';
  return { name, image: hash, turnDeg: 0, brightness: 1, sun: 'found' };
}

async function readHigh(file: File, kind: 'hdr' | 'exr') {
  const bytes = await file.arrayBuffer();
  try {
    return await lightService().readSky(transfer(bytes, [bytes]), kind);
  } catch (error) {
    throw new Error(`${file.name} is no ${kind.toUpperCase()} panorama that can be read: ${(error as Error).message}`);
  }
}

async function readPhoto(file: File) {
  const bitmap = await createImageBitmap(file).catch(() => {
    throw new Error(`${file.name} is no picture that can be read; a sky comes as HDR, EXR, JPEG, PNG or WebP.`);
  });
  const width = Math.min(MOST_WIDE, bitmap.width);
  const { data, height } = pixelsOf(bitmap, width, Math.max(1, Math.round((bitmap.height * width) / bitmap.width)));
  return lightService().packPhoto(transfer(data, [data.buffer]), width, height);
}

function pixelsOf(bitmap: ImageBitmap, width: number, height: number): ImageData {
  const paper = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  paper.drawImage(bitmap, 0, 0, width, height);
  bitmap.close();
  return paper.getImageData(0, 0, width, height);
}
