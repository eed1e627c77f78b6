'use client';

import { Download, Trash2, X } from 'lucide-react';
import { toast } from 'sonner';
import type { LibraryModule } from '@/api/answers';
import { layOwn, own } from '@/core/layout/own/own';
import { formatLength, type LengthUnit } from '@/core/units/length';
import { useProject } from '../project/projectStore';
import { call, messageOf, urlOf } from '../shared/api';
import { TextField } from '../shared/fields';
import { BondDrawing } from '../studio/pieces/BondDrawing';
import { useModulesRefresh } from './useModules';

/** A module opened: its name, how it looks laid, its size, and where it is used. */
export function ModuleSheet({
  entry: { module, usedIn },
  unit,
  close,
}: {
  entry: LibraryModule;
  unit: LengthUnit;
  close: () => void;
}) {
  const refresh = useModulesRefresh();
  const here = useProject((s) => s.project?.id);
  const failed = (e: unknown) => void toast.error(messageOf(e));
  const rename = (name: string) =>
    call('PATCH /api/modules/{id}', { id: module.id, body: { name } }).then(refresh, failed);
  const restore = () =>
    call('PATCH /api/modules/{id}', { id: module.id, body: { deleted: false } }).then(refresh, failed);
  const remove = async () => {
    await call('DELETE /api/modules/{id}', { id: module.id });
    await refresh();
    close();
    toast(`“${module.name}” is out of the library. What is laid with it stays.`, {
      action: { label: 'Bring it back', onClick: () => void restore() },
    });
  };
  const roles = [...new Set(module.shapes.map((s) => s.role))];
  return (
    <aside
      aria-label={module.name}
      className="hair flex w-[340px] shrink-0 flex-col overflow-auto border-l bg-base-100"
    >
      <header className="hair flex h-10 shrink-0 items-center gap-1 border-b px-3">
        <TextField
          label="Name"
          hidden
          value={module.name}
          onChange={(name) => void rename(name)}
          className="font-semibold"
        />
        <a
          className="tool"
          title="Save it as SVG, true to size"
          aria-label="Save as SVG"
          href={urlOf('GET /api/modules/{id}/file', { id: module.id })}
          download
        >
          <Download size={14} />
        </a>
        <button
          type="button"
          className="tool"
          title="Take it out of the library"
          aria-label="Take it out of the library"
          onClick={() => void remove().catch(failed)}
        >
          <Trash2 size={14} />
        </button>
        <button type="button" className="tool" aria-label="Close" onClick={close}>
          <X size={14} />
        </button>
      </header>
      <div className="space-y-3 p-3">
        <div className="aspect-square w-full">
          <BondDrawing layout={layOwn(module)} joint={own.preset.joint} />
        </div>
        <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
          <dt className="quiet">Repeats every</dt>
          <dd className="num">
            {formatLength(Math.hypot(...module.right), unit)} × {formatLength(Math.hypot(...module.up), unit)}
          </dd>
          <dt className="quiet">Shapes</dt>
          <dd>
            <span className="num">{module.shapes.length}</span>{' '}
            {module.as === 'pieces' ? 'pieces, joints as drawn' : 'cells, joints taken from them'}
          </dd>
          <dt className="quiet">Roles</dt>
          <dd>{roles.join(', ')}</dd>
          <dt className="quiet">Laid in</dt>
          <dd>
            {usedIn.length ? (
              <ul>
                {usedIn.map((p) => (
                  <li key={p.id}>
                    {p.id === here ? 'this project' : p.name}:{' '}
                    <span className="num">
                      {p.surfaces} {p.surfaces === 1 ? 'surface' : 'surfaces'}
                    </span>
                  </li>
                ))}
              </ul>
            ) : (
              'nothing yet: pick a surface in the studio and choose it among the layouts'
            )}
          </dd>
        </dl>
      </div>
    </aside>
  );
}
