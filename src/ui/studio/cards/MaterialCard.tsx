'use client';

import { useDraggable } from '@dnd-kit/core';
import { ArrowUpCircle, X } from 'lucide-react';
import { useState } from 'react';
import type { Material } from '@/core/material/schema';
import { formatLength } from '@/core/units/length';
import { Swatch } from '../../materials/Swatch';
import { useLibrary } from '../../materials/useLibrary';
import { MIXED } from '../../shared/ValueField';
import { Card } from '../Card';
import { layNow } from '../lay';
import { useBench } from '../useBench';
import { sharedBy } from '../../shared/sharedValue';

/** What is laid, and the library to drag from. */
export function MaterialCard() {
  const { project, ids, laid, run, unit } = useBench();
  const library = useLibrary();
  const [find, setFind] = useState('');
  const current = laid.length ? sharedBy(laid, (l) => l.spec.material) : null;
  const material = typeof current === 'string' ? project!.materials[current] : null;
  const newest = material ? library.data?.find((m) => m.id === current) : null;
  const words = find.trim().toLowerCase();
  const shown = (library.data ?? []).filter(
    (m) => !words || `${m.name} ${m.kind} ${m.tags.join(' ')}`.toLowerCase().includes(words),
  );
  return (
    <Card id="material" title="Material" share={1.15}>
      <div className="flex h-9 items-center gap-2">
        {material && <Swatch material={material} size={34} />}
        <div className="min-w-0 flex-1 leading-tight">
          {material ? (
            <>
              <p className="truncate font-medium">{material.name}</p>
              <p className="num quiet text-2xs">
                {formatLength(material.widthMm, unit, { withUnit: unit === 'ft-in' })} ×{' '}
                {formatLength(material.heightMm, unit)}
              </p>
            </>
          ) : (
            <p className="quiet text-2xs">
              {current === MIXED
                ? 'Mixed. Choose one for all.'
                : ids.length
                  ? 'Bare. Choose one below.'
                  : 'Drag one onto a surface.'}
            </p>
          )}
        </div>
        {newest && material && newest.version > material.version && (
          <button
            type="button"
            className="tool tool-line"
            title={`The library has version ${newest.version}; this project uses ${material.version}`}
            onClick={() => run([{ kind: 'useMaterial', material: newest }])}
          >
            <ArrowUpCircle size={13} /> Take newer
          </button>
        )}
        {laid.length > 0 && (
          <button
            type="button"
            className="tool"
            aria-label="Strip"
            title="Take everything off"
            onClick={() =>
              run([{ kind: 'setSpecs', specs: Object.fromEntries(laid.map((l) => [l.surface.id, null])) }])
            }
          >
            <X size={13} />
          </button>
        )}
      </div>
      <input
        aria-label="Find a material"
        placeholder="Find a material"
        className="field my-1 h-[22px]"
        value={find}
        onChange={(e) => setFind(e.target.value)}
      />
      <ul aria-label="Library" className="grid grid-cols-[repeat(auto-fill,minmax(28px,1fr))] gap-1">
        {shown.map((m) => (
          <DragSwatch key={m.id} material={m} on={m.id === current} onClick={() => void layNow(ids, m)} />
        ))}
      </ul>
      {library.isError && <p className="text-error text-2xs">The library could not be read.</p>}
    </Card>
  );
}

const swatchKey = ({ id }: Material) => `swatch:${id}`;

function DragSwatch({ material, on, onClick }: { material: Material; on: boolean; onClick: () => void }) {
  const { attributes, listeners, setNodeRef } = useDraggable({ id: swatchKey(material), data: { material } });
  return (
    <li>
      <button
        ref={setNodeRef}
        type="button"
        {...attributes}
        {...listeners}
        aria-label={material.name}
        aria-pressed={on}
        title={`${material.name}: click to lay it on what is picked, or drag it onto a surface`}
        className={`block touch-none rounded-[6px] ${on ? 'outline-primary outline-2' : ''}`}
        onClick={onClick}
      >
        <Swatch material={material} size={28} mm={400} />
      </button>
    </li>
  );
}
