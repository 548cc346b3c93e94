import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MINUTE, overlaps } from '../time/interval.ts';
import { claimedTime, nearestFreeTimes, standIns } from './booking.ts';
import { allUnitsTaken, changeovers, freeUnit, unitsLeft } from './units.ts';

const span = (start: number, end: number) => ({ start: start * MINUTE, end: end * MINUTE });
const none = { prepareMinutes: 0, clearMinutes: 0 };

describe('nearest free times', () => {
  const range = span(0, 1440);

  it('lie as near as they can, later first on a tie', () => {
    const found = nearestFreeTimes([span(600, 660)], span(600, 660), none, range, 3);
    expect(found).toEqual([span(660, 720), span(540, 600), span(720, 780)]);
  });

  it('leave room for preparation and clearing', () => {
    const buffers = { prepareMinutes: 15, clearMinutes: 30 };
    const [first] = nearestFreeTimes([span(600, 660)], span(600, 660), buffers, range, 1);
    expect(first).toEqual(span(675, 735));
  });

  it('are always free, inside the range and apart from each other', () => {
    const taken = fc.array(
      fc.tuple(fc.nat(90), fc.nat(20)).map(([s, l]) => span(s * 15, (s + l) * 15)),
      { maxLength: 8 },
    );
    fc.assert(
      fc.property(
        taken,
        fc.nat(80),
        fc.integer({ min: 1, max: 12 }),
        fc.nat(30),
        (list, at, length, clear) => {
          const buffers = { prepareMinutes: 0, clearMinutes: clear };
          const wish = span(at * 15, (at + length) * 15);
          const found = nearestFreeTimes(list, wish, buffers, range, 4);
          found.forEach((one, k) => {
            const claimed = claimedTime(one, buffers);
            expect(list.some((other) => other.start < other.end && overlaps(other, claimed))).toBe(
              false,
            );
            expect(claimed.start >= range.start && claimed.end <= range.end).toBe(true);
            expect(found.slice(0, k).some((other) => overlaps(other, one))).toBe(false);
          });
        },
      ),
    );
  });
});

describe('units', () => {
  it('picks the lowest free one, or none', () => {
    const taken = [
      { ...span(0, 60), unit: 1 },
      { ...span(30, 90), unit: 2 },
    ];
    expect(freeUnit(taken, span(60, 90), 2)).toBe(1);
    expect(freeUnit(taken, span(40, 50), 2)).toBeNull();
    expect(freeUnit(taken, span(40, 50), 3)).toBe(3);
  });

  it('are left where nothing of theirs overlaps, however often another one is taken', () => {
    const taken = [
      { ...span(0, 30), unit: 1 },
      { ...span(30, 60), unit: 1 },
      { ...span(60, 90), unit: 2 },
    ];
    expect(unitsLeft(taken, span(0, 60), 3)).toBe(2);
    expect(unitsLeft(taken, span(45, 75), 3)).toBe(1);
    expect(unitsLeft(taken, span(90, 120), 3)).toBe(3);
  });

  const drawnClaims = (units: number) =>
    fc
      .array(fc.tuple(fc.nat(units - 1), fc.nat(40), fc.integer({ min: 1, max: 9 })), {
        maxLength: 9,
      })
      .map((drawn) => {
        // As in the database, claims of one unit do not overlap.
        const list: { start: number; end: number; unit: number }[] = [];
        for (const [unit, start, length] of drawn) {
          const one = { start, end: start + length, unit: unit + 1 };
          if (!list.some((other) => other.unit === one.unit && overlaps(other, one)))
            list.push(one);
        }
        return list;
      });

  it('are changed where one comes free before the next is taken', () => {
    const taken = [
      { ...span(30, 60), unit: 1 },
      { ...span(0, 20), unit: 2 },
    ];
    expect(allUnitsTaken(taken, 2)).toEqual([]);
    // From before 20 until after 30 neither is free throughout.
    expect(changeovers(taken, 2)).toEqual([{ start: span(30, 60).start, end: span(0, 20).end }]);
    expect(changeovers(taken, 3)).toEqual([]);
    expect(changeovers([{ ...span(0, 20), unit: 1 }], 1)).toEqual([]);
  });

  it('one is free throughout just what overlaps neither a time when all are taken nor a changeover', () => {
    fc.assert(
      fc.property(
        fc
          .integer({ min: 1, max: 4 })
          .chain((units) => fc.tuple(fc.constant(units), drawnClaims(units))),
        ([units, list]) => {
          const not = [...allUnitsTaken(list, units), ...changeovers(list, units)];
          for (let start = -2; start < 52; start++)
            for (let end = start + 1; end < start + 30; end++) {
              const one = { start, end };
              expect(not.some((other) => overlaps(other, one))).toBe(
                freeUnit(list, one, units) === null,
              );
            }
        },
      ),
    );
  });

  it('a resource is taken while all its units are', () => {
    fc.assert(
      fc.property(drawnClaims(4), (list) => {
        const full = allUnitsTaken(list, 4);
        for (let tick = 0; tick < 50; tick++) {
          const inUse = list.filter((one) => one.start <= tick && tick < one.end).length;
          expect(full.some((one) => one.start <= tick && tick < one.end)).toBe(inUse === 4);
        }
      }),
    );
  });
});

describe('stand-ins', () => {
  const room = (id: number, changes = {}) => ({
    id,
    siteId: 1,
    floor: '2',
    capacity: 8,
    features: ['screen'],
    ...changes,
  });

  it('seat everyone at the same site; the same floor and features come first', () => {
    const wanted = room(1, { features: ['screen', 'video'] });
    const rooms = [
      wanted,
      room(2, { floor: '3', features: ['screen', 'video'] }),
      room(3),
      room(4, { features: ['video', 'screen'], capacity: 12 }),
      room(5, { siteId: 2 }),
      room(6, { capacity: 3 }),
    ];
    expect(standIns(rooms, wanted, 4).map((one) => one.id)).toEqual([4, 3, 2]);
  });
});
