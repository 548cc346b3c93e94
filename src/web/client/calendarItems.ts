import { queryOptions } from '@tanstack/react-query';
import type { CalendarResponse } from '../../contract/calendar.ts';
import type { Interval } from '../../core/time/interval.ts';
import { callApi } from './api.ts';

/** What stands in calendars, and over which window it was read: of other days it says nothing. */
type ReadCalendar = CalendarResponse & { read: Interval };

/**
 * What stands in my calendar and in those of some people and places, over a window.
 * @param subjectIds whose besides mine, in ascending order
 * @param declined whether what I declined is wanted too, which stands in nobody's calendar
 */
export function calendarItems(
  { start, end }: Interval,
  subjectIds: readonly number[],
  declined = false,
) {
  const ids = subjectIds.join();
  return queryOptions({
    queryKey: ['GET /api/calendar', start, end, ids, declined],
    queryFn: async ({ signal }): Promise<ReadCalendar> => {
      const query = {
        from: start,
        to: end,
        ...(ids && { subjects: ids }),
        ...(declined && { declined: 'yes' as const }),
      };
      return { ...(await callApi('GET /api/calendar', { query }, signal)), read: { start, end } };
    },
  });
}
