'use client';

import { FolderUp, ImageUp, Search, SlidersHorizontal } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { FINISHES } from '@/core/material/finishes';
import type { Material } from '@/core/material/schema';
import { materialsOf } from '@/core/specification/schema';
import { formatLength } from '@/core/units/length';
import { useProject } from '../project/projectStore';
import { imageUrl, messageOf } from '../shared/api';
import { Select } from '../shared/fields';
import { Menu } from '../shared/Menu';
import { DropNotes } from './DropNotes';
import { LibraryTabs } from './LibraryTabs';
import { MaterialSheet } from './MaterialSheet';
import { useNewOnes } from './newOnes';
import { ScaleFigures, ScaleSlider } from './ScaleFigures';
import { SeveralSheet } from './SeveralSheet';
import { SWATCH } from './swatchDrag';
import { useLibrary } from './useLibrary';
import { useTakePictures } from './useTakePictures';

/** The library: every swatch at one scale, so that sizes can be compared. */
export function MaterialsView() {
  const library = useLibrary();
  const [find, setFind] = useState('');
  const [kind, setKind] = useState('');
  const [pxPerMetre, setScale] = useState(110);
  const [chosen, setChosen] = useState<string[]>([]);
  const taking = useTakePictures((made) => setChosen(made.slice(0, 1).map((m) => m.id)));
  const { take, progress } = taking;
  const folder = useRef<HTMLInputElement>(null);
  const { project, run } = useProject();
  const used = new Set(Object.values(project?.surfaces ?? {}).flatMap((s) => (s.spec ? materialsOf(s.spec) : [])));
  const unused = Object.keys(project?.materials ?? {}).filter((id) => !used.has(id));
  const all = library.data ?? [];
  const kinds = [...new Set(all.map((m) => m.kind))].sort();
  const words = find.trim().toLowerCase();
  const shown = all.filter(
    (m) =>
      (!kind || m.kind === kind) && (!words || `${m.name} ${m.kind} ${m.tags.join(' ')}`.toLowerCase().includes(words)),
  );
  const open = chosen.flatMap((id) => all.find((m) => m.id === id) ?? []);

  // pictures on the clipboard, but not where text is being written
  useEffect(() => {
    const paste = (e: ClipboardEvent) => {
      if (e.target instanceof HTMLInputElement || e.target instanceof HTMLTextAreaElement) return;
      const files = [...(e.clipboardData?.files ?? [])].filter((f) => f.type.startsWith('image/'));
      if (files.length) void take(files.map(named));
    };
    window.addEventListener('paste', paste);
    return () => window.removeEventListener('paste', paste);
  });

  /** Alone, beside what is chosen (Ctrl), or all up to it (Shift). */
  function choose(id: string, e: { ctrlKey: boolean; metaKey: boolean; shiftKey: boolean }) {
    const last = shown.findIndex((m) => m.id === chosen.at(-1));
    const at = shown.findIndex((m) => m.id === id);
    if (e.shiftKey && last >= 0) {
      const between = shown.slice(Math.min(last, at), Math.max(last, at) + 1).map((m) => m.id);
      setChosen([...new Set([...chosen, ...between, id])]);
    } else if (e.ctrlKey || e.metaKey)
      setChosen(chosen.includes(id) ? chosen.filter((x) => x !== id) : [...chosen, id]);
    else setChosen([id]);
  }

  const {
    getRootProps,
    getInputProps,
    isDragActive,
    open: browse,
  } = useDropzone({ onDrop: (f) => void take(f), noClick: true, noKeyboard: true });
  return (
    <div className="flex min-h-0 flex-1" {...getRootProps()}>
      <h1 className="sr-only">Materials</h1>
      <input {...getInputProps({ 'aria-label': 'Pictures' })} />
      <section
        aria-label="Library"
        className={
          'flex min-w-0 flex-1 flex-col ' +
          `${isDragActive ? 'outline-primary outline-2 -outline-offset-4 outline-dashed' : ''}`
        }
      >
        <div className="hair flex h-10 shrink-0 items-center gap-2 border-b bg-base-100 px-3">
          <LibraryTabs />
          <Search size={14} className="quiet" />
          <input
            aria-label="Search materials"
            placeholder="Search by name or tag"
            className="field w-56"
            value={find}
            onChange={(e) => setFind(e.target.value)}
          />
          <select aria-label="Kind" className="field w-32" value={kind} onChange={(e) => setKind(e.target.value)}>
            <option value="">All kinds</option>
            {kinds.map((k) => (
              <option key={k}>{k}</option>
            ))}
          </select>
          <ScaleSlider pxPerMetre={pxPerMetre} onChange={setScale} />
          <span className="ml-auto" />
          {progress !== null && (
            <>
              <progress
                className="progress progress-primary w-28"
                max={1}
                value={progress < 1 ? progress : undefined}
                aria-label="Sending"
              />
              <button type="button" className="tool" onClick={taking.cancel}>
                Cancel
              </button>
            </>
          )}
          {unused.length > 0 && (
            <button
              type="button"
              className="tool"
              title="Takes out of this project what no surface uses; the library keeps it"
              onClick={() => run([{ kind: 'dropMaterials', ids: unused }])}
            >
              Clear {unused.length} unused
            </button>
          )}
          <NewOnes />
          <button type="button" className="tool tool-line" onClick={() => folder.current?.click()}>
            <FolderUp size={14} /> A folder
          </button>
          <button type="button" className="tool tool-main" onClick={browse}>
            <ImageUp size={14} /> Add pictures
          </button>
          <input
            ref={folder}
            type="file"
            className="hidden"
            aria-label="A folder of pictures"
            {...{ webkitdirectory: '' }}
            onChange={(e) => void take([...(e.target.files ?? [])])}
          />
        </div>
        <DropNotes {...taking} />
        <div className="relative min-h-0 flex-1 overflow-auto p-4">
          <ul className="flex flex-wrap items-end gap-x-5 gap-y-4">
            <li aria-hidden className="quiet">
              <ScaleFigures pxPerMetre={pxPerMetre} />
            </li>
            {shown.map((m) => (
              <li key={m.id} style={{ maxWidth: Math.max(110, (m.widthMm * pxPerMetre) / 1000 + 4) }}>
                <button
                  type="button"
                  aria-pressed={chosen.includes(m.id)}
                  draggable
                  onDragStart={(e) => e.dataTransfer.setData(SWATCH, m.id)}
                  aria-label={m.name}
                  title={m.name}
                  className={
                    'block max-w-full rounded-[6px] text-left ' +
                    `${chosen.includes(m.id) ? 'outline-primary outline-2 outline-offset-2' : ''}`
                  }
                  onClick={(e) => choose(m.id, e)}
                >
                  <TrueSwatch material={m} pxPerMetre={pxPerMetre} />
                  <span className="mt-1 block truncate font-medium">{m.name}</span>
                  <Dimensions material={m} />
                </button>
              </li>
            ))}
          </ul>
          {library.isSuccess && !shown.length && (
            <p className="quiet p-10 text-center">
              Nothing here is called that. Drop or paste pictures to make a material.
            </p>
          )}
          {library.isError && <p className="text-error">{messageOf(library.error)}</p>}
        </div>
      </section>
      {open.length === 1 && (
        <MaterialSheet
          key={open[0].id}
          material={open[0]}
          close={() => setChosen([])}
          select={(id) => setChosen([id])}
          takeLike={(files) => void take(files, open[0])}
        />
      )}
      {open.length > 1 && <SeveralSheet materials={open} close={() => setChosen([])} />}
    </div>
  );
}

/** A pasted picture has no name of its own. */
const named = (file: File): File =>
  /^image\.\w+$/.test(file.name) ? new File([file], file.name.replace('image', 'Pasted picture')) : file;

/** What new materials begin with. */
function NewOnes() {
  const { finish, sampling, set } = useNewOnes();
  return (
    <Menu
      align="right"
      label={
        <>
          <SlidersHorizontal size={14} /> New ones
        </>
      }
      title="Finish and sampling of new materials, set once"
    >
      {() => (
        <div className="grid w-56 grid-cols-2 gap-2 p-2">
          <Select
            label="Finish"
            value={finish}
            options={FINISHES.map((f) => [f.kind, f.label])}
            onChange={(kind) => set({ finish: kind as typeof finish })}
          />
          <Select
            label="Sampling"
            value={sampling}
            options={[
              ['soft', 'Soft'],
              ['sharp', 'Sharp'],
            ]}
            onChange={(v) => set({ sampling: v as typeof sampling })}
          />
        </div>
      )}
    </Menu>
  );
}

function Dimensions({ material: m }: { material: Material }) {
  const unit = useProject((s) => s.project?.unit ?? 'mm');
  return (
    <span className="num quiet block text-2xs whitespace-nowrap">
      {formatLength(m.widthMm, unit, { withUnit: unit === 'ft-in' })} × {formatLength(m.heightMm, unit)}
      {m.sizeAssumed && (
        <span className="text-warning ml-1" title="Nothing said how large it is: confirm or type its real size">
          a guess
        </span>
      )}
    </span>
  );
}

/** One whole repeat of the picture, as large as it really is at this scale. */
function TrueSwatch({ material: m, pxPerMetre }: { material: Material; pxPerMetre: number }) {
  const width = (m.widthMm * pxPerMetre) / 1000;
  const served = [64, 128, 256, 512, 1024, 2048].find((s) => s >= width * 1.2) ?? 2048;
  return (
    <span
      aria-hidden
      className="block rounded-[3px] border border-base-300"
      style={{
        width,
        height: (m.heightMm * pxPerMetre) / 1000,
        backgroundColor: m.colour,
        backgroundImage: m.maps.baseColour ? `url(${imageUrl(m.maps.baseColour.image, served)})` : undefined,
        backgroundSize: '100% 100%',
      }}
    />
  );
}
