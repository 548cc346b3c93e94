import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { Found } from '../../contract/search.ts';
import { readApi } from '../app/index.ts';

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

/** The name by which a list knows what was found. */
export const valueOf = (found: Pick<Found, 'kind' | 'id'>): string => `${found.kind} ${found.id}`;

/**
 * Which entry of a list Enter takes: the first of what was found, also when it arrives after the
 * typing, until the arrows choose another.
 */
export function useChosenEntry(found: readonly Found[]): [string, (value: string) => void] {
  const [chosen, setChosen] = useState('');
  const first = found[0] ? valueOf(found[0]) : null;
  useEffect(() => {
    if (first) setChosen(first);
  }, [first]);
  return [chosen, setChosen];
}
