import ICAL from 'ical.js';
import { DAY } from '../time/interval.ts';
import { addDays, wallTimeAt, weekdayOf, type WallTime } from '../time/wall.ts';
import { zoneTable } from '../time/zoneTable.ts';
import { weekdayName } from '../recurrence/rule.ts';

/** As far ahead as a series without an end is explained, where the zone has no rule of its own. */
const YEARS_AHEAD = 30;

/** A change of a zone's clock, with the wall time before it, which is what DTSTART is. */
interface Change {
  onset: WallTime;
  from: number;
  to: number;
}

/**
 * A VTIMEZONE (RFC 5545 section 3.6.5) that says the zone's real offsets over all that a series
 * covers. Changes that come round every year in the same way for as far as the zone database knows
 * are given as a rule, so that they go on; the others are listed one by one.
 * @param from epoch milliseconds of the first time it must explain
 * @param until the last one; null when there is none
 */
export function timezoneComponent(
  zone: string,
  from: number,
  until: number | null,
): ICAL.Component {
  const begins = from - 366 * DAY;
  const ends = Math.max(from + YEARS_AHEAD * 366 * DAY, (until ?? 0) + 366 * DAY);
  const table = zoneTable(zone, { start: begins, end: ends });
  const changes = table.offsets.slice(1).map((to, k): Change => {
    const before = table.offsets[k]!;
    return { onset: wallTimeAt(table.starts[k + 1]! + before, 'UTC'), from: before, to };
  });
  const component = new ICAL.Component('vtimezone');
  component.addPropertyWithValue('tzid', zone);
  const first = table.offsets[0]!;
  const standard = standardOffset(table.offsets);
  const add = (change: Change, rule?: string) =>
    component.addSubcomponent(observance(change, change.to > standard, rule));
  add({ onset: '1970-01-01T00:00', from: first, to: first });
  const yearly = new Set(yearlySeries(changes, wallTimeAt(ends, 'UTC')));
  const ruled = new Set([...yearly].flatMap((series) => series.changes));
  for (const change of changes) if (!ruled.has(change)) add(change);
  for (const series of yearly) add(series.changes[0]!, series.rule);
  return component;
}

/** The offset of the winter: the lowest of those that the zone has lately. */
const standardOffset = (offsets: readonly number[]): number => Math.min(...offsets.slice(-3));

function observance({ onset, from, to }: Change, daylight: boolean, rule?: string) {
  const part = new ICAL.Component(daylight ? 'daylight' : 'standard');
  part.addPropertyWithValue('dtstart', ICAL.Time.fromDateTimeString(`${onset}:00`));
  part.addPropertyWithValue('tzoffsetfrom', ICAL.UtcOffset.fromString(offsetText(from)));
  part.addPropertyWithValue('tzoffsetto', ICAL.UtcOffset.fromString(offsetText(to)));
  if (rule) part.addPropertyWithValue('rrule', ICAL.Recur.fromString(rule));
  return part;
}

const offsetText = (ms: number): string => {
  const minutes = Math.abs(ms) / 60_000;
  const two = (n: number) => String(Math.floor(n)).padStart(2, '0');
  return `${ms < 0 ? '-' : '+'}${two(minutes / 60)}:${two(minutes % 60)}`;
};

interface YearlySeries {
  changes: Change[];
  rule: string;
}

/**
 * The changes that come round every year, up to the last year known: the longest run to the end of
 * those between the same offsets at the same time of day, in the same month on the same weekday.
 */
function yearlySeries(changes: readonly Change[], ends: WallTime): YearlySeries[] {
  const lastYear = Number(ends.slice(0, 4)) - 1;
  const groups = new Map<string, Change[]>();
  for (const change of changes) {
    const { onset, from, to } = change;
    const key = [
      from,
      to,
      onset.slice(5, 7),
      onset.slice(11),
      weekdayOf(onset.slice(0, 10)),
    ].join();
    groups.set(key, [...(groups.get(key) ?? []), change]);
  }
  return [...groups.values()].flatMap((group) => {
    const yearOf = (change: Change) => Number(change.onset.slice(0, 4));
    let first = group.length - 1;
    if (yearOf(group[first]!) < lastYear) return [];
    while (first > 0 && yearOf(group[first - 1]!) === yearOf(group[first]!) - 1) first--;
    const run = group.slice(first);
    const rule = run.length >= 10 ? ruleOf(run) : null;
    return rule ? [{ changes: run, rule }] : [];
  });
}

/** Which days of its month the changes fall on: the last of the weekday, or within one certain week. */
function ruleOf(run: readonly Change[]): string | null {
  const dates = run.map((change) => change.onset.slice(0, 10));
  const weekday = weekdayName(weekdayOf(dates[0]!));
  const month = `FREQ=YEARLY;BYMONTH=${Number(dates[0]!.slice(5, 7))}`;
  const isLast = (date: string) => addDays(date, 7).slice(5, 7) !== date.slice(5, 7);
  if (dates.every(isLast)) return `${month};BYDAY=-1${weekday}`;
  const days = dates.map((date) => Number(date.slice(8)));
  const lowest = Math.min(...days);
  if (Math.max(...days) - lowest > 6) return null;
  if ((lowest - 1) % 7 === 0) return `${month};BYDAY=${(lowest - 1) / 7 + 1}${weekday}`;
  const week = Array.from({ length: 7 }, (_, k) => lowest + k).join(',');
  return `${month};BYMONTHDAY=${week};BYDAY=${weekday}`;
}
