'use client';

import { useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Material } from '@/core/material/schema';
import { ApiProblem, messageOf, sendFiles } from '../shared/api';
import { useLibraryRefresh } from './useLibrary';
import { useNewOnes } from './newOnes';

type Known = 'version' | 'another';

interface Asked {
  files: File[];
  like: Material | null;
  names: string[];
}

/** Bringing pictures in as materials: progress, what there is to say of them, and what has to be asked. */
export function useTakePictures(onMade: (materials: Material[]) => void) {
  const refresh = useLibraryRefresh();
  const [progress, setProgress] = useState<number | null>(null);
  const [remarks, setRemarks] = useState<{ file: string; text: string }[]>([]);
  const [asked, setAsked] = useState<Asked | null>(null);
  const abort = useRef<AbortController | null>(null);

  async function take(files: File[], like: Material | null = null, known?: Known) {
    if (!files.length) return;
    setAsked(null);
    setProgress(0);
    abort.current = new AbortController();
    const { finish, sampling } = useNewOnes.getState();
    try {
      const result = await sendFiles('POST /api/materials', {
        files,
        fields: { ...(like ? { like: like.id } : { finish, sampling }), ...(known ? { known } : {}) },
        progress: setProgress,
        signal: abort.current.signal,
      });
      await refresh();
      setRemarks(result.remarks);
      onMade(result.materials);
      const [first] = result.materials;
      toast.success(
        result.materials.length > 1
          ? `${result.materials.length} materials are in the library.`
          : known === 'version'
            ? `“${first.name}” has a new version.`
            : `“${first.name}” is in the library.`,
      );
    } catch (e) {
      if (e instanceof ApiProblem && e.status === 409 && e.body.field === 'known') {
        setAsked({ files, like, names: (e.body.known as { name: string }[]).map((k) => k.name) });
      } else if ((e as Error).name !== 'AbortError')
        toast.error('No material was made', { description: messageOf(e), duration: 12_000 });
    } finally {
      setProgress(null);
    }
  }

  return {
    take,
    progress,
    cancel: () => abort.current?.abort(),
    remarks,
    clearRemarks: () => setRemarks([]),
    asked,
    answer: (known: Known | null) => (known && asked ? void take(asked.files, asked.like, known) : setAsked(null)),
  };
}
