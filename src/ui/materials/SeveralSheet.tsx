'use client';

import { X } from 'lucide-react';
import { useState } from 'react';
import type { Material } from '@/core/material/schema';
import { useProject } from '../project/projectStore';
import { TextField } from '../shared/fields';
import { ValueField } from '../shared/ValueField';
import { sharedBy } from '../shared/sharedValue';
import { MaterialFields, useEditMaterials } from './MaterialFields';
import { NewerVersions } from './NewerVersions';
import { Swatch } from './Swatch';

/** Several materials at once: a field changes itself on each, and nothing else. */
export function SeveralSheet({ materials, close }: { materials: Material[]; close: () => void }) {
  const edit = useEditMaterials();
  const unit = useProject((s) => s.project?.unit ?? 'mm');
  const [tag, setTag] = useState('');
  const assumed = materials.filter((m) => m.sizeAssumed);
  const onEach = (values: (m: Material) => Parameters<typeof edit>[0][number]['values']) =>
    void edit(materials.map((m) => ({ id: m.id, values: values(m) })));
  const round = (v: number) => Math.round(v * 100) / 100;
  return (
    <aside
      aria-label={`${materials.length} materials`}
      className="hair flex w-[372px] shrink-0 flex-col overflow-auto border-l bg-base-100"
    >
      <header className="hair flex h-10 shrink-0 items-center gap-1 border-b px-3">
        <h2 className="flex-1 font-semibold">{materials.length} materials</h2>
        <button type="button" className="tool px-1.5" aria-label="Close" onClick={close}>
          <X size={14} />
        </button>
      </header>
      <div className="flex flex-col gap-4 p-3">
        <ul className="flex flex-wrap gap-1">
          {materials.map((m) => (
            <li key={m.id} title={m.name}>
              <Swatch material={m} size={44} />
            </li>
          ))}
        </ul>
        <NewerVersions materials={materials} />
        <section>
          <h2 className="mb-1 font-semibold">Real size of the pictures</h2>
          <ValueField
            label="Width; heights keep their proportion"
            kind="length"
            unit={unit}
            value={sharedBy(materials, (m) => m.widthMm)}
            min={0.01}
            max={1e6}
            onChange={(widthMm) => onEach((m) => ({ widthMm, heightMm: round((m.heightMm * widthMm) / m.widthMm) }))}
          />
          {assumed.length > 0 && (
            <p className="asks mt-1 flex items-center justify-between gap-2">
              The size of {assumed.length} is a guess.
              <button
                type="button"
                className="tool tool-line"
                onClick={() => void edit(assumed.map(({ id }) => ({ id, values: { sizeAssumed: false } })))}
              >
                They are right
              </button>
            </p>
          )}
        </section>
        <section>
          <h2 className="mb-1 font-semibold">Finish</h2>
          <MaterialFields materials={materials} />
        </section>
        <section className="grid grid-cols-2 gap-2">
          <TextField
            label="Kind"
            value={sameOf(materials, (m) => m.kind)}
            onChange={(kind) => onEach(() => ({ kind }))}
          />
          <TextField
            label="Add a tag"
            value={tag}
            onChange={(text) => {
              const added = text.trim().slice(0, 40);
              setTag('');
              if (added) onEach((m) => ({ tags: [...new Set([...m.tags, added])] }));
            }}
          />
          <TextField
            label="Source"
            value={sameOf(materials, (m) => m.source)}
            onChange={(source) => onEach(() => ({ source }))}
          />
          <TextField
            label="Licence"
            value={sameOf(materials, (m) => m.licence)}
            onChange={(licence) => onEach(() => ({ licence }))}
          />
        </section>
      </div>
    </aside>
  );
}

/** What all have, or nothing where they differ. */
const sameOf = (materials: Material[], get: (m: Material) => string): string =>
  materials.every((m) => get(m) === get(materials[0])) ? get(materials[0]) : '';
