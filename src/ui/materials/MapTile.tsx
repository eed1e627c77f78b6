'use client';

import { useRef } from 'react';
import { toast } from 'sonner';
import { type MapRef, type Material, type Role, ROLE_LABELS, ROLES } from '@/core/material/schema';
import { call, imageUrl, messageOf, sendFiles } from '../shared/api';

/** One map of a material: its picture, its role, and the way to replace or move it. */
export function MapTile({
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
      await sendFiles('POST /api/materials/{id}/maps', { id: m.id, files: [file], fields: { role } });
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
      await call('PATCH /api/materials/{id}', { id: m.id, body: { maps } });
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
        accept=".png,.jpg,.jpeg,.webp,.tif,.tiff,.avif,.tga,.bmp"
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
