'use client';

import { useQuery } from '@tanstack/react-query';
import { Copy, FolderUp, ImageUp, Replace, Search, Trash2, X } from 'lucide-react';
import { useRef, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { toast } from 'sonner';
import { findOddAspects } from '@/core/material/roles';
import {
  FINISHES,
  type FinishKind,
  type MapRef,
  type Material,
  type Role,
  ROLE_LABELS,
  ROLES,
} from '@/core/material/schema';
import { formatLength } from '@/core/units/length';
import { useProject } from '../project/projectStore';
import { api, imageUrl, messageOf, sendFiles } from '../shared/api';
import { Menu } from '../shared/Menu';
import { ValueField } from '../shared/ValueField';
import { Swatch } from './Swatch';
import { useLibrary, useLibraryRefresh } from './useLibrary';

/** The library: every swatch at one scale, so that sizes can be compared. */
export function MaterialsView() {
  const library = useLibrary();
  const refresh = useLibraryRefresh();
  const [find, setFind] = useState('');
  const [kind, setKind] = useState('');
  const [pxPerMetre, setScale] = useState(110);
  const [openId, setOpen] = useState<string | null>(null);
  const [progress, setProgress] = useState<number | null>(null);
  const [remarks, setRemarks] = useState<{ file: string; text: string }[]>([]);
  const abort = useRef<AbortController | null>(null);
  const folder = useRef<HTMLInputElement>(null);
  const all = library.data ?? [];
  const kinds = [...new Set(all.map((m) => m.kind))].sort();
  const words = find.trim().toLowerCase();
  const shown = all.filter(
    (m) =>
      (!kind || m.kind === kind) && (!words || `${m.name} ${m.kind} ${m.tags.join(' ')}`.toLowerCase().includes(words)),
  );
  const open = all.find((m) => m.id === openId) ?? null;

  async function take(files: File[]) {
    if (!files.length) return;
    setProgress(0);
    abort.current = new AbortController();
    try {
      const result = await sendFiles<{ materials: Material[]; remarks: { file: string; text: string }[] }>(
        '/api/materials',
        files,
        {},
        setProgress,
        abort.current.signal,
      );
      await refresh();
      setRemarks(result.remarks);
      setOpen(result.materials[0]?.id ?? null);
      toast.success(
        result.materials.length === 1
          ? `“${result.materials[0].name}” is in the library.`
          : `${result.materials.length} materials are in the library.`,
      );
    } catch (e) {
      if ((e as Error).name !== 'AbortError')
        toast.error('No material was made', { description: messageOf(e), duration: 12_000 });
    } finally {
      setProgress(null);
    }
  }

  const {
    getRootProps,
    getInputProps,
    isDragActive,
    open: choose,
  } = useDropzone({ onDrop: (f) => void take(f), noClick: true, noKeyboard: true });
  return (
    <div className="flex min-h-0 flex-1" {...getRootProps()}>
      <input {...getInputProps({ 'aria-label': 'Pictures' })} />
      <section
        aria-label="Library"
        className={`flex min-w-0 flex-1 flex-col ${isDragActive ? 'outline-primary outline-2 -outline-offset-4 outline-dashed' : ''}`}
      >
        <div className="hair flex h-10 shrink-0 items-center gap-2 border-b bg-base-100 px-3">
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
          <label className="quiet ml-2 flex items-center gap-2 text-2xs">
            Scale
            <input
              type="range"
              className="range range-xs w-32"
              min={60}
              max={900}
              step={10}
              value={pxPerMetre}
              onChange={(e) => setScale(Number(e.target.value))}
              aria-label="Pixels per metre"
            />
            <span className="num w-20">{pxPerMetre} px/m</span>
          </label>
          <span className="ml-auto" />
          {progress !== null && (
            <>
              <progress
                className="progress progress-primary w-28"
                max={1}
                value={progress < 1 ? progress : undefined}
                aria-label="Sending"
              />
              <button type="button" className="tool" onClick={() => abort.current?.abort()}>
                Cancel
              </button>
            </>
          )}
          <button type="button" className="tool tool-line" onClick={() => folder.current?.click()}>
            <FolderUp size={14} /> A folder
          </button>
          <button type="button" className="tool tool-main" onClick={choose}>
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
        {remarks.length > 0 && (
          <div className="hair flex items-start gap-2 border-b bg-base-100 px-3 py-2 text-2xs" role="status">
            <ul className="flex-1 list-disc pl-4">
              {remarks.slice(0, 8).map((r, i) => (
                <li key={i}>
                  <strong>{r.file}</strong> {r.text}
                </li>
              ))}
            </ul>
            <button type="button" className="tool px-1" aria-label="Close" onClick={() => setRemarks([])}>
              <X size={13} />
            </button>
          </div>
        )}
        <div className="relative min-h-0 flex-1 overflow-auto p-4">
          <ul className="flex flex-wrap items-end gap-x-5 gap-y-4">
            <li aria-hidden className="quiet">
              <ScaleFigures pxPerMetre={pxPerMetre} />
            </li>
            {shown.map((m) => (
              <li key={m.id} style={{ maxWidth: Math.max(110, (m.widthMm * pxPerMetre) / 1000 + 4) }}>
                <button
                  type="button"
                  aria-pressed={m.id === openId}
                  aria-label={m.name}
                  className={`block rounded-[6px] text-left ${m.id === openId ? 'outline-primary outline-2 outline-offset-2' : ''}`}
                  onClick={() => setOpen(m.id)}
                >
                  <TrueSwatch material={m} pxPerMetre={pxPerMetre} />
                  <span className="mt-1 block truncate font-medium">{m.name}</span>
                  <Dimensions material={m} />
                </button>
              </li>
            ))}
          </ul>
          {library.isSuccess && !shown.length && (
            <p className="quiet p-10 text-center">Nothing here is called that. Drop pictures to make a material.</p>
          )}
          {library.isError && <p className="text-error">{messageOf(library.error)}</p>}
        </div>
      </section>
      {open && <MaterialSheet key={open.id} material={open} close={() => setOpen(null)} select={setOpen} />}
    </div>
  );
}

function Dimensions({ material: m }: { material: Material }) {
  const unit = useProject((s) => s.project?.unit ?? 'mm');
  return (
    <span className="num quiet block text-2xs whitespace-nowrap">
      {formatLength(m.widthMm, unit, { withUnit: unit === 'ft-in' })} × {formatLength(m.heightMm, unit)}
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

/** A hand and a one-metre rule at the scale of the swatches. */
function ScaleFigures({ pxPerMetre: s }: { pxPerMetre: number }) {
  const hand = 0.19 * s;
  return (
    <div className="flex items-end gap-3">
      <svg
        width={hand * 0.62}
        height={hand}
        viewBox="0 0 62 100"
        fill="none"
        stroke="currentColor"
        strokeWidth="3"
        strokeLinejoin="round"
      >
        <path d="M16 96V74C8 66 4 56 3 46c0-4 5-5 7-1l7 14V17c0-6 8-6 8 0v-8c0-6 9-6 9 0v6c0-6 9-6 9 0v9c0-5 8-5 8 0v40c0 10-3 14-7 20v12" />
      </svg>
      <svg width={26} height={s} viewBox={`0 0 26 ${s}`}>
        <rect x="0.5" y="0.5" width="12" height={s - 1} fill="var(--color-base-100)" stroke="currentColor" />
        {Array.from({ length: 9 }, (_, i) => (
          <line
            key={i}
            x1={i === 4 ? 3 : 7}
            x2="12"
            y1={((i + 1) * s) / 10}
            y2={((i + 1) * s) / 10}
            stroke="currentColor"
          />
        ))}
        <text x="15" y="10" fontSize="9" fill="currentColor" className="num">
          1m
        </text>
      </svg>
    </div>
  );
}

/** A material opened: size, maps, finish, source, and where it is used. */
function MaterialSheet({
  material: m,
  close,
  select,
}: {
  material: Material;
  close: () => void;
  select: (id: string) => void;
}) {
  const { project, run } = useProject();
  const refresh = useLibraryRefresh();
  const library = useLibrary();
  const unit = project?.unit ?? 'mm';
  const detail = useQuery({
    queryKey: ['material', m.id, m.version],
    queryFn: () =>
      api.get<Material & { usedIn: { id: string; name: string; surfaces: number }[] }>(`/api/materials/${m.id}`),
  });
  const [locked, setLocked] = useState(true);
  const odd = findOddAspects(m.maps);
  const base = m.maps.baseColour;
  const stretched = base ? m.widthMm / m.heightMm / (base.widthPx / base.heightPx) : 1;

  const edit = async (values: Partial<Material>) => {
    try {
      await api.patch(`/api/materials/${m.id}`, values);
      await refresh();
    } catch (e) {
      toast.error('Not changed', { description: messageOf(e) });
    }
  };
  const size = (side: 'widthMm' | 'heightMm', value: number) => {
    const other = side === 'widthMm' ? 'heightMm' : 'widthMm';
    void edit({
      [side]: value,
      ...(locked ? { [other]: Math.round(((m[other] * value) / m[side]) * 100) / 100 } : {}),
    });
  };
  const duplicate = async () => {
    const { id: _id, version: _v, builtIn: _b, repetition: _r, ...rest } = m;
    const made = await api.post<Material>('/api/materials', { ...rest, name: `${m.name} (copy)` });
    await refresh();
    select(made.id);
  };
  const remove = async () => {
    await api.delete(`/api/materials/${m.id}`);
    await refresh();
    close();
    toast(`“${m.name}” is out of the library. Projects that use it keep it.`, {
      action: {
        label: 'Bring it back',
        onClick: () => void api.patch(`/api/materials/${m.id}`, { deleted: false }).then(refresh),
      },
    });
  };
  const failed = (e: unknown) => void toast.error(messageOf(e));
  const inProject = Object.values(project?.surfaces ?? {}).filter((s) => s.spec?.material === m.id).length;
  return (
    <aside aria-label={m.name} className="hair flex w-[372px] shrink-0 flex-col overflow-auto border-l bg-base-100">
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
        <SampleWall material={m} />
        <section>
          <h2 className="mb-1 font-semibold">Real size of the picture</h2>
          <div className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
            <ValueField
              label="Width"
              kind="length"
              unit={unit}
              value={m.widthMm}
              min={0.01}
              max={1e6}
              onChange={(v) => size('widthMm', v)}
            />
            <ValueField
              label="Height"
              kind="length"
              unit={unit}
              value={m.heightMm}
              min={0.01}
              max={1e6}
              onChange={(v) => size('heightMm', v)}
            />
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
          {Math.abs(stretched - 1) > 0.01 && (
            <p className="text-warning mt-1 text-2xs">
              The size does not have the picture’s shape: it is stretched{' '}
              {Math.round((Math.max(stretched, 1 / stretched) - 1) * 100)}%.
            </p>
          )}
        </section>
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
          <div className="grid grid-cols-3 gap-2">
            <Select
              label="Kind"
              value={m.finish.kind}
              options={(Object.keys(FINISHES) as FinishKind[]).map((k) => [k, FINISHES[k].label])}
              onChange={(k) =>
                void edit({
                  finish: {
                    ...m.finish,
                    kind: k as FinishKind,
                    roughness: FINISHES[k as FinishKind].roughness,
                    roughnessShift: FINISHES[k as FinishKind].roughnessShift,
                  },
                })
              }
            />
            <ValueField
              label="Relief"
              kind="length"
              unit={unit}
              value={m.finish.reliefMm}
              min={0}
              max={500}
              step={0.1}
              onChange={(reliefMm) => void edit({ finish: { ...m.finish, reliefMm } })}
            />
            <ValueField
              label="Bump strength"
              kind="number"
              value={m.finish.normalStrength}
              min={0}
              max={8}
              step={0.05}
              onChange={(normalStrength) => void edit({ finish: { ...m.finish, normalStrength } })}
            />
            <ValueField
              label="Roughness"
              kind="number"
              value={m.finish.roughness}
              min={0}
              max={1}
              step={0.05}
              onChange={(roughness) => void edit({ finish: { ...m.finish, roughness } })}
            />
            <ValueField
              label="Metallic"
              kind="number"
              value={m.finish.metallic}
              min={0}
              max={1}
              step={0.05}
              onChange={(metallic) => void edit({ finish: { ...m.finish, metallic } })}
            />
            <ValueField
              label="Glow"
              kind="number"
              value={m.finish.emission}
              min={0}
              max={1000}
              step={0.1}
              onChange={(emission) => void edit({ finish: { ...m.finish, emission } })}
            />
            <Select
              label="Grain runs"
              value={m.grain}
              options={[
                ['x', 'by width'],
                ['y', 'by height'],
                ['none', 'nowhere'],
              ]}
              onChange={(grain) => void edit({ grain: grain as Material['grain'] })}
            />
            <Select
              label="Sampling"
              value={m.sampling}
              options={[
                ['soft', 'Soft'],
                ['sharp', 'Sharp'],
              ]}
              onChange={(sampling) => void edit({ sampling: sampling as Material['sampling'] })}
            />
            <Select
              label="Sides"
              value={m.twoSided ? 'two' : 'one'}
              options={[
                ['one', 'One'],
                ['two', 'Two'],
              ]}
              onChange={(v) => void edit({ twoSided: v === 'two' })}
            />
          </div>
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

/** A wall of 3 by 1.5 m with a person's height marked: how the repeat shows when it is laid. */
function SampleWall({ material: m }: { material: Material }) {
  const px = 346 / 3000;
  return (
    <figure>
      <div
        className="relative h-[173px] w-full overflow-hidden rounded-[4px] border border-base-300"
        style={{
          backgroundColor: m.colour,
          backgroundImage: m.maps.baseColour ? `url(${imageUrl(m.maps.baseColour.image, 512)})` : undefined,
          backgroundSize: `${m.widthMm * px}px ${m.heightMm * px}px`,
          backgroundPosition: 'left bottom',
        }}
      />
      <figcaption className="num quiet mt-0.5 text-2xs">A wall of 3 m by 1.5 m</figcaption>
    </figure>
  );
}

function MapTile({
  material: m,
  role,
  odd,
  onChanged,
}: {
  material: Material;
  role: Role;
  odd?: number;
  onChanged: () => Promise<unknown>;
}) {
  const input = useRef<HTMLInputElement>(null);
  const map: MapRef | undefined = m.maps[role];
  const put = async (file: File | undefined) => {
    if (!file) return;
    try {
      await sendFiles(`/api/materials/${m.id}/maps`, [file], { role }, () => undefined);
      await onChanged();
    } catch (e) {
      toast.error('The picture was not taken', { description: messageOf(e) });
    }
  };
  const move = async (to: Role | '') => {
    const maps = { ...m.maps };
    delete maps[role];
    if (to && map) maps[to] = map;
    try {
      await api.patch(`/api/materials/${m.id}`, { maps });
      await onChanged();
    } catch (e) {
      toast.error(messageOf(e));
    }
  };
  return (
    <li className="min-w-0">
      <button
        type="button"
        aria-label={`${map ? 'Replace' : 'Add'} ${ROLE_LABELS[role].toLowerCase()}`}
        title={map ? `${map.file}, ${map.widthPx} × ${map.heightPx} px. Click to replace it` : 'Click to add a picture'}
        className="block aspect-square w-full overflow-hidden rounded-[4px] border border-base-300"
        onClick={() => input.current?.click()}
      >
        {map ? (
          <img src={imageUrl(map.image, 128)} alt="" className="h-full w-full object-cover" />
        ) : (
          <span className="quiet grid h-full place-items-center border border-dashed text-lg">+</span>
        )}
      </button>
      <input
        ref={input}
        type="file"
        accept=".png,.jpg,.jpeg,.webp"
        className="hidden"
        aria-label={`${ROLE_LABELS[role]} picture`}
        onChange={(e) => void put(e.target.files?.[0])}
      />
      {map ? (
        <select
          aria-label={`Role of ${map.file}`}
          className="quiet w-full bg-transparent text-2xs"
          value={role}
          onChange={(e) => void move(e.target.value as Role | '')}
        >
          {ROLES.map((r) => (
            <option key={r} value={r}>
              {ROLE_LABELS[r]}
            </option>
          ))}
          <option value="">Take out</option>
        </select>
      ) : (
        <span className="quiet block truncate text-2xs">{ROLE_LABELS[role]}</span>
      )}
      {odd !== undefined && <span className="text-warning block text-2xs">other shape</span>}
    </li>
  );
}

function Select({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: [string, string][];
  onChange: (v: string) => void;
}) {
  return (
    <label className="block min-w-0">
      <span className="quiet mb-0.5 block text-2xs">{label}</span>
      <select className="field" value={value} onChange={(e) => onChange(e.target.value)}>
        {options.map(([v, text]) => (
          <option key={v} value={v}>
            {text}
          </option>
        ))}
      </select>
    </label>
  );
}

function TextField({
  label,
  value,
  onChange,
  hidden,
  className = '',
}: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  hidden?: boolean;
  className?: string;
}) {
  const [draft, setDraft] = useState<string | null>(null);
  const commit = () => {
    if (draft !== null && draft.trim() !== value) onChange(draft.trim());
    setDraft(null);
  };
  return (
    <label className="block min-w-0 flex-1">
      <span className={hidden ? 'sr-only' : 'quiet mb-0.5 block text-2xs'}>{label}</span>
      <input
        className={`field ${className}`}
        value={draft ?? value}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={commit}
        onKeyDown={(e) => (e.key === 'Enter' ? e.currentTarget.blur() : e.key === 'Escape' && setDraft(null))}
      />
    </label>
  );
}
