import fc from 'fast-check';
import { expect, it } from 'vitest';
import { terms, windows } from '../../../tests/twins/arbitraries.ts';
import { plainlyRefused } from '../../../tests/twins/plainTerms.ts';
import { BlockedCounter, slotStart, startGrid } from '../availability/slots.ts';
import { keepsTerms } from '../booking/terms.ts';
import { DAY, MINUTE } from '../time/interval.ts';
import { refusedStarts } from './refusedStarts.ts';

it('what a place asks of bookings refuses the starts that a minute-by-minute reading does', () => {
  let refused = 0;
  fc.assert(
    fc.property(
      windows(9).chain((window) => fc.tuple(fc.constant(window), terms(window))),
      fc.constantFrom(5, 15, 30),
      fc.integer({ min: 1, max: 40 }).map((n) => n * 5),
      ([window, asked], stepMinutes, lengthMinutes) => {
        const grid = startGrid({ start: window.start, end: window.start + 9 * DAY }, stepMinutes);
        const counter = new BlockedCounter(grid, lengthMinutes);
        counter.add(refusedStarts(asked, grid, lengthMinutes));
        const counts = counter.counts();
        for (let slot = 0; slot < grid.count; slot += 7) {
          const start = slotStart(grid, slot);
          const meeting = { start, end: start + lengthMinutes * MINUTE };
          const isRefused = plainlyRefused(asked, meeting);
          expect([slot, counts[slot]]).toEqual([slot, isRefused ? 1 : 0]);
          expect(keepsTerms(asked, meeting)).toBe(!isRefused);
          refused += Number(isRefused);
        }
      },
    ),
    { numRuns: 100 },
  );
  expect(refused).toBeGreaterThan(100);
});
