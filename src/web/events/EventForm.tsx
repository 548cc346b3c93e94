import { lazy, Suspense, useState, type FormEvent, type ReactNode } from 'react';
import type { DateChoice, EventDetail, WayOut } from '../../contract/events.ts';
import { resolveSpan } from '../../core/time/eventTimes.ts';
import { formatSpan } from '../../core/time/format.ts';
import { ApiProblem, Failure, useMe } from '../app/index.ts';
import { Button, Field, TextInput } from '../design/controls.tsx';
import { Select, type SelectOption } from '../design/Select.tsx';
import { takenIn, WaysOut } from '../places/index.ts';
import { CategoryField } from './CategoryField.tsx';
import type { Draft } from './draft.ts';
import { RecurrenceEditor } from './recurrence/RecurrenceEditor.tsx';
import { repeatingProblem, usualRule } from './recurrence/repeating.ts';
import { RemindersField } from './RemindersField.tsx';
import { TakenDates, takenDatesIn } from './TakenDates.tsx';
import {
  TimesFields,
  useNowMinutes,
  readTimes,
  retyped,
  typedFrom,
  type ReadTimes,
} from '../time/index.ts';

const RichText = lazy(() => import('./RichText.tsx'));

const TIME_THEN: SelectOption<Draft['showsAs']>[] = [
  { value: 'busy', words: 'taken' },
  { value: 'tentative', words: 'perhaps taken' },
  { value: 'away', words: 'away' },
  { value: 'free', words: 'still free' },
];
const OTHERS_SEE: SelectOption<EventDetail['visibility']>[] = [
  { value: 'default', words: 'what I share' },
  { value: 'public', words: 'its title' },
  { value: 'private', words: 'only that it is taken' },
];

/** What the form gives; `instead` when another place is taken in the stead of one that is not free. */
export interface FormResult {
  draft: Draft;
  times: NonNullable<ReadTimes['times']>;
  instead?: Extract<WayOut, { kind: 'resource' }>;
  dates?: DateChoice[];
}

/**
 * The fields of an event of one's own: the common ones, or all of them. What was typed stays when
 * saving it is refused.
 */
export function EventForm({
  draft,
  setDraft,
  full = false,
  repeats = true,
  cancelled,
  action,
  busy,
  error,
  save,
  before,
  children,
}: {
  draft: Draft;
  setDraft: (update: (before: Draft) => Draft) => void;
  full?: boolean;
  /** Whether how it repeats can be changed here. */
  repeats?: boolean;
  cancelled?: readonly string[];
  action: string;
  busy: boolean;
  error: unknown;
  save: (result: FormResult) => void;
  before?: ReactNode;
  /** Above the button. */
  children?: ReactNode;
}) {
  const me = useMe();
  const now = useNowMinutes(draft.typed.zone);
  const [tried, setTried] = useState(false);
  const set = (part: Partial<Draft>) => setDraft((present) => ({ ...present, ...part }));
  const read = readTimes(draft.typed, now);
  const problem = error instanceof ApiProblem ? error : null;
  const taken = takenIn(error);
  const takenDates = takenDatesIn(error);
  const titleError = tried && !draft.title.trim() ? 'must not be empty' : problem?.field('title');
  const ruleProblem =
    repeats && read.times ? repeatingProblem(draft.repeating, read.times.startsAt) : null;
  const timeErrors = { ...read.errors, ...endProblem(problem, read) };

  const give = (extra: Partial<FormResult> = {}, typed = draft.typed) => {
    const { times } = readTimes(typed, now);
    if (times) save({ draft: { ...draft, typed }, times, ...extra });
  };
  const take = (way: WayOut) => {
    if (way.kind === 'resource') return give({ instead: way });
    const typed = typedFrom(way.start, way.end, draft.typed.zone);
    set({ typed });
    give({}, typed);
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setTried(true);
    if (!draft.title.trim() || !read.times || ruleProblem) return;
    give();
  };
  const rich = (label: string, field: 'description' | 'agenda' | 'notes') => (
    <div>
      <p className="mb-1 font-semibold">{label}</p>
      <Suspense fallback={<div className="h-28 rounded-sm border border-edge bg-sheet" />}>
        <RichText label={label} value={draft[field]} onChange={(html) => set({ [field]: html })} />
      </Suspense>
      {problem?.field(field) && (
        <p role="alert" className="mt-1 font-semibold text-alpenglow">
          {problem.field(field)}
        </p>
      )}
    </div>
  );

  return (
    <form onSubmit={submit} noValidate className="grid gap-4">
      {before}
      <Field label="Title" error={titleError}>
        <TextInput
          value={draft.title}
          maxLength={200}
          aria-invalid={!!titleError}
          onChange={(event) => set({ title: event.target.value })}
          autoFocus
        />
      </Field>
      <TimesFields
        typed={draft.typed}
        change={(part) =>
          setDraft((present) => ({ ...present, typed: retyped(present.typed, part) }))
        }
        errors={timeErrors}
        allowZones={full}
      />
      {read.times && read.times.zone !== me.zone && !read.times.allDay && (
        <p className="text-ink-2">
          For you: {formatSpan(resolveSpan({ ...read.times, fold: 'earlier' }), me.zone, me.clock)}
        </p>
      )}
      <Field label="Place">
        <TextInput
          value={draft.place}
          maxLength={200}
          onChange={(event) => set({ place: event.target.value })}
        />
      </Field>
      {repeats && (full || draft.repeating.rule !== null) && (
        <RecurrenceEditor
          value={draft.repeating}
          startsAt={read.times?.startsAt ?? `${draft.typed.date}T00:00`}
          zone={draft.typed.zone}
          {...(cancelled && { cancelled })}
          onChange={(repeating) => set({ repeating })}
        />
      )}
      {repeats && !full && draft.repeating.rule === null && (
        <RepeatsShort draft={draft} onChange={(repeating) => set({ repeating })} />
      )}
      <CategoryField value={draft.categoryId} onChange={(categoryId) => set({ categoryId })} />
      {full && (
        <>
          <div className="grid grid-cols-2 gap-2">
            <Field label="My time then">
              <Select
                value={draft.showsAs}
                onChange={(showsAs) => set({ showsAs })}
                options={TIME_THEN}
              />
            </Field>
            <Field label="Others see">
              <Select
                value={draft.visibility}
                onChange={(visibility) => set({ visibility })}
                options={OTHERS_SEE}
              />
            </Field>
          </div>
          <RemindersField value={draft.reminders} onChange={(reminders) => set({ reminders })} />
          {rich('Description', 'description')}
          {rich('Agenda', 'agenda')}
          {rich('Notes', 'notes')}
        </>
      )}
      {takenDates ? (
        <TakenDates
          dates={takenDates}
          zone={draft.typed.zone}
          busy={busy}
          take={(dates) => give({ dates })}
        />
      ) : taken ? (
        <WaysOut body={taken} busy={busy} take={take} />
      ) : (
        Boolean(error) && <Failure error={error} />
      )}
      {children}
      <Button look="act" type="submit" disabled={busy} className="justify-self-start">
        {busy ? 'Saving …' : action}
      </Button>
    </form>
  );
}

/** The server's word on the times, shown where they are typed. */
function endProblem(problem: ApiProblem | null, read: ReadTimes): { end?: string } {
  const message = problem?.field('times.endsAt');
  return message && !read.errors.end ? { end: message.replace('times.startsAt', 'the start') } : {};
}

function RepeatsShort({
  draft,
  onChange,
}: {
  draft: Draft;
  onChange: (repeating: Draft['repeating']) => void;
}) {
  return (
    <Button
      look="quiet"
      className="justify-self-start"
      onClick={() => onChange({ rule: usualRule('WEEKLY', draft.typed.date), except: [] })}
    >
      Repeat it
    </Button>
  );
}
