import { Star } from 'lucide-react';
import { memo, type KeyboardEvent } from 'react';
import type { BoardBooking, BoardPlace } from '../../contract/places.ts';
import { claimedTime } from '../../core/booking/booking.ts';
import { type ClockStyle, formatHours } from '../../core/time/format.ts';
import { gaps, HOUR, overlaps, type Interval } from '../../core/time/interval.ts';
import { workingIntervals } from '../../core/time/workingHours.ts';
import { zoneTable } from '../../core/time/zoneTable.ts';
import { placeFacts, STATE_WORDS } from '../places/index.ts';
import { emptyIn, placeIn, shareOf, shareOfMinutes } from './laneScale.ts';
import { bookingName, type BoardBar, type LaneRow } from './rows.ts';

/** How wide the names beside the lanes are. */
export const NAMES = 'w-[178px] shrink-0 max-sm:w-[104px]';

/** Less than this part of the lane cannot be read. */
const READABLE = 0.035;

/** What is drawn over a lane: what is picked, or where something that is held would be put down. */
export interface Over {
  span: Interval;
  /** Whether it can be had there. */
  isFree: boolean;
  isHeld: boolean;
}

/** The name by which a bar is found again. */
export const barName = (one: BoardBooking): string => `${one.resourceId} ${one.unit} ${one.start}`;

/** A place's day: when it is shut, who has it, what is kept free around that, and what is picked. */
export const BoardLane = memo(function BoardLane({
  row,
  bookings,
  clock,
  zone,
  over,
  now,
  isCurrent,
  onName,
  onFavourite,
  onKeyDown,
  onFocus,
}: {
  row: LaneRow;
  bookings: readonly BoardBar[];
  clock: ClockStyle;
  zone: string;
  over: Over | null;
  /** Null where it is not in sight. */
  now: number | null;
  /** Whether Tab comes to it. */
  isCurrent: boolean;
  onName: (row: LaneRow) => void;
  onFavourite: (place: BoardPlace) => void;
  onKeyDown: (event: KeyboardEvent<HTMLElement>, row: LaneRow) => void;
  onFocus: (row: LaneRow) => void;
}) {
  const { place, window, name } = row;
  const shut = place.rules.open
    ? gaps(workingIntervals(place.rules.open, zoneTable(place.zone, window), window), window)
    : [];
  const empty = emptyIn(row);
  const shown = bookings.filter((one) => overlaps(claimedTime(one, place), window));
  const spoken =
    shown
      .map((one) => `${formatHours(one, zone, clock, window.start)} ${bookingName(one)}`)
      .join('; ') || 'free all day';
  return (
    <div className="flex h-[38px] border-t max-sm:h-11 border-edge/70">
      <span className={`${NAMES} group relative flex`}>
        <button
          type="button"
          tabIndex={-1}
          onClick={() => onName(row)}
          className="min-w-0 flex-1 overflow-hidden pr-1 pl-6 text-left leading-tight max-sm:pl-3 hover:bg-gentian-wash"
        >
          <span className="block truncate font-semibold">{name}</span>
          <span className="block truncate text-[11px] text-ink-2">
            {name === place.name
              ? placeFacts({ ...place, floor: '' }).join(', ') || place.kind
              : ''}
          </span>
        </button>
        {name === place.name && (
          <button
            type="button"
            tabIndex={-1}
            aria-pressed={place.isFavourite}
            aria-label={
              place.isFavourite
                ? `Leave ${name} out of my favourites`
                : `Put ${name} among my favourites`
            }
            title={place.isFavourite ? 'Among my favourites' : 'Put it among my favourites'}
            onClick={() => onFavourite(place)}
            className={`w-6 shrink-0 text-ink-2 hover:text-gentian max-sm:hidden ${place.isFavourite ? '' : 'opacity-0 group-hover:opacity-100 focus-visible:opacity-100'}`}
          >
            <Star size={13} aria-hidden="true" fill={place.isFavourite ? 'currentColor' : 'none'} />
          </button>
        )}
      </span>
      <div
        data-lane={row.key}
        role="group"
        aria-label={`${name}: ${spoken}`}
        aria-description="Arrows choose a time, Shift with arrows makes it longer, Enter books it. M takes up a booking of mine to be moved."
        tabIndex={isCurrent ? 0 : -1}
        onFocus={() => onFocus(row)}
        onKeyDown={(event) => onKeyDown(event, row)}
        className="hour-lines relative flex-1 cursor-crosshair touch-pan-y focus-visible:z-10"
        style={{ backgroundSize: `${shareOfMinutes(row.hours, HOUR) * 100}% 100%` }}
      >
        {empty && <i className="absolute inset-y-0 bg-closed" style={empty} title="No such time" />}
        {shut.map((span) => (
          <i
            key={span.start}
            className="absolute inset-y-0 bg-closed"
            style={placeIn(row, span)!}
          />
        ))}
        {shown.map((one) => (
          <BookingBar key={barName(one)} booking={one} row={row} clock={clock} zone={zone} />
        ))}
        {over && <Chosen over={over} row={row} clock={clock} zone={zone} />}
        {now !== null && (
          <i
            className="pointer-events-none absolute inset-y-0 border-l-[1.5px] border-alpenglow"
            style={{ left: `${shareOf(row, now) * 100}%` }}
          />
        )}
      </div>
    </div>
  );
});

function BookingBar({
  booking,
  row,
  clock,
  zone,
}: {
  booking: BoardBar;
  row: LaneRow;
  clock: ClockStyle;
  zone: string;
}) {
  const { place, window } = row;
  const claimed = claimedTime(booking, place);
  const words = [
    `${bookingName(booking)}, ${formatHours(booking, zone, clock, window.start)}`,
    STATE_WORDS[booking.state],
  ]
    .filter(Boolean)
    .join(', ');
  // Identical units lie below one another.
  const height = 100 / place.units;
  const across = { top: `${(booking.unit - 1) * height}%`, height: `${height}%` };
  const own = placeIn(row, booking);
  const isReadable =
    shareOfMinutes(
      row.hours,
      Math.min(booking.end, window.end) - Math.max(booking.start, window.start),
    ) > READABLE;
  const beams = [
    { start: claimed.start, end: booking.start },
    { start: booking.end, end: claimed.end },
  ].flatMap((span) => (span.start < span.end ? (placeIn(row, span) ?? []) : []));
  return (
    <>
      {beams.map((style) => (
        <i key={style.left} className="absolute" style={{ ...style, ...across }}>
          <i className="rock absolute inset-x-0 top-[30%] bottom-[30%] opacity-55" />
        </i>
      ))}
      {own && (
        <span
          data-booking={barName(booking)}
          title={words}
          className={`absolute p-[3px_0] ${booking.eventId ? 'cursor-pointer' : 'cursor-default'}`}
          style={{ ...own, ...across }}
        >
          <span
            className={`${booking.isClosed ? 'rock-away' : booking.state === 'requested' ? 'rock-tentative' : 'rock'} relative flex h-full items-center overflow-hidden rounded-[3px] ${booking.mine ? 'border-l-[5px] border-gentian' : ''}`}
          >
            {isReadable && place.units < 3 && (
              <span className="ml-1 max-w-full truncate rounded-[2px] bg-sheet px-1 text-[11.5px] leading-[18px] font-medium">
                {bookingName(booking)}
              </span>
            )}
            {booking.mine && <Grips />}
          </span>
        </span>
      )}
    </>
  );
}

function Chosen({
  over: { span, isFree, isHeld },
  row,
  clock,
  zone,
}: {
  over: Over;
  row: LaneRow;
  clock: ClockStyle;
  zone: string;
}) {
  const style = placeIn(row, span);
  if (!style) return null;
  return (
    <span
      data-pick=""
      className={`absolute inset-y-[2px] z-[5] cursor-grab rounded-[3px] border-2 ${isFree ? 'border-gentian bg-gentian/15' : 'border-dashed border-alpenglow bg-glow-wash/80'} ${isHeld ? 'pointer-events-none' : ''}`}
      style={style}
    >
      {isHeld && (
        <span className="absolute top-full left-0 z-20 rounded-sm bg-ink px-1.5 text-[11px] leading-[18px] whitespace-nowrap text-paper">
          {formatHours(span, zone, clock, row.window.start)}
        </span>
      )}
      <Grips solid={isFree} />
    </span>
  );
}

/** Where a span is taken hold of to make it longer or shorter. */
const Grips = ({ solid = false }: { solid?: boolean }) => (
  <>
    {(['start', 'end'] as const).map((grip) => (
      <i
        key={grip}
        data-grip={grip}
        className={`absolute inset-y-0 w-2 cursor-ew-resize touch-none ${grip === 'start' ? '-left-1' : '-right-1'}`}
      >
        {solid && (
          <i className="absolute top-1/2 left-[1px] h-4 w-1.5 -translate-y-1/2 rounded-full bg-gentian" />
        )}
      </i>
    ))}
  </>
);
