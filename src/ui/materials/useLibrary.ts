'use client';

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../shared/api';

/** The library's materials, newest versions. */
export const useLibrary = () =>
  useQuery({ queryKey: ['materials'], queryFn: ({ signal }) => call('GET /api/materials', {}, signal) });

export function useLibraryRefresh() {
  const client = useQueryClient();
  return () => client.invalidateQueries({ queryKey: ['materials'] });
}
