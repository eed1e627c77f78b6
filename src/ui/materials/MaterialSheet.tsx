'use client';

import { useQuery } from '@tanstack/react-query';
import { Copy, Download, Replace, Trash2, X } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { findOddAspects } from '@/core/material/roles';
import { FINISHES, type FinishKind, finishOf } from '@/core/material/finishes';
import { type Material, ROLES } from '@/core/material/schema';
import { materialsOf } from '@/core/specification/schema';
import { formatLength } from '@/core/units/length';
import { useProject } from '../project/projectStore';
import type { MaterialChange } from '@/api/materials';
import { call, urlOf, imageUrl, messageOf } from '../shared/api';
import { Select, TextField } from '../shared/fields';
import { Menu } from '../shared/Menu';
import { ValueField } from '../shared/ValueField';
import { MapTile } from './MapTile';
import { Swatch } from './Swatch';
import { useLibrary, useLibraryRefresh } from './useLibrary';

/** A material opened: size, maps, finish, source, and where it is used. */
export function MaterialSheet({
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
    queryFn: () => call('GET /api/materials/{id}', { id: m.id }),
  });
  const [locked, setLocked] = useState(true);
  const [otherId, setOther] = useState('');
  const other = library.data?.find((x) => x.id === otherId);
  const odd = findOddAspects(m.maps);
  const base = m.maps.baseColour;
  const stretched = base ? m.widthMm / m.heightMm / (base.widthPx / base.heightPx) : 1;

  const edit = async (values: MaterialChange) => {
    try {
      await call('PATCH /api/materials/{id}', { id: m.id, body: values });
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
        <a
          className="tool px-1.5"
          title="As a zip: PNGs named by role, and an open JSON"
          aria-label="Download"
          href={urlOf('GET /api/materials/{id}/file', { id: m.id })}
        >
          <Download size={14} />
        </a>
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
              options={FINISHES.map((f) => [f.kind, f.label])}
              onChange={(k) =>
                void edit({
                  finish: {
                    ...m.finish,
                    kind: k as FinishKind,
                    roughness: finishOf(k).roughness,
                    roughnessShift: finishOf(k).roughnessShift,
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
