import { describe, expect, it } from 'vitest';
import { holidaysIn } from './holidays.ts';

const calendar = (...events: string[][]) =>
  [
    ...['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//A town//Days off//EN'],
    ...events.flatMap((lines, k) => ['BEGIN:VEVENT', `UID:${k}`, ...lines, 'END:VEVENT']),
    'END:VCALENDAR',
  ].join('\r\n');
const span = { first: '2026-12-01', end: '2029-01-01' };

describe('days off in a calendar file', () => {
  it('are its whole days, each day of several, each year of what repeats', () => {
    const read = holidaysIn(
      calendar(
        [
          'DTSTART;VALUE=DATE:20261225',
          'DTEND;VALUE=DATE:20261227',
          'SUMMARY:Christmas\\, both days',
        ],
        ['DTSTART;VALUE=DATE:20200517', 'RRULE:FREQ=YEARLY', 'SUMMARY:Constitution Day'],
        [
          ...['DTSTART;VALUE=DATE:20270101', 'RRULE:FREQ=YEARLY;COUNT=3', 'SUMMARY:New Year'],
          'EXDATE;VALUE=DATE:20280101',
        ],
        ['DTSTART;VALUE=DATE:20270402', 'SUMMARY:Off', 'STATUS:CANCELLED'],
        ['DTSTART;VALUE=DATE:20250402', 'SUMMARY:Over'],
      ),
      span,
    );
    expect(read).toEqual({
      aside: 0,
      holidays: [
        { date: '2026-12-25', name: 'Christmas, both days' },
        { date: '2026-12-26', name: 'Christmas, both days' },
        { date: '2027-01-01', name: 'New Year' },
        { date: '2027-05-17', name: 'Constitution Day' },
        { date: '2028-05-17', name: 'Constitution Day' },
      ],
    });
  });

  it('leave aside what is no whole day, too long, or repeats in a way that is not understood', () => {
    const read = holidaysIn(
      calendar(
        ['DTSTART:20261224T130000Z', 'DTEND:20261224T160000Z', 'SUMMARY:Half a day'],
        ['DTSTART;VALUE=DATE:20261201', 'DTEND;VALUE=DATE:20271201', 'SUMMARY:A year'],
        ['DTSTART;VALUE=DATE:20261201', 'RRULE:FREQ=SECONDLY', 'SUMMARY:Always'],
        ['DTSTART;VALUE=DATE:20261231', 'SUMMARY:'],
      ),
      span,
    );
    expect(read).toEqual({ aside: 3, holidays: [{ date: '2026-12-31', name: 'Holiday' }] });
  });

  it('are none of what is no calendar, and of one without end', () => {
    expect(() => holidaysIn('hello', span)).toThrow('no iCalendar');
    expect(() => holidaysIn('BEGIN:VCALENDAR\n'.repeat(200_000), span)).toThrow();
  });

  it('hold nobody up, whatever repeats', () => {
    const daily = Array.from({ length: 20 }, (_, k) => [
      ...['DTSTART;VALUE=DATE:19000101', 'RRULE:FREQ=DAILY', `SUMMARY:Day ${k}`],
    ]);
    expect(holidaysIn(calendar(...daily), span).holidays).toHaveLength(762);
  });
});
