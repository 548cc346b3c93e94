import { DAY } from './interval.ts';
import { offsetAt, zoneTable, type ZoneTable } from './zoneTable.ts';

/** Reading a year of a zone takes as long as about so many single answers. */
const WORTH_READING = 24;
/** Years of zones that are remembered. */
const MOST_YEARS = 1_000;
/** Years in which every date has four digits in all that is reckoned here. */
const [FIRST_YEAR, LAST_YEAR] = [1000, 9000];

/** How often a year of a zone was asked for, or its offsets. */
const years = new Map<string, number | ZoneTable>();

/**
 * The offset of a zone on days around which its clock does not change, for years of zones that are
 * asked for often; plain arithmetic then takes the place of the calendar.
 * @param time epoch milliseconds, or local ones read as if they were UTC
 * @returns milliseconds to add to an instant to get local ones; null where a closer look is needed
 * @throws RangeError when the zone is not known
 */
export function yearlyOffset(zone: string, time: number): number | null {
  const year = new Date(time).getUTCFullYear();
  if (!(year >= FIRST_YEAR && year <= LAST_YEAR)) return null;
  const key = `${year} ${zone}`;
  const known = years.get(key) ?? 0;
  if (typeof known === 'number') {
    if (years.size >= MOST_YEARS) years.clear();
    years.set(key, known < WORTH_READING ? known + 1 : readYear(zone, year));
    return null;
  }
  const changes = known.starts.some((start) => start > time - DAY && start <= time + DAY);
  return changes ? null : offsetAt(known, time);
}

const readYear = (zone: string, year: number): ZoneTable =>
  zoneTable(zone, { start: Date.UTC(year, 0, 1), end: Date.UTC(year + 1, 0, 1) });
