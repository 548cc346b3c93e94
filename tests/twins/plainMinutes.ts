import { Temporal } from 'temporal-polyfill';
import type { LineUpMember } from '../../src/core/planner/lineUp.ts';
import type { Wishes } from '../../src/core/planner/wishes.ts';

const MINUTE_MS = 60_000;
const DAY_MINUTES = 1440;
/** How far around the window minutes are told, so that every last and next shift is among them. */
const AROUND_DAYS = 15;

/** What is true of somebody in each minute, written from docs/PLANNING.md and nothing else. */
export interface PlainMinutes {
  member: LineUpMember;
  /** Whether nothing of it has hours, as a place that is always open. */
  hourless: boolean;
  works: (minute: number) => boolean;
  /** Within the hours as widened by the stretches, which no holiday is. */
  bearable: (minute: number) => boolean;
  /** Works, or is in a break of four hours at most. */
  inDay: (minute: number) => boolean;
  taken: (minute: number) => boolean;
  doubtful: (minute: number) => boolean;
  /** 12:00 to 13:00 on their own clock. */
  midday: (minute: number) => boolean;
  /** From 22:00 to 06:00 on their own clock. */
  night: (minute: number) => boolean;
  /** Minutes from the window's beginning that are told: half-open. */
  from: number;
  to: number;
}

/** Minutes after the window's beginning of an instant; what is within a minute rounds outwards. */
const minuteOf = (instant: number, wishes: Pick<Wishes, 'window'>, round = Math.floor) =>
  round((instant - wishes.window.start) / MINUTE_MS);

export function plainMinutes(member: LineUpMember, wishes: Wishes): PlainMinutes {
  const from = -AROUND_DAYS * DAY_MINUTES;
  const to = minuteOf(wishes.window.end, wishes) + AROUND_DAYS * DAY_MINUTES;
  const more = wishes.stretches[member.zone] ?? { early: 0, late: 0 };
  const plain = laid(member, wishes, from, to, 0, 0);
  const wide = laid(
    member,
    wishes,
    from,
    to,
    wishes.stretchMinutes + more.early,
    wishes.stretchMinutes + more.late,
  );
  // No stretch reaches into a day off: there only the shift itself does, of a night before.
  const offs = new Set(
    (member.holidays ?? []).flatMap((one) => (one.part === undefined ? one.date : [])),
  );
  if (offs.size > 0)
    wide.forEach((isIn, k) => {
      if (isIn && !plain[k] && offs.has(dateOf(k + from, member.zone, wishes))) wide[k] = 0;
    });
  const whole = withBreaks(plain);
  const marked = (states: readonly string[]) => {
    const minutes = new Uint8Array(to - from);
    for (const span of member.busy)
      if (states.includes(span.occupancy))
        fill(
          minutes,
          minuteOf(span.start, wishes) - from,
          minuteOf(span.end, wishes, Math.ceil) - from,
        );
    return minutes;
  };
  const counts = ['busy', 'away'];
  if (!wishes.tentativeIsFree) counts.push('tentative');
  if (wishes.unknown === 'busy') counts.push('unknown');
  const taken = marked(counts);
  const unknown = wishes.unknown === 'ignored' ? marked(['unknown']) : new Uint8Array(to - from);
  const silent = member.knowledge === 'none';
  const inWindow = (minute: number) =>
    minute >= 0 && minute < minuteOf(wishes.window.end, wishes, Math.ceil);
  const at = (minutes: Uint8Array) => (minute: number) => minutes[minute - from] === 1;
  const noon = middays(member.zone, wishes, from, to);
  return {
    member,
    hourless: !member.hours,
    works: at(plain),
    bearable: at(wide),
    inDay: at(whole),
    taken: silent ? (minute) => wishes.unknown === 'busy' && inWindow(minute) : at(taken),
    doubtful: silent ? (minute) => wishes.unknown === 'ignored' && inWindow(minute) : at(unknown),
    midday: at(noon),
    night: nightly(member.zone, wishes),
    from,
    to,
  };
}

function fill(minutes: Uint8Array, start: number, end: number): void {
  for (let k = Math.max(0, start); k < Math.min(minutes.length, end); k++) minutes[k] = 1;
}

/** Each date's shifts, laid on the clock of the zone, begun earlier and ended later by some minutes. */
function laid(
  { hours, zone, holidays = [] }: LineUpMember,
  wishes: Wishes,
  from: number,
  to: number,
  early: number,
  late: number,
): Uint8Array {
  const minutes = new Uint8Array(to - from);
  if (!hours) return minutes.fill(1);
  const off = new Set(holidays.flatMap((one) => (one.part === undefined ? one.date : [])));
  const first = Temporal.Instant.fromEpochMilliseconds(wishes.window.start + from * MINUTE_MS)
    .toZonedDateTimeISO(zone)
    .toPlainDate();
  for (let day = -2; day <= (to - from) / DAY_MINUTES + 2; day++) {
    const date = first.add({ days: day });
    if (off.has(date.toString())) continue;
    for (const shift of hours[date.dayOfWeek - 1]!) {
      const at = (minute: number) =>
        minuteOf(
          date.toPlainDateTime().add({ minutes: minute }).toZonedDateTime(zone).epochMilliseconds,
          wishes,
        );
      fill(minutes, at(shift.start) - early - from, at(shift.end) + late - from);
    }
  }
  for (const { date, part } of holidays) {
    if (!part) continue;
    const at = (minute: number) =>
      minuteOf(
        Temporal.PlainDate.from(date)
          .toPlainDateTime()
          .add({ minutes: minute })
          .toZonedDateTime(zone).epochMilliseconds,
        wishes,
      ) - from;
    for (let k = Math.max(0, at(part.start)); k < Math.min(minutes.length, at(part.end)); k++)
      minutes[k] = 0;
  }
  return minutes;
}

/** The same with every gap between two shifts that is four hours at most. */
function withBreaks(works: Uint8Array): Uint8Array {
  const whole = works.slice();
  let last = -1;
  works.forEach((work, k) => {
    if (work !== 1) return;
    if (last >= 0 && k - last - 1 <= 4 * 60) whole.fill(1, last, k);
    last = k;
  });
  return whole;
}

const dateOf = (minute: number, zone: string, { window }: Pick<Wishes, 'window'>): string =>
  Temporal.Instant.fromEpochMilliseconds(window.start + minute * MINUTE_MS)
    .toZonedDateTimeISO(zone)
    .toPlainDate()
    .toString();

/** Whether the zone's clock shows an hour of the night. */
const nightly =
  (zone: string, wishes: Pick<Wishes, 'window'>) =>
  (minute: number): boolean => {
    const { hour } = Temporal.Instant.fromEpochMilliseconds(
      wishes.window.start + minute * MINUTE_MS,
    ).toZonedDateTimeISO(zone);
    return hour >= 22 || hour < 6;
  };

/** The minutes that the zone's clock calls 12:00 to 12:59. */
function middays(zone: string, wishes: Wishes, from: number, to: number): Uint8Array {
  const minutes = new Uint8Array(to - from);
  const first = Temporal.Instant.fromEpochMilliseconds(wishes.window.start + from * MINUTE_MS)
    .toZonedDateTimeISO(zone)
    .toPlainDate();
  for (let day = -1; day <= (to - from) / DAY_MINUTES + 1; day++) {
    const at = (hour: number) =>
      minuteOf(
        first
          .add({ days: day })
          .toZonedDateTime({ timeZone: zone, plainTime: Temporal.PlainTime.from({ hour }) })
          .epochMilliseconds,
        wishes,
      );
    fill(minutes, at(12) - from, at(13) - from);
  }
  return minutes;
}
