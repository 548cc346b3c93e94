import { holidayInWords } from '../../core/time/dayOffWords.ts';
import { givenName, listNames } from '../../core/planner/words.ts';
import type { ClockStyle } from '../../core/time/format.ts';
import { DAY, overlaps } from '../../core/time/interval.ts';
import { clockChanges, zoneTable } from '../../core/time/zoneTable.ts';
import { dayWindow } from './days.ts';
import { placeName } from './zoneNames.ts';
import { type Member } from '../lineUp/index.ts';

export interface DayRemarks {
  /** A line each: clocks that change, public holidays, people who are away. */
  text: string;
  clockChange: boolean;
}

/** What is special about each of some days for the people of a line-up. */
export function dayRemarks(
  dates: readonly string[],
  members: readonly Member[],
  reader: { zone: string; clock: ClockStyle; zoneNames: Readonly<Record<string, string>> },
): Map<string, DayRemarks> {
  const active = members.filter((one) => !one.setAside);
  const zones = [...new Set(active.map((one) => one.zone))];
  const place = (zone: string) => placeName(zone, reader.zoneNames);
  const whole = {
    start: dayWindow(dates[0]!, reader.zone, [0, 24]).start,
    end: dayWindow(dates.at(-1)!, reader.zone, [0, 24]).end,
  };
  const changes = zones.flatMap((zone) =>
    clockChanges(zoneTable(zone, whole), whole).map(({ instant }) => ({ zone, instant })),
  );
  return new Map(
    dates.map((date) => {
      const day = dayWindow(date, reader.zone, [0, 24]);
      const changed = changes.filter(({ instant }) => instant >= day.start && instant < day.end);
      const away = active.filter((one) => one.kind === 'person' && isAway(one, day));
      const lines = [
        ...changed.map(({ zone }) => `clock change, ${place(zone)}`),
        ...holidaysOn(date, active, reader.clock).map(
          ({ zone, name }) => `${name}, ${place(zone)}`,
        ),
        ...(away.length ? [`away: ${listNames(away.map(givenName))}`] : []),
      ];
      return [date, { text: lines.join('\n'), clockChange: changed.length > 0 }];
    }),
  );
}

function holidaysOn(
  date: string,
  members: readonly Member[],
  clock: ClockStyle,
): { zone: string; name: string }[] {
  const found = new Map<string, { zone: string; name: string }>();
  for (const { zone, holidays = [] } of members) {
    const holiday = holidays.find((one) => one.date === date);
    if (holiday)
      found.set(`${zone} ${holiday.name}`, { zone, name: holidayInWords(holiday, clock) });
  }
  return [...found.values()];
}

/** Away for more than a third of the day, which is more than a long lunch. */
const isAway = ({ busy }: Member, day: { start: number; end: number }): boolean =>
  busy.some(
    (span) =>
      span.occupancy === 'away' &&
      overlaps(span, day) &&
      Math.min(span.end, day.end) - Math.max(span.start, day.start) > DAY / 3,
  );
