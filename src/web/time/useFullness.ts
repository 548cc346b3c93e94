import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { FullnessResponse } from '../../contract/calendar.ts';
import { readApi } from '../app/index.ts';

/**
 * How full each of my days is.
 * @param first the first day, `YYYY-MM-DD`
 * @param days how many days from it on
 */
export function useFullness(first: string, days: number) {
  return useQuery({
    queryKey: ['calendar', 'fullness', first, days],
    queryFn: () => readApi<FullnessResponse>(`/calendar/fullness?first=${first}&days=${days}`),
    placeholderData: keepPreviousData,
  });
}
