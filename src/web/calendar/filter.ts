import type { LayerItem } from '../../contract/calendar.ts';
import type { CalendarItem } from '../../contract/eventDetail.ts';
import type { Fitting } from '../grid/index.ts';

/** What of my calendar is wanted; each part empty for all. Kept in the address. */
export interface Filter {
  q: string;
  category: string;
  organizer: string;
  reply: string;
  repeats: string;
  kind: string;
}

export const FILTER_KEYS = ['q', 'category', 'organizer', 'reply', 'repeats', 'kind'] as const;

export const readFilter = (params: URLSearchParams): Filter =>
  Object.fromEntries(FILTER_KEYS.map((key) => [key, params.get(key) ?? ''])) as unknown as Filter;

export const isFiltering = (filter: Filter): boolean =>
  FILTER_KEYS.some((key) => filter[key] !== '');

/** What an item of mine is: a meeting with others, something of my own, a booking, or time away. */
export function kindOf(item: CalendarItem): 'meeting' | 'own' | 'booking' | 'away' {
  if (item.occupancy === 'away') return 'away';
  if (item.attendeeCount > 1) return 'meeting';
  return item.resources.length > 0 ? 'booking' : 'own';
}

/** Whether an item fits what is wanted, as far as the item itself can say. */
export function fits(item: CalendarItem, filter: Filter): boolean {
  const words = filter.q.toLowerCase().split(/\s+/).filter(Boolean);
  const text = [item.title, item.place, item.organizer, ...item.resources].join(' ').toLowerCase();
  return (
    words.every((word) => text.includes(word)) &&
    (!filter.category || item.categoryId === Number(filter.category)) &&
    (!filter.organizer || (item.standing === 'organizer') === (filter.organizer === 'me')) &&
    (!filter.reply || item.standing === filter.reply) &&
    (!filter.repeats || (item.recurrenceId !== null) === (filter.repeats === 'yes')) &&
    (!filter.kind || kindOf(item) === filter.kind)
  );
}

/**
 * Whether something of somebody else's is among what is wanted. What is mine to say (category, reply,
 * organized by me) it never is; what is not shared cannot be told.
 */
export function fitsOfOthers(item: LayerItem, filter: Filter): Fitting {
  if (!isFiltering(filter)) return 'yes';
  if (filter.category || filter.reply || filter.organizer === 'me') return 'no';
  if (item.title === null) return 'unknown';
  const words = filter.q.toLowerCase().split(/\s+/).filter(Boolean);
  const text = `${item.title} ${item.place ?? ''}`.toLowerCase();
  if (!words.every((word) => text.includes(word))) return 'no';
  if (filter.repeats && (item.recurrenceId !== null) !== (filter.repeats === 'yes')) return 'no';
  if (filter.kind === 'away') return item.occupancy === 'away' ? 'yes' : 'no';
  return filter.kind ? 'unknown' : 'yes';
}
