import type ICAL from 'ical.js';
import { DAY } from '../time/interval.ts';
import { isReadableZone, wallTimeAt } from '../time/wall.ts';
import { toLocal } from '../time/zoneTable.ts';
import { explainedIn } from './times.ts';
import { explainedZone } from './zoneRules.ts';

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
 * @throws Error with a sentence where what explains it cannot be read
 */
export function zoneLike(calendar: ICAL.Component, tzid: string, from: number): string | null {
  const explained = explainedIn(calendar, tzid);
  if (!explained) return null;
  const table = explainedZone(explained, { start: from, end: from + WEEKS * 7 * DAY });
  const clock = Array.from({ length: WEEKS }, (_, week) => {
    const instant = from + week * 7 * DAY;
    return { instant, wall: wallTimeAt(toLocal(table, instant), 'UTC') };
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
