import { Temporal } from 'temporal-polyfill';
import type { Booker, PlaceRules } from '../../src/core/booking/rules.ts';

const MINUTE = 60_000;

/** The rules of a place, asked of each single minute of a booking; see `brokenRules`. */
export function brokenBySlowRules(
  rules: PlaceRules,
  span: { start: number; end: number },
  booker: Booker,
  { zone, now }: { zone: string; now: number },
): string[] {
  const clockAt = (instant: number) =>
    Temporal.Instant.fromEpochMilliseconds(instant).toZonedDateTimeISO(zone);
  const minutes: Temporal.ZonedDateTime[] = [];
  for (let at = span.start; at < span.end; at += MINUTE) minutes.push(clockAt(at));
  const first = minutes[0]!;
  const mondayOf = (at: Temporal.ZonedDateTime) =>
    at
      .toPlainDate()
      .subtract({ days: at.dayOfWeek - 1 })
      .toString();
  const isOpen = (at: Temporal.ZonedDateTime) => {
    const minute = at.hour * 60 + at.minute;
    const within = (day: number, now: number) =>
      rules.open![day]!.some((shift) => shift.start <= now && now < shift.end);
    const today = at.dayOfWeek - 1;
    return within(today, minute) || within((today + 6) % 7, minute + 1440);
  };
  const weeks = new Map<string, number>();
  const count = (at: Temporal.ZonedDateTime) =>
    weeks.set(mondayOf(at), (weeks.get(mondayOf(at)) ?? 0) + 1);
  for (const one of booker.has)
    for (let at = one.start; at < one.end; at += MINUTE) count(clockAt(at));
  minutes.forEach(count);
  const touched = new Set(minutes.map(mondayOf));
  const length = minutes.length;
  const daysAhead = clockAt(now).toPlainDate().until(minutes.at(-1)!.toPlainDate()).days;
  const step = rules.stepMinutes;
  const broken: [string, boolean][] = [
    ['closed', rules.open !== null && !minutes.every(isOpen)],
    ['too-short', rules.shortestMinutes !== null && length < rules.shortestMinutes],
    ['too-long', rules.longestMinutes !== null && length > rules.longestMinutes],
    [
      'off-step',
      step !== null && ((first.hour * 60 + first.minute) % step !== 0 || length % step !== 0),
    ],
    [
      'too-much',
      rules.weeklyMinutes !== null &&
        [...touched].some((monday) => weeks.get(monday)! > rules.weeklyMinutes!),
    ],
    ['too-late', rules.noticeMinutes !== null && (span.start - now) / MINUTE < rules.noticeMinutes],
    ['too-early', rules.horizonDays !== null && daysAhead > rules.horizonDays],
    ['not-for-you', rules.teams !== null && !rules.teams.some((id) => booker.teams.includes(id))],
    [
      'somebodys',
      rules.assigned !== undefined &&
        rules.assigned.ownerId !== booker.id &&
        !minutes.every((at) => rules.assigned!.freeDays.includes(at.toPlainDate().toString())),
    ],
  ];
  return broken.flatMap(([rule, isBroken]) => (isBroken ? [rule] : []));
}
