'use client';

import { useLibrary } from '../../materials/useLibrary';
import { Select } from '../../shared/fields';
import type { Of } from './of';

/** What dirt is made of: noise, or a picture of the library at its own size. */
export function DirtPictures({ step, onChange }: Of<'dirt'>) {
  const { data = [] } = useLibrary();
  const { picture } = step;
  const known = data.filter((m) => m.maps.baseColour);
  const options: [string, string][] = known.map((m) => [m.maps.baseColour!.image, m.name]);
  // what was chosen once stays, though its material has another picture now
  if (picture && !options.some(([image]) => image === picture.image)) options.unshift([picture.image, picture.name]);
  const choose = (image: string) => {
    const m = known.find((k) => k.maps.baseColour!.image === image);
    if (!image) return onChange({ ...step, picture: null });
    if (!m) return;
    const { lies, blurMm, tint } = picture ?? { lies: 'darks' as const, blurMm: 0, tint: 0 };
    const { name, widthMm, heightMm } = m;
    onChange({ ...step, picture: { image, name, widthMm, heightMm, lies, blurMm, tint } });
  };
  return (
    <Select label="Made of" value={picture?.image ?? ''} options={[['', 'noise'], ...options]} onChange={choose} />
  );
}
