import { useState } from 'react';
import type { PlaceRequest } from '../../contract/bookings.ts';
import { priceWords } from '../../core/booking/ruleWords.ts';
import { formatNear, formatSpan } from '../../core/time/format.ts';
import { Failure, useMe, useNow } from '../client/index.ts';
import { Button, Field, PartHeading, TextInput } from '../design/controls.tsx';
import { useDecide, usePlaceRequests } from './useBookings.ts';

const MOST_LETTERS = 1000;

/** What waits for me to agree, as whoever looks after places; nothing for others. */
export function PlacesWanted() {
  const query = usePlaceRequests();
  const requests = query.data?.requests ?? [];
  const more = (query.data?.total ?? 0) - requests.length;
  if (query.isError) return <Failure error={query.error} retry={() => void query.refetch()} />;
  if (requests.length === 0) return null;
  return (
    <section aria-labelledby="places-wanted" className="mb-6">
      <PartHeading remark={`${query.data!.total}, oldest first`}>
        <span id="places-wanted">Places wanted</span>
      </PartHeading>
      <ul>
        {requests.map((one) => (
          <li key={`${one.eventId} ${one.placeId}`} className="border-t border-edge py-2.5">
            <Wanted request={one} />
          </li>
        ))}
      </ul>
      {more > 0 && <p className="text-ink-2">and {more} more</p>}
    </section>
  );
}

function Wanted({ request: one }: { request: PlaceRequest }) {
  const me = useMe();
  const now = useNow();
  const [refusing, setRefusing] = useState(false);
  const [message, setMessage] = useState('');
  const decide = useDecide(one.place, one.holder);
  const answer = (agreed: boolean) =>
    decide.mutate({
      eventId: one.eventId,
      placeId: one.placeId,
      version: one.version,
      agreed,
      message,
    });
  const more = [
    one.title,
    one.dates > 1 && `the first of ${one.dates} dates`,
    one.price && `${priceWords(one.price)}${one.dates > 1 ? ' each' : ''}`,
    `answer by ${formatNear(one.decidedBy, now, me)}`,
  ].filter(Boolean);
  return (
    <div className="grid gap-1.5">
      <div className="flex flex-wrap items-start gap-x-3 gap-y-1.5">
        <p className="min-w-56 flex-1">
          <b className="font-semibold">{one.place}</b>, {formatSpan(one, me.zone, me.clock)}, for{' '}
          {one.holder}
          <span className="block text-ink-2">{more.join(' · ')}</span>
        </p>
        {!refusing && (
          <p className="flex gap-1.5">
            <Button
              disabled={decide.isPending}
              aria-label={`Give it: ${one.place} to ${one.holder}`}
              onClick={() => answer(true)}
            >
              Give it
            </Button>
            <Button
              disabled={decide.isPending}
              aria-label={`Refuse it: ${one.place} for ${one.holder}`}
              onClick={() => setRefusing(true)}
            >
              Refuse it
            </Button>
          </p>
        )}
      </div>
      {refusing && (
        <form
          className="grid gap-2 rounded-sm border border-edge bg-sheet p-3"
          onSubmit={(event) => {
            event.preventDefault();
            answer(false);
          }}
        >
          <Field label={`Why, for ${one.holder}, if you like`}>
            <TextInput
              value={message}
              maxLength={MOST_LETTERS}
              autoFocus
              onChange={(event) => setMessage(event.target.value)}
            />
          </Field>
          <p className="flex gap-1.5">
            <Button look="act" type="submit" disabled={decide.isPending}>
              Refuse, and tell {one.holder}
            </Button>
            <Button look="quiet" onClick={() => setRefusing(false)}>
              Not now
            </Button>
          </p>
        </form>
      )}
    </div>
  );
}
