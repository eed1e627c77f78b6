'use client';

import { LoaderCircle } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import type { LeafPlace } from '@/core/material/schema';
import { messageOf } from '../../shared/api';
import { usePrep } from '../prepStore';
import { turnBy } from '../steps';
import { prepService } from '../usePrepRun';

/**
 * Looks for what lies laid in the picture: whole pieces, their joints left out.
 * @param props.upTo after how many steps; after all of them where it is not said
 */
export function FindPieces({
  upTo,
  title,
  onFound,
}: {
  upTo?: number;
  title: string;
  onFound: (places: LeafPlace[]) => void;
}) {
  const [busy, setBusy] = useState(false);
  const find = async () => {
    setBusy(true);
    try {
      const prep = usePrep.getState().prep!;
      const { places, turnDeg } = await prepService().pieces(prep, upTo ?? prep.steps.length);
      if (places.length) onFound(places);
      else if (turnDeg) {
        const turn = `Turn it by ${turnDeg.toFixed(1)}°`;
        toast.error('Its courses do not lie level', {
          description: `${turn}, then find the pieces once more.`,
          duration: 20_000,
          action: { label: turn, onClick: () => turnBy(turnDeg) },
        });
      } else
        toast.error('No pieces were found', {
          description:
            'Pieces are found by joints that run straight through, level or upright. ' +
            'Turn and crop the picture first, or draw them yourself.',
          duration: 12_000,
        });
    } catch (e) {
      toast.error(messageOf(e));
    } finally {
      setBusy(false);
    }
  };
  return (
    <button
      type="button"
      className="tool tool-line h-[22px] px-1.5 text-2xs"
      disabled={busy}
      title={title}
      onClick={() => void find()}
    >
      {busy && <LoaderCircle size={11} className="animate-spin" />} Find the pieces
    </button>
  );
}
