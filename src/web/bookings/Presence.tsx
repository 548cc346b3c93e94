import type { MyBooking } from '../../contract/bookings.ts';
import { formatHours, formatNear } from '../../core/time/format.ts';
import { useMe, useNow } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import { useMyBookings, usePresence } from './useBookings.ts';

/** What I can check in to now, or am in; one event’s places are left out where they stand elsewhere. */
export function MyPresence({ without }: { without: string | undefined }) {
  const open = useOpenNow().filter((one) => one.eventId !== without);
  if (open.length === 0) return null;
  return (
    <section aria-label="Places to check in to" className="mb-4 grid gap-2">
      {open.map((one) => (
        <OneBooking key={`${one.eventId} ${one.occurrence} ${one.placeId}`} booking={one} />
      ))}
    </section>
  );
}

const useOpenNow = (): MyBooking[] => {
  const now = useNow();
  const { data } = useMyBookings();
  return (data?.bookings ?? []).filter((one) => one.from <= now && now < one.end);
};

/** The places of one event that I can check in to now, where all else about it is said already. */
export function PresenceIn({ eventId }: { eventId: string }) {
  return useOpenNow()
    .filter((one) => one.eventId === eventId)
    .map((one) => (
      <div key={one.placeId} className="mt-2 grid gap-1.5">
        <StateAndWay booking={one} />
      </div>
    ));
}

/** The same for one place, and what is mine of it later today. */
export function PresenceHere({ placeId }: { placeId: number }) {
  const now = useNow();
  const { data } = useMyBookings();
  const here = (data?.bookings ?? []).filter((one) => one.placeId === placeId && now < one.end);
  if (here.length === 0) return null;
  return (
    <section aria-label="Yours here today" className="grid gap-2">
      {here.map((one) => (
        <OneBooking key={`${one.eventId} ${one.occurrence}`} booking={one} />
      ))}
    </section>
  );
}

function OneBooking({ booking }: { booking: MyBooking }) {
  const me = useMe();
  const now = useNow();
  return (
    <div className="grid gap-1.5 rounded-sm border border-edge bg-sheet px-4 py-3">
      <p>
        <b className="font-semibold">{booking.place}</b>,{' '}
        {formatHours(booking, me.zone, me.clock, now)}, {booking.title}
      </p>
      <StateAndWay booking={booking} />
    </div>
  );
}

/** Whether somebody is there, and checking in or leaving. */
function StateAndWay({ booking }: { booking: MyBooking }) {
  const me = useMe();
  const now = useNow();
  const change = usePresence(booking);
  const time = (instant: number) => formatNear(instant, now, me);
  const { place, state, usedAt, leftAt, start, end, from, givenUpAt } = booking;
  const isThere = state === 'in-use' && leftAt === null;
  const words = isThere
    ? `checked in at ${time(usedAt ?? now)}`
    : leftAt !== null
      ? `left at ${time(leftAt)}; the rest is free for others`
      : now < from
        ? `check in from ${time(from)} on`
        : `given to others at ${time(givenUpAt)} unless you check in`;
  const isAwaited = !isThere && leftAt === null && now >= start;
  return (
    <>
      <p className={isAwaited ? 'font-semibold text-alpenglow' : 'text-ink-2'}>
        {words[0]!.toUpperCase() + words.slice(1)}
      </p>
      {now >= from && (
        <p>
          <Button
            look={isThere ? 'plain' : 'act'}
            disabled={change.isPending}
            onClick={() => change.mutate(isThere ? 'check-out' : 'check-in')}
          >
            {isThere
              ? `Leave, free until ${time(end)}`
              : leftAt !== null
                ? `Come back to ${place}`
                : `Check in to ${place}`}
          </Button>
        </p>
      )}
    </>
  );
}
