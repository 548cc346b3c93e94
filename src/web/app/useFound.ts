import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { Found } from '../../contract/search.ts';
import { readApi } from './api.ts';

/** People, teams and places whose names begin with what is typed. */
export function useFound(text: string): { found: Found[]; searching: boolean } {
  const q = text.trim();
  const query = useQuery({
    queryKey: ['search', q],
    queryFn: ({ signal }) =>
      readApi<{ found: Found[] }>(`/search?q=${encodeURIComponent(q)}`, signal),
    enabled: q.length > 0,
    placeholderData: keepPreviousData,
  });
  return { found: q ? (query.data?.found ?? []) : [], searching: query.isFetching };
}
