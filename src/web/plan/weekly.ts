import type { DateChoice, Repeats } from '../../contract/eventParts.ts';
import { seriesRooms, type SeriesRoom } from '../../core/planner/rooms.ts';
import type { FailingDate, WeeklyTime } from '../../core/planner/series.ts';
import { formatTime, type ClockStyle } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { wallTimeAt } from '../../core/time/wall.ts';
import type { Plan } from './usePlan.ts';

/** What is done about a date on which a weekly time does not work. */
export type DateDecision = 'skip' | 'move' | 'keep';

export const decisionFor = (
  date: FailingDate,
  decisions: ReadonlyMap<number, DateDecision>,
): DateDecision => decisions.get(date.start) ?? (date.instead ? 'move' : 'skip');

const WEEKDAYS = [
  'Mondays',
  'Tuesdays',
  'Wednesdays',
  'Thursdays',
  'Fridays',
  'Saturdays',
  'Sundays',
];

/** `Tuesdays 14:00`, or `Tuesdays 2:00 pm`. */
export const weeklyWords = ({ weekday, minute }: WeeklyTime, clock: ClockStyle): string =>
  `${WEEKDAYS[weekday - 1]} ${formatTime(minute * MINUTE, 'UTC', clock)}`;

/** A series as it is sent: its rule, its exceptions, and the dates that are different. */
export interface SeriesParts {
  repeats: Repeats;
  dates: DateChoice[];
  resources: number[];
}

/** A weekly time, what was decided about its failing dates, and rooms, as parts of a request. */
export function seriesParts(
  weekly: WeeklyTime,
  decisions: ReadonlyMap<number, DateDecision>,
  plan: Pick<Plan, 'me' | 'repeating' | 'members' | 'wishes' | 'data'>,
): SeriesParts {
  const { me, repeating, members, wishes, data } = plan;
  const wall = (instant: number) => wallTimeAt(instant, me.zone);
  const decided = (wanted: DateDecision) =>
    weekly.failing.filter((date) => decisionFor(date, decisions) === wanted);
  const skipped = decided('skip').map((date) => date.start);
  const moved = decided('move');
  const every = repeating!.everyWeeks;
  const held = weekly.dates.filter((date) => !skipped.includes(date.start));
  const rooms = seriesRooms(members, wishes, data.rooms, held);
  return {
    repeats: {
      rule: `FREQ=WEEKLY${every > 1 ? `;INTERVAL=${every}` : ''};COUNT=${weekly.dates.length}`,
      except: skipped.map(wall),
    },
    dates: [
      ...moved.map((date): DateChoice => ({
        do: 'move',
        at: wall(date.start),
        startsAt: wall(date.instead!.start),
        endsAt: wall(date.instead!.end),
      })),
      ...rooms.flatMap((one) => otherRooms(one, wall)),
    ],
    resources: rooms.map(({ room }) => room.id),
  };
}

const otherRooms = (
  { room, instead }: SeriesRoom,
  wall: (instant: number) => string,
): DateChoice[] =>
  instead.map(({ start, room: other }) =>
    other
      ? { do: 'instead', at: wall(start), instead: room.id, resourceId: other.id }
      : { do: 'without', at: wall(start), resourceId: room.id },
  );
