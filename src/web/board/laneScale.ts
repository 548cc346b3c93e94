import { MINUTE, type Interval } from '../../core/time/interval.ts';
import {
  dayScale,
  emptyBand,
  hourMarks,
  instantAt,
  topOf,
  type Day,
  type Scale,
} from '../grid/index.ts';

/** Whole hours of a day from which and until which it is shown. */
export type ShownHours = readonly [from: number, to: number];

/**
 * Where instants stand in lanes of days: by the clock on the wall, so that nine o'clock is at one place in
 * every lane, also where a day has 23 or 25 hours.
 */
export interface LaneScale {
  scale: Scale;
  /** Minutes of the scale at the left edge, and how many there are up to the right one. */
  left: number;
  length: number;
}

/** A day's lane on its scale. */
export interface LaneDay {
  hours: LaneScale;
  day: Day;
}

/** The scale of days of a zone with the hours of each that are shown. */
export function laneScale(
  dates: readonly string[],
  zone: string,
  [from, to]: ShownHours,
): LaneScale {
  const scale = dayScale(dates, zone);
  const at = (hour: number) =>
    hour === 24
      ? scale.height
      : hourMarks(scale).find((mark) => mark.hour === hour && !mark.again)!.top;
  return { scale, left: at(from), length: at(to) - at(from) };
}

/** The full hours that are shown, each with its share of the width. */
export const laneHours = ({ scale, left, length }: LaneScale) =>
  hourMarks(scale)
    .filter(({ top }) => top >= left && top < left + length)
    .map(({ top, hour, again }) => ({ share: (top - left) / length, hour, again }));

/** What of a day is shown. */
export const shownOf = ({ hours: { scale, left, length }, day }: LaneDay): Interval => ({
  start: instantAt(scale, day, left),
  end: left + length === scale.height ? day.end : instantAt(scale, day, left + length),
});

/** The part of a lane that has no time: an hour that the clock skips there, or that comes twice elsewhere. */
export function emptyIn({ hours: { scale, left, length }, day }: LaneDay) {
  const band = emptyBand(scale, day);
  if (!band) return null;
  const share = (minute: number) => Math.min(1, Math.max(0, (minute - left) / length));
  const [from, to] = [share(band.top), share(band.top + band.height)];
  return from < to ? { left: `${from * 100}%`, width: `${(to - from) * 100}%` } : null;
}

/** How far from the left edge an instant stands, as a share of the width; outside it the nearer edge. */
export function shareOf({ hours: { scale, left, length }, day }: LaneDay, instant: number): number {
  return Math.min(1, Math.max(0, (topOf(scale, day, instant) - left) / length));
}

/** Left and width of a span in its lane, as a style; null where none of it is inside. */
export function placeIn(
  lane: LaneDay & { window: Interval },
  span: Interval,
): { left: string; width: string } | null {
  if (span.start >= lane.window.end || span.end <= lane.window.start) return null;
  const [from, to] = [shareOf(lane, span.start), shareOf(lane, span.end)];
  return { left: `${from * 100}%`, width: `${(to - from) * 100}%` };
}

/** The instant at a share of the width, to the minute. */
export const instantAtShare = ({ hours: { scale, left, length }, day }: LaneDay, share: number) =>
  instantAt(scale, day, left + share * length);

/** Minutes of a lane's width, as a share of it. */
export const shareOfMinutes = ({ length }: LaneScale, milliseconds: number): number =>
  milliseconds / MINUTE / length;
