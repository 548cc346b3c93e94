import { describe, expect, it } from 'vitest';
import { wallTimeAt } from '../time/wall.ts';
import { expandSeries } from './expand.ts';

const year = { start: Date.UTC(2026, 9, 1), end: Date.UTC(2027, 4, 1) };

describe('a series', () => {
  it('keeps its local hour across clock changes, and moves for others', () => {
    const weekly = expandSeries(
      {
        startsAt: '2026-10-13T09:00',
        zone: 'Europe/Oslo',
        lengthMinutes: 60,
        rule: 'FREQ=WEEKLY;BYDAY=TU',
      },
      year,
    );
    expect(new Set(weekly.map((one) => wallTimeAt(one.start, 'Europe/Oslo').slice(11)))).toEqual(
      new Set(['09:00']),
    );
    // Hobart changes on other days, so three different hours come up there over the winter.
    expect(
      new Set(weekly.map((one) => wallTimeAt(one.start, 'Australia/Hobart').slice(11))),
    ).toEqual(new Set(['18:00', '19:00', '17:00']));
  });

  it('leaves out what is excepted and what a clock change skips', () => {
    const daily = expandSeries(
      {
        startsAt: '2027-03-26T02:30',
        zone: 'Europe/Oslo',
        lengthMinutes: 30,
        rule: 'FREQ=DAILY;COUNT=4',
        except: ['2027-03-27T02:30'],
      },
      year,
    );
    expect(daily.map((one) => one.recurrenceId)).toEqual([
      '2027-03-26T02:30',
      '2027-03-29T02:30',
      '2027-03-30T02:30',
    ]);
  });

  it('stays inside the window, whose end does not belong to it', () => {
    const window = { start: Date.UTC(2026, 10, 3, 8), end: Date.UTC(2026, 10, 10, 8) };
    const found = expandSeries(
      { startsAt: '2026-10-13T09:00', zone: 'Europe/Oslo', lengthMinutes: 60, rule: 'FREQ=WEEKLY' },
      window,
    );
    expect(found.map((one) => one.recurrenceId)).toEqual(['2026-11-03T09:00']);
  });

  it('refuses a rule that is none', () => {
    expect(() =>
      expandSeries(
        { startsAt: '2026-10-13T09:00', zone: 'UTC', lengthMinutes: 5, rule: 'FREQ=SOMETIMES' },
        year,
      ),
    ).toThrow();
  });
});
