'use client';

import { ImageUp, X } from 'lucide-react';
import { useRef, useState } from 'react';
import { toast } from 'sonner';
import type { GivenRole } from '@/core/prep/given';
import { ROLE_LABELS } from '@/core/material/schema';
import { messageOf, sendFiles } from '../../shared/api';
import { ValueField } from '../../shared/ValueField';
import { usePrep } from '../prepStore';

/** The map that came with the picture: what it is, how it is taken out, and how one is brought. */
export function GivenMap({ role, derived }: { role: GivenRole; derived: boolean }) {
  const { prep, change } = usePrep();
  const input = useRef<HTMLInputElement>(null);
  const [sending, setSending] = useState(false);
  const { given } = prep!;
  const map = given.maps[role];
  const name = ROLE_LABELS[role].toLowerCase();
  const one = `${/^[aeo]/.test(name) ? 'an' : 'a'} ${name} map`;
  const take = async (file: File) => {
    setSending(true);
    try {
      const [{ hash: image, width: widthPx, height: heightPx }] = await sendFiles('POST /api/images', {
        files: [file],
      });
      const now = usePrep.getState().prep!.given;
      change({ given: { ...now, maps: { ...now.maps, [role]: { image, widthPx, heightPx, file: file.name } } } });
    } catch (e) {
      toast.error('The map cannot come in', { description: messageOf(e), duration: 12_000 });
    } finally {
      setSending(false);
    }
  };
  const takeOut = () => {
    const { [role]: _gone, ...maps } = given.maps;
    change({ given: { ...given, maps } });
  };
  return (
    <div className="mt-1 flex min-w-0 flex-wrap items-center gap-x-2 gap-y-1 text-2xs leading-tight">
      {map ? (
        <>
          <span className="min-w-0">
            <span className="font-medium break-all">{map.file}</span>{' '}
            <span className="quiet num">
              {map.widthPx} × {map.heightPx} px
            </span>
            <span className="quiet">
              {derived ? ': not used while one is made' : ' goes through every step with the picture'}
            </span>
          </span>
          {role === 'height' && !derived && (
            <span className="w-24">
              <ValueField
                label="Relief"
                kind="length"
                unit="mm"
                min={0}
                max={500}
                step={0.1}
                value={given.reliefMm}
                onChange={(reliefMm, gesture) => change({ given: { ...given, reliefMm } }, gesture)}
              />
            </span>
          )}
          <button type="button" className="tool h-6" aria-label={`Take the ${name} map out`} onClick={takeOut}>
            <X size={12} /> Take it out
          </button>
        </>
      ) : (
        <>
          {!derived && (
            <span className="quiet">Tick it to make {one} of the picture, or bring the one that came with it.</span>
          )}
          <button type="button" className="tool h-6" disabled={sending} onClick={() => input.current!.click()}>
            <ImageUp size={12} /> Bring {one}
          </button>
        </>
      )}
      <input
        ref={input}
        type="file"
        accept="image/*"
        className="hidden"
        aria-label={`A file for the ${name} map`}
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          e.target.value = '';
          if (file) void take(file);
        }}
      />
    </div>
  );
}
