import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { Holiday, Layer } from '../../contract/calendar.ts';
import { calendarItems, readApi, useShown } from '../app/index.ts';

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
    queryKey: ['calendar', 'holidays', first, last],
    queryFn: () =>
      readApi<{ holidays: Holiday[] }>(`/calendar/holidays?first=${first}&last=${last}`),
    placeholderData: keepPreviousData,
    staleTime: 3_600_000,
  });
  return useMemo(
    () => new Map((query.data?.holidays ?? []).map((one) => [one.date, one.name])),
    [query.data],
  );
}
