'use client';

import { useDraggable } from '@dnd-kit/core';
import { ArrowUpCircle, X } from 'lucide-react';
import { type MouseEvent, useState } from 'react';
import type { Material } from '@/core/material/schema';
import { formatLength } from '@/core/units/length';
import { useSelection } from '../../project/selection';
import { Swatch } from '../../materials/Swatch';
import { useLibrary } from '../../materials/useLibrary';
import { MIXED } from '../../shared/ValueField';
import { useFold } from '../bench/benchStore';
import { Segment } from '../bench/Segment';
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
  const fold = useFold('material');
  const once = useSelection((s) => s.once);
  const setOnce = useSelection((s) => s.setOnce);
  const words = find.trim().toLowerCase();
  const shown = (library.data ?? []).filter(
    (m) => !words || `${m.name} ${m.kind} ${m.tags.join(' ')}`.toLowerCase().includes(words),
  );
  // chosen with Ctrl, to be laid together
  const [chosen, setChosen] = useState<string[]>([]);
  const together = chosen.flatMap((id) => library.data?.find((m) => m.id === id) ?? []);
  const press = (m: Material, e: MouseEvent) => {
    if (e.ctrlKey || e.metaKey)
      return setChosen(chosen.includes(m.id) ? chosen.filter((id) => id !== m.id) : [...chosen, m.id].slice(0, MOST));
    void layNow(ids, chosen.includes(m.id) ? together : m);
    setChosen([]);
  };
  const tiles = (large: boolean) => (
    <ul
      aria-label="Library"
      className={
        large
          ? 'grid grid-cols-[repeat(auto-fill,minmax(132px,1fr))] gap-1'
          : 'grid h-[106px] snap-y auto-rows-[34px] grid-cols-2 gap-x-1 gap-y-[2px] overflow-y-auto'
      }
    >
      {shown.map((m) => (
        <DragSwatch
          key={m.id}
          material={m}
          together={chosen.includes(m.id) ? together : [m]}
          large={large}
          on={m.id === current || chosen.includes(m.id)}
          onClick={(e) => press(m, e)}
        />
      ))}
    </ul>
  );
  return (
    <Segment id="material" further={tiles(true)}>
      <div className="flex min-h-9 items-center gap-2">
        {material && <Swatch material={material} size={34} />}
        <div className="min-w-0 flex-1 leading-tight">
          {material ? (
            <>
              <p className="font-medium">{material.name}</p>
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
        {laid.length > 0 && (
          <button
            type="button"
            className="tool px-1"
            aria-label="Take it off"
            title="Take off all that is laid on what is picked"
            onClick={() =>
              run([{ kind: 'setSpecs', specs: Object.fromEntries(laid.map((l) => [l.surface.id, null])) }])
            }
          >
            <X size={13} />
          </button>
        )}
      </div>
      {newest && material && newest.version > material.version && (
        <button
          type="button"
          className="tool tool-line mt-1 shrink-0"
          title={`The library has version ${newest.version}; this project uses ${material.version}`}
          onClick={() => run([{ kind: 'useMaterial', material: newest }])}
        >
          <ArrowUpCircle size={13} /> Take the newer version
        </button>
      )}
      <div className="my-1 flex shrink-0 items-center gap-2">
        <input
          aria-label="Find a material"
          placeholder="Find a material"
          className="field h-[24px]"
          value={find}
          onChange={(e) => setFind(e.target.value)}
        />
        <label
          className="flex items-center gap-1 whitespace-nowrap"
          title="The next material goes on once, at its true size, over what is there: a label, a rug, a picture"
        >
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={once}
            onChange={(e) => setOnce(e.target.checked)}
          />
          On top
        </label>
      </div>
      {fold !== 'whole' && tiles(false)}
      {library.isError && <p className="text-error text-2xs">The library could not be read.</p>}
    </Segment>
  );
}

/** Materials that can be laid together: one, and as many as a mix takes. */
const MOST = 13;

const swatchKey = ({ id }: Material) => `swatch:${id}`;

function DragSwatch({
  material,
  together,
  large,
  on,
  onClick,
}: {
  material: Material;
  /** What goes with it when it is laid. */
  together: Material[];
  large: boolean;
  on: boolean;
  onClick: (e: MouseEvent) => void;
}) {
  const { attributes, listeners, setNodeRef } = useDraggable({
    id: swatchKey(material),
    data: { materials: together },
  });
  return (
    <li className="min-w-0 snap-start">
      <button
        ref={setNodeRef}
        type="button"
        {...attributes}
        {...listeners}
        aria-label={material.name}
        aria-pressed={on}
        title={
          together.length > 1
            ? `${together.length} materials: click or drag to lay them together, in equal shares`
            : `${material.name}: click to lay it on what is picked, or drag it onto a surface; Ctrl to choose several`
        }
        className={
          'flex w-full touch-none items-center gap-1.5 rounded-[6px] p-px text-left hover:bg-base-200 ' +
          `${on ? 'outline-primary outline -outline-offset-1' : ''}`
        }
        onClick={onClick}
      >
        <Swatch material={material} size={large ? 44 : 30} mm={400} />
        <span className="line-clamp-2 min-w-0 text-2xs leading-[1.2]">{material.name}</span>
      </button>
    </li>
  );
}
