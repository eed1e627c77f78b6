'use client';

import { toast } from 'sonner';
import type { MaterialChange } from '@/api/materials';
import type { Material } from '@/core/material/schema';
import { MATERIAL_FIELDS } from '@/core/material/settings';
import { useProject } from '../project/projectStore';
import { call, messageOf } from '../shared/api';
import { FieldViews } from '../shared/FieldView';
import { useLibraryRefresh } from './useLibrary';

/** Changes materials of the library; each gets its next version. */
export function useEditMaterials() {
  const refresh = useLibraryRefresh();
  return async (changes: { id: string; values: MaterialChange }[]) => {
    try {
      for (const { id, values } of changes) await call('PATCH /api/materials/{id}', { id, body: values });
    } catch (e) {
      toast.error('Not changed', { description: messageOf(e) });
    }
    await refresh();
  };
}

/** How materials meet light: of one, or of several at once, each keeping what is not touched. */
export function MaterialFields({ materials }: { materials: readonly Material[] }) {
  const edit = useEditMaterials();
  const unit = useProject((s) => s.project?.unit ?? 'mm');
  return (
    <div className="grid grid-cols-3 gap-2">
      <FieldViews
        fields={MATERIAL_FIELDS}
        specs={materials}
        context={undefined}
        unit={unit}
        onEach={(change) =>
          void edit(
            materials.map((m) => {
              const { finish, grain, sampling, twoSided, seamless } = change(m);
              return { id: m.id, values: { finish, grain, sampling, twoSided, seamless } };
            }),
          )
        }
      />
    </div>
  );
}
