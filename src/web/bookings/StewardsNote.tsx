import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { BookingNote } from '../../contract/bookings.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { callApi, answerTo, errorText, may, useMe } from '../client/index.ts';
import { Button, Field, TextArea, TextInput } from '../design/controls.tsx';

/**
 * What those who look after places are to know of a booking, out of the way until somebody has something
 * to say; whom to ask is filled in as it was said the last time.
 */
export function StewardsNoteFields({
  value: { note, contact },
  onChange,
}: {
  value: BookingNote;
  onChange: (part: Partial<BookingNote>) => void;
}) {
  const [isOpen, setOpen] = useState(note !== '' || contact !== '');
  const open = async () => {
    setOpen(true);
    const before = await callApi('GET /api/bookings/contact').catch(() => null);
    if (before?.contact && contact === '') onChange({ contact: before.contact });
  };
  if (!isOpen) {
    return (
      <button
        type="button"
        className="reach w-fit font-semibold text-gentian hover:underline"
        onClick={() => void open()}
      >
        Tell those who look after it …
      </button>
    );
  }
  return (
    <>
      <Field label="For those who look after it" hint="Nobody else reads this.">
        <TextArea
          rows={2}
          autoFocus
          maxLength={1000}
          value={note}
          onChange={(event) => onChange({ note: event.target.value })}
        />
      </Field>
      <Field label="Whom to ask about it">
        <TextInput
          maxLength={120}
          placeholder="A name, a number"
          value={contact}
          onChange={(event) => onChange({ contact: event.target.value })}
        />
      </Field>
    </>
  );
}

/** As it is sent: nothing where nothing is said. */
export const stewardsNote = ({ note, contact }: BookingNote): { forStewards?: BookingNote } =>
  note.trim() || contact.trim() ? { forStewards: { note, contact } } : {};

/** What was said of a booking to those who look after places, for them and for whoever has it. */
export function StewardsNote({ event }: { event: EventDetail }) {
  const me = useMe();
  const client = useQueryClient();
  const [draft, setDraft] = useState<BookingNote | null>(null);
  const isMine = event.organizer.id === me.id;
  const isFor =
    event.resources.length > 0 &&
    !event.draft &&
    (isMine || event.resources.some(({ id }) => may(me, 'see', id)));
  const note = answerTo('GET /api/bookings/notes/:id', { params: { id: event.id } });
  const { data } = useQuery({
    ...note,
    enabled: isFor,
  });
  const save = useMutation({
    mutationFn: (body: BookingNote) =>
      callApi('PUT /api/bookings/notes/:id', { params: { id: event.id }, body }),
    onSuccess: () => {
      setDraft(null);
      return client.invalidateQueries({ queryKey: note.queryKey });
    },
  });
  if (!isFor || !data) return null;
  const isEmpty = data.note === '' && data.contact === '';
  if (draft) {
    return (
      <form
        className="grid gap-2"
        onSubmit={(submitted) => {
          submitted.preventDefault();
          save.mutate(draft);
        }}
      >
        <StewardsNoteFields
          value={draft}
          onChange={(part) => setDraft((before) => ({ ...(before ?? data), ...part }))}
        />
        {save.isError && (
          <p role="alert" className="font-semibold text-alpenglow">
            {errorText(save.error)}
          </p>
        )}
        <p className="flex gap-2">
          <Button type="submit" disabled={save.isPending}>
            Keep it
          </Button>
          <Button look="quiet" onClick={() => setDraft(null)}>
            Leave it as it was
          </Button>
        </p>
      </form>
    );
  }
  if (isEmpty && !isMine) return null;
  return (
    <section aria-label="For those who look after the places" className="grid gap-0.5">
      {!isEmpty && (
        <>
          <p className="text-ink-2">For those who look after the places, and nobody else:</p>
          {data.note && <p className="whitespace-pre-line">{data.note}</p>}
          {data.contact && <p>Ask {data.contact}</p>}
        </>
      )}
      <button
        type="button"
        className="reach w-fit font-semibold text-gentian hover:underline"
        onClick={() => setDraft(isEmpty ? { note: '', contact: '' } : data)}
      >
        {isEmpty ? 'Tell those who look after the places …' : 'Say it differently'}
      </button>
    </section>
  );
}
