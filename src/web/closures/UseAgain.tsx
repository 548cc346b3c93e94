import { useState } from 'react';
import type { BookingsElsewhere, Closure } from '../../contract/closures.ts';
import type { Place } from '../../contract/places.ts';
import { counted } from '../../core/counted.ts';
import { formatSpan } from '../../core/time/format.ts';
import { Failure, may, useMe } from '../client/index.ts';
import { listNames } from '../../core/planner/words.ts';
import { Button } from '../design/controls.tsx';
import { useElsewhere, useReopen, type Away } from './useClosures.ts';

/** That a place is out of use, and for those who look after it the way back. */
export function InUseAgain({ place, closure }: { place: Place; closure: Closure }) {
  const me = useMe();
  return (
    <div className="rock-away grid gap-2 rounded-sm p-1">
      <div className="grid gap-1.5 rounded-[2px] bg-sheet px-3 py-2">
        <p>
          <b className="font-semibold">Out of use</b>, {formatSpan(closure, me.zone, me.clock)}:{' '}
          {closure.reason}
        </p>
        {may(me, 'look-after', place.id) && (
          <UseAgain
            away={{
              ...{ placeId: place.id, place: place.name, zone: place.zone },
              ...{ closureId: closure.id, isRetired: false },
            }}
          />
        )}
      </div>
    </div>
  );
}

/**
 * Puts a place to use again, or brings back one that is retired: what went elsewhere with it and is still to
 * come is said before, and comes back or stays, as is wished.
 */
export function UseAgain({ away }: { away: Away }) {
  const [asked, setAsked] = useState(false);
  const query = useElsewhere(away);
  const { alone, withBookings } = useReopen(away);
  const words = away.isRetired ? 'Bring it back' : 'Use it again';
  const busy = alone.isPending || withBookings.isPending;
  const found = query.data;
  const ask = async () => {
    // Where nothing went elsewhere there is nothing to ask.
    const elsewhere = away.closureId === null ? 0 : (await query.refetch()).data?.bookings.length;
    if (elsewhere === 0) alone.mutate();
    else setAsked(true);
  };
  if (asked && found && found.bookings.length > 0) {
    return (
      <Question
        {...{ away, found, busy, words }}
        bringBack={() => withBookings.mutate(found.change!)}
        leave={() => alone.mutate()}
        onClose={() => setAsked(false)}
      />
    );
  }
  return (
    <>
      <p>
        <Button
          disabled={busy || query.isFetching}
          aria-label={`${words}: ${away.place}`}
          onClick={() => void ask()}
        >
          {words}
        </Button>
      </p>
      {asked && query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
    </>
  );
}

function Question({
  away,
  found: { bookings },
  busy,
  words,
  bringBack,
  leave,
  onClose,
}: {
  away: Away;
  found: BookingsElsewhere;
  busy: boolean;
  words: string;
  bringBack: () => void;
  leave: () => void;
  onClose: () => void;
}) {
  const me = useMe();
  const holders = new Set(bookings.map((one) => one.holder)).size;
  const isOne = bookings.length === 1;
  return (
    <section aria-label={`${words}: ${away.place}`} className="grid gap-1.5">
      <p role="status">
        {counted(bookings.length, 'booking')} went elsewhere with it and {isOne ? 'is' : 'are'}{' '}
        still to come:
      </p>
      <ul className="max-h-60 overflow-y-auto">
        {bookings.map(({ start, end, title, holder, places }) => (
          <li key={`${start} ${holder}`} className="border-t border-edge py-1">
            <b className="font-semibold">{formatSpan({ start, end }, me.zone, me.clock)}</b>{' '}
            {title && `${title}, `}
            {holder}
            <span className="text-ink-2">
              , {places.length > 0 ? `now in ${listNames(places, 3)}` : 'now without a place'}
            </span>
          </li>
        ))}
      </ul>
      <p className="flex flex-wrap gap-2">
        <Button look="act" autoFocus disabled={busy} onClick={bringBack}>
          {words}, bring {isOne ? 'it' : bookings.length} back and tell{' '}
          {holders === 1 ? bookings[0]!.holder : `${holders} people`}
        </Button>
        <Button disabled={busy} onClick={leave}>
          {words}, leave {isOne ? 'it' : 'them'} there
        </Button>
        <Button look="quiet" disabled={busy} onClick={onClose}>
          Not now
        </Button>
      </p>
    </section>
  );
}
