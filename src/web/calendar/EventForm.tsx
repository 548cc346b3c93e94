import { useState, type FormEvent } from 'react';
import type { CreateEventRequest, EventDetail, WayOut } from '../../contract/events.ts';
import { ApiProblem } from '../app/api.ts';
import { useMe } from '../app/session.ts';
import { Button, Choice, Field, TextArea, TextInput } from '../design/controls.tsx';
import { Failure } from '../design/states.tsx';
import { takenIn, WaysOut } from '../places/WaysOut.tsx';
import { TimesFields } from './TimesFields.tsx';
import { readTimes, typedFrom, useTyped } from './useTyped.ts';

export type Details = Pick<
  EventDetail,
  'title' | 'place' | 'description' | 'showsAs' | 'visibility'
>;

/** What the form gives: `times` only when they were changed, `instead` when another place is taken. */
export interface FormResult {
  details: Details;
  times?: CreateEventRequest['times'];
  instead?: Extract<WayOut, { kind: 'resource' }>;
}

/** The fields of an event of one's own; what was typed stays when saving it is refused. */
export function EventForm({
  initial,
  times,
  fixedTimes = false,
  isNew = false,
  action,
  busy,
  error,
  save,
}: {
  initial: Details;
  times: { start: number; end: number; allDay: boolean };
  fixedTimes?: boolean;
  isNew?: boolean;
  action: string;
  busy: boolean;
  error: unknown;
  save: (result: FormResult) => void;
}) {
  const me = useMe();
  const [details, setDetails] = useState<Details>({
    title: initial.title,
    place: initial.place,
    description: initial.description,
    showsAs: initial.showsAs,
    visibility: initial.visibility,
  });
  const before = typedFrom(times.start, times.end, me.zone, times.allDay);
  const { typed, change, setTyped } = useTyped(before);
  const [tried, setTried] = useState(false);
  const set = (part: Partial<Details>) => setDetails((before) => ({ ...before, ...part }));
  const read = readTimes(typed, me.zone);
  const problem = error instanceof ApiProblem ? error : null;
  const taken = takenIn(error);
  const titleError = tried && !details.title.trim() ? 'must not be empty' : problem?.field('title');

  // Times that nobody touched are left as they are, zone and all.
  const timesToSend = (next: typeof typed) =>
    !fixedTimes && (isNew || JSON.stringify(next) !== JSON.stringify(before));

  const take = (way: WayOut) => {
    if (way.kind === 'resource') {
      save({
        details,
        instead: way,
        ...(timesToSend(typed) && read.times && { times: read.times }),
      });
      return;
    }
    const next = typedFrom(way.start, way.end, me.zone);
    setTyped(next);
    const moved = readTimes(next, me.zone).times;
    if (moved) save({ details, times: moved });
  };

  const submit = (event: FormEvent) => {
    event.preventDefault();
    setTried(true);
    if (!details.title.trim() || !read.times) return;
    save({ details, ...(timesToSend(typed) && { times: read.times }) });
  };

  return (
    <form onSubmit={submit} noValidate className="grid gap-4">
      <Field label="Title" error={titleError}>
        <TextInput
          value={details.title}
          maxLength={200}
          aria-invalid={!!titleError}
          onChange={(event) => set({ title: event.target.value })}
          autoFocus
        />
      </Field>
      {!fixedTimes && <TimesFields typed={typed} change={change} errors={read.errors} />}
      <Field label="Place">
        <TextInput
          value={details.place}
          maxLength={200}
          onChange={(event) => set({ place: event.target.value })}
        />
      </Field>
      <div className="grid grid-cols-2 gap-2">
        <Field label="Shows as">
          <Choice
            value={details.showsAs}
            onChange={(event) => set({ showsAs: event.target.value as Details['showsAs'] })}
          >
            <option value="busy">Busy</option>
            <option value="tentative">Tentative</option>
            <option value="away">Away</option>
            <option value="free">Free</option>
          </Choice>
        </Field>
        <Field label="Others see">
          <Choice
            value={details.visibility}
            onChange={(event) => set({ visibility: event.target.value as Details['visibility'] })}
          >
            <option value="default">What I share</option>
            <option value="public">Its title</option>
            <option value="private">Only that it is taken</option>
          </Choice>
        </Field>
      </div>
      <Field label="Description" error={problem?.field('description')}>
        <TextArea
          rows={3}
          maxLength={20000}
          value={details.description}
          onChange={(event) => set({ description: event.target.value })}
        />
      </Field>
      {taken ? (
        <WaysOut body={taken} busy={busy} take={take} />
      ) : (
        Boolean(error) && <Failure error={error} />
      )}
      <Button look="act" type="submit" disabled={busy}>
        {action}
      </Button>
    </form>
  );
}
