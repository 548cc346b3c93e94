import { titleOfBooking } from '../../core/meetings/ownTitle.ts';
import { zodResolver } from '@hookform/resolvers/zod';
import { X } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { Resolver } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { z } from 'zod';
import type { OfferedAlternative } from '../../contract/eventDetail.ts';
import type { DateChoice } from '../../contract/eventParts.ts';
import { createEventRequest, type CreateEventRequest } from '../../contract/events.ts';
import { bookingNote } from '../../contract/bookings.ts';
import type { BoardPlace } from '../../contract/places.ts';
import { resolveSpan } from '../../core/time/eventTimes.ts';
import { formatLength, formatTime } from '../../core/time/format.ts';
import { MINUTE, type Interval } from '../../core/time/interval.ts';
import { readTimes, retyped, typedFrom, type TypedTimes } from '../../core/time/typedTimes.ts';
import { Failure, useMe, usePreferences } from '../client/index.ts';
import {
  HolderField,
  PlaceTerms,
  StewardsNoteFields,
  bookVerb,
  holderOf,
  stewardsNote,
  type Holder,
  useNeedsAgreement,
} from '../bookings/index.ts';
import { Button, Field, IconButton, TextInput } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import { Tick } from '../design/ticks.tsx';
import { GoOn, useKeptForm } from '../forms/index.ts';
import { bothClocks, takenIn, useBooking, Alternatives } from '../places/index.ts';
import { WaitForIt } from '../waiting/index.ts';
import { TimesFields, usePastAsk } from '../time/index.ts';
import type { Pick } from './useBoardAddress.ts';
import {
  NOT_REPEATING,
  RecurrenceEditor,
  TakenDates,
  draftFor,
  repeatingProblem,
  repeatsOf,
  takenDatesIn,
  type Repeating,
} from '../meetings/index.ts';

/** What a booking says besides its time and its places. */
interface Words {
  title: string;
  whose: Holder | null;
  /** Whether the time of whoever has it is taken then, too. */
  takesTime: boolean;
  repeating: Repeating;
  /** For those who look after the places. */
  note: string;
  contact: string;
}

const WORDS = z.object({
  title: createEventRequest.shape.place,
  whose: z.custom<Holder | null>(),
  takesTime: z.boolean(),
  repeating: z.custom<Repeating>(),
  ...bookingNote.shape,
});

/** Places that are free instead, of which so many are one click away. */
const MOST_OFFERED = 3;

/** Books what is picked on the board, all of it or none; times typed and dragged stay in step. */
export function BookingPanel({
  pick,
  places,
  others,
  zone,
  hindrances,
  isTaken,
  onPick,
  onBooked,
}: {
  pick: Pick;
  /** Those that are picked. */
  places: readonly BoardPlace[];
  /** Those that can be picked as well. */
  others: readonly BoardPlace[];
  zone: string;
  /** What stands in the way, a sentence each. */
  hindrances: readonly string[];
  /** Whether that is somebody who has it, and no rule. */
  isTaken: boolean;
  onPick: (pick: Pick | null) => void;
  onBooked: () => void;
}) {
  const me = useMe();
  const needs = useNeedsAgreement();
  const navigate = useNavigate();
  const { defaultReminders } = usePreferences();
  const kept = useKeptForm<Words>({
    name: 'booking on the board',
    initial: {
      title: '',
      whose: null,
      takesTime: true,
      repeating: NOT_REPEATING,
      note: '',
      contact: '',
    },
    resolver: zodResolver(WORDS) as unknown as Resolver<Words>,
  });
  const { title, whose, takesTime, repeating } = kept.content;
  const [typed, setTyped] = useTypedWith(pick.span, zone);
  const read = readTimes(typed);
  const span = read.times ? resolveSpan({ ...read.times, fold: 'earlier' }) : null;
  const [ask, question] = usePastAsk();
  const book = useBooking(zone, () => {
    kept.done();
    onBooked();
  });
  // What was refused is no word on what is picked since.
  const picked = JSON.stringify([pick, repeating]);
  const { reset } = book;
  useEffect(reset, [picked, reset]);
  const names = places.map((one) => one.name);
  const problem = read.times && repeatingProblem(repeating, read.times.startsAt);
  const request = (
    times: CreateEventRequest['times'],
    ids: readonly number[],
    dates?: DateChoice[],
  ): CreateEventRequest => ({
    title: title.trim() || titleOfBooking(names),
    times,
    repeats: repeatsOf(repeating),
    ...(dates && { dates }),
    resources: [...ids],
    showsAs: takesTime ? 'busy' : 'free',
    ...holderOf(whose),
    ...stewardsNote(kept.content),
  });
  const submit = kept.form.handleSubmit(() => {
    if (read.times && span) ask(span, () => book.mutate(request(read.times!, pick.places)));
  });
  const take = (way: OfferedAlternative) => {
    if (way.kind === 'resource') {
      const ids = pick.places.map((id) => (id === way.instead ? way.resourceId : id));
      onPick({ ...pick, places: ids });
      if (read.times) book.mutate(request(read.times, ids));
      return;
    }
    onPick({ ...pick, span: { start: way.start, end: way.end } });
    const { times } = readTimes(typedFrom(way.start, way.end, zone));
    if (times) book.mutate(request(times, pick.places));
  };
  const invite = () => {
    if (!span) return;
    // A series goes by the clock of where its places are.
    const draft = draftFor(span, repeating.rule ? zone : me.zone, defaultReminders, {
      title,
      places: pick.places,
      repeating,
    });
    kept.done();
    void navigate('/events/new', { state: { draft } });
  };
  const taken = takenIn(book.error);
  const takenDates = takenDatesIn(book.error);
  const kinds = places.flatMap((one) => {
    const widened = [
      one.prepareMinutes > 0 &&
        `needs ${one.prepareMinutes} min to prepare, kept free from ${formatTime(pick.span.start - one.prepareMinutes * MINUTE, zone, me.clock)}`,
      one.clearMinutes > 0 && `${one.clearMinutes} min to clear`,
    ].filter(Boolean);
    return widened.length > 0 ? [`${one.name} ${widened.join(', ')}`] : [];
  });
  return (
    <form onSubmit={(event) => void submit(event)} noValidate className="grid gap-3">
      {question}
      <p className="text-ink-2">
        {[formatLength(pick.span.end - pick.span.start), ...kinds].join(' · ')}
      </p>
      {kept.isRestored && <GoOn startAfresh={kept.startAfresh} />}
      <TimesFields
        typed={typed}
        change={(part) => {
          const next = retyped(typed, part);
          setTyped(next);
          const { times } = readTimes(next);
          if (!times) return;
          const { start, end } = resolveSpan({ ...times, fold: 'earlier' });
          if (start < end) onPick({ ...pick, span: { start, end } });
        }}
        errors={read.errors}
        allowAllDay={false}
      />
      {zone !== me.zone && span && <p>{bothClocks(span, zone, me)}</p>}
      <Field label="What for, if you like" error={kept.form.formState.errors.title?.message}>
        <TextInput
          value={title}
          maxLength={200}
          onChange={(event) => kept.set({ title: event.target.value })}
        />
      </Field>
      <div className="flex flex-wrap items-center gap-1.5">
        <span className="font-semibold">Where</span>
        {places.map((one) => (
          <span
            key={one.id}
            className="flex items-center rounded-full border border-edge bg-sheet pl-3"
          >
            {one.name}
            <IconButton
              small
              label={`Leave ${one.name} out`}
              onClick={() => {
                const left = pick.places.filter((id) => id !== one.id);
                onPick(left.length > 0 ? { ...pick, places: left } : null);
              }}
            >
              <X size={14} aria-hidden="true" />
            </IconButton>
          </span>
        ))}
        {others.length > 0 && (
          <Select<number | null>
            look="word"
            question="Another place that is free then"
            value={null}
            options={[
              { value: null, words: 'another' },
              ...others.map((one) => ({ value: one.id, words: one.name })),
            ]}
            onChange={(id) => id !== null && onPick({ ...pick, places: [...pick.places, id] })}
          />
        )}
      </div>
      <RecurrenceEditor
        value={repeating}
        startsAt={read.times?.startsAt ?? `${typed.date}T00:00`}
        zone={zone}
        onChange={(next) => kept.set({ repeating: next })}
      />
      <HolderField
        places={pick.places}
        value={whose}
        onChange={(next) => kept.set({ whose: next })}
      />
      <Tick
        label={whose ? 'Their time is taken then, too' : 'My time is taken then, too'}
        on={takesTime}
        onChange={(on) => kept.set({ takesTime: on })}
      />
      <StewardsNoteFields value={kept.content} onChange={(part) => kept.set(part)} />
      {hindrances.length > 0 && !taken && !takenDates && (
        <div role="status" className="rounded-sm bg-glow-wash px-3 py-2">
          <ul className="font-semibold">
            {hindrances.map((words) => (
              <li key={words}>{words}.</li>
            ))}
          </ul>
          {isTaken && places.length === 1 && (
            <>
              {others.length > 0 && (
                <p className="mt-2 flex flex-wrap items-center gap-1.5">
                  Free at that time:
                  {others.slice(0, MOST_OFFERED).map((one) => (
                    <Button key={one.id} onClick={() => onPick({ ...pick, places: [one.id] })}>
                      {one.name}
                    </Button>
                  ))}
                </p>
              )}
              <WaitForIt placeId={places[0]!.id} wish={{ ...pick.span, title }} />
            </>
          )}
        </div>
      )}
      {takenDates ? (
        <TakenDates
          dates={takenDates}
          zone={zone}
          busy={book.isPending}
          take={(dates) => read.times && book.mutate(request(read.times, pick.places, dates))}
        />
      ) : taken ? (
        <Alternatives
          body={taken}
          busy={book.isPending}
          take={take}
          {...(pick.places.length === 1 && { wish: { ...pick.span, title } })}
        />
      ) : (
        book.isError && <Failure error={book.error} />
      )}
      <PlaceTerms places={places} span={span} />
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <Button
          look="act"
          type="submit"
          disabled={book.isPending || !read.times || problem !== null || whose === 'sought'}
        >
          {bookVerb(places, needs)}
        </Button>
        <Button look="quiet" disabled={!span} onClick={invite}>
          Invite people to it
        </Button>
      </div>
      <p className="text-xs text-ink-2">
        {places.length > 1 && 'All or none: if one is taken meanwhile, nothing is booked. '}
        You can move and stretch it later without losing your place.
      </p>
    </form>
  );
}

/** Times as they are typed, which follow what is dragged. */
function useTypedWith(span: Interval, zone: string) {
  const [typed, setTyped] = useState<TypedTimes>(() => typedFrom(span.start, span.end, zone));
  const [seen, setSeen] = useState(span);
  if (seen.start !== span.start || seen.end !== span.end) {
    setSeen(span);
    const { times } = readTimes(typed);
    const now = times && resolveSpan({ ...times, fold: 'earlier' });
    // What was typed just now is what is picked already.
    if (now?.start !== span.start || now.end !== span.end)
      setTyped(typedFrom(span.start, span.end, zone));
  }
  return [typed, setTyped] as const;
}
