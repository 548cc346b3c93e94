import type { Query, QueryClient, QueryFilters } from '@tanstack/react-query';
import type { LiveNotice } from '../../contract/live.ts';

/** What is read again when something changed, by the kind of what changed. */
const READ_AGAIN: Record<string, string[][]> = {
  calendar: [['calendar'], ['invitations'], ['replies'], ['bookings']],
  resource: [
    ['places'],
    ['calendar', 'items'],
    ['calendar', 'busy'],
    ['calendar', 'rooms'],
    ['bookings'],
  ],
  meeting: [['calendar', 'event'], ['invitations'], ['replies'], ['comments']],
  person: [['waiting'], ['session'], ['calendar'], ['line-ups'], ['places', 'board']],
  reminders: [['reminders']],
  notifications: [['notifications'], ['bookings']],
  mailroom: [['mailroom']],
};

/** Reads again what of this window a notice concerns, also what is just being read. */
export function readAgain(client: QueryClient, notice: LiveNotice): void {
  for (const filters of filtersOf(notice)) {
    for (const query of client.getQueryCache().findAll(filters)) readAfterwards(client, query);
    void client.invalidateQueries(filters);
  }
}

/**
 * Reads again what a notice concerns and what was read before an instant.
 * @param before epoch milliseconds
 */
export function readAgainIfBefore(client: QueryClient, notice: LiveNotice, before: number): void {
  const predicate = ({ state }: Query) => state.dataUpdatedAt < before;
  for (const filters of filtersOf(notice)) {
    void client.invalidateQueries({ ...filters, predicate });
  }
}

/** `*` is everything. */
const filtersOf = (notice: LiveNotice): QueryFilters[] =>
  notice[0] === '*'
    ? [{}]
    : [...new Set(notice.map((subject) => subject.split(':')[0]!))].flatMap((kind) =>
        (READ_AGAIN[kind] ?? []).map((queryKey) => ({ queryKey })),
      );

const afterwards = new WeakSet<Query>();

/**
 * What is read for the first time just now may be from before the change, and is not begun anew when it
 * is said to be out of date: that is said once more when it is there.
 */
function readAfterwards(client: QueryClient, query: Query): void {
  const { data, fetchStatus } = query.state;
  if (data !== undefined || fetchStatus === 'idle' || afterwards.has(query)) return;
  afterwards.add(query);
  const end = client.getQueryCache().subscribe((event) => {
    if (event.query !== query) return;
    const isRead = event.type === 'updated' && query.state.fetchStatus === 'idle';
    if (!isRead && event.type !== 'removed') return;
    end();
    afterwards.delete(query);
    void client.invalidateQueries({ queryKey: query.queryKey, exact: true });
  });
}
