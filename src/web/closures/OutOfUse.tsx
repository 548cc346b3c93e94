import { useState } from 'react';
import type { DisplacedBooking } from '../../contract/closures.ts';
import type { Place } from '../../contract/places.ts';
import { counted } from '../../core/counted.ts';
import { listNames } from '../../core/planner/words.ts';
import { resolveSpan } from '../../core/time/eventTimes.ts';
import { formatHours, formatSpan } from '../../core/time/format.ts';
import { HOUR } from '../../core/time/interval.ts';
import { readTimes, retyped, typedFrom } from '../../core/time/typedTimes.ts';
import { Failure, useKeptText, useMe, useNow } from '../client/index.ts';
import { Button, Field, PartHeading, TextInput } from '../design/controls.tsx';
import { Tick } from '../design/ticks.tsx';
import { TimesFields } from '../time/index.ts';
import { useClosurePreview, useTakeOutOfUse } from './useClosures.ts';

/** Takes a place out of use: when and why, then where each booking in it goes, then all of it at once. */
export function TakeOutOfUse({ place }: { place: Place }) {
  const [open, setOpen] = useState(false);
  if (!open) {
    return (
      <button
        type="button"
        className="reach w-fit font-semibold text-gentian hover:underline"
        onClick={() => setOpen(true)}
      >
        Take it out of use …
      </button>
    );
  }
  return <ClosureForm place={place} onClose={() => setOpen(false)} />;
}

function ClosureForm({ place, onClose }: { place: Place; onClose: () => void }) {
  const now = useNow();
  const [typed, setTyped] = useState(() => {
    const start = Math.ceil(now / (HOUR / 2)) * (HOUR / 2);
    return typedFrom(start, start + 24 * HOUR, place.zone);
  });
  const [forGood, setForGood] = useState(false);
  const [reason, setReason, reasonSent] = useKeptText(`out of use ${place.id}, why`);
  const [message, setMessage, messageSent] = useKeptText(`out of use ${place.id}`);
  const read = readTimes(typed);
  const span = read.times ? resolveSpan({ ...read.times, fold: 'earlier' }) : null;
  const asked = forGood ? 'for good' : span && span.start < span.end ? span : null;
  const preview = useClosurePreview(place.id, asked);
  const close = useTakeOutOfUse(
    place.id,
    ({ moved, without: left }) => {
      const told = moved + left > 0 ? `, ${counted(moved, 'booking')} moved` : '';
      return `${place.name} is ${forGood ? 'retired' : 'out of use'}${told}.`;
    },
    () => {
      reasonSent();
      messageSent();
      onClose();
    },
  );
  const bookings = preview.data?.bookings ?? [];
  const moving = bookings.filter((one) => one.move);
  const without = bookings.filter((one) => !one.move);
  const holders = new Set(bookings.map((one) => one.holder)).size;
  const tooMany = (preview.data?.total ?? 0) - bookings.length;
  const submit = () => {
    const goes = {
      message,
      moves: moving.map(({ eventId, occurrence, move }) => ({
        eventId,
        occurrence,
        placeId: move!.placeId,
        start: move!.start,
        end: move!.end,
      })),
      without: without.map(({ eventId, occurrence }) => ({ eventId, occurrence })),
    };
    if (forGood) close.mutate({ ...goes, version: place.version });
    else if (span) close.mutate({ ...goes, start: span.start, end: span.end, reason });
  };
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      <PartHeading>Out of use</PartHeading>
      <Tick
        label="For good, from now on: it is retired"
        on={forGood}
        onChange={(on) => setForGood(on)}
      />
      <Field label="Why, as others read it" className={forGood ? 'hidden' : ''}>
        <TextInput
          autoFocus
          value={reason}
          maxLength={200}
          placeholder="A leak, an inspection"
          onChange={(event) => setReason(event.target.value)}
        />
      </Field>
      {!forGood && (
        <TimesFields
          typed={typed}
          change={(part) => setTyped((before) => retyped(before, part))}
          errors={read.errors}
        />
      )}
      {preview.isLoading && <p role="status">Looking for other places …</p>}
      {preview.isError && <Failure error={preview.error} retry={() => void preview.refetch()} />}
      {preview.data && (
        <>
          <p role="status" className={without.length > 0 ? 'font-semibold text-alpenglow' : ''}>
            {summaryOf(bookings.length, without.length)}
          </p>
          <ul>
            {bookings.map((one) => (
              <li key={`${one.eventId} ${one.occurrence}`} className="border-t border-edge py-1.5">
                <AffectedBooking booking={one} place={place} />
              </li>
            ))}
          </ul>
          {moving.length > 0 && (
            <p className="text-xs text-ink-2">
              Chosen together: first that as many as possible have a place, then that they keep
              their time, then what they need, then their floor.{' '}
              {preview.data.isBest ? 'Nothing better exists.' : 'The best that was found in time.'}
            </p>
          )}
          {tooMany > 0 && (
            <p className="font-semibold text-alpenglow">
              {counted(tooMany, 'more booking')} than can be moved at once. Take it out of use for
              fewer days.
            </p>
          )}
        </>
      )}
      {bookings.length > 0 && (
        <Field label="A word to those who have them, if you like">
          <TextInput
            value={message}
            maxLength={1000}
            onChange={(event) => setMessage(event.target.value)}
          />
        </Field>
      )}
      {close.isError && <Failure error={close.error} />}
      <p className="flex flex-wrap items-center gap-2">
        <Button
          look="act"
          type="submit"
          disabled={
            !preview.data || tooMany > 0 || (!forGood && reason.trim() === '') || close.isPending
          }
        >
          {actWords(
            forGood ? `Retire ${place.name}` : `Take ${place.name} out of use`,
            moving.length,
            holders,
          )}
        </Button>
        <Button look="quiet" onClick={onClose}>
          Not now
        </Button>
      </p>
    </form>
  );
}

function summaryOf(all: number, without: number): string {
  if (all === 0) return 'Nothing is booked in it then.';
  const placed = all - without;
  if (without === 0)
    return all === 1
      ? 'One booking, which has another place.'
      : `${all} bookings; all have another place.`;
  return `${counted(all, 'booking')}; ${placed === 0 ? 'none has' : `${placed} have`} another place, for ${without} nothing else fits.`;
}

const actWords = (act: string, moving: number, holders: number): string =>
  [
    act,
    moving > 0 && `move ${moving}`,
    holders > 0 && `tell ${holders === 1 ? 'one person' : `${holders} people`}`,
  ]
    .filter(Boolean)
    .join(', ');

function AffectedBooking({ booking: one, place }: { booking: DisplacedBooking; place: Place }) {
  const me = useMe();
  const { move } = one;
  const isLater = move && (move.start !== one.start || move.end !== one.end);
  const how = move && [
    move.floor !== place.floor && `floor ${move.floor}`,
    move.lacks.length > 0 && `without ${listNames(move.lacks, 3)}`,
    isLater && `moved to ${formatHours(move, me.zone, me.clock)}`,
  ];
  return (
    <>
      <p>
        <b className="font-semibold">{formatSpan(one, me.zone, me.clock)}</b> {one.title}
        <span className="text-ink-2">
          {one.title && ', '}
          {one.holder}
          {one.people > 1 && ` and ${one.people - 1} more`}
        </span>
      </p>
      {move ? (
        <p className="text-lichen-ink">
          → <b className="font-semibold">{move.place}</b>
          {how!.filter(Boolean).length > 0 && `, ${how!.filter(Boolean).join(', ')}`}
        </p>
      ) : (
        <p className="font-semibold text-alpenglow">Nothing else fits; its holder is told.</p>
      )}
    </>
  );
}
