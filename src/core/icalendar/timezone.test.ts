import ICAL from 'ical.js';
import { describe, expect, it } from 'vitest';
import { DAY, HOUR } from '../time/interval.ts';
import { offsetAt, zoneTable } from '../time/zoneTable.ts';
import { timezoneComponent } from './timezone.ts';

/** Northern and southern summers, half-hour changes, rules that changed, a month of fasting, none. */
const ZONES = [
  'Europe/Oslo',
  'Europe/Dublin',
  'Europe/London',
  'Europe/Lisbon',
  'Europe/Moscow',
  'Europe/Istanbul',
  'Atlantic/Azores',
  'Atlantic/Reykjavik',
  'America/Halifax',
  'America/St_Johns',
  'America/New_York',
  'America/Sao_Paulo',
  'America/Santiago',
  'America/Asuncion',
  'America/Mexico_City',
  'America/Nuuk',
  'America/Havana',
  'Africa/Nairobi',
  'Africa/Cairo',
  'Africa/Casablanca',
  'Asia/Kolkata',
  'Asia/Jerusalem',
  'Asia/Beirut',
  'Asia/Kathmandu',
  'Asia/Tokyo',
  'Australia/Hobart',
  'Australia/Lord_Howe',
  'Pacific/Auckland',
  'Pacific/Chatham',
  'Pacific/Apia',
];
const YEARS = 15;
const START = Date.UTC(2026, 10, 26, 11);

/** The offset at an instant as a receiver works it out, in milliseconds. */
function receivedOffset(zone: ICAL.Timezone, instant: number, actual: number): number {
  const local = ICAL.Time.fromJSDate(new Date(instant + actual), true);
  return zone.utcOffset(ICAL.Time.fromData({ ...local.toJSON(), isDate: false }, zone)) * 1000;
}

describe('a VTIMEZONE', () => {
  it.each(ZONES)('of %s says the zone database’s offsets for 15 years', (zone) => {
    const received = new ICAL.Timezone(timezoneComponent(zone, START, null));
    const window = { start: START, end: START + YEARS * 366 * DAY };
    const table = zoneTable(zone, window);
    // Ordinary days of every month, and a few hours on either side of each change.
    const instants = Array.from({ length: YEARS * 12 }, (_, k) => START + k * 30 * DAY);
    for (const change of table.starts.slice(1)) {
      instants.push(change - 6 * HOUR, change + 6 * HOUR);
    }
    const wrong = instants
      .filter((at) => at >= window.start && at < window.end)
      .filter((at) => receivedOffset(received, at, offsetAt(table, at)) !== offsetAt(table, at));
    expect(wrong.map((at) => new Date(at).toISOString())).toEqual([]);
  });

  it('gives a zone that goes on for ever its rule, so that it never ends', () => {
    const text = timezoneComponent('Europe/Oslo', START, null).toString();
    expect(text).toContain('RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU');
    expect(text).toContain('RRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU');
    expect(text.match(/BEGIN:(STANDARD|DAYLIGHT)/g)).toHaveLength(3);
  });

  it('covers a series that ends far ahead, where a zone has no rule', () => {
    const until = Date.UTC(2065, 0, 1);
    const received = new ICAL.Timezone(timezoneComponent('Africa/Casablanca', START, until));
    const table = zoneTable('Africa/Casablanca', { start: START, end: until });
    for (let at = START; at < until; at += 60 * DAY) {
      expect(receivedOffset(received, at, offsetAt(table, at))).toBe(offsetAt(table, at));
    }
  });
});
