import type { BoardBooking, BoardPlace, BoardResponse } from '../../contract/places.ts';
import type { Collision } from '../../core/booking/collisions.ts';
import { brokenInWords } from '../../core/booking/ruleWords.ts';
import { fitting, type Condition, type PlaceWishes } from '../../core/booking/wishes.ts';
import { formatDay, formatHours, type ClockStyle } from '../../core/time/format.ts';
import { MINUTE, type Interval } from '../../core/time/interval.ts';
import type { Day } from '../grid/index.ts';
import { shownOf, type LaneDay, type LaneScale } from './laneScale.ts';

/** One lane: a place on a day. */
export interface LaneRow extends LaneDay {
  kind: 'lane';
  key: string;
  place: BoardPlace;
  /** What of the day is shown. */
  window: Interval;
  /** What it is called here: the place's name, or the day where there is one place. */
  name: string;
}

/** What stands above the lanes of a floor. */
interface GroupRow {
  kind: 'group';
  key: string;
  name: string;
  fit: number;
  all: number;
}

export type BoardRow = LaneRow | GroupRow;

/** The lanes of a board: the places that fit, by floor; or the days of the one place. */
export function rowsOf(board: BoardResponse, wishes: PlaceWishes, hours: LaneScale): BoardRow[] {
  const lane = (place: BoardPlace, day: Day, name: string): LaneRow => ({
    kind: 'lane',
    key: `${place.id} ${day.date}`,
    place,
    hours,
    day,
    window: shownOf({ hours, day }),
    name,
  });
  const { days } = hours.scale;
  if (days.length > 1) {
    return days.map((day) =>
      lane(board.places[0]!, day, formatDay(Date.parse(`${day.date}T12:00Z`), 'UTC')),
    );
  }
  const fitAll = fitting(board.places, wishes).fit;
  const fit = [
    ...fitAll.filter((one) => one.isFavourite),
    ...fitAll.filter((one) => !one.isFavourite),
  ];
  const groupOf = (place: BoardPlace) =>
    place.isFavourite ? 'favourites' : `${place.siteId} ${place.floor}`;
  const several = new Set(board.places.map((one) => one.siteId)).size > 1;
  const counts = new Map<string, number>();
  for (const place of board.places)
    counts.set(groupOf(place), (counts.get(groupOf(place)) ?? 0) + 1);
  return fit.flatMap((place, k): BoardRow[] => {
    const row = lane(place, days[0]!, place.name);
    if (k > 0 && groupOf(fit[k - 1]!) === groupOf(place)) return [row];
    const floor = place.floor === '' ? 'No floor' : `Floor ${place.floor}`;
    return [
      {
        kind: 'group',
        key: `group ${groupOf(place)}`,
        name: place.isFavourite
          ? 'My favourites'
          : several
            ? `${place.site}, ${floor.toLowerCase()}`
            : floor,
        fit: fit.filter((one) => groupOf(one) === groupOf(place)).length,
        all: counts.get(groupOf(place))!,
      },
      row,
    ];
  });
}

/** A condition as words for whoever might drop it. */
export function conditionWords(condition: Condition, text: string): string {
  if (condition.kind === 'seats') return `${condition.seats} seats or more`;
  if (condition.kind === 'floor') return `floor ${condition.floor}`;
  return condition.kind === 'feature' ? `with ${condition.feature}` : `“${text.trim()}”`;
}

/** A bar on a board: a booking, or that the place is out of use. */
export type BoardBar = BoardBooking & { isClosed?: true };

/** That places are out of use, as bars of each of their units. */
export const closedBars = ({ closures, places }: BoardResponse): BoardBar[] =>
  closures.flatMap(({ placeId, start, end, reason }) => {
    const place = places.find((one) => one.id === placeId)!;
    return Array.from({ length: place.units }, (_, k): BoardBar => ({
      eventId: null,
      occurrence: null,
      resourceId: placeId,
      // What is kept free around bookings is not kept around this.
      start: start + place.prepareMinutes * MINUTE,
      end: end - place.clearMinutes * MINUTE,
      unit: k + 1,
      title: `out of use: ${reason}`,
      holder: null,
      mine: false,
      state: 'held',
      isClosed: true,
    }));
  });

/** What a bar is called: what for, else who has it, else that it is taken. */
export const bookingName = (booking: BoardBooking): string =>
  [booking.title, booking.mine ? null : booking.holder].filter(Boolean).join(', ') || 'taken';

/** What stands in the way of a booking, as a sentence behind the place's name. */
export function collisionWords(
  { name, rules, zone }: BoardPlace,
  collision: Collision<BoardBooking>,
  clock: ClockStyle,
  beside?: number,
): string {
  if (collision.kind === 'rules')
    return collision.broken
      .map((one) => `${name} ${brokenInWords(one, { clock, rules, teamNames: new Map() })}`)
      .join('; ');
  const first: BoardBar = collision.by[0]!;
  if (first.isClosed) return `${name} is ${first.title}`;
  const by = first.mine ? ' by you' : '';
  return `${name} is taken ${formatHours(first, zone, clock, beside)}${by}${first.title ? `: ${first.title}` : ''}`;
}
