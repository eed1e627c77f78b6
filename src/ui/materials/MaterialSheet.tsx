'use client';

import { useQuery } from '@tanstack/react-query';
import { Copy, Replace, Trash2, X } from 'lucide-react';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { toast } from 'sonner';
import { findOddAspects } from '@/core/material/roles';
import { type Material, ROLES } from '@/core/material/schema';
import { settingsFor, withKind } from '@/core/material/settings';
import { materialsOf } from '@/core/specification/schema';
import { formatLength } from '@/core/units/length';
import { useProject } from '../project/projectStore';
import type { MaterialChange } from '@/api/materials';
import { call, messageOf } from '../shared/api';
import { Select, TextField } from '../shared/fields';
import { Menu } from '../shared/Menu';
import { FinishSamples } from './FinishSamples';
import { MapTile } from './MapTile';
import { MaterialFields, useEditMaterials } from './MaterialFields';
import { NewerVersions } from './NewerVersions';
import { DownloadMenu } from './DownloadMenu';
import { SampleWall } from './SampleWall';
import { SizeSection } from './SizeSection';
import { SWATCH } from './swatchDrag';
import { Swatch } from './Swatch';
import { useLibrary, useLibraryRefresh } from './useLibrary';

/** A material opened: size, maps, finish, source, and where it is used. */
export function MaterialSheet({
  material: m,
  close,
  select,
  takeLike,
}: {
  material: Material;
  close: () => void;
  select: (id: string) => void;
  /** Takes pictures in as materials with this one's settings. */
  takeLike: (files: File[]) => void;
}) {
  const { project, run } = useProject();
  const refresh = useLibraryRefresh();
  const library = useLibrary();
  const unit = project?.unit ?? 'mm';
  const detail = useQuery({
    queryKey: ['material', m.id, m.version],
    queryFn: () => call('GET /api/materials/{id}', { id: m.id }),
  });
  const [otherId, setOther] = useState('');
  const other = library.data?.find((x) => x.id === otherId);
  const odd = findOddAspects(m.maps);

  const editAll = useEditMaterials();
  const edit = (values: MaterialChange) => editAll([{ id: m.id, values }]);
  const { getRootProps, isDragActive } = useDropzone({
    onDrop: (files) => takeLike(files),
    noClick: true,
    noKeyboard: true,
    noDragEventsBubbling: true,
  });
  const [over, setOver] = useState(false);
  const takeSwatch = (id: string) => {
    const dropped = library.data?.find((x) => x.id === id);
    if (!dropped || dropped.id === m.id) return;
    void editAll([{ id, values: settingsFor(m, dropped.heightMm / dropped.widthMm) }]);
    toast.success(`“${dropped.name}” has the settings of “${m.name}” now.`);
  };
  const duplicate = async () => {
    const { id: _id, version: _v, builtIn: _b, repetition: _r, measured: _m, ...rest } = m;
    const made = await call('POST /api/materials', { body: { ...rest, name: `${m.name} (copy)` } });
    await refresh();
    select(made.id);
  };
  const remove = async () => {
    await call('DELETE /api/materials/{id}', { id: m.id });
    await refresh();
    close();
    toast(`“${m.name}” is out of the library. Projects that use it keep it.`, {
      action: {
        label: 'Bring it back',
        onClick: () => void call('PATCH /api/materials/{id}', { id: m.id, body: { deleted: false } }).then(refresh),
      },
    });
  };
  const failed = (e: unknown) => void toast.error(messageOf(e));
  const inProject = Object.values(project?.surfaces ?? {}).filter(
    (s) => s.spec && materialsOf(s.spec).includes(m.id),
  ).length;
  return (
    <aside
      {...getRootProps()}
      aria-label={m.name}
      title={undefined}
      className={
        'hair relative flex w-[372px] shrink-0 flex-col overflow-auto border-l bg-base-100 ' +
        `${isDragActive || over ? 'outline-primary outline-2 -outline-offset-4 outline-dashed' : ''}`
      }
      onDragOver={(e) => {
        if (!e.dataTransfer.types.includes(SWATCH)) return;
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDropCapture={(e) => {
        setOver(false);
        const id = e.dataTransfer.getData(SWATCH);
        if (!id) return;
        e.preventDefault();
        e.stopPropagation();
        takeSwatch(id);
      }}
    >
      <header className="hair flex h-10 shrink-0 items-center gap-1 border-b px-3">
        <TextField
          label="Name"
          hidden
          value={m.name}
          onChange={(name) => void edit({ name })}
          className="font-semibold"
        />
        <button
          type="button"
          className="tool px-1.5"
          title="Duplicate"
          aria-label="Duplicate"
          onClick={() => void duplicate().catch(failed)}
        >
          <Copy size={14} />
        </button>
        <DownloadMenu id={m.id} />
        <button
          type="button"
          className="tool px-1.5"
          title="Out of the library"
          aria-label="Delete"
          onClick={() => void remove().catch(failed)}
        >
          <Trash2 size={14} />
        </button>
        <button type="button" className="tool px-1.5" aria-label="Close" onClick={close}>
          <X size={14} />
        </button>
      </header>
      <div className="flex flex-col gap-4 p-3">
        <div>
          <SampleWall material={m} />
          <div className="mt-1">
            <Select
              label="Compare with"
              hideLabel
              value={other?.id ?? ''}
              options={[
                ['', 'Compare with…'],
                ...(library.data ?? []).filter((x) => x.id !== m.id).map((x): [string, string] => [x.id, x.name]),
              ]}
              onChange={setOther}
            />
          </div>
          {other && (
            <div className="mt-1">
              <SampleWall material={other} />
              <p className="num quiet text-2xs">
                {other.name}, {formatLength(other.widthMm, unit)} × {formatLength(other.heightMm, unit)}
              </p>
            </div>
          )}
        </div>
        <NewerVersions materials={[m]} />
        <SizeSection material={m} />
        <section>
          <h2 className="mb-1 font-semibold">Maps</h2>
          <ul className="grid grid-cols-4 gap-2">
            {ROLES.map((role) => (
              <MapTile
                key={role}
                material={m}
                role={role}
                odd={odd.find((o) => o.role === role)?.ratio}
                onChanged={refresh}
              />
            ))}
          </ul>
        </section>
        <section>
          <h2 className="mb-1 font-semibold">Finish</h2>
          <FinishSamples material={m} onPick={(kind) => void edit({ finish: withKind(m.finish, kind) })} />
          <MaterialFields materials={[m]} />
        </section>
        <section className="grid grid-cols-2 gap-2">
          <TextField label="Kind" value={m.kind} onChange={(kind) => void edit({ kind })} />
          <TextField
            label="Tags, by commas"
            value={m.tags.join(', ')}
            onChange={(t) =>
              void edit({
                tags: t
                  .split(',')
                  .map((x) => x.trim().slice(0, 40))
                  .filter(Boolean),
              })
            }
          />
          <TextField label="Source" value={m.source} onChange={(source) => void edit({ source })} />
          <TextField label="Licence" value={m.licence} onChange={(licence) => void edit({ licence })} />
          <TextField label="Credit" value={m.credit} onChange={(credit) => void edit({ credit })} />
          <div>
            <p className="quiet mb-0.5 text-2xs">Repetition</p>
            <p
              className="num flex h-[26px] items-center"
              title="Strongest recurring blotch of the low-passed picture: 0 none, 1 an exact copy"
            >
              {m.repetition === null ? 'not measured' : m.repetition.toFixed(3)}
            </p>
          </div>
        </section>
        <section>
          <p className="quiet mb-3 text-2xs leading-snug">
            Pictures or swatches dropped on this panel take its settings: finish, grain, sampling and size.
          </p>
          <h2 className="mb-1 font-semibold">Where it is used</h2>
          {detail.data?.usedIn.length ? (
            <ul className="quiet">
              {detail.data.usedIn.map((u) => (
                <li key={u.id}>
                  {u.name}: {u.surfaces} surfaces
                </li>
              ))}
            </ul>
          ) : (
            <p className="quiet">Nowhere yet.</p>
          )}
          {inProject > 0 && (
            <div className="mt-2">
              <Menu
                up
                className="tool tool-line"
                label={
                  <>
                    <Replace size={13} /> Replace it in this project
                  </>
                }
              >
                {(closeMenu) => (
                  <div className="max-h-72 w-64 overflow-auto">
                    {(library.data ?? [])
                      .filter((o) => o.id !== m.id)
                      .map((o) => (
                        <button
                          key={o.id}
                          type="button"
                          className="tool w-full"
                          onClick={() => {
                            closeMenu();
                            run([{ kind: 'replaceMaterial', from: m.id, to: project!.materials[o.id] ?? o }]);
                            toast(`${o.name} now lies on ${inProject} surfaces. Undo brings ${m.name} back.`);
                          }}
                        >
                          <Swatch material={o} size={18} /> {o.name}
                        </button>
                      ))}
                  </div>
                )}
              </Menu>
            </div>
          )}
        </section>
      </div>
    </aside>
  );
}
