import fc from 'fast-check';
import { Temporal } from 'temporal-polyfill';
import { expect, it } from 'vitest';
import { DAY, HOUR, MINUTE } from './interval.ts';
import { isWallTime, resolveWallTime, wallTimeAt } from './wall.ts';
import { yearlyOffset } from './yearlyOffset.ts';

const ZONES = [
  'Europe/Oslo',
  'America/Halifax',
  'Australia/Lord_Howe',
  'Africa/Casablanca',
  'Asia/Kathmandu',
  'Pacific/Apia',
  'UTC',
];
/** Years with a day left out (Apia 2011), offsets with seconds, and what the calendar is used for. */
const YEARS = [1900, 1941, 2011, 2026, 2199];
const OFTEN = 60;

/** Asks until the year is remembered. */
function remember(zone: string, year: number) {
  for (let k = 0; k < OFTEN; k++) yearlyOffset(zone, Date.UTC(year, 5, 1));
}

const times = fc
  .tuple(
    fc.constantFrom(...ZONES),
    fc.constantFrom(...YEARS),
    fc.integer({ min: 0, max: 365 * 24 * 4 }),
  )
  .map(([zone, year, quarter]) => ({
    zone,
    year,
    at: Date.UTC(year, 0, 1) + quarter * 15 * MINUTE,
  }));

it('says what the calendar says, once it is remembered, at every time of the year', () => {
  for (const zone of ZONES) for (const year of YEARS) remember(zone, year);
  fc.assert(
    fc.property(times, ({ zone, at }) => {
      const zoned = Temporal.Instant.fromEpochMilliseconds(at).toZonedDateTimeISO(zone);
      const shown = zoned.toPlainDateTime().toString({ smallestUnit: 'minute' });
      expect(wallTimeAt(at, zone)).toBe(shown);

      const wall = new Date(at).toISOString().slice(0, 16);
      const plain = Temporal.PlainDateTime.from(wall);
      const [earlier, later] = (['earlier', 'later'] as const).map(
        (disambiguation) => plain.toZonedDateTime(zone, { disambiguation }).epochMilliseconds,
      );
      const { instant, kind } = resolveWallTime(wall, zone);
      expect(kind === 'exact').toBe(earlier === later);
      expect([earlier, later]).toContain(instant);
    }),
    { numRuns: 3_000 },
  );
});

it('leaves the days around a change of the clock to the calendar', () => {
  remember('Europe/Oslo', 2026);
  const change = Date.UTC(2026, 2, 29, 1);
  expect(yearlyOffset('Europe/Oslo', change - 25 * HOUR)).toBe(HOUR);
  expect(yearlyOffset('Europe/Oslo', change + 25 * HOUR)).toBe(2 * HOUR);
  for (let at = change - DAY + MINUTE; at < change + DAY; at += HOUR) {
    expect(yearlyOffset('Europe/Oslo', at)).toBe(null);
  }
  expect(resolveWallTime('2026-03-29T02:30', 'Europe/Oslo').kind).toBe('skipped');
  expect(resolveWallTime('2026-10-25T02:30', 'Europe/Oslo').kind).toBe('repeated');
});

it('takes no day that the calendar does not have, however often the year was asked for', () => {
  remember('Europe/Oslo', 2026);
  for (const wall of ['2026-02-30T10:00', '2026-06-31T10:00', '2026-06-01T24:00', '2026-06-01']) {
    expect(isWallTime(wall)).toBe(false);
    expect(() =>
      resolveWallTime(wall === '2026-06-01' ? '2026-06-1' : wall, 'Europe/Oslo'),
    ).toThrow(RangeError);
  }
});
