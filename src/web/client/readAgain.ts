import {
  useQueryClient,
  type Query,
  type QueryClient,
  type QueryFilters,
} from '@tanstack/react-query';
import type { LiveNotice, LiveSubjectKind } from '../../contract/live.ts';
import { SHOWS, type ReadRoute } from './subjects.ts';

/** Reads again what of this window a notice concerns, also what is just being read. */
export function readAgain(client: QueryClient, notice: LiveNotice): void {
  const filters = concernedBy(notice);
  for (const query of client.getQueryCache().findAll(filters)) readAfterwards(client, query);
  void client.invalidateQueries(filters);
}

/**
 * Reads again what a notice concerns and what was read before an instant.
 * @param before epoch milliseconds
 */
export function readAgainIfBefore(client: QueryClient, notice: LiveNotice, before: number): void {
  const { predicate: concerns = () => true } = concernedBy(notice);
  void client.invalidateQueries({
    predicate: (query) => query.state.dataUpdatedAt < before && concerns(query),
  });
}

/** Whether what is kept shows any of some kinds of subjects. */
const showsAny = ({ queryKey }: Query, kinds: ReadonlySet<string>): boolean =>
  (SHOWS[queryKey[0] as ReadRoute] ?? []).some((kind) => kinds.has(kind));

/** What a notice concerns; `*` is everything. */
const concernedBy = (notice: readonly string[]): QueryFilters => {
  if (notice[0] === '*') return {};
  const kinds = new Set(notice.map((subject) => subject.split(':')[0]!));
  return { predicate: (query) => showsAny(query, kinds) };
};

/** Reads again what shows something of these kinds, since it was changed here. */
export const changed = (client: QueryClient, ...kinds: LiveSubjectKind[]): Promise<void> =>
  client.invalidateQueries(concernedBy(kinds));

/** The same, for whoever changes something later. */
export function useChanged(): (...kinds: LiveSubjectKind[]) => Promise<void> {
  const client = useQueryClient();
  return (...kinds) => changed(client, ...kinds);
}

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
