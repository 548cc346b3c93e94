import { STATE_WORDS } from '../../core/booking/presence.ts';
import type { LedgerColumn, LedgerGroup, LedgerRow, LedgerState } from '../../contract/ledger.ts';
import { counted } from '../../core/counted.ts';
import { listNames } from '../../core/planner/words.ts';
import { formatDay, formatLength, formatSpan } from '../../core/time/format.ts';
import { DAY, MINUTE, type Interval } from '../../core/time/interval.ts';
import { KIND_NAMES } from '../places/index.ts';

/** How columns are headed. */
export const HEADINGS: Record<LedgerColumn, string> = {
  start: 'When',
  length: 'How long',
  place: 'Place',
  kind: 'Kind',
  site: 'Site',
  floor: 'Floor',
  title: 'What for',
  holder: 'Booked by',
  state: 'State',
};

export const GROUP_WORDS: Record<LedgerGroup, string> = {
  day: 'day',
  week: 'week',
  length: 'length',
  place: 'place',
  kind: 'kind',
  site: 'site',
  floor: 'floor',
  title: 'what for',
  holder: 'who booked',
  state: 'state',
};

/** What a group is called. */
export function groupWords(group: LedgerGroup, key: string, label: string | null): string {
  if (label === null) return 'not shown to you';
  switch (group) {
    case 'day':
      return dayWords(key);
    case 'week':
      return `Week of ${dayWords(key)}`;
    case 'length':
      return formatLength(Number(key) * MINUTE);
    case 'kind':
      return KIND_NAMES[key as keyof typeof KIND_NAMES];
    case 'state':
      return STATE_WORDS[key as LedgerState];
    default:
      return label || 'without a title';
  }
}

const dayWords = (date: string) =>
  `${formatDay(Date.parse(`${date}T12:00Z`), 'UTC')} ${date.slice(0, 4)}`;

/** Hours of bookings, as one would say them: `1,240 h`. */
export const hoursWords = (minutes: number): string =>
  minutes < 60 ? `${minutes} min` : `${Math.round(minutes / 60).toLocaleString('en')} h`;

export const totalWords = (total: number, isMore: boolean): string =>
  isMore ? `more than ${total.toLocaleString('en')} bookings` : counted(total, 'booking');

/** Times of a row; what is longer than a day says both days. */
export const whenWords = (span: Interval, zone: string, clock: '24' | '12'): string =>
  span.end - span.start > DAY
    ? `${formatDay(span.start, zone)} – ${formatDay(span.end, zone)}`
    : formatSpan(span, zone, clock);

/** Who hears of a change of some bookings, besides whoever makes it. */
export function toldWords(rows: readonly LedgerRow[], myId: number): string {
  const holders = new Map(
    rows.flatMap((row): [number, string][] =>
      row.holderId !== null && row.holderId !== myId ? [[row.holderId, row.holder ?? '']] : [],
    ),
  );
  const meetings = new Map(
    rows.flatMap((row): [string, number][] =>
      row.eventId !== null && (row.others ?? 0) > 0 ? [[row.eventId, row.others!]] : [],
    ),
  );
  const people = [...meetings.values()].reduce((sum, one) => sum + one, 0);
  const names = [...holders.values()];
  const some =
    names.length > 4 ? [...names.slice(0, 3), counted(names.length - 3, 'other')] : names;
  const parts = [
    ...(some.length > 0 ? [listNames(some)] : []),
    ...(meetings.size > 0
      ? [
          `those asked to ${counted(meetings.size, 'meeting')}, ${counted(people, 'person', 'people')}`,
        ]
      : []),
  ];
  return parts.length > 0 ? `Told by letter: ${parts.join('; ')}.` : 'Nobody else is told.';
}
