import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { answerTo } from '../client/index.ts';

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
