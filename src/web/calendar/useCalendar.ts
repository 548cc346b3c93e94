import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { Layer } from '../../contract/calendar.ts';
import { useMemo } from 'react';
import { calendarItems, useDrawn, useShown } from '../client/index.ts';
import { occurrenceName, type ShownAt } from '../meetings/index.ts';

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
  const query = useQuery({
    ...calendarItems({ start: from, end: to }, ids, declined),
    placeholderData: keepPreviousData,
    enabled,
  });
  const drawnAt = useDrawn<ShownAt>();
  const { data: read } = query;
  const data = useMemo(
    () =>
      read && {
        ...read,
        items: read.items.map((item) => {
          const as = drawnAt(occurrenceName(item));
          return as ? { ...item, ...as } : item;
        }),
      },
    [read, drawnAt],
  );
  return { ...query, data };
}
