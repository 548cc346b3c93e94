import { describe, expect, it } from 'vitest';
import { firstOccurrence } from './expand.ts';
import { parseRule, ruleText } from './rule.ts';
import { ruleSentence } from './sentence.ts';

describe('reading a rule', () => {
  it.each([
    ['FREQ=DAILY;COUNT=3;UNTIL=20270101', 'COUNT or UNTIL, not both'],
    ['FREQ=DAILY;INTERVAL=0', 'INTERVAL as a whole number from 1 to 999, not 0'],
    ['FREQ=DAILY;INTERVAL=1.5', 'INTERVAL as a whole number'],
    ['FREQ=YEARLY;BYMONTH=6;BYMONTHDAY=31', 'there is no 31 June'],
    ['FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30,31', 'there is no 30 or 31 February'],
    ['FREQ=HOURLY', 'FREQ as one of DAILY, WEEKLY, MONTHLY, YEARLY'],
    ['FREQ=DAILY;BYHOUR=9', 'may use only FREQ, INTERVAL'],
    ['FREQ=WEEKLY;BYDAY=2TU', 'only monthly or yearly'],
    ['FREQ=WEEKLY;BYDAY=XX', 'BYDAY as MO, TU'],
    ['FREQ=MONTHLY;BYMONTHDAY=0', '0 in BYMONTHDAY'],
    ['FREQ=MONTHLY;BYMONTHDAY=32', 'BYMONTHDAY as a whole number from -31 to 31'],
    ['FREQ=MONTHLY;BYSETPOS=1', 'another BY part'],
    ['FREQ=DAILY;COUNT=0', 'COUNT as a whole number from 1 to 5000'],
    ['FREQ=DAILY;UNTIL=20270231', 'UNTIL as a day that exists'],
    ['FREQ=DAILY;FREQ=DAILY', 'must not give FREQ twice'],
    ['every Tuesday', 'a list of NAME=VALUE'],
    ['', 'a list of NAME=VALUE'],
  ])('refuses %s', (text, why) => expect(() => parseRule(text)).toThrow(why));

  it('keeps both ways of saying the end', () => {
    expect(ruleText(parseRule('RRULE:FREQ=daily;UNTIL=20261224T130000Z'))).toBe(
      'FREQ=DAILY;UNTIL=20261224T130000Z',
    );
    expect(parseRule('FREQ=DAILY;UNTIL=20261224').until).toBe('2026-12-24');
  });
});

describe('the first date of a rule', () => {
  it('is the start, or the first after it that fits', () => {
    const tuesdays = parseRule('FREQ=WEEKLY;BYDAY=TU');
    expect(firstOccurrence(tuesdays, '2026-11-24T09:00')).toBe('2026-11-24T09:00');
    expect(firstOccurrence(tuesdays, '2026-11-25T09:00')).toBe('2026-12-01T09:00');
  });

  it('is found however long it takes', () => {
    const leapMonday = parseRule('FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29;BYDAY=MO');
    expect(firstOccurrence(leapMonday, '2026-11-24T09:00')).toBe('2044-02-29T09:00');
  });

  it('is missed with a sentence', () => {
    const never = parseRule('FREQ=MONTHLY;INTERVAL=12;BYMONTHDAY=31');
    expect(() => firstOccurrence(never, '2026-06-01T09:00')).toThrow('names no date at all');
    const over = parseRule('FREQ=DAILY;UNTIL=20261101');
    expect(() => firstOccurrence(over, '2026-11-24T09:00')).toThrow('ends before its first date');
  });
});

describe('a rule as a sentence', () => {
  it.each([
    ['FREQ=DAILY', 'Every day'],
    ['FREQ=DAILY;INTERVAL=3;COUNT=10', 'Every 3 days, 10 times'],
    ['FREQ=WEEKLY', 'Every Tuesday'],
    ['FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR', 'Every day from Monday to Friday'],
    ['FREQ=WEEKLY;INTERVAL=2;BYDAY=TH,TU', 'Every 2 weeks on Tuesday and Thursday'],
    ['FREQ=WEEKLY;UNTIL=20261224', 'Every Tuesday, through Thu 24 Dec 2026'],
    ['FREQ=MONTHLY', 'On the 24th of every month'],
    ['FREQ=MONTHLY;BYMONTHDAY=-1', 'On the last day of every month'],
    ['FREQ=MONTHLY;BYMONTHDAY=2,15;INTERVAL=2', 'On the 2nd and 15th of every 2 months'],
    ['FREQ=MONTHLY;BYDAY=-1FR', 'On the last Friday of every month'],
    ['FREQ=MONTHLY;BYDAY=1SU,-1SU', 'On the first Sunday and the last Sunday of every month'],
    ['FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13', 'On every Friday that is the 13th of every month'],
    [
      'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1',
      'On the last day from Monday to Friday of every month',
    ],
    ['FREQ=YEARLY', 'Every year on 24 November'],
    ['FREQ=YEARLY;INTERVAL=4;BYMONTH=2;BYMONTHDAY=29', 'Every 4 years on 29 February'],
    ['FREQ=YEARLY;BYMONTH=11;BYDAY=4TH', 'Every year on the fourth Thursday of November'],
    ['FREQ=YEARLY;BYDAY=20MO', 'Every year on the 20th Monday of the year'],
    ['FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO', 'Every year on Monday of week 20'],
    ['FREQ=YEARLY;BYYEARDAY=1,100', 'Every year on the first and 100th day of the year'],
  ])('%s', (text, sentence) =>
    expect(ruleSentence(parseRule(text), '2026-11-24T09:00')).toBe(sentence),
  );
});
