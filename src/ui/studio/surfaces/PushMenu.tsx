'use client';

import { MoveRight } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import type { FaceRuns } from '@/core/mesh/types';
import { formatLength } from '@/core/units/length';
import { useProject } from '../../project/projectStore';
import { call, messageOf } from '../../shared/api';
import { Menu } from '../../shared/Menu';
import { ValueField } from '../../shared/ValueField';

/** Pushes a flat side of a part by a typed length, to try a dimension: a surface, or faces picked by hand. */
export function PushMenu({
  part,
  what,
  disabled,
}: {
  part: string | null;
  what: { surface: string } | { faces: FaceRuns };
  disabled?: boolean;
}) {
  const { project, revision, adopt } = useProject();
  const [by, setBy] = useState(40);
  const [busy, setBusy] = useState(false);
  const unit = project!.unit;

  async function push(close: () => void) {
    setBusy(true);
    try {
      const body = { baseRevision: revision, byMm: by, ...what };
      adopt(await call('POST /api/projects/{id}/parts/{part}/push', { id: project!.id, part: part!, body }));
      close();
      toast(`Pushed ${by < 0 ? 'in' : 'out'} by ${formatLength(Math.abs(by), unit)}. It is listed for the designer.`);
    } catch (e) {
      toast.error('Not pushed', { description: messageOf(e) });
    } finally {
      setBusy(false);
    }
  }

  return (
    <Menu
      up
      label={
        <>
          <MoveRight size={13} /> Push
        </>
      }
      title="Push this side out or in by a length, to try a dimension"
    >
      {(close) => (
        <div className="flex w-52 flex-col gap-2 p-2">
          <ValueField
            label="Out by (below zero: in)"
            kind="length"
            unit={unit}
            value={by}
            min={-1e6}
            max={1e6}
            step={5}
            onChange={setBy}
          />
          <button
            type="button"
            className="tool tool-main justify-center"
            disabled={busy || disabled || !part || !by}
            onClick={() => void push(close)}
          >
            Push it
          </button>
          <p className="quiet text-2xs leading-snug">What lies beside it grows or shrinks. Undo takes it back.</p>
        </div>
      )}
    </Menu>
  );
}
