import { describe, expect, it } from 'vitest';
import { wallTimeAt, type WallTime } from '../time/wall.ts';
import {
  happenings,
  moveSeries,
  reshapeSeries,
  splitSeries,
  withOverride,
  type SeriesPlan,
} from './series.ts';

type Plan = SeriesPlan<string>;

const weekly = (changes: Partial<Plan> = {}): Plan => ({
  startsAt: '2026-12-01T09:00',
  zone: 'Europe/Oslo',
  fold: 'earlier',
  lengthMinutes: 60,
  allDay: false,
  rule: 'FREQ=WEEKLY;BYDAY=TU;COUNT=6',
  except: [],
  overrides: [],
  ...changes,
});

const window = { start: Date.UTC(2026, 0, 1), end: Date.UTC(2028, 0, 1) };
const walls = (plan: Plan): WallTime[] =>
  happenings(plan, window).map((one) => wallTimeAt(one.start, plan.zone));
const override = (recurrenceId: WallTime, startsAt: WallTime | null, details = '') => ({
  recurrenceId,
  cancelled: false,
  timing: startsAt
    ? { startsAt, zone: 'Europe/Oslo', fold: 'earlier' as const, lengthMinutes: 30, allDay: false }
    : null,
  details,
});

describe('what a series happens as', () => {
  it('leaves out exceptions and cancelled ones, and moves the moved', () => {
    const plan = weekly({
      except: ['2026-12-08T09:00'],
      overrides: [
        override('2026-12-15T09:00', '2026-12-16T14:00'),
        { ...override('2026-12-22T09:00', null), cancelled: true },
      ],
    });
    expect(walls(plan)).toEqual([
      '2026-12-01T09:00',
      '2026-12-16T14:00',
      '2026-12-29T09:00',
      '2027-01-05T09:00',
    ]);
  });

  it('lets whole days end at midnight, also on the day of 23 hours', () => {
    const plan = weekly({
      startsAt: '2027-03-26T00:00',
      allDay: true,
      lengthMinutes: 2 * 1440,
      rule: 'FREQ=DAILY;COUNT=3',
    });
    const ends = happenings(plan, window).map((one) => wallTimeAt(one.end, plan.zone));
    expect(ends).toEqual(['2027-03-28T00:00', '2027-03-29T00:00', '2027-03-30T00:00']);
  });
});

describe('cutting a series in two', () => {
  it('keeps every occurrence, counted ones too', () => {
    const plan = weekly({
      except: ['2026-12-08T09:00', '2026-12-29T09:00'],
      overrides: [override('2027-01-05T09:00', '2027-01-07T10:00')],
    });
    const { head, tail } = splitSeries(plan, '2026-12-22T09:00');
    expect([...walls(head!), ...walls(tail)]).toEqual(walls(plan));
    expect(head!.rule).toBe('FREQ=WEEKLY;UNTIL=20261221;BYDAY=TU');
    expect(tail.rule).toBe('FREQ=WEEKLY;COUNT=3;BYDAY=TU');
    expect(head!.overrides).toEqual([]);
    expect(tail.except).toEqual(['2026-12-29T09:00']);
  });

  it('leaves nothing before the first occurrence', () => {
    const plan = weekly();
    expect(splitSeries(plan, '2026-12-01T09:00')).toEqual({ head: null, tail: plan });
  });
});

describe('moving a series by one of its occurrences', () => {
  const to = (startsAt: WallTime, lengthMinutes = 60) => ({
    startsAt,
    zone: 'Europe/Oslo',
    fold: 'earlier' as const,
    lengthMinutes,
    allDay: false,
  });

  it('takes weekday, exceptions and what was changed along', () => {
    const plan = weekly({
      except: ['2026-12-08T09:00'],
      overrides: [override('2026-12-15T09:00', null, 'kept')],
    });
    const moved = moveSeries(plan, '2026-12-22T09:00', to('2026-12-24T13:30'));
    expect(moved.dropped).toEqual([]);
    expect(moved.plan.rule).toBe('FREQ=WEEKLY;COUNT=6;BYDAY=TH');
    expect(moved.plan.except).toEqual(['2026-12-10T13:30']);
    expect(moved.plan.overrides).toMatchObject([
      { recurrenceId: '2026-12-17T13:30', details: 'kept' },
    ]);
    expect(walls(moved.plan)).toHaveLength(5);
  });

  it('leaves an occurrence that had been moved by itself where it is', () => {
    const plan = weekly({ overrides: [override('2026-12-15T09:00', '2026-12-18T16:00')] });
    const moved = moveSeries(plan, '2026-12-01T09:00', to('2026-12-01T11:00'));
    expect(walls(moved.plan)).toContain('2026-12-18T16:00');
    expect(walls(moved.plan)).not.toContain('2026-12-15T11:00');
  });

  it.each([
    ['FREQ=MONTHLY;BYDAY=1TU', '2027-01-05T09:00', '2027-01-06T09:00', '2026-12-02T09:00'],
    ['FREQ=MONTHLY;BYMONTHDAY=1', '2027-01-01T09:00', '2027-01-04T09:00', '2026-12-04T09:00'],
    ['FREQ=MONTHLY', '2027-01-01T09:00', '2027-01-04T09:00', '2026-12-04T09:00'],
    [
      'FREQ=YEARLY;BYMONTH=12;BYMONTHDAY=1',
      '2027-12-01T09:00',
      '2027-11-30T09:00',
      '2026-11-30T09:00',
    ],
    ['FREQ=WEEKLY;BYDAY=TU,TH', '2026-12-03T09:00', '2026-12-04T09:00', '2026-12-02T09:00'],
  ])('%s begins where it should', (rule, at, target, first) => {
    const moved = moveSeries(weekly({ rule }), at, to(target));
    expect(walls(moved.plan)[0]).toBe(first);
    expect(walls(moved.plan)).toContain(target);
  });

  it('says so where several days cannot all move', () => {
    expect(() =>
      moveSeries(
        weekly({ rule: 'FREQ=MONTHLY;BYMONTHDAY=1,15' }),
        '2026-12-01T09:00',
        to('2026-12-02T09:00'),
      ),
    ).toThrow('several days');
  });

  it('moves the last day along, so that no occurrence is lost', () => {
    const plan = weekly({ rule: 'FREQ=WEEKLY;BYDAY=TU;UNTIL=20261222' });
    const moved = moveSeries(plan, '2026-12-01T09:00', to('2026-12-03T09:00'));
    expect(walls(moved.plan)).toHaveLength(walls(plan).length);
  });
});

describe('another rule', () => {
  it('keeps exceptions and changes on dates that remain, and names the others', () => {
    const plan = withOverride(
      weekly({ rule: 'FREQ=WEEKLY', except: ['2026-12-08T09:00'] }),
      override('2026-12-15T09:00', null, 'kept'),
    );
    const { plan: next, dropped } = reshapeSeries(plan, {
      ...plan,
      startsAt: '2026-12-01T10:00',
      rule: 'FREQ=WEEKLY;INTERVAL=2',
    });
    expect(dropped).toEqual(['2026-12-08T09:00']);
    expect(next.overrides.map((one) => one.recurrenceId)).toEqual(['2026-12-15T10:00']);
  });
});
