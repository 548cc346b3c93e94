import { useState, type KeyboardEvent } from 'react';
import type { BoardBooking, BoardPlace } from '../../contract/places.ts';
import { HOUR, MINUTE, overlaps, type Interval } from '../../core/time/interval.ts';
import { daysBetween } from '../../core/time/wall.ts';
import { nudged, SNAP_MINUTES } from '../grid/index.ts';
import type { LaneRow } from './rows.ts';
import type { BoardAddress, Pick } from './useBoardAddress.ts';

/** A booking that the keys carry, and where it would be put down. */
export interface Carried {
  booking: BoardBooking;
  row: LaneRow;
  span: Interval;
}

/**
 * The board by keys: arrows up and down go from place to place; left and right pick a time and move it by
 * a quarter of an hour, with Shift they make it longer or shorter; Escape lets it go. `m` takes up a booking
 * of one's own, which the same arrows then carry, into other places too, until Enter puts it down.
 */
export function useBoardKeys({
  lanes,
  pick,
  address,
  zone,
  usualMinutes,
  now,
  favour,
  ownIn,
  onMove,
}: {
  lanes: readonly LaneRow[];
  pick: Pick | null;
  address: BoardAddress;
  zone: string;
  usualMinutes: number;
  now: number;
  favour: (place: BoardPlace) => void;
  /** Bookings of a lane that can be moved, the earliest first. */
  ownIn: (row: LaneRow) => readonly BoardBooking[];
  onMove: (booking: BoardBooking, span: Interval, placeId: number) => void;
}) {
  // While arrows move what is picked, they go on doing so; Enter goes on into the panel.
  const [isGoing, setGoing] = useState(false);
  const [carried, setCarried] = useState<Carried | null>(null);
  const focusLane = ({ key }: LaneRow) =>
    document.querySelector<HTMLElement>(`[data-lane="${key}"]`)?.focus();

  /** Takes up the first booking of one's own that is not over, then each next one. */
  const takeUp = (row: LaneRow) => {
    const own = ownIn(row);
    const at = carried ? own.indexOf(carried.booking) + 1 : own.findIndex((one) => one.end > now);
    const booking = own[Math.max(0, at) % Math.max(1, own.length)];
    if (!booking) return;
    address.setPick(null);
    setCarried({ booking, row, span: { start: booking.start, end: booking.end } });
  };

  const carry = (event: KeyboardEvent<HTMLElement>, { booking, row, span }: Carried) => {
    const vertical = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    const sideways = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (event.key === 'Enter' || event.key === ' ') {
      setCarried(null);
      onMove(booking, span, row.place.id);
    } else if (event.key === 'Escape') setCarried(null);
    else if (event.key === 'm') takeUp(row);
    else if (sideways !== undefined) {
      const by = sideways * SNAP_MINUTES * MINUTE;
      const end = event.shiftKey
        ? Math.max(span.end + by, span.start + SNAP_MINUTES * MINUTE)
        : span.end + by;
      const start = event.shiftKey ? span.start : span.start + by;
      setCarried({ booking, row, span: { start, end } });
    } else if (vertical !== undefined) {
      const next = lanes[lanes.findIndex((one) => one.key === row.key) + vertical];
      if (next) {
        // Of one place the lanes are days.
        const days = daysBetween(row.day.date, next.day.date);
        const { start, end } = nudged({ ...span, allDay: false }, { days }, zone);
        setCarried({ booking, row: next, span: { start, end } });
        focusLane(next);
      }
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };

  const onKeyDown = (event: KeyboardEvent<HTMLElement>, row: LaneRow) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (carried) return carry(event, carried);
    if (event.key === 'm') {
      event.preventDefault();
      return takeUp(row);
    }
    const vertical = { ArrowUp: -1, ArrowDown: 1 }[event.key];
    const sideways = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (vertical !== undefined) {
      event.preventDefault();
      const next = lanes[lanes.findIndex((one) => one.key === row.key) + vertical];
      if (next) focusLane(next);
      return;
    }
    if (event.key === 'f') {
      event.preventDefault();
      favour(row.place);
      return;
    }
    if (event.key === 'Escape' && pick) {
      event.preventDefault();
      address.setPick(null);
      return;
    }
    if (sideways === undefined && event.key !== 'Enter' && event.key !== ' ') return;
    event.preventDefault();
    const mine = pick && overlaps(pick.span, row.window) ? pick.span : null;
    const isHere = mine !== null && pick!.places.includes(row.place.id);
    if (sideways === undefined && isHere) {
      document.querySelector<HTMLElement>('[role="dialog"] input')?.focus();
      return;
    }
    setGoing(sideways !== undefined);
    const by = (sideways ?? 0) * SNAP_MINUTES * MINUTE;
    const begin = Math.ceil(Math.max(now, row.window.start) / HOUR) * HOUR;
    const start = begin < row.window.end ? begin : row.window.start;
    // Going on to another place keeps the time.
    const span =
      sideways === undefined && mine
        ? mine
        : !mine
          ? { start, end: start + usualMinutes * MINUTE }
          : event.shiftKey
            ? {
                start: mine.start,
                end: Math.max(mine.end + by, mine.start + SNAP_MINUTES * MINUTE),
              }
            : { start: mine.start + by, end: mine.end + by };
    address.setPick({ span, places: [row.place.id] });
  };
  return { isGoing, onKeyDown, carried };
}
