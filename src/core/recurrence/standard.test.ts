import { describe, expect, it } from 'vitest';
import { addDays } from '../time/wall.ts';
import { expandSeries } from './expand.ts';

/**
 * The recurrence examples of RFC 5545 section 3.8.5.3 that repeat by days, weeks, months or years.
 * Unless said otherwise they begin on Tuesday 2 September 1997 at 09:00 in New York.
 */
const ZONE = 'America/New_York';

function datesOf(rule: string, start = '1997-09-02', most = 400, except: string[] = []): string[] {
  const found = expandSeries(
    {
      startsAt: `${start}T09:00`,
      zone: ZONE,
      lengthMinutes: 60,
      rule,
      except: except.map((date) => `${date}T09:00`),
    },
    { start: Date.UTC(1997, 0, 1), end: Date.UTC(2013, 0, 1) },
  );
  expect(found.every((one) => one.recurrenceId.endsWith('T09:00'))).toBe(true);
  return found.slice(0, most).map((one) => one.recurrenceId.slice(0, 10));
}

const every = (first: string, step: number, count: number) =>
  Array.from({ length: count }, (_, k) => addDays(first, k * step));

/** `1997 9 2 4` as days of September 1997. */
const days = (...lines: string[]) =>
  lines.flatMap((line) => {
    const [year, month, ...dates] = line.split(' ');
    return dates.map((day) => `${year}-${month!.padStart(2, '0')}-${day.padStart(2, '0')}`);
  });

describe('RFC 5545 examples', () => {
  it('daily for 10 occurrences', () =>
    expect(datesOf('FREQ=DAILY;COUNT=10')).toEqual(every('1997-09-02', 1, 10)));

  it('daily until December 24, 1997, across the change of the clock', () => {
    const dates = datesOf('FREQ=DAILY;UNTIL=19971224T000000Z');
    expect(dates).toEqual(every('1997-09-02', 1, 113));
    expect(dates.at(-1)).toBe('1997-12-23');
  });

  it('every other day, without an end', () =>
    expect(datesOf('FREQ=DAILY;INTERVAL=2', undefined, 47)).toEqual(every('1997-09-02', 2, 47)));

  it('every 10 days, 5 occurrences', () =>
    expect(datesOf('FREQ=DAILY;INTERVAL=10;COUNT=5')).toEqual(every('1997-09-02', 10, 5)));

  it.each([
    'FREQ=YEARLY;UNTIL=20000131T140000Z;BYMONTH=1;BYDAY=SU,MO,TU,WE,TH,FR,SA',
    'FREQ=DAILY;UNTIL=20000131T140000Z;BYMONTH=1',
  ])('every day in January, for three years: %s', (rule) =>
    expect(datesOf(rule, '1998-01-01')).toEqual([
      ...every('1998-01-01', 1, 31),
      ...every('1999-01-01', 1, 31),
      ...every('2000-01-01', 1, 31),
    ]),
  );

  it('weekly for 10 occurrences', () =>
    expect(datesOf('FREQ=WEEKLY;COUNT=10')).toEqual(every('1997-09-02', 7, 10)));

  it('weekly until December 24, 1997', () =>
    expect(datesOf('FREQ=WEEKLY;UNTIL=19971224T000000Z')).toEqual(every('1997-09-02', 7, 17)));

  it('every other week, without an end', () =>
    expect(datesOf('FREQ=WEEKLY;INTERVAL=2;WKST=SU', undefined, 13)).toEqual(
      every('1997-09-02', 14, 13),
    ));

  it.each([
    'FREQ=WEEKLY;UNTIL=19971007T000000Z;WKST=SU;BYDAY=TU,TH',
    'FREQ=WEEKLY;COUNT=10;WKST=SU;BYDAY=TU,TH',
  ])('Tuesday and Thursday for five weeks: %s', (rule) =>
    expect(datesOf(rule)).toEqual(days('1997 9 2 4 9 11 16 18 23 25 30', '1997 10 2')),
  );

  it('every other week on Monday, Wednesday and Friday until December 24, 1997', () =>
    expect(
      datesOf('FREQ=WEEKLY;INTERVAL=2;UNTIL=19971224T000000Z;WKST=SU;BYDAY=MO,WE,FR', '1997-09-01'),
    ).toEqual(
      days(
        '1997 9 1 3 5 15 17 19 29',
        '1997 10 1 3 13 15 17 27 29 31',
        '1997 11 10 12 14 24 26 28',
        '1997 12 8 10 12 22',
      ),
    ));

  it('every other week on Tuesday and Thursday, for 8 occurrences', () =>
    expect(datesOf('FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH')).toEqual(
      days('1997 9 2 4 16 18 30', '1997 10 2 14 16'),
    ));

  it('monthly on the first Friday for 10 occurrences', () =>
    expect(datesOf('FREQ=MONTHLY;COUNT=10;BYDAY=1FR', '1997-09-05')).toEqual(
      days(
        '1997 9 5',
        '1997 10 3',
        '1997 11 7',
        '1997 12 5',
        '1998 1 2',
        '1998 2 6',
        '1998 3 6',
        '1998 4 3',
        '1998 5 1',
        '1998 6 5',
      ),
    ));

  it('monthly on the first Friday until December 24, 1997', () =>
    expect(datesOf('FREQ=MONTHLY;UNTIL=19971224T000000Z;BYDAY=1FR', '1997-09-05')).toEqual(
      days('1997 9 5', '1997 10 3', '1997 11 7', '1997 12 5'),
    ));

  it('every other month on the first and last Sunday for 10 occurrences', () =>
    expect(datesOf('FREQ=MONTHLY;INTERVAL=2;COUNT=10;BYDAY=1SU,-1SU', '1997-09-07')).toEqual(
      days('1997 9 7 28', '1997 11 2 30', '1998 1 4 25', '1998 3 1 29', '1998 5 3 31'),
    ));

  it('monthly on the second-to-last Monday for 6 months', () =>
    expect(datesOf('FREQ=MONTHLY;COUNT=6;BYDAY=-2MO', '1997-09-22')).toEqual(
      days('1997 9 22', '1997 10 20', '1997 11 17', '1997 12 22', '1998 1 19', '1998 2 16'),
    ));

  it('monthly on the third-to-last day, without an end', () =>
    expect(datesOf('FREQ=MONTHLY;BYMONTHDAY=-3', '1997-09-28', 6)).toEqual(
      days('1997 9 28', '1997 10 29', '1997 11 28', '1997 12 29', '1998 1 29', '1998 2 26'),
    ));

  it('monthly on the 2nd and 15th for 10 occurrences', () =>
    expect(datesOf('FREQ=MONTHLY;COUNT=10;BYMONTHDAY=2,15')).toEqual(
      days('1997 9 2 15', '1997 10 2 15', '1997 11 2 15', '1997 12 2 15', '1998 1 2 15'),
    ));

  it('monthly on the first and last day for 10 occurrences', () =>
    expect(datesOf('FREQ=MONTHLY;COUNT=10;BYMONTHDAY=1,-1', '1997-09-30')).toEqual(
      days('1997 9 30', '1997 10 1 31', '1997 11 1 30', '1997 12 1 31', '1998 1 1 31', '1998 2 1'),
    ));

  it('every 18 months on the 10th to 15th for 10 occurrences', () =>
    expect(
      datesOf('FREQ=MONTHLY;INTERVAL=18;COUNT=10;BYMONTHDAY=10,11,12,13,14,15', '1997-09-10'),
    ).toEqual(days('1997 9 10 11 12 13 14 15', '1999 3 10 11 12 13')));

  it('every Tuesday, every other month', () =>
    expect(datesOf('FREQ=MONTHLY;INTERVAL=2;BYDAY=TU', undefined, 18)).toEqual(
      days(
        '1997 9 2 9 16 23 30',
        '1997 11 4 11 18 25',
        '1998 1 6 13 20 27',
        '1998 3 3 10 17 24 31',
      ),
    ));

  it('yearly in June and July for 10 occurrences', () =>
    expect(datesOf('FREQ=YEARLY;COUNT=10;BYMONTH=6,7', '1997-06-10')).toEqual(
      [1997, 1998, 1999, 2000, 2001].flatMap((year) => [`${year}-06-10`, `${year}-07-10`]),
    ));

  it('every other year in January, February and March for 10 occurrences', () =>
    expect(datesOf('FREQ=YEARLY;INTERVAL=2;COUNT=10;BYMONTH=1,2,3', '1997-03-10')).toEqual([
      '1997-03-10',
      ...[1999, 2001, 2003].flatMap((year) => [1, 2, 3].map((month) => `${year}-0${month}-10`)),
    ]));

  it('every third year on the 1st, 100th and 200th day for 10 occurrences', () =>
    expect(datesOf('FREQ=YEARLY;INTERVAL=3;COUNT=10;BYYEARDAY=1,100,200', '1997-01-01')).toEqual(
      days(
        '1997 1 1',
        '1997 4 10',
        '1997 7 19',
        '2000 1 1',
        '2000 4 9',
        '2000 7 18',
        '2003 1 1',
        '2003 4 10',
        '2003 7 19',
        '2006 1 1',
      ),
    ));

  it('every 20th Monday of the year', () =>
    expect(datesOf('FREQ=YEARLY;BYDAY=20MO', '1997-05-19', 3)).toEqual(
      days('1997 5 19', '1998 5 18', '1999 5 17'),
    ));

  it('Monday of week number 20', () =>
    expect(datesOf('FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO', '1997-05-12', 3)).toEqual(
      days('1997 5 12', '1998 5 11', '1999 5 17'),
    ));

  it('every Thursday in March', () =>
    expect(datesOf('FREQ=YEARLY;BYMONTH=3;BYDAY=TH', '1997-03-13', 11)).toEqual(
      days('1997 3 13 20 27', '1998 3 5 12 19 26', '1999 3 4 11 18 25'),
    ));

  it('every Thursday in June, July and August', () =>
    expect(datesOf('FREQ=YEARLY;BYDAY=TH;BYMONTH=6,7,8', '1997-06-05', 26)).toEqual([
      ...every('1997-06-05', 7, 13),
      ...every('1998-06-04', 7, 13),
    ]));

  it('every Friday the 13th, the start left out', () =>
    expect(datesOf('FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13', '1997-09-02', 5, ['1997-09-02'])).toEqual(
      days('1998 2 13', '1998 3 13', '1998 11 13', '1999 8 13', '2000 10 13'),
    ));

  it('the first Saturday after the first Sunday of the month', () =>
    expect(datesOf('FREQ=MONTHLY;BYDAY=SA;BYMONTHDAY=7,8,9,10,11,12,13', '1997-09-13', 10)).toEqual(
      days(
        '1997 9 13',
        '1997 10 11',
        '1997 11 8',
        '1997 12 13',
        '1998 1 10',
        '1998 2 7',
        '1998 3 7',
        '1998 4 11',
        '1998 5 9',
        '1998 6 13',
      ),
    ));

  it('the Tuesday after a Monday in November, every fourth year', () =>
    expect(
      datesOf(
        'FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8',
        '1996-11-05',
        3,
      ),
    ).toEqual(days('2000 11 7', '2004 11 2', '2008 11 4')));

  it('the third of Tuesday, Wednesday or Thursday, for three months', () =>
    expect(datesOf('FREQ=MONTHLY;COUNT=3;BYDAY=TU,WE,TH;BYSETPOS=3', '1997-09-04')).toEqual(
      days('1997 9 4', '1997 10 7', '1997 11 6'),
    ));

  it('the second-to-last weekday of the month', () =>
    expect(datesOf('FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2', '1997-09-29', 7)).toEqual(
      days(
        '1997 9 29',
        '1997 10 30',
        '1997 11 27',
        '1997 12 30',
        '1998 1 29',
        '1998 2 26',
        '1998 3 30',
      ),
    ));

  it('the first day of the week makes a difference', () => {
    expect(datesOf('FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO', '1997-08-05')).toEqual(
      days('1997 8 5 10 19 24'),
    );
    expect(datesOf('FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=SU', '1997-08-05')).toEqual(
      days('1997 8 5 17 19 31'),
    );
  });

  it('a day that some months lack is left out there', () =>
    expect(datesOf('FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5', '2007-01-15')).toEqual(
      days('2007 1 15 30', '2007 2 15', '2007 3 15 30'),
    ));
});
