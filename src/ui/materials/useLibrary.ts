'use client';

import { useQuery, useQueryClient } from '@tanstack/react-query';
import type { Material } from '@/core/material/schema';
import { api } from '../shared/api';

/** The library's materials, newest versions. */
export const useLibrary = () =>
  useQuery({ queryKey: ['materials'], queryFn: ({ signal }) => api.get<Material[]>('/api/materials', signal) });

export function useLibraryRefresh() {
  const client = useQueryClient();
  return () => client.invalidateQueries({ queryKey: ['materials'] });
}
