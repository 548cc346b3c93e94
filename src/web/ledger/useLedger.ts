import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query';
import { useCallback } from 'react';
import type {
  LedgerChange,
  LedgerChanged,
  LedgerResponse,
  LedgerViewsResponse,
} from '../../contract/ledger.ts';
import {
  errorText,
  offerUndo,
  readApi,
  sendApi,
  takeBackTogether,
  undoable,
  useShown,
} from '../app/index.ts';
import { tellUser } from '../design/notices.ts';

/** The rows, or the groups, that a query asks for; read a part at a time. */
export function useLedger(query: string) {
  useShown(['resource:all']);
  const pages = useInfiniteQuery({
    queryKey: ['places', 'ledger', query],
    queryFn: ({ pageParam, signal }) =>
      readApi<LedgerResponse>(
        `/ledger?${query}${pageParam ? `&after=${encodeURIComponent(pageParam)}` : ''}`,
        signal,
      ),
    initialPageParam: null as string | null,
    getNextPageParam: (part) => part.next,
    placeholderData: keepPreviousData,
  });
  const { fetchNextPage, hasNextPage, isFetchingNextPage } = pages;
  const more = useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [fetchNextPage, hasNextPage, isFetchingNextPage]);
  return {
    pages,
    first: pages.data?.pages[0] ?? null,
    rows: pages.data?.pages.flatMap((part) => part.rows) ?? [],
    more,
  };
}

/** Changes several bookings at once, with one way to take all of it back. */
export function useChangeLedger(onDone: () => void) {
  const client = useQueryClient();
  const refresh = () => {
    void client.invalidateQueries({ queryKey: ['calendar'] });
    return client.invalidateQueries({ queryKey: ['places'] });
  };
  return useMutation({
    mutationFn: ({ request }: { request: LedgerChange; done: string }) =>
      undoable(sendApi<LedgerChanged>('POST', '/ledger/change', request)),
    onSuccess: ({ undo }, { done }) => {
      void refresh();
      onDone();
      offerUndo(done, async () => {
        await takeBackTogether('/ledger/undo', undo);
        await refresh();
      });
    },
  });
}

export const useLedgerViews = () =>
  useQuery({
    queryKey: ['places', 'ledger-views'],
    queryFn: () => readApi<LedgerViewsResponse>('/ledger/views'),
  });

/** Keeps a view, or leaves one out. */
export function useKeepView() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (asked: { name: string; query: string } | { id: number }) =>
      'id' in asked
        ? sendApi('DELETE', `/ledger/views/${asked.id}`)
        : sendApi('POST', '/ledger/views', asked),
    onSuccess: () => client.invalidateQueries({ queryKey: ['places', 'ledger-views'] }),
    onError: (error) => tellUser(errorText(error)),
  });
}
