'use client';

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { Rooms } from '@/core/rooms/inRooms';
import type { Project } from '@/core/project/schema';
import { call } from '../../shared/api';
import { useProject } from '../../project/projectStore';

/** All that rooms and what lies in them depend on; specs do not count. */
function shapeOf({ parts, surfaces, models, northDeg }: Project): string {
  const meshes = Object.values(parts).map(
    (p) => `${models[p.model]?.mesh} ${p.mesh} ${p.name} ${p.flipped?.length ?? 0}`,
  );
  const faces = Object.values(surfaces).flatMap((s) => (s.zone ? [] : [`${s.id} ${s.name} ${s.faces.join()}`]));
  return `${northDeg};${meshes.join()};${faces.join(';')}`;
}

/** The rooms of a project; null until they are found, and where they cannot be. */
export function useRooms(): Rooms | null {
  const project = useProject((s) => s.project)!;
  const pending = useProject((s) => s.pending);
  const { parts, surfaces, models, northDeg, id } = project;
  const shape = useMemo(
    () => shapeOf({ parts, surfaces, models, northDeg } as Project),
    [parts, surfaces, models, northDeg],
  );
  const { data } = useQuery({
    queryKey: ['rooms', id, shape],
    queryFn: ({ signal }) => call('GET /api/projects/{id}/rooms', { id }, signal),
    // the server is asked when it has what is seen here
    enabled: pending === 0,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    gcTime: 60_000,
  });
  return data ?? null;
}
