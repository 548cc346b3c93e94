import { useNeedsAgreement } from '../bookings/index.ts';
import { titleOfBooking } from '../../core/meetings/ownTitle.ts';
import type { Place } from '../../contract/places.ts';
import { collisionWith } from '../../core/booking/collisions.ts';
import { counted } from '../../core/counted.ts';
import { formatNear } from '../../core/time/format.ts';
import { HOUR, MINUTE, type Interval } from '../../core/time/interval.ts';
import { may, useMe, useNow } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { placeOf } from '../grid/index.ts';
import { nameOfZone } from './clocks.ts';
import { placeFacts } from './facts.ts';
import { useBooking } from './useBooking.ts';
import { wallTimeAt } from '../../core/time/wall.ts';

/** A place as it is now, with its day as a strip; what is free for an hour is had by one click. */
export function PlaceRow({
  place,
  isOpen,
  onOpen,
}: {
  place: Place;
  isOpen: boolean;
  onOpen: () => void;
}) {
  return (
    <div
      className={`flex items-center gap-3 border-t border-edge hover:bg-sheet ${isOpen ? 'bg-gentian-wash' : ''}`}
    >
      <button
        type="button"
        aria-expanded={isOpen}
        onClick={onOpen}
        className="grid min-h-12 min-w-0 flex-1 grid-cols-[0.6rem_1fr] items-center gap-x-3 py-1 text-left sm:grid-cols-[0.6rem_minmax(0,1fr)_minmax(0,1.2fr)_minmax(0,1.1fr)_auto]"
      >
        <i
          aria-hidden="true"
          className={`h-8 rounded-sm ${place.closure ? 'rock-away' : place.freeUnits === 0 ? 'rock' : place.barred ? 'bg-closed' : 'bg-lichen'}`}
        />
        <span className="font-semibold">{place.name}</span>
        <span className="font-medium max-sm:col-start-2">{useStateWords(place)}</span>
        <span className="truncate text-xs text-ink-2 max-sm:col-start-2">
          {placeFacts({ ...place, floor: '' }).join(', ')}
        </span>
        <Today place={place} />
      </button>
      <ForAnHour place={place} />
    </div>
  );
}

/** The hours of the strip, on the place's own clock. */
const SHOWN: readonly [number, number] = [7, 20];

/** Today as a strip: when nothing of it is free, and now. */
function Today({ place }: { place: Place }) {
  const now = useNow();
  const { today } = place;
  const window = {
    start: today.start + SHOWN[0] * HOUR,
    end: today.start + SHOWN[1] * HOUR,
  };
  const at =
    now >= window.start && now < window.end ? placeOf({ start: now, end: now + 1 }, window) : null;
  return (
    <span className="flex items-center gap-2 max-sm:hidden">
      <span
        className="relative block h-3.5 w-28 shrink-0 overflow-hidden rounded-[2px] border border-edge bg-sheet"
        aria-hidden="true"
      >
        {today.taken.map((span) => {
          const style = placeOf(span, window);
          return style && <i key={span.start} className="rock absolute inset-y-0" style={style} />;
        })}
        {at && (
          <i
            className="absolute inset-y-0 border-l-[1.5px] border-alpenglow"
            style={{ left: at.left }}
          />
        )}
      </span>
      <span className="w-28 truncate text-xs text-ink-2">
        {today.bookings === 0 ? 'nothing today' : `${counted(today.bookings, 'booking')} today`}
      </span>
    </span>
  );
}

/** From this minute, or from the last step at which its bookings begin. */
function fromNow({ rules }: Place, now: number): Interval {
  const step = (rules.stepMinutes ?? 1) * MINUTE;
  const start = Math.floor(now / step) * step;
  return { start, end: start + HOUR };
}

/** Takes the place for an hour from now, where it is free so long and its rules allow it. */
function ForAnHour({ place }: { place: Place }) {
  const me = useMe();
  const now = useNow();
  const needs = useNeedsAgreement();
  const book = useBooking(place.zone, () => undefined);
  const span = fromNow(place, now);
  const isFree =
    place.freeUnits > 0 &&
    place.barred === null &&
    (place.until === null || place.until >= span.end + place.clearMinutes * MINUTE) &&
    collisionWith(place, span, [], {
      id: me.id,
      isSteward: may(me, 'exceed', place.id),
      now: span.start,
    }) === null;
  const take = () =>
    book.mutate({
      title: titleOfBooking([place.name]),
      times: {
        startsAt: wallTimeAt(span.start, place.zone),
        endsAt: wallTimeAt(span.end, place.zone),
        zone: place.zone,
      },
      resources: [place.id],
      showsAs: place.kind === 'room' || place.kind === 'lab' ? 'busy' : 'free',
    });
  // Who has to be asked first does not answer at once.
  if (!isFree || needs(place)) return <span className="mr-1 w-24 shrink-0 max-sm:hidden" />;
  return (
    <Button
      className="mr-1 w-24 shrink-0 text-xs whitespace-nowrap"
      aria-label={`For an hour from now: ${place.name}`}
      disabled={book.isPending}
      onClick={take}
    >
      For an hour
    </Button>
  );
}

function useStateWords(place: Place): string {
  const me = useMe();
  const now = useNow();
  if (place.closure)
    return `Out of use until ${formatNear(place.closure.end, now, me)}: ${place.closure.reason}`;
  if (place.freeUnits > 0 && place.barred !== null) return `Not now: ${place.barred}`;
  const until =
    place.until === null
      ? ''
      : ` until ${formatNear(place.until, now, { ...me, zone: place.zone })}${place.zone === me.zone ? '' : ` in ${nameOfZone(place.zone, me)}`}`;
  if (place.freeUnits > 0) {
    const count = place.units > 1 ? `${place.freeUnits} of ${place.units} left` : 'Free';
    return `${count}${until || ' all week'}`;
  }
  return `Taken${until}${place.holder ? `, ${place.holder}` : ''}`;
}
