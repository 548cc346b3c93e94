import { useQuery } from '@tanstack/react-query';
import type { CalendarItem } from '../../contract/eventDetail.ts';
import { addDays, dateAt, startOfDay } from '../../core/time/wall.ts';
import { calendarItems, useMe, useNow } from '../client/index.ts';

/** My calendar of today and tomorrow. */
export function useDays() {
  const me = useMe();
  const now = useNow();
  const date = dateAt(now, me.zone);
  const from = startOfDay(date, me.zone);
  const tomorrow = startOfDay(addDays(date, 1), me.zone);
  const to = startOfDay(addDays(date, 2), me.zone);
  const query = useQuery(calendarItems({ start: from, end: to }, []));
  const items = query.data?.items ?? [];
  const today = { start: from, end: tomorrow };
  return { query, date, today, tomorrow, items };
}

/** Whether an item takes its time, so that something else cannot be on. */
export const takesTime = (item: CalendarItem): boolean =>
  !item.allDay && !item.draft && item.occupancy !== 'free' && item.standing !== 'declined';

export const itemPlace = (item: CalendarItem): string =>
  [item.place, ...item.resources].filter(Boolean).join(', ');

/** The address that opens an item in the calendar. */
export const itemAddress = (item: CalendarItem, zone: string): string =>
  `/calendar?date=${dateAt(item.start, zone)}&event=${item.eventId}${item.recurrenceId ? `&on=${item.recurrenceId}` : ''}`;
