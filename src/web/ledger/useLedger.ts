import { keepPreviousData, useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import type { LedgerAsked, LedgerChange } from '../../contract/ledger.ts';
import {
  callApi,
  answerTo,
  errorText,
  offerUndo,
  takeBackTogether,
  undoable,
  useChanged,
  useShown,
} from '../client/index.ts';
import { tellUser } from '../design/notices.ts';

/** The rows, or the groups, that a query asks for; read a part at a time. */
export function useLedger(query: LedgerAsked) {
  useShown(['resource:all']);
  const pages = useInfiniteQuery({
    queryKey: ['GET /api/ledger', query],
    queryFn: ({ pageParam, signal }) =>
      callApi('GET /api/ledger', { query: { ...query, after: pageParam ?? undefined } }, signal),
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
  const changed = useChanged();
  const refresh = () => changed('calendar', 'resource');
  return useMutation({
    mutationFn: ({ request }: { request: LedgerChange; done: string }) =>
      undoable(callApi('POST /api/ledger/change', { body: request })),
    onSuccess: ({ undo }, { done }) => {
      void refresh();
      onDone();
      offerUndo(done, async () => {
        await takeBackTogether(callApi('POST /api/ledger/undo', { body: { changes: undo } }));
        await refresh();
      });
    },
  });
}

/** What its reader changed of several bookings at once, and the way back of each, as long as there is one. */
export function useChangesMade(enabled: boolean) {
  const changed = useChanged();
  const query = useQuery({ ...answerTo('GET /api/ledger/changes'), enabled });
  const takeBack = useMutation({
    mutationFn: (changes: { id: string; version: number }[]) =>
      undoable(takeBackTogether(callApi('POST /api/ledger/undo', { body: { changes } }))),
    onSettled: () => changed('calendar', 'resource'),
  });
  return { query, takeBack };
}

export const useLedgerViews = () => useQuery(answerTo('GET /api/ledger/views'));

/** Keeps a view, or leaves one out. */
export function useKeepView() {
  const changed = useChanged();
  return useMutation({
    mutationFn: (asked: { name: string; query: string } | { id: number }): Promise<unknown> =>
      'id' in asked
        ? callApi('DELETE /api/ledger/views/:id', { params: { id: asked.id } })
        : callApi('POST /api/ledger/views', { body: asked }),
    onSuccess: () => changed('person'),
    onError: (error) => tellUser(errorText(error)),
  });
}
