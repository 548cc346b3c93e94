import type ICAL from 'ical.js';
import {
  startOfDay,
  isReadableZone,
  isWallTime,
  resolveWallTime,
  wallTimeAt,
  type WallTime,
} from '../time/wall.ts';
import { toInstant, type ZoneTable } from '../time/zoneTable.ts';
import { explainedZone } from './zoneRules.ts';

/** A time of a calendar with all that says which instant it means. */
export interface ReadTime {
  /** As jCal writes it: `2026-12-01T10:00:00`, with a `Z` where it is in UTC; of a date `2026-12-01`. */
  text: string;
  isDate: boolean;
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
  if (!property) return null;
  const [text] = valuesOf(property);
  return timeIn(text, property, calendar);
}

/** All times of a property. */
export const timesOf = (property: ICAL.Property, calendar: ICAL.Component): ReadTime[] =>
  valuesOf(property).flatMap((value) => timeIn(value, property, calendar) ?? []);

/** What stands in a property as it was parsed; making objects of thousands of values takes seconds. */
export const valuesOf = (property: ICAL.Property): unknown[] =>
  (property.jCal as unknown[]).slice(3);

/** A value of a property as a time; null where it is none. */
export function timeIn(
  value: unknown,
  property: ICAL.Property,
  calendar: ICAL.Component,
): ReadTime | null {
  if (typeof value !== 'string' || !/^\d{4}-\d\d-\d\d(?:T\d\d:\d\d:\d\dZ?)?$/.test(value))
    return null;
  const isDate = value.length === 10;
  if (!isWallTime(isDate ? `${value}T00:00` : value.slice(0, 16))) return null;
  const tzid = property.getFirstParameter('tzid');
  return { text: value, isDate, tzid: typeof tzid === 'string' ? tzid : null, calendar };
}

/**
 * The instant that a time means, never read in the zone of whatever machine reads it.
 * @param zone where dates and floating times are meant
 * @throws Error with a sentence where the calendar explains its zone in a way that cannot be read
 */
export function instantOf({ text, isDate, tzid, calendar }: ReadTime, zone: string): number {
  if (isDate) return startOfDay(text, zone);
  const seconds = Number(text.slice(17, 19)) * 1000;
  const wall = text.slice(0, 16);
  if (text.endsWith('Z')) return Date.parse(`${wall}Z`) + seconds;
  if (tzid === null) return resolveWallTime(wall, zone).instant + seconds;
  if (isReadableZone(tzid)) return resolveWallTime(wall, tzid).instant + seconds;
  // A zone of a name of its own, which the calendar itself explains.
  const table = explainedYears(calendar, tzid, Number(text.slice(0, 4)));
  if (!table) return resolveWallTime(wall, zone).instant + seconds;
  return toInstant(table, Date.parse(`${wall}:00Z`)) + seconds;
}

/** What a calendar explains is worked out once for each year of its times. */
const yearsRead = new WeakMap<ICAL.Component, Map<number, ZoneTable>>();

/**
 * The clock of a zone that a calendar explains, around a year.
 * @returns null where it does not explain it
 * @throws Error with a sentence where what it says cannot be read
 */
function explainedYears(calendar: ICAL.Component, tzid: string, year: number): ZoneTable | null {
  const explained = explainedIn(calendar, tzid);
  if (!explained) return null;
  const known = yearsRead.get(explained) ?? new Map<number, ZoneTable>();
  yearsRead.set(explained, known);
  let table = known.get(year);
  if (!table) {
    const window = { start: Date.UTC(year - 1, 11, 1), end: Date.UTC(year + 1, 1, 1) };
    known.set(year, (table = explainedZone(explained, window)));
  }
  return table;
}

/** The VTIMEZONE by which a calendar explains a name, if it does. */
export const explainedIn = (calendar: ICAL.Component, tzid: string): ICAL.Component | undefined =>
  calendar
    .getAllSubcomponents('vtimezone')
    .find((one) => one.getFirstPropertyValue('tzid') === tzid);

/** A date of a series as a message names it: by the wall time of the series itself, or by an instant. */
export type NamedDate = { wall: WallTime } | { instant: number };

/** A time by which a date of a series is named, as a plain value. */
export const namedDateOf = (read: ReadTime): NamedDate =>
  read.isDate
    ? { wall: `${read.text}T00:00` }
    : read.tzid === null && !read.text.endsWith('Z')
      ? { wall: read.text.slice(0, 16) }
      : { instant: instantOf(read, 'UTC') };

/** The wall time that names the date in its series. @param zone that of the series */
export const namedIn = (named: NamedDate, zone: string): WallTime =>
  'wall' in named ? named.wall : wallTimeAt(named.instant, zone);

/** The wall time in a zone that a time means: of a date its midnight, whatever the zone. */
export const wallTimeOf = (read: ReadTime, zone: string): WallTime =>
  read.isDate ? `${read.text}T00:00` : wallTimeAt(instantOf(read, zone), zone);
