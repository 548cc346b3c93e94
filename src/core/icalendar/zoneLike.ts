import ICAL from 'ical.js';
import { DAY } from '../time/interval.ts';
import { isReadableZone, wallTimeAt } from '../time/wall.ts';

/** A clock is compared week by week for so long, from the first date on. */
const WEEKS = 3 * 53;

/** Continents and oceans in the order in which a zone is looked for. */
const REGIONS = ['Europe', 'America', 'Asia', 'Australia', 'Pacific', 'Africa', 'Atlantic'];

/**
 * The zone of the zone database whose clock agrees with that of a VTIMEZONE of a name of its own, week
 * by week for three years: the place that it names, where its clock does; else the first that does.
 * What a series keeps is a name by which its local hour can be worked out for ever.
 * @param calendar what explains the name
 * @param from epoch milliseconds from which on they are compared
 * @returns null where the name is not explained, or no zone agrees
 */
export function zoneLike(calendar: ICAL.Component, tzid: string, from: number): string | null {
  const explained = calendar
    .getAllSubcomponents('vtimezone')
    .find((one) => one.getFirstPropertyValue('tzid') === tzid);
  if (!explained) return null;
  const zone = new ICAL.Timezone(explained);
  const clock = Array.from({ length: WEEKS }, (_, week) => {
    const instant = from + week * 7 * DAY;
    const there = ICAL.Time.fromJSDate(new Date(instant), true).convertToZone(zone);
    return { instant, wall: there.toString().slice(0, 16) };
  });
  const agrees = (name: string) =>
    clock.every(({ instant, wall }) => wallTimeAt(instant, name) === wall);
  const named = String(explained.getFirstPropertyValue('x-lic-location') ?? '');
  if (isReadableZone(named) && agrees(named)) return named;
  return candidates().find(agrees) ?? null;
}

let known: string[] | null = null;
const candidates = (): readonly string[] =>
  (known ??= [
    ...REGIONS.flatMap((region) =>
      Intl.supportedValuesOf('timeZone').filter((name) => name.startsWith(`${region}/`)),
    ),
    'UTC',
  ]);
