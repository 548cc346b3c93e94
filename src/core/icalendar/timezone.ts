import ICAL from 'ical.js';
import { DAY } from '../time/interval.ts';
import { wallTimeAt } from '../time/wall.ts';
import { zoneTable } from '../time/zoneTable.ts';

const offsetText = (ms: number): string => {
  const minutes = Math.abs(ms) / 60_000;
  const two = (n: number) => String(Math.floor(n)).padStart(2, '0');
  return `${ms < 0 ? '-' : '+'}${two(minutes / 60)}:${two(minutes % 60)}`;
};

/**
 * A VTIMEZONE (RFC 5545 section 3.6.5) that lists the zone's real offsets one by one over a window,
 * so that it is right even where rules changed, and needs no rule of its own.
 * @param from epoch milliseconds of the first time it must explain
 * @param years how far ahead it reaches
 */
export function timezoneComponent(zone: string, from: number, years = 3): ICAL.Component {
  const table = zoneTable(zone, { start: from - 366 * DAY, end: from + years * 366 * DAY });
  const component = new ICAL.Component('vtimezone');
  component.addPropertyWithValue('tzid', zone);
  const highest = Math.max(...table.offsets);
  table.offsets.forEach((offset, k) => {
    const before = k === 0 ? offset : table.offsets[k - 1]!;
    const daylight = table.offsets.length > 1 && offset === highest;
    const part = new ICAL.Component(daylight ? 'daylight' : 'standard');
    // DTSTART is the wall time before the change, at which the new offset begins to hold.
    const onset =
      k === 0 ? '1970-01-01T00:00:00' : wallTimeAt(table.starts[k]! + before, 'UTC').concat(':00');
    part.addPropertyWithValue('dtstart', ICAL.Time.fromDateTimeString(onset));
    part.addPropertyWithValue('tzoffsetfrom', ICAL.UtcOffset.fromString(offsetText(before)));
    part.addPropertyWithValue('tzoffsetto', ICAL.UtcOffset.fromString(offsetText(offset)));
    component.addSubcomponent(part);
  });
  return component;
}
