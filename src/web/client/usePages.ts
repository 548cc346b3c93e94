import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import type { GivenTo } from '../../contract/route.ts';
import type { Routes } from '../../contract/routes.ts';
import type { AnswerTo } from './answers.ts';
import { callApi, type Arguments } from './api.ts';

/** Lists of which the next part is asked for by the last entry that is there. */
type ListRoute =
  | 'GET /api/people'
  | 'GET /api/places'
  | 'GET /api/replies'
  | 'GET /api/mailroom'
  | 'GET /api/changes'
  | 'GET /api/administration/people'
  | 'GET /api/administration/log';

/**
 * A long list, read a part at a time.
 * @param query what is asked for
 * @param rowsOf the entries of a part
 */
export function usePages<Name extends ListRoute, Row extends { id: number | string }>(
  name: Name,
  query: Omit<NonNullable<GivenTo<Routes[Name]>['query']>, 'after'>,
  rowsOf: (part: AnswerTo<Name>) => readonly Row[],
  refetchInterval: number | false = false,
) {
  const pages = useInfiniteQuery({
    queryKey: [name, 'pages', query],
    queryFn: ({ pageParam, signal }) => {
      const given = { query: { ...query, after: pageParam ?? undefined } };
      return callApi(name, ...([given, signal] as unknown as [...Arguments<Name>, AbortSignal]));
    },
    initialPageParam: null as number | string | null,
    getNextPageParam: (part: AnswerTo<Name>) => rowsOf(part).at(-1)?.id ?? null,
    placeholderData: keepPreviousData,
    refetchInterval,
  });
  const { fetchNextPage, hasNextPage, isFetchingNextPage } = pages;
  const more = useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [fetchNextPage, hasNextPage, isFetchingNextPage]);
  return {
    query: pages,
    first: pages.data?.pages[0] ?? null,
    rows: pages.data?.pages.flatMap((part) => [...rowsOf(part)]) ?? [],
    parts: pages.data?.pages ?? [],
    more,
  };
}
