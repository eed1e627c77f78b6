'use client';

import { useState } from 'react';
import type { Material } from '@/core/material/schema';
import { useProject } from '../project/projectStore';
import { ValueField } from '../shared/ValueField';
import { useEditMaterials } from './MaterialFields';

/** How large the picture really is; a size nobody has confirmed says so. */
export function SizeSection({ material: m }: { material: Material }) {
  const edit = useEditMaterials();
  const unit = useProject((s) => s.project?.unit ?? 'mm');
  const [locked, setLocked] = useState(true);
  const base = m.maps.baseColour;
  const stretched = base ? m.widthMm / m.heightMm / (base.widthPx / base.heightPx) : 1;
  const size = (side: 'widthMm' | 'heightMm', value: number) => {
    const other = side === 'widthMm' ? 'heightMm' : 'widthMm';
    const follows = locked ? { [other]: Math.round(((m[other] * value) / m[side]) * 100) / 100 } : {};
    void edit([{ id: m.id, values: { [side]: value, ...follows } }]);
  };
  return (
    <section>
      <h2 className="mb-1 font-semibold">Real size of the picture</h2>
      <div className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
        {(['widthMm', 'heightMm'] as const).map((side) => (
          <ValueField
            key={side}
            label={side === 'widthMm' ? 'Width' : 'Height'}
            kind="length"
            unit={unit}
            value={m[side]}
            min={0.01}
            max={1e6}
            onChange={(v) => size(side, v)}
          />
        ))}
        <button
          type="button"
          className="tool"
          aria-pressed={locked}
          title="Width and height keep their proportion"
          onClick={() => setLocked(!locked)}
        >
          {locked ? 'locked' : 'free'}
        </button>
      </div>
      {m.sizeAssumed && (
        <p className="asks mt-1 flex items-center justify-between gap-2">
          A guess: nothing said how large it is. Type the real size.
          <button
            type="button"
            className="tool tool-line shrink-0"
            onClick={() => void edit([{ id: m.id, values: { sizeAssumed: false } }])}
          >
            It is right
          </button>
        </p>
      )}
      {Math.abs(stretched - 1) > 0.01 && (
        <p className="text-warning mt-1 text-2xs">
          The size does not have the picture’s shape: it is stretched{' '}
          {Math.round((Math.max(stretched, 1 / stretched) - 1) * 100)}%.
        </p>
      )}
    </section>
  );
}
