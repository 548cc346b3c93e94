import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { OfferedAlternative, TakenResource } from '../../contract/eventDetail.ts';
import type { CreateEventRequest } from '../../contract/events.ts';
import type { Place } from '../../contract/places.ts';
import { formatDay } from '../../core/time/format.ts';
import { addDays, dateAt, wallTimeAt, weekdayOf } from '../../core/time/wall.ts';
import { callApi, errorText, may, useChanged, useMe, useNow } from '../client/index.ts';
import { Button, PartHeading } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { AnyOf } from '../design/Toggles.tsx';
import { FindField } from '../find/index.ts';
import { Alternatives, takenIn } from './Alternatives.tsx';
import { useBooking } from './useBooking.ts';

/** Days that can be given free at a glance: the working days of so many weeks. */
const DAYS_AHEAD = 14;

/** Whose a place is: its owner gives days of it free, and those who look after places say whose it is. */
export function Assigned({ place }: { place: Place }) {
  const me = useMe();
  const { assigned } = place.rules;
  const keeps = may(me, 'look-after', place.id);
  const isMine = assigned?.ownerId === me.id;
  if (!assigned && !(keeps && place.kind === 'desk')) return null;
  return (
    <section aria-label="Whose it is" className="grid gap-2">
      {assigned && (isMine || keeps) && <FreeDays place={place} isMine={isMine} />}
      {keeps && <Owner place={place} />}
    </section>
  );
}

function useSettled() {
  const changed = useChanged();
  return {
    onError: (error: unknown) => tellUser(errorText(error)),
    onSettled: () => changed('resource'),
  };
}

/** The next working days, each given free or taken back with one click. */
function FreeDays({ place, isMine }: { place: Place; isMine: boolean }) {
  const today = dateAt(useNow(), place.zone);
  const { onError, onSettled } = useSettled();
  const free = place.rules.assigned!.freeDays;
  const give = useMutation({
    mutationFn: ({ date, on }: { date: string; on: boolean }) =>
      on
        ? callApi('PUT /api/places/:id/free-days/:date', { params: { id: place.id, date } })
        : callApi('DELETE /api/places/:id/free-days/:date', { params: { id: place.id, date } }),
    onError: (error: unknown) => !takenIn(error) && onError(error),
    onSettled,
  });
  const taken = takenIn(give.error);
  const instead = useBooking(place.zone, () => give.reset());
  const day = give.variables?.date ?? today;
  const days = Array.from({ length: DAYS_AHEAD }, (_, k) => addDays(today, k)).filter(
    (date) => weekdayOf(date) <= 5 || free.includes(date),
  );
  return (
    <>
      <PartHeading>{isMine ? 'Yours; free for others on' : 'Free for others on'}</PartHeading>
      <AnyOf
        label="Days on which others may have it"
        look="days"
        value={days.filter((date) => free.includes(date))}
        onChange={(next) => {
          const changed = days.find((date) => free.includes(date) !== next.includes(date));
          if (changed) give.mutate({ date: changed, on: next.includes(changed) });
        }}
        options={days.map((date) => ({
          value: date,
          words: formatDay(Date.parse(`${date}T12:00Z`), 'UTC'),
        }))}
      />
      {taken && (
        <Alternatives
          body={taken}
          busy={instead.isPending}
          nothing={`It stays free for others on ${formatDay(Date.parse(`${day}T12:00Z`), 'UTC')}.`}
          take={(way) => instead.mutate(atAnother(place, taken.taken, way), { onError })}
        />
      )}
    </>
  );
}

/** A booking of what would do instead of one's own place, for the time that others have it. */
function atAnother(
  { zone }: Place,
  taken: readonly TakenResource[],
  way: OfferedAlternative,
): CreateEventRequest {
  const span =
    way.kind === 'time'
      ? way
      : {
          start: Math.min(...taken.map((one) => one.start)),
          end: Math.max(...taken.map((one) => one.end)),
        };
  return {
    title: 'At the desk',
    times: { startsAt: wallTimeAt(span.start, zone), endsAt: wallTimeAt(span.end, zone), zone },
    resources: [way.resourceId],
    showsAs: 'free',
  };
}

function Owner({ place }: { place: Place }) {
  const [asks, setAsks] = useState(false);
  const { onError, onSettled } = useSettled();
  const { assigned } = place.rules;
  const assign = useMutation({
    mutationFn: (personId: number | null) =>
      callApi('PUT /api/places/:id/owner', { params: { id: place.id }, body: { personId } }),
    onSuccess: () => setAsks(false),
    onError,
    onSettled,
  });
  if (asks) {
    return (
      <div className="grid gap-2">
        <FindField
          label="Whose it is from now on"
          kinds={['person']}
          inFlow
          autoFocus
          onFound={(one) => assign.mutate(one.id)}
        />
        <Button look="quiet" className="w-fit" onClick={() => setAsks(false)}>
          Leave it as it is
        </Button>
      </div>
    );
  }
  return (
    <p className="flex flex-wrap gap-2">
      <Button disabled={assign.isPending} onClick={() => setAsks(true)}>
        {assigned ? 'Make it somebody else’s' : 'Make it somebody’s'}
      </Button>
      {assigned && (
        <Button disabled={assign.isPending} onClick={() => assign.mutate(null)}>
          Share it with everybody
        </Button>
      )}
    </p>
  );
}
