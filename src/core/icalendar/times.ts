import ICAL from 'ical.js';
import {
  startOfDay,
  isReadableZone,
  resolveWallTime,
  wallTimeAt,
  type WallTime,
} from '../time/wall.ts';

/** A time of a calendar with all that says which instant it means. */
export interface ReadTime {
  time: ICAL.Time;
  /** TZID of the property; null for UTC, floating times and dates. */
  tzid: string | null;
  calendar: ICAL.Component;
}

/** The value of a property as a time; null when it has none. */
export function timeOf(
  component: ICAL.Component,
  name: string,
  calendar: ICAL.Component,
): ReadTime | null {
  const property = component.getFirstProperty(name);
  const time = property?.getFirstValue();
  if (!(time instanceof ICAL.Time)) return null;
  const tzid = property!.getFirstParameter('tzid');
  return { time, tzid: typeof tzid === 'string' ? tzid : null, calendar };
}

/**
 * The instant that a time means, never read in the zone of whatever machine reads it.
 * @param zone where dates and floating times are meant
 */
export function instantOf({ time, tzid, calendar }: ReadTime, zone: string): number {
  if (time.isDate) return startOfDay(time.toString().slice(0, 10), zone);
  const text = time.toString();
  if (text.endsWith('Z')) return Date.parse(text);
  const seconds = time.second * 1000;
  const wall = text.slice(0, 16);
  if (tzid === null) return resolveWallTime(wall, zone).instant + seconds;
  if (isReadableZone(tzid)) return resolveWallTime(wall, tzid).instant + seconds;
  // A zone of a name of its own, which the calendar itself explains.
  const explained = calendar
    .getAllSubcomponents('vtimezone')
    .find((one) => one.getFirstPropertyValue('tzid') === tzid);
  if (!explained) return resolveWallTime(wall, zone).instant + seconds;
  const local = ICAL.Time.fromDateTimeString(text);
  local.zone = new ICAL.Timezone(explained);
  return local.toUnixTime() * 1000;
}

/** The wall time in a zone that a time means: of a date its midnight, whatever the zone. */
export const wallTimeOf = (read: ReadTime, zone: string): WallTime =>
  read.time.isDate
    ? `${read.time.toString().slice(0, 10)}T00:00`
    : wallTimeAt(instantOf(read, zone), zone);
