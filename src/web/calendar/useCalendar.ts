import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { Layer } from '../../contract/calendar.ts';
import { answerTo, calendarItems, useShown } from '../client/index.ts';

/** What stands in my calendar and in the layers shown, over a window of instants. */
export function useCalendar(
  from: number,
  to: number,
  layers: readonly Layer[],
  { enabled = true, declined = false },
) {
  const ids = [...new Set(layers.flatMap((layer) => layer.subjectIds))].sort((a, b) => a - b);
  useShown(
    layers.flatMap(({ kind, subjectIds }) =>
      subjectIds.map((id) => `${kind === 'resource' ? 'resource' : 'calendar'}:${id}`),
    ),
  );
  return useQuery({
    ...calendarItems({ start: from, end: to }, ids, declined),
    placeholderData: keepPreviousData,
    enabled,
  });
}

/** Public holidays of my site by date. */
export function useHolidays(first: string, last: string): ReadonlyMap<string, string> {
  const query = useQuery({
    ...answerTo('GET /api/calendar/holidays', { query: { first, last } }),
    placeholderData: keepPreviousData,
    staleTime: 3_600_000,
  });
  return useMemo(
    () => new Map((query.data?.holidays ?? []).map((one) => [one.date, one.name])),
    [query.data],
  );
}
