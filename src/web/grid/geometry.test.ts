import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { zones } from '../../../tests/twins/arbitraries.ts';
import { DAY, HOUR, MINUTE } from '../../core/time/interval.ts';
import { addDays, resolveWallTime, wallTimeAt } from '../../core/time/wall.ts';
import { layOutBars } from './bars.ts';
import { dayScale, emptyBand, hourMarks, instantAt, partOf, topOf } from './dayScale.ts';
import { draggedSpan, nudged, toggledAllDay, wholeDays } from './drag.ts';

const OSLO = 'Europe/Oslo';
const at = (wall: string, zone = OSLO) => resolveWallTime(wall, zone).instant;
const span = (from: string, to: string, allDay = false) => ({
  start: at(from),
  end: at(to),
  allDay,
});
const week = (first: string, zone = OSLO) =>
  dayScale(
    Array.from({ length: 7 }, (_, k) => addDays(first, k)),
    zone,
  );

describe('the heights of a grid of days', () => {
  it('are the clock’s, in a week in which it goes forward', () => {
    const scale = week('2027-03-22');
    const sunday = scale.days[6]!;
    expect(scale.height).toBe(1440);
    expect(topOf(scale, sunday, at('2027-03-28T09:00'))).toBe(9 * 60);
    expect(emptyBand(scale, sunday)).toEqual({ top: 120, height: 60, why: 'skipped' });
    expect(emptyBand(scale, scale.days[5]!)).toBeNull();
    // In the hour that is not there, its end is meant.
    expect(instantAt(scale, sunday, 150)).toBe(at('2027-03-28T03:00'));
  });

  it('make room for both hours of the one that comes twice, in every column', () => {
    const scale = week('2026-10-19');
    const [saturday, sunday] = [scale.days[5]!, scale.days[6]!];
    expect(scale.height).toBe(1500);
    expect(topOf(scale, saturday, at('2026-10-24T09:00'))).toBe(600);
    expect(topOf(scale, sunday, at('2026-10-25T09:00'))).toBe(600);
    expect(topOf(scale, sunday, at('2026-10-25T02:30'))).toBe(150);
    expect(topOf(scale, sunday, resolveWallTime('2026-10-25T02:30', OSLO, 'later').instant)).toBe(
      210,
    );
    expect(emptyBand(scale, saturday)).toEqual({ top: 180, height: 60, why: 'elsewhere' });
    const again = hourMarks(scale).filter((mark) => mark.again);
    expect(again).toEqual([{ top: 180, hour: 2, again: true }]);
  });

  it('of a part begin at its top, and what lies outside stands at its nearer edge', () => {
    const scale = partOf(week('2026-10-19'), 8 * 60, 18 * 60);
    const [saturday, sunday] = [scale.days[5]!, scale.days[6]!];
    expect(topOf(scale, saturday, at('2026-10-24T09:00'))).toBe(120);
    expect(topOf(scale, sunday, at('2026-10-25T07:00'))).toBe(0);
    expect(topOf(scale, sunday, at('2026-10-25T06:00'))).toBe(0);
    expect(topOf(scale, sunday, at('2026-10-25T20:00'))).toBe(600);
    expect(hourMarks(scale).map(({ top, hour }) => [top, hour])).toEqual(
      Array.from({ length: 11 }, (_, k) => [60 * k, 7 + k]),
    );
  });

  it('lead back to the instant they stand for, whatever the zone does', () => {
    const firsts = fc.constantFrom(
      '2026-10-19',
      '2026-10-26',
      '2026-09-28',
      '2027-03-22',
      '2027-03-29',
    );
    fc.assert(
      fc.property(zones, firsts, fc.nat(7 * 1440 - 1), (zone, first, minutes) => {
        const scale = week(first, zone);
        const instant = scale.days[0]!.start + minutes * MINUTE;
        const day = scale.days.find((one) => instant >= one.start && instant < one.end)!;
        if (!day) return;
        expect(instantAt(scale, day, topOf(scale, day, instant))).toBe(instant);
      }),
    );
  });
});

describe('what is dragged', () => {
  const meeting = span('2026-11-24T10:00', '2026-11-24T11:00');

  it('moves by quarter hours and keeps its length', () => {
    const moved = draggedSpan(
      'move',
      meeting,
      at('2026-11-24T10:20'),
      at('2026-11-25T13:04'),
      OSLO,
    );
    expect(wallTimeAt(moved.start, OSLO)).toBe('2026-11-25T12:45');
    expect(moved.end - moved.start).toBe(HOUR);
  });

  it('keeps to the quarter hours of a zone that is off by half an hour', () => {
    const held = { start: at('2026-11-24T10:00', 'Asia/Kathmandu'), end: 0, allDay: false };
    const moved = draggedSpan(
      'move',
      { ...held, end: held.start + HOUR },
      held.start,
      held.start + 37 * MINUTE,
      'Asia/Kathmandu',
    );
    expect(wallTimeAt(moved.start, 'Asia/Kathmandu')).toBe('2026-11-24T10:30');
  });

  it('stretches at either end, never to nothing', () => {
    expect(draggedSpan('end', meeting, 0, at('2026-11-24T11:40'), OSLO).end).toBe(
      at('2026-11-24T11:45'),
    );
    expect(draggedSpan('end', meeting, 0, at('2026-11-24T08:00'), OSLO).end).toBe(
      at('2026-11-24T10:15'),
    );
    expect(draggedSpan('start', meeting, 0, at('2026-11-24T12:00'), OSLO).start).toBe(
      at('2026-11-24T10:45'),
    );
  });

  it('is made in either direction', () => {
    const [a, b] = [at('2026-11-24T10:05'), at('2026-11-24T11:20')];
    const down = draggedSpan('create', meeting, a, b, OSLO);
    expect(draggedSpan('create', meeting, b, a, OSLO)).toEqual(down);
    expect(down).toEqual(span('2026-11-24T10:00', '2026-11-24T11:30'));
  });

  it('becomes whole days in the row above, and an hour when it comes back', () => {
    expect(wholeDays(meeting, '2026-11-24', '2026-11-26', OSLO)).toEqual(
      span('2026-11-26T00:00', '2026-11-27T00:00', true),
    );
    const leave = span('2026-11-24T00:00', '2026-11-27T00:00', true);
    expect(wholeDays(leave, '2026-11-25', '2026-11-26', OSLO)).toEqual(
      span('2026-11-25T00:00', '2026-11-28T00:00', true),
    );
    expect(draggedSpan('move', leave, leave.start, at('2026-11-25T14:00'), OSLO)).toEqual(
      span('2026-11-25T14:00', '2026-11-25T15:00'),
    );
    expect(toggledAllDay(toggledAllDay(meeting, OSLO), OSLO)).toEqual(
      span('2026-11-24T09:00', '2026-11-24T10:00'),
    );
  });

  it('keeps its local hour when keys carry it over a clock change', () => {
    const before = span('2027-03-27T09:00', '2027-03-27T10:00');
    expect(nudged(before, { days: 1 }, OSLO)).toEqual(span('2027-03-28T09:00', '2027-03-28T10:00'));
    expect(nudged(meeting, { minutes: -15 }, OSLO).start).toBe(meeting.start - 15 * MINUTE);
    expect(nudged(meeting, { endMinutes: -60 }, OSLO)).toEqual(meeting);
  });
});

describe('bars across days', () => {
  const days = week('2026-11-23').days;

  it('share lanes without overlapping, and say where they go on', () => {
    const long = { ...span('2026-11-20T00:00', '2026-11-26T00:00', true), name: 'long' };
    const after = { ...span('2026-11-26T00:00', '2026-12-03T00:00', true), name: 'after' };
    const over = { ...span('2026-11-25T00:00', '2026-11-27T00:00', true), name: 'over' };
    const bars = layOutBars([over, after, long], days).map((bar) => [
      bar.item.name,
      bar.lane,
      bar.from,
      bar.to,
      bar.before,
      bar.after,
    ]);
    expect(bars).toEqual([
      ['long', 0, 0, 2, true, false],
      ['over', 1, 2, 3, false, false],
      ['after', 0, 3, 6, false, true],
    ]);
  });

  it('never overlap in a lane', () => {
    const item = fc
      .tuple(fc.integer({ min: -3, max: 8 }), fc.integer({ min: 1, max: 6 }))
      .map(([from, length]) => ({
        start: days[0]!.start + from * DAY,
        end: days[0]!.start + (from + length) * DAY,
      }));
    fc.assert(
      fc.property(fc.array(item, { maxLength: 12 }), (items) => {
        const bars = layOutBars(items, days);
        for (const a of bars) {
          for (const b of bars) {
            if (a !== b && a.lane === b.lane) expect(a.to < b.from || b.to < a.from).toBe(true);
          }
        }
      }),
    );
  });
});
