import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { holidayInWords } from '../../core/time/dayOffWords.ts';
import { answerTo, useMe } from '../client/index.ts';

/** A day off in words, and whether all of it is. */
export interface DayOff {
  words: string;
  isWhole: boolean;
}

/** Public holidays and other days off of my site by date. */
export function useHolidays(first: string, last: string): ReadonlyMap<string, DayOff> {
  const { clock } = useMe();
  const query = useQuery({
    ...answerTo('GET /api/calendar/holidays', { query: { first, last } }),
    placeholderData: keepPreviousData,
    staleTime: 3_600_000,
  });
  return useMemo(
    () =>
      new Map(
        (query.data?.holidays ?? []).map((one) => [
          one.date,
          { words: holidayInWords(one, clock), isWhole: one.part === undefined },
        ]),
      ),
    [query.data, clock],
  );
}
