import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { readApi } from './api.ts';

/**
 * A long list, read a part at a time.
 * @param key under which it is kept, without the query
 * @param query what is asked for, as the address says it
 * @param rowsOf the entries of a part
 */
export function usePages<Part, Row extends { id: number | string }>(
  key: string,
  query: URLSearchParams,
  rowsOf: (part: Part) => readonly Row[],
  refetchInterval: number | false = false,
) {
  const asked = query.toString();
  const pages = useInfiniteQuery({
    queryKey: [key, 'pages', asked],
    queryFn: ({ pageParam, signal }) => {
      const params = new URLSearchParams(asked);
      if (pageParam !== null) params.set('after', String(pageParam));
      const written = params.toString();
      return readApi<Part>(`/${key}${written && `?${written}`}`, signal);
    },
    initialPageParam: null as number | string | null,
    getNextPageParam: (part) => rowsOf(part).at(-1)?.id ?? null,
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
