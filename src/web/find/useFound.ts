import { keepPreviousData, queryOptions, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { Found } from '../../contract/search.ts';
import { answerTo } from '../client/index.ts';

const search = (q: string) =>
  queryOptions({
    ...answerTo('GET /api/search', { query: { q } }),
  });

interface Finding {
  found: Found[];
  searching: boolean;
  /** Whether what is found is not yet for what is typed, but for less of it. */
  isBehind: boolean;
  /** What is found for what is typed, once it is there. */
  whenFound: () => Promise<Found[]>;
}

/** People, teams and places whose names begin with what is typed. */
export function useFound(text: string): Finding {
  const q = text.trim();
  const client = useQueryClient();
  const query = useQuery({
    ...search(q),
    enabled: q.length > 0,
    placeholderData: keepPreviousData,
  });
  return {
    found: q ? (query.data?.found ?? []) : [],
    searching: query.isFetching,
    isBehind: q !== '' && (query.isPlaceholderData || query.isLoading),
    whenFound: async () => (await client.fetchQuery(search(q))).found,
  };
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
