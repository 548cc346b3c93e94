import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { daysBetween } from '../../core/time/wall.ts';
import { answerTo } from '../client/index.ts';

/** How full a day of mine is: minutes taken, and how many things happen. */
export interface DayFullness {
  minutes: number;
  count: number;
}

/**
 * How full each of my days is.
 * @param first the first day, `YYYY-MM-DD`
 * @param days how many days from it on
 * @returns with `of`, which answers null for a day that is not read yet
 */
export function useFullness(first: string, days: number) {
  const query = useQuery({
    ...answerTo('GET /api/calendar/fullness', { query: { first, days } }),
    placeholderData: keepPreviousData,
  });
  const { data } = query;
  const of = useCallback(
    (date: string): DayFullness | null => {
      const k = data ? daysBetween(data.first, date) : -1;
      const minutes = data?.minutes[k];
      return minutes === undefined ? null : { minutes, count: data!.counts[k]! };
    },
    [data],
  );
  return { query, of };
}
