import { useMutation } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { resolveSpan } from '../../core/time/eventTimes.ts';
import { MINUTE, type Interval } from '../../core/time/interval.ts';
import { dateAt, isDate } from '../../core/time/wall.ts';
import { useMe, useNow } from '../client/index.ts';
import { planPath, useGathering } from '../lineUp/index.ts';
import { checkAgain, sendLabel } from '../plan/index.ts';
import { useNowMinutes } from '../time/index.ts';
import { readTimes, typedFrom } from '../../core/time/typedTimes.ts';
import type { FormResult } from './EventForm.tsx';
import { useDraftForm } from './useDraftForm.ts';
import { type CarriedDraft, repeatsOf, type Draft, useEventActions } from '../meetings/index.ts';

/**
 * A new event that is being made: its draft, how its time suits everybody, what its button will do,
 * and the way into Plan and back.
 */
export function useNewEvent(
  { name, initial, begun }: { name: string; initial: () => Draft; begun?: Draft | undefined },
  onDone: (id: string) => void,
) {
  const me = useMe();
  const now = useNow();
  const navigate = useNavigate();
  const actions = useEventActions();
  const [start] = useState(initial);
  const form = useDraftForm(name, start, begun);
  const { content: draft, set } = form;
  const { times } = readTimes(draft.typed, useNowMinutes(draft.typed.zone));
  const key = times ? JSON.stringify(times) : '';
  const span = useMemo<Interval | null>(
    () => (times ? resolveSpan({ ...times, fold: 'earlier' }) : null),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- told by their content
    [key],
  );
  const date = span
    ? dateAt(span.start, me.zone)
    : isDate(draft.typed.date)
      ? draft.typed.date
      : dateAt(now, me.zone);
  const gathering = useGathering(draft.people, span, date);
  const placeIds = new Set(
    gathering.members.filter((one) => one.kind === 'resource').map((one) => one.id),
  );
  const guests = draft.people.filter((one) => !placeIds.has(one.id) && one.id !== draft.whose);
  const places = gathering.members.filter((one) => one.kind === 'resource');

  const make = useMutation({
    mutationFn: async ({ draft: given, times: at, dates, instead, unsent }: FormResult) => {
      // A place that is taken in another's stead has not been read yet.
      const isPlace = (id: number) => placeIds.has(id) || id === instead?.resourceId;
      if (!unsent && given.people.length > 0 && span && !repeatsOf(given.repeating))
        await checkAgain(gathering.members, [span], gathering.readAgain);
      const { typed: _typed, repeating, people, whose, ...content } = given;
      return actions.create({
        ...content,
        times: at,
        repeats: repeatsOf(repeating),
        attendees: people
          .filter((one) => !isPlace(one.id) && one.id !== whose)
          .map(({ id, email, role }) => (email ? { email, role } : { personId: id, role })),
        resources: people.flatMap((one) => (isPlace(one.id) ? [one.id] : [])),
        ...(dates && { dates }),
        ...(whose && { for: whose }),
        ...(unsent && { draft: { holds: false } }),
      });
    },
    onSuccess: (event) => {
      form.done();
      onDone(event.id);
    },
  });
  const setSpan = ({ start, end }: Interval) =>
    set((before) => ({
      typed: typedFrom(start, end, before.typed.zone, false, before.typed.endZone),
    }));
  /** Plan keeps the draft, and gives it back with another time. */
  const toPlan = () =>
    void navigate(
      planPath({
        title: draft.title,
        lineUp: draft.people,
        from: date,
        ...(span &&
          !draft.typed.allDay && {
            at: span.start,
            minutes: Math.round((span.end - span.start) / MINUTE),
          }),
      }),
      { state: carried() },
    );
  /** The draft as it goes along to another view, under the name by which it is kept. */
  const carried = (): CarriedDraft => ({ draft, name });
  return {
    form,
    draft,
    carried,
    span,
    date,
    gathering,
    make,
    /** It is made once: what is sent is not sent again. */
    isBusy: make.isPending || make.isSuccess,
    setSpan,
    toPlan,
    /** People whose time is not read yet cannot be told from places. */
    isReady: draft.people.length === 0 || !gathering.reading,
    label: sendLabel(
      guests.length,
      places.map((one) => one.name),
    ),
    /** What is not sent yet can be kept as a draft. */
    keep: guests.length > 0 ? 'Keep as a draft' : undefined,
    guests: guests.map(
      (one) => one.email ?? gathering.members.find((member) => member.id === one.id)?.name ?? '',
    ),
  };
}
