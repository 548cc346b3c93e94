import { titleOfBooking } from '../../core/meetings/ownTitle.ts';
import { useQuery } from '@tanstack/react-query';
import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import type { Resolver } from 'react-hook-form';
import { Link } from 'react-router';
import { z } from 'zod';
import type { OfferedAlternative } from '../../contract/eventDetail.ts';
import { createEventRequest, type CreateEventRequest } from '../../contract/events.ts';
import { bookingNote } from '../../contract/bookings.ts';
import type { Place } from '../../contract/places.ts';
import { formatDay, formatHours, formatTime } from '../../core/time/format.ts';
import { unitsLeft } from '../../core/booking/units.ts';
import { resolveSpan } from '../../core/time/eventTimes.ts';
import { HOUR, type Interval } from '../../core/time/interval.ts';
import { dateAt, isDate, resolveWallTime } from '../../core/time/wall.ts';
import { answerTo, Failure, may, useMe, useNow } from '../client/index.ts';
import { ChangePlace, PlaceLog } from '../catalogue/index.ts';
import { InUseAgain, TakeOutOfUse } from '../closures/index.ts';
import {
  bookVerb,
  HolderField,
  holderOf,
  PlaceTerms,
  useNeedsAgreement,
  PresenceHere,
  stewardsNote,
  StewardsNoteFields,
  type Holder,
} from '../bookings/index.ts';
import { TimesFields, usePastAsk } from '../time/index.ts';
import { readTimes, retyped, typedFrom, type TypedTimes } from '../../core/time/typedTimes.ts';
import { Button, Field, PartHeading, TextInput } from '../design/controls.tsx';
import { Tick } from '../design/ticks.tsx';
import { GoOn, typedTimes, useKeptForm, type KeptForm } from '../forms/index.ts';
import { Assigned } from './Assigned.tsx';
import { bothClocks, nameOfZone } from './clocks.ts';
import { placeFacts, STATE_WORDS } from './facts.ts';
import { PlacePicture } from './PlacePicture.tsx';
import { useBooking } from './useBooking.ts';
import { takenIn, Alternatives } from './Alternatives.tsx';

/** One place: what it is, its day, and booking it. Times are those of the place's own zone. */
export function PlacePanel({ place }: { place: Place }) {
  const me = useMe();
  const now = useNow();
  const [begin, setBegin] = useState(() => {
    const start = Math.ceil(now / (HOUR / 2)) * (HOUR / 2);
    return { round: 0, typed: typedFrom(start, start + HOUR, place.zone) };
  });
  const facts = placeFacts(place);
  const [changing, setChanging] = useState(false);
  if (changing) return <ChangePlace place={place} onDone={() => setChanging(false)} />;
  return (
    <div className="grid gap-6">
      <PlacePicture place={place} />
      <p className="text-ink-2">
        {place.site}
        {facts.length > 0 && `; ${facts.join(', ')}`}
        {place.description && <span className="block text-ink">{place.description}</span>}
        {place.ruleWords.length > 0 && (
          <span className="block text-ink">{sentenceOf(place.ruleWords)}</span>
        )}
      </p>
      {place.closure && <InUseAgain place={place} closure={place.closure} />}
      <PresenceHere placeId={place.id} />
      <Assigned place={place} />
      <DayAndForm
        key={begin.round}
        place={place}
        begin={begin.typed}
        onBooked={(typed) => setBegin(({ round }) => ({ round: round + 1, typed }))}
      />
      {may(me, 'look-after', place.id) && (
        <div className="grid gap-2">
          <button
            type="button"
            className="reach w-fit font-semibold text-gentian hover:underline"
            onClick={() => setChanging(true)}
          >
            Change what it is, and its rules …
          </button>
          {!place.closure && <TakeOutOfUse place={place} />}
          <PlaceLog place={place} />
        </div>
      )}
      <Link
        to={`/places/board?place=${place.id}`}
        className="w-fit font-semibold text-gentian hover:underline"
      >
        Its week on the board
      </Link>
    </div>
  );
}

const sentenceOf = ([first, ...others]: readonly string[]): string =>
  `${first![0]!.toUpperCase()}${[first!.slice(1), ...others].join('; ')}.`;

/** The day that is typed, and the form; what is typed in it outlives the panel. */
function DayAndForm({
  place,
  begin,
  onBooked,
}: {
  place: Place;
  begin: TypedTimes;
  onBooked: (typed: TypedTimes) => void;
}) {
  const now = useNow();
  const kept = useKeptForm<Booking>({
    name: `booking ${place.id}`,
    initial: { title: '', typed: begin, whose: null, mine: true, note: '', contact: '' },
    resolver: zodResolver(BOOKING) as unknown as Resolver<Booking>,
  });
  const { date } = kept.content.typed;
  return (
    <>
      <Day place={place} date={isDate(date) ? date : dateAt(now, place.zone)} />
      <BookForm place={place} kept={kept} onBooked={onBooked} />
    </>
  );
}

const usePlaceDay = (place: Place, date: string) =>
  useQuery(answerTo('GET /api/places/:id/day', { params: { id: place.id }, query: { date } }));

/** Of several units, how many are free at the time that is typed; null where that is not known. */
function LeftThen({ place, date, span }: { place: Place; date: string; span: Interval | null }) {
  const { data: day } = usePlaceDay(place, date);
  if (place.units === 1 || !span || !day || span.start < day.dayStart || span.end > day.dayEnd)
    return null;
  const left = unitsLeft(day.bookings, span, place.units);
  return (
    <p role="status" className={left > 0 ? '' : 'font-semibold text-alpenglow'}>
      {left > 0 ? `${left} of ${place.units} left then` : `All ${place.units} are taken then`}
    </p>
  );
}

function Day({ place, date }: { place: Place; date: string }) {
  const me = useMe();
  const query = usePlaceDay(place, date);
  const day = query.data;
  // The hours people use; a booking outside them widens the picture.
  const from = day
    ? Math.min(
        resolveWallTime(`${date}T07:00`, place.zone).instant,
        ...day.bookings.map((b) => Math.max(b.start, day.dayStart)),
      )
    : 0;
  const to = day
    ? Math.max(
        resolveWallTime(`${date}T20:00`, place.zone).instant,
        ...day.bookings.map((b) => Math.min(b.end, day.dayEnd)),
      )
    : 1;
  const x = (instant: number) =>
    `${((Math.min(Math.max(instant, from), to) - from) / (to - from)) * 100}%`;
  const width = (start: number, end: number) =>
    `${((Math.min(end, to) - Math.max(start, from)) / (to - from)) * 100}%`;
  return (
    <section aria-label="Its day">
      <PartHeading
        remark={place.zone === me.zone ? undefined : `${nameOfZone(place.zone, me)} time`}
      >
        {formatDay(resolveWallTime(`${date}T12:00`, place.zone).instant, place.zone)}
      </PartHeading>
      {query.isPending && (
        <div className="unread h-20 rounded-sm" role="status" aria-label="Reading its day …" />
      )}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {day && (
        <>
          <div className="relative h-8 rounded-sm border border-edge bg-sheet" aria-hidden="true">
            {day.closures.map((one) => (
              <div
                key={one.id}
                className="rock-away absolute inset-y-0"
                style={{ left: x(one.start), width: width(one.start, one.end) }}
              />
            ))}
            {day.bookings.map((booking) => (
              <div
                key={`${booking.start}${booking.unit}`}
                className={`${booking.state === 'requested' ? 'rock-tentative' : 'rock'} absolute inset-y-0 ${booking.mine ? 'border-l-[3px] border-gentian' : ''}`}
                style={{ left: x(booking.start), width: width(booking.start, booking.end) }}
              />
            ))}
          </div>
          <div className="mb-1 flex justify-between text-[11px] text-ink-2" aria-hidden="true">
            <span>{formatTime(from, place.zone, me.clock)}</span>
            <span>{formatTime(to, place.zone, me.clock)}</span>
          </div>
          {day.closures
            .filter((one) => one.id !== place.closure?.id)
            .map((one) => (
              <InUseAgain key={one.id} place={place} closure={one} />
            ))}
          {day.bookings.length + day.closures.length === 0 && <p>Free all day.</p>}
          <ul>
            {day.bookings.map((booking) => (
              <li key={`${booking.start}${booking.unit}`}>
                <b className="font-semibold">{formatHours(booking, place.zone, me.clock, from)}</b>{' '}
                {place.zone !== me.zone && (
                  <span className="text-ink-2">
                    ({formatHours(booking, me.zone, me.clock, from)} {nameOfZone(me.zone, me)}){' '}
                  </span>
                )}
                {booking.title ?? 'taken'}
                {booking.holder && (
                  <span className="text-ink-2">, {booking.mine ? 'yours' : booking.holder}</span>
                )}
                {STATE_WORDS[booking.state] && (
                  <span className="text-ink-2">, {STATE_WORDS[booking.state]}</span>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

/** What a booking says, as its form holds it. */
interface Booking {
  title: string;
  typed: TypedTimes;
  /** Whose it is to be; null is me. */
  whose: Holder | null;
  /** Whether the time of whoever has it is taken then, too. */
  mine: boolean;
  /** For those who look after it. */
  note: string;
  contact: string;
}

/** By the contract of what is sent; without a title it has the place's name. */
const BOOKING = z.object({
  title: createEventRequest.shape.place,
  typed: typedTimes(),
  whose: z.custom<Holder | null>(),
  mine: z.boolean(),
  ...bookingNote.shape,
});

function BookForm({
  place,
  kept,
  onBooked,
}: {
  place: Place;
  kept: KeptForm<Booking>;
  onBooked: (typed: TypedTimes) => void;
}) {
  const needs = useNeedsAgreement();
  const me = useMe();
  const { form, set } = kept;
  const { title, typed, whose, mine } = kept.content;
  const titleError = form.formState.errors.title?.message;
  const [ask, question] = usePastAsk();
  const read = readTimes(typed);
  const span = read.times ? resolveSpan({ ...read.times, fold: 'earlier' }) : null;
  const book = useBooking(place.zone, () => {
    kept.done();
    onBooked(form.getValues('typed'));
  });
  const request = (times: CreateEventRequest['times'], resourceId: number): CreateEventRequest => ({
    title: title.trim() || titleOfBooking([place.name]),
    times,
    resources: [resourceId],
    showsAs: mine ? 'busy' : 'free',
    ...holderOf(whose),
    ...stewardsNote(kept.content),
  });
  const submit = form.handleSubmit(() => {
    if (read.times && span) ask(span, () => book.mutate(request(read.times!, place.id)));
  });
  const take = (way: OfferedAlternative) => {
    if (way.kind === 'resource') {
      if (read.times) book.mutate(request(read.times, way.resourceId));
      return;
    }
    const next = typedFrom(way.start, way.end, place.zone);
    set({ typed: next });
    const times = readTimes(next).times;
    if (times) book.mutate(request(times, place.id));
  };
  const taken = takenIn(book.error);
  return (
    <form onSubmit={(event) => void submit(event)} noValidate className="grid gap-3">
      {question}
      <PartHeading>Book it</PartHeading>
      {kept.isRestored && <GoOn startAfresh={kept.startAfresh} />}
      <Field label="What for, if you like" error={titleError}>
        <TextInput
          value={title}
          maxLength={200}
          onChange={(event) => set({ title: event.target.value })}
        />
      </Field>
      <TimesFields
        typed={typed}
        change={(part) => set((before) => ({ typed: retyped(before.typed, part) }))}
        errors={read.errors}
      />
      {isDate(typed.date) && <LeftThen place={place} date={typed.date} span={span} />}
      {span && place.zone !== me.zone && <p>{bothClocks(span, place.zone, me)}</p>}
      <HolderField places={[place.id]} value={whose} onChange={(next) => set({ whose: next })} />
      <Tick
        label={whose ? 'Their time is taken then, too' : 'My time is taken then, too'}
        on={mine}
        onChange={(on) => set({ mine: on })}
      />
      <StewardsNoteFields value={kept.content} onChange={(part) => set(part)} />
      {taken ? (
        <Alternatives
          body={taken}
          busy={book.isPending}
          take={take}
          {...(span && { wish: { ...span, title } })}
        />
      ) : (
        book.isError && <Failure error={book.error} />
      )}
      <PlaceTerms places={[place]} span={span} />
      <Button
        look="act"
        type="submit"
        disabled={book.isPending || !read.times || whose === 'sought'}
      >
        {bookVerb([place], needs)}
      </Button>
    </form>
  );
}
