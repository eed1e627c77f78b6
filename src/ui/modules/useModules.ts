'use client';

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../shared/api';

/** Modules of one's own in the library, and where each is laid. */
export const useModules = () =>
  useQuery({ queryKey: ['modules'], queryFn: ({ signal }) => call('GET /api/modules', {}, signal) });

export function useModulesRefresh() {
  const client = useQueryClient();
  return () => client.invalidateQueries({ queryKey: ['modules'] });
}
