import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { OpeningsResponse } from '../../contract/availability.ts';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { often } from '../../../tests/support/effort.ts';

/*
 * Plan's word about a place, held against its bookings, minute by minute: windows that begin and end
 * anywhere beside bookings, preparing and clearing on both sides, identical units.
 */

const server = useServer();
const MINUTE = 60_000;
/** Tuesday 1 February 2028, in UTC; each case has a day of its own. */
const FIRST_DAY = Date.UTC(2028, 1, 1);
const DAY = 1440 * MINUTE;
/** More of them can be asked for by hand. */
const CASES = often(75);

/** Minutes after the midnight of the case's day. */
interface Span {
  from: number;
  to: number;
}

/** A unit is free for a booking when none of its minutes, widened, is one of another, widened. */
class PlainPlace {
  private readonly units: boolean[][];

  constructor(
    units: number,
    private readonly prepare: number,
    private readonly clear: number,
  ) {
    this.units = Array.from({ length: units }, () => []);
  }

  /** The first unit that is free, or -1. */
  free({ from, to }: Span): number {
    return this.units.findIndex((taken) => {
      for (let minute = from - this.prepare; minute < to + this.clear; minute++)
        if (taken[minute + 1440]) return false;
      return true;
    });
  }

  /** Takes the first free unit, where there is one. */
  book(span: Span): boolean {
    const unit = this.units[this.free(span)];
    if (!unit) return false;
    for (let minute = span.from - this.prepare; minute < span.to + this.clear; minute++)
      unit[minute + 1440] = true;
    return true;
  }
}

const quarter = (from: number, to: number) =>
  fc.integer({ min: from * 4, max: to * 4 }).map((n) => n * 15);

const cases = fc.record({
  units: fc.constantFrom(1, 1, 2, 3),
  prepare: fc.constantFrom(0, 10, 30, 60, 120),
  clear: fc.constantFrom(0, 5, 45, 60, 90),
  bookings: fc.array(
    fc.record({ from: quarter(2, 20), length: fc.constantFrom(15, 45, 60, 120) }),
    { minLength: 1, maxLength: 7 },
  ),
  window: fc.record({ from: quarter(4, 16), length: quarter(1, 7) }),
  length: fc.constantFrom(15, 30, 50, 90),
});

/** At each moment of the window a unit is free, and for a meeting of its length none is throughout. */
const ONE_FREE_AFTER_THE_OTHER = {
  units: 2,
  prepare: 0,
  clear: 90,
  bookings: [
    { from: 120, length: 15 },
    { from: 360, length: 15 },
    { from: 120, length: 60 },
  ],
  window: { from: 240, length: 60 },
  length: 50,
};

it('a place is free in Plan exactly when booking it works', async () => {
  const ines = await server.as('ines.aldabe');
  const place = await server.id('Razorbill');
  let day = FIRST_DAY;
  await fc.assert(
    fc.asyncProperty(cases, async ({ units, prepare, clear, bookings, window, length }) => {
      day += 3 * DAY;
      await server.sql(
        `update resource set units = $2, prepare_minutes = $3, clear_minutes = $4
         where subject_id = $1`,
        [place, units, prepare, clear],
      );
      const at = (minute: number) => day + minute * MINUTE;
      const clock = (minute: number) => new Date(at(minute)).toISOString().slice(0, 16);
      const book = async ({ from, to }: Span) => {
        const times = { startsAt: clock(from), endsAt: clock(to), zone: 'UTC' };
        const request = meetingRequest({ times, resources: [place] });
        return (await ines.post('/api/events', request)).status;
      };
      const plain = new PlainPlace(units, prepare, clear);
      for (const { from, length: long } of bookings) {
        const span = { from, to: from + long };
        expect(await book(span)).toBe(plain.book(span) ? 201 : 409);
      }

      const end = window.from + window.length;
      const expected: number[] = [];
      for (let from = window.from; from + length <= end; from += 15)
        if (plain.free({ from, to: from + length }) >= 0) expected.push(from);
      const answer = await ines.post<OpeningsResponse>('/api/availability/openings', {
        lineUp: [{ id: place, role: 'required' }],
        from: at(window.from),
        to: at(end),
        lengthMinutes: length,
        leadMinutes: 0,
        limit: 50,
      });
      expect(answer.status).toBe(200);
      expect(answer.body.count).toBe(expected.length);
      // What is offered is booked, and what is booked was offered.
      const [best] = answer.body.openings;
      if (best) expect(expected.map(at)).toContain(best.start);
      const last = expected.at(-1);
      if (last !== undefined) expect(await book({ from: last, to: last + length })).toBe(201);
    }),
    { numRuns: CASES, examples: [[ONE_FREE_AFTER_THE_OTHER]] },
  );
}, 300_000);
