import { addDays, weekdayOf } from '../../src/core/time/wall.ts';

/** Easter Sunday of a year in the Gregorian calendar (the method of Meeus, Jones and Butcher). */
export function easterSunday(year: number): string {
  const a = year % 19;
  const [b, c] = [Math.floor(year / 100), year % 100];
  const [d, e] = [Math.floor(b / 4), b % 4];
  const g = Math.floor((8 * b + 13) / 25);
  const h = (19 * a + b - d - g + 15) % 30;
  const [i, k] = [Math.floor(c / 4), c % 4];
  const l = (32 + 2 * e + 2 * i - h - k) % 7;
  const m = Math.floor((a + 11 * h + 22 * l) / 451);
  const sum = h + l - 7 * m + 114;
  const two = (n: number) => String(n).padStart(2, '0');
  return `${year}-${two(Math.floor(sum / 31))}-${two((sum % 31) + 1)}`;
}

/** The nth of a weekday (1 Monday to 7 Sunday) in a month. */
function nth(year: number, month: number, weekday: number, count: number): string {
  const first = `${year}-${String(month).padStart(2, '0')}-01`;
  return addDays(first, ((weekday - weekdayOf(first) + 7) % 7) + 7 * (count - 1));
}

type Days = (year: number) => [date: string, name: string][];

/** Public holidays of the demonstration's sites, in the order of SITES. */
export const SITE_HOLIDAYS: readonly Days[] = [
  (year) => {
    const easter = easterSunday(year);
    return [
      [`${year}-01-01`, 'New Year’s Day'],
      [addDays(easter, -3), 'Maundy Thursday'],
      [addDays(easter, -2), 'Good Friday'],
      [addDays(easter, 1), 'Easter Monday'],
      [`${year}-05-01`, 'Labour Day'],
      [`${year}-05-17`, 'Constitution Day'],
      [addDays(easter, 39), 'Ascension Day'],
      [addDays(easter, 50), 'Whit Monday'],
      [`${year}-12-25`, 'Christmas Day'],
      [`${year}-12-26`, 'Second Day of Christmas'],
    ];
  },
  (year) => [
    [`${year}-01-01`, 'New Year’s Day'],
    [nth(year, 2, 1, 3), 'Heritage Day'],
    [addDays(easterSunday(year), -2), 'Good Friday'],
    [`${year}-07-01`, 'Canada Day'],
    [nth(year, 9, 1, 1), 'Labour Day'],
    [`${year}-11-11`, 'Remembrance Day'],
    [`${year}-12-25`, 'Christmas Day'],
  ],
  (year) => [
    [`${year}-01-01`, 'New Year’s Day'],
    [`${year}-01-26`, 'Australia Day'],
    [addDays(easterSunday(year), -2), 'Good Friday'],
    [addDays(easterSunday(year), 1), 'Easter Monday'],
    [`${year}-04-25`, 'Anzac Day'],
    [nth(year, 6, 1, 2), 'King’s Birthday'],
    [`${year}-12-25`, 'Christmas Day'],
    [`${year}-12-26`, 'Boxing Day'],
  ],
  (year) => [
    [`${year}-01-01`, 'New Year’s Day'],
    [addDays(easterSunday(year), -2), 'Good Friday'],
    [addDays(easterSunday(year), 1), 'Easter Monday'],
    [`${year}-05-01`, 'Labour Day'],
    [`${year}-06-01`, 'Madaraka Day'],
    [`${year}-10-20`, 'Mashujaa Day'],
    [`${year}-12-12`, 'Jamhuri Day'],
    [`${year}-12-25`, 'Christmas Day'],
    [`${year}-12-26`, 'Boxing Day'],
  ],
];
