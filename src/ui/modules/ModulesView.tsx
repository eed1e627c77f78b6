'use client';

import { PencilRuler } from 'lucide-react';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { toast } from 'sonner';
import { MOST_TEXT } from '@/core/drawing/types';
import { type OwnModule } from '@/core/layout/own/module';
import { formatLength, type LengthUnit } from '@/core/units/length';
import { LibraryTabs } from '../materials/LibraryTabs';
import { ScaleFigures, ScaleSlider } from '../materials/ScaleFigures';
import { useProject } from '../project/projectStore';
import { messageOf } from '../shared/api';
import { DrawingBench, type DrawingFile } from './DrawingBench';
import { boxOf, pathOf, tintOf } from './drawShapes';
import { ModuleSheet } from './ModuleSheet';
import { useModules, useModulesRefresh } from './useModules';

/** The library's modules of one's own, all at one scale. */
export function ModulesView() {
  const unit = useProject((s) => s.project?.unit ?? 'mm');
  const modules = useModules();
  const refresh = useModulesRefresh();
  const [drawing, setDrawing] = useState<DrawingFile | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [pxPerMetre, setScale] = useState(220);
  const all = modules.data ?? [];
  const open = all.find(({ module }) => module.id === chosen);

  async function take(files: File[]) {
    const [file] = files;
    if (!file) return;
    if (files.length > 1) toast('One drawing is one module: the first of them is read.');
    if (file.size > MOST_TEXT) return void toast.error(`${file.name} is larger than ${MOST_TEXT / 1e6} MB.`);
    setDrawing({ file: file.name.slice(0, 200), text: await file.text() });
  }
  const {
    getRootProps,
    getInputProps,
    isDragActive,
    open: browse,
  } = useDropzone({ onDrop: (f) => void take(f), noClick: true, noKeyboard: true, multiple: true });
  if (drawing)
    return (
      <DrawingBench
        key={drawing.file + drawing.text.length}
        drawing={drawing}
        unit={unit}
        leave={() => setDrawing(null)}
        kept={(id) => {
          setDrawing(null);
          setChosen(id);
          void refresh();
        }}
      />
    );
  return (
    <div className="flex min-h-0 flex-1" {...getRootProps()}>
      <h1 className="sr-only">Modules</h1>
      <input {...getInputProps({ 'aria-label': 'Drawing', accept: '.svg,.dxf' })} />
      <section
        aria-label="Modules"
        className={
          'flex min-w-0 flex-1 flex-col ' +
          `${isDragActive ? 'outline-primary outline-2 -outline-offset-4 outline-dashed' : ''}`
        }
      >
        <div className="hair flex h-10 shrink-0 items-center gap-2 border-b bg-base-100 px-3">
          <LibraryTabs />
          <ScaleSlider pxPerMetre={pxPerMetre} onChange={setScale} />
          <span className="ml-auto" />
          <button type="button" className="tool tool-main" onClick={browse}>
            <PencilRuler size={14} /> Bring in a drawing
          </button>
        </div>
        <div className="min-h-0 flex-1 overflow-auto p-4">
          {modules.isError && <p className="text-error">{messageOf(modules.error)}</p>}
          {modules.isSuccess && !all.length && <Nothing browse={browse} />}
          {all.length > 0 && (
            <ul className="flex flex-wrap items-end gap-x-6 gap-y-5">
              <li aria-hidden className="quiet">
                <ScaleFigures pxPerMetre={pxPerMetre} />
              </li>
              {all.map(({ module }) => (
                <li key={module.id}>
                  <button
                    type="button"
                    aria-pressed={module.id === chosen}
                    className={
                      'block rounded-[6px] p-1 text-left ' +
                      `${module.id === chosen ? 'outline-primary outline-2 outline-offset-2' : ''}`
                    }
                    onClick={() => setChosen(module.id)}
                  >
                    <TrueModule module={module} pxPerMetre={pxPerMetre} />
                    <span className="mt-1 block max-w-56 truncate font-medium">{module.name}</span>
                    <ModuleSize module={module} unit={unit} />
                  </button>
                </li>
              ))}
            </ul>
          )}
        </div>
      </section>
      {open && <ModuleSheet key={open.module.id} entry={open} unit={unit} close={() => setChosen(null)} />}
    </div>
  );
}

function Nothing({ browse }: { browse: () => void }) {
  return (
    <div className="mx-auto mt-16 max-w-md space-y-3 text-center">
      <p className="text-lg font-medium">Draw it, and it can be laid</p>
      <p className="quiet">
        Bring in an SVG or a DXF of closed shapes: one repeat of a pattern, true to size. Its shapes become pieces, and
        the pattern is laid like any other.
      </p>
      <button type="button" className="tool tool-main" onClick={browse}>
        <PencilRuler size={14} /> Bring in a drawing
      </button>
    </div>
  );
}

/** One repeat, as large as it really is at this scale. */
function TrueModule({ module: { shapes }, pxPerMetre }: { module: OwnModule; pxPerMetre: number }) {
  const [x0, y0, x1, y1] = boxOf(shapes);
  const s = pxPerMetre / 1000;
  const roles = [...new Set(shapes.map((p) => p.role))];
  return (
    <svg
      aria-hidden
      width={(x1 - x0) * s + 2}
      height={(y1 - y0) * s + 2}
      viewBox={[x0 - 1 / s, -y1 - 1 / s, x1 - x0 + 2 / s, y1 - y0 + 2 / s].join(' ')}
    >
      {shapes.map((p, n) => (
        <path
          key={n}
          d={pathOf(p.corners)}
          fill={tintOf(roles, p.role)}
          stroke="var(--color-base-content)"
          strokeWidth={1 / s}
        />
      ))}
    </svg>
  );
}

function ModuleSize({ module: { right, up }, unit }: { module: OwnModule; unit: LengthUnit }) {
  return (
    <span className="num quiet block text-2xs whitespace-nowrap">
      {formatLength(Math.hypot(...right), unit, { withUnit: unit === 'ft-in' })} ×{' '}
      {formatLength(Math.hypot(...up), unit)}
    </span>
  );
}
