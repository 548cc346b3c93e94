import { describe, expect, it } from 'vitest';
import { readTypedLength } from './typedLength.ts';

describe('a length as it is typed into a field', () => {
  const cases: [typed: string, minutes: number | null][] = [
    ['90', 90],
    ['0', 0],
    ['2 h', 120],
    ['2h', 120],
    ['1h30', 90],
    ['1:30', 90],
    ['1.5 h', 90],
    ['1,5 hours', 90],
    ['1 day', 1440],
    ['2 days', 2880],
    ['1 day 4 h', 1680],
    ['1 h and 30 min', 90],
    ['2 weeks', 20_160],
    ['half an hour', 30],
    ['three quarters of an hour', 45],
    ['0 min', 0],
    ['', null],
    ['soon', null],
    ['-5', null],
    ['2 fortnights', null],
    ['1 h x', null],
    ['0.333 h', null],
  ];
  for (const [typed, minutes] of cases)
    it(`reads “${typed}” as ${minutes === null ? 'none' : `${minutes} minutes`}`, () => {
      expect(readTypedLength(typed, 1)).toBe(minutes);
    });

  it('takes a number alone in the unit of its field', () => {
    expect(readTypedLength('14', 1440)).toBe(14 * 1440);
    expect(readTypedLength('14 days', 1440)).toBe(14 * 1440);
  });
});
