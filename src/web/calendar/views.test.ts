import { describe, expect, it } from 'vitest';
import type { CalendarResponse, Layer, LayerItem } from '../../contract/calendar.ts';
import type { CalendarItem } from '../../contract/eventDetail.ts';
import { fits, fitsOfOthers, kindOf, readFilter } from './filter.ts';
import { lanesOf, nameOf, overlaid } from '../grid/gridItems.ts';
import { periodTitle, readPeriod, stepFrom } from './period.ts';
import { parseDay } from '../time/typedDay.ts';
import { parseShifts } from '../time/index.ts';

const habits = { firstWeekday: 1, workingDays: [1, 2, 3, 4], today: '2026-11-24', phone: false };
const view = (address: string, changes = {}) =>
  readPeriod(new URLSearchParams(address), { ...habits, ...changes });

describe('the address of a view', () => {
  it.each([
    ['', 'week', '2026-11-23', 7],
    ['view=day&date=2027-03-28', 'day', '2027-03-28', 1],
    ['view=days&days=14&date=2027-01-30', 'days', '2027-01-30', 14],
    ['view=days&days=99', 'days', '2026-11-24', 3],
    ['view=work', 'work', '2026-11-23', 4],
    ['view=month&date=2027-02-14', 'month', '2027-02-01', 28],
    ['view=month', 'month', '2026-10-26', 42],
    ['view=year&date=2028-02-29', 'year', '2028-01-01', 366],
    ['view=agenda', 'agenda', '2026-11-24', 28],
    ['view=hologram&date=2026-02-31', 'week', '2026-11-23', 7],
  ])('%s', (address, kind, first, days) => {
    const period = view(address);
    expect([period.kind, period.dates[0], period.dates.length]).toEqual([kind, first, days]);
  });

  it('follows the first day of the week, and a phone', () => {
    expect(view('', { firstWeekday: 7 }).dates[0]).toBe('2026-11-22');
    expect(view('', { phone: true }).dates).toHaveLength(3);
  });

  it.each([
    ['view=day', '2026-11-25'],
    ['view=days&days=5', '2026-11-29'],
    ['view=week', '2026-12-01'],
    ['view=month&date=2027-01-31', '2027-02-01'],
    ['view=year', '2027-11-24'],
  ])('moves on by its own period: %s', (address, next) => {
    expect(stepFrom(view(address), 1)).toBe(next);
    expect(stepFrom(view(address.replace(/&date=.*/, '') + `&date=${next}`), -1).slice(0, 7)).toBe(
      view(address).date.slice(0, 7),
    );
  });

  it('has a heading', () => {
    expect(periodTitle(view(''), habits.today)).toBe('Mon 23 – Sun 29 Nov');
    expect(periodTitle(view(''), '2027-01-02')).toBe('Mon 23 – Sun 29 Nov 2026');
    expect(periodTitle(view('view=week&date=2026-12-30'), habits.today)).toBe(
      'Mon 28 Dec – Sun 3 Jan 2027',
    );
    expect(periodTitle(view('view=month'), habits.today)).toBe('November 2026');
  });
});

describe('a day that is typed', () => {
  it.each([
    ['2027-02-10', '2027-02-10'],
    ['10.2.', '2027-02-10'],
    ['26.11.', '2026-11-26'],
    ['24.12.2025', '2025-12-24'],
    ['3 March', '2027-03-03'],
    ['tomorrow', '2026-11-25'],
    ['monday', '2026-11-30'],
    ['in 2 weeks', '2026-12-08'],
    ['31.2.', null],
    ['soonish', null],
    ['', null],
  ])('%s', async (text, date) =>
    expect((await parseDay(text, '2026-11-24', 'day-first'))?.date ?? null).toBe(date),
  );
});

describe('working hours that are typed', () => {
  it.each([
    ['8–16', [{ start: 480, end: 960 }]],
    [
      '8:00–12:00, 13 - 16.30',
      [
        { start: 480, end: 720 },
        { start: 780, end: 990 },
      ],
    ],
    ['20:00–04:00', [{ start: 1200, end: 1680 }]],
    ['', []],
    ['8–12, 11–16', null],
    ['early', null],
  ])('%s', (text, shifts) => expect(parseShifts(text)).toEqual(shifts));
});

const item = (occurrenceId: number, changes: Partial<CalendarItem> = {}): CalendarItem => ({
  eventId: `e${occurrenceId}`,
  occurrenceId,
  recurrenceId: null,
  version: 1,
  draft: false,
  title: 'Kelp review',
  place: '',
  start: occurrenceId,
  end: occurrenceId + 10,
  allDay: false,
  zone: 'Europe/Oslo',
  endZone: null,
  occupancy: 'busy',
  standing: 'organizer',
  organizer: 'Ines Aldabe',
  attendeeCount: 1,
  resources: [],
  categoryId: null,
  ...changes,
});
const other = (occurrenceId: number, title: string | null): LayerItem => ({
  eventId: title && `e${occurrenceId}`,
  occurrenceId,
  recurrenceId: null,
  title,
  place: title && '',
  start: occurrenceId,
  end: occurrenceId + 10,
  allDay: false,
  occupancy: 'busy',
});

const layer: Layer = {
  id: 1,
  kind: 'team',
  name: 'Sea Ice',
  colour: 'lake',
  shown: true,
  subjectIds: [5, 6],
};
const answer: CalendarResponse = {
  items: [item(1), item(2)],
  subjects: [
    {
      id: 5,
      knowledge: 'known',
      reason: 'shares only busy times',
      items: [other(2, null), other(3, null)],
    },
    { id: 6, knowledge: 'known', reason: null, items: [other(3, 'Ice core'), other(4, 'Dive')] },
  ],
};

describe('layers', () => {
  const lanes = lanesOf(answer, [layer], () => true);

  it('show what several of a team take part in once, with the title if one of them shares it', () => {
    expect(lanes[1]!.items.map(nameOf)).toEqual(['Sea: taken', 'Ice core', 'Dive']);
    expect(lanes[1]!.items[0]!.reason).toBe('shares only busy times');
  });

  it('over mine, mark what I take part in instead of showing it twice', () => {
    const over = overlaid(lanes);
    expect(over.map((one) => one.occurrenceId)).toEqual([1, 2, 3, 4]);
    expect(over[1]).toMatchObject({ mine: { title: 'Kelp review' }, also: ['lake'] });
  });

  it('say that nothing is known, which is not free', () => {
    const silent = {
      ...answer,
      subjects: [{ id: 5, knowledge: 'none' as const, reason: null, items: [] }],
    };
    const [, lane] = lanesOf(silent, [{ ...layer, subjectIds: [5] }], () => true);
    expect(lane!.unknown).toBe('Sea Ice shares nothing with you');
  });
});

describe('the filter', () => {
  const filter = (text: string) => readFilter(new URLSearchParams(text));
  it.each([
    ['q=kelp rev', true],
    ['q=kelp+gannet', false],
    ['organizer=me', true],
    ['organizer=others', false],
    ['repeats=yes', false],
    ['kind=own', true],
    ['category=3', false],
  ])('%s', (text, fit) => expect(fits(item(1), filter(text))).toBe(fit));

  it.each([
    ['q=ice', 'Ice core', 'yes'],
    ['q=kelp', 'Ice core', 'no'],
    ['q=ice', null, 'unknown'],
    ['category=3', 'Ice core', 'no'],
    ['reply=accepted', 'Ice core', 'no'],
    ['organizer=me', null, 'no'],
    ['repeats=yes', 'Ice core', 'no'],
    ['repeats=no', 'Ice core', 'yes'],
    ['kind=away', 'Ice core', 'no'],
    ['kind=meeting', 'Ice core', 'unknown'],
    ['', null, 'yes'],
  ])('of what is somebody else’s, %s of %s: %s', (text, title, fit) =>
    expect(fitsOfOthers(other(4, title), filter(text))).toBe(fit),
  );

  it('leaves out of a layer what does not match, and makes faint what cannot be judged', () => {
    const asked = filter('q=ice');
    const [, lane] = lanesOf(
      answer,
      [layer],
      (one) => fits(one, asked),
      (one) => fitsOfOthers(one, asked),
    );
    expect(lane!.items.map((one) => [nameOf(one), one.faint])).toEqual([
      ['Sea: taken', true],
      ['Ice core', false],
    ]);
  });

  it('knows the kinds', () => {
    expect(kindOf(item(1, { attendeeCount: 3 }))).toBe('meeting');
    expect(kindOf(item(1, { resources: ['Gannet'] }))).toBe('booking');
    expect(kindOf(item(1, { occupancy: 'away', attendeeCount: 2 }))).toBe('away');
    expect(fits(item(1, { standing: 'tentative' }), filter('reply=tentative'))).toBe(true);
  });
});
