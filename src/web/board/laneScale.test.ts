import { describe, expect, it } from 'vitest';
import { HOUR, MINUTE } from '../../core/time/interval.ts';
import { resolveWallTime, wallTimeAt } from '../../core/time/wall.ts';
import { draggedSpan } from '../grid/index.ts';
import { instantAtShare, laneHours, laneScale, placeIn, shareOf, shownOf } from './laneScale.ts';

const OSLO = 'Europe/Oslo';
const at = (wall: string) => resolveWallTime(wall, OSLO).instant;
const lanesOf = (dates: string[], hours: readonly [number, number] = [0, 24]) => {
  const scale = laneScale(dates, OSLO, hours);
  return scale.scale.days.map((day) => {
    const lane = { hours: scale, day };
    return { ...lane, window: shownOf(lane) };
  });
};

describe.each([
  ['a day of 23 hours', '2027-03-28', ['2027-03-26', '2027-03-27', '2027-03-28', '2027-03-29']],
  ['a day of 25 hours', '2027-10-31', ['2027-10-29', '2027-10-30', '2027-10-31', '2027-11-01']],
])('lanes of a fortnight with %s', (_, changes, dates) => {
  const lanes = lanesOf(dates);
  it.each(['07:00', '09:30', '18:15', '23:00'])('show %s at one place in every lane', (clock) => {
    const shares = lanes.map((lane) => shareOf(lane, at(`${lane.day.date}T${clock}`)));
    expect(new Set(shares.map((one) => one.toFixed(6))).size).toBe(1);
  });

  it('give a bar the width of its length in every lane', () => {
    const widths = lanes.map(
      (lane) =>
        placeIn(lane, {
          start: at(`${lane.day.date}T10:00`),
          end: at(`${lane.day.date}T11:30`),
        })!.width,
    );
    expect(new Set(widths).size).toBe(1);
  });

  it('say what is under the pointer by that lane’s clock', () => {
    const nine = shareOf(lanes[0]!, at(`${dates[0]}T09:00`));
    expect(lanes.map((lane) => wallTimeAt(instantAtShare(lane, nine), OSLO).slice(11, 16))).toEqual(
      lanes.map(() => '09:00'),
    );
  });

  it('move a booking onto that day without an hour lost', () => {
    const booking = { start: at(`${dates[1]}T10:00`), end: at(`${dates[1]}T11:00`) };
    const share = shareOf(lanes[1]!, booking.start + 30 * MINUTE);
    const onto = lanes.find(({ day }) => day.date === changes)!;
    const moved = draggedSpan(
      'move',
      { ...booking, allDay: false },
      instantAtShare(lanes[1]!, share),
      instantAtShare(onto, share),
      OSLO,
    );
    expect(moved.start).toBe(at(`${changes}T10:00`));
    expect(moved.end - moved.start).toBe(HOUR);
  });
});

describe('the hours of a lane', () => {
  it('are those of the clock, from the left edge on', () => {
    const [lane] = lanesOf(['2026-11-24'], [7, 20]);
    expect(laneHours(lane!.hours).map(({ hour }) => hour)).toEqual([
      7, 8, 9, 10, 11, 12, 13, 14, 15, 16, 17, 18, 19,
    ]);
    expect(lane!.window).toEqual({ start: at('2026-11-24T07:00'), end: at('2026-11-24T20:00') });
    expect(placeIn(lane!, { start: at('2026-11-24T20:00'), end: at('2026-11-24T21:00') })).toBe(
      null,
    );
  });

  it('come twice where the clock goes back', () => {
    const [lane] = lanesOf(['2027-10-31']);
    expect(laneHours(lane!.hours).filter(({ hour }) => hour === 2)).toHaveLength(2);
    expect(lane!.window.end - lane!.window.start).toBe(25 * HOUR);
  });
});
