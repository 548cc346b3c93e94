import type { ReactNode } from 'react';
import type { OfferedAlternative } from '../../contract/eventDetail.ts';
import type { DateChoice } from '../../contract/eventParts.ts';
import { resolveSpan } from '../../core/time/eventTimes.ts';
import { formatSpan } from '../../core/time/format.ts';
import { ApiProblem, Failure, useMe } from '../client/index.ts';
import { Button, Field } from '../design/controls.tsx';
import { takenIn, Alternatives } from '../places/index.ts';
import {
  PeopleField,
  joined,
  required,
  type Gathering,
  type LineUpEntry,
} from '../lineUp/index.ts';
import { RoomsWithin } from '../plan/index.ts';
import { FormNotices } from './FormNotices.tsx';
import { FurtherParts } from './FurtherParts.tsx';
import { PlaceField } from './PlaceField.tsx';
import type { DraftForm } from './useDraftForm.ts';
import { TimesFields, useNowMinutes, usePastAsk } from '../time/index.ts';
import { readTimes, retyped, typedFrom, type ReadTimes } from '../../core/time/typedTimes.ts';
import { TakenDates, WhoseField, takenDatesIn, type Draft } from '../meetings/index.ts';

/** What the form gives; `instead` when another place is taken in the stead of one that is not free. */
export interface FormResult {
  draft: Draft;
  times: NonNullable<ReadTimes['times']>;
  instead?: Extract<OfferedAlternative, { kind: 'resource' }>;
  dates?: DateChoice[];
  /** Set where it is kept and not sent yet. */
  unsent?: boolean;
}

/**
 * The fields of an event of one's own: the common ones, or all of them. What was typed stays when
 * saving it is refused.
 */
export function EventForm({
  form,
  full = false,
  repeats = true,
  mayGrant = false,
  isNew = false,
  cancelled,
  gathering = null,
  action,
  keep,
  busy,
  error,
  save,
  before,
  told,
  children,
}: {
  form: DraftForm;
  full?: boolean;
  /** Whether how it repeats can be changed here. */
  repeats?: boolean;
  /** Whether what those who are invited may do is decided here. */
  mayGrant?: boolean;
  /** Whether it is being made, in whoever's name. */
  isNew?: boolean;
  cancelled?: readonly string[];
  /** How its time suits everybody, where its people and places are chosen here. */
  gathering?: Gathering | null;
  action: string;
  /** What it is called to keep it without sending it; left out where that cannot be. */
  keep?: string | undefined;
  busy: boolean;
  error: unknown;
  save: (result: FormResult) => void;
  before?: ReactNode;
  /** Beside the button: whom pressing it reaches. */
  told?: ReactNode;
  /** Above the button. */
  children?: ReactNode;
}) {
  const me = useMe();
  const { content: draft, set } = form;
  const now = useNowMinutes(draft.typed.zone);
  const { errors } = form.form.formState;
  const read = readTimes(draft.typed, now);
  const problem = error instanceof ApiProblem ? error : null;
  const taken = takenIn(error);
  const takenDates = takenDatesIn(error);
  const titleError = errors.title?.message ?? problem?.field('title');
  const timeErrors = { ...read.errors, ...endProblem(problem, read) };

  const give = (extra: Partial<FormResult> = {}, typed = draft.typed) => {
    const { times } = readTimes(typed, now);
    if (times) save({ draft: { ...draft, typed }, times, ...extra });
  };
  const take = (way: OfferedAlternative) => {
    if (way.kind === 'resource') {
      if (!gathering) return give({ instead: way });
      const people = draft.people.map((one) =>
        one.id === way.instead ? { ...one, id: way.resourceId } : one,
      );
      set({ people });
      const { times } = readTimes(draft.typed, now);
      if (times) save({ draft: { ...draft, people }, times, instead: way });
      return;
    }
    const typed = typedFrom(way.start, way.end, draft.typed.zone);
    set({ typed });
    give({}, typed);
  };
  const [ask, question] = usePastAsk();
  const span = read.times ? resolveSpan({ ...read.times, fold: 'earlier' }) : null;
  const addPeople = (fresh: readonly LineUpEntry[]) =>
    set((before) => ({ people: joined(before.people, fresh) }));
  return (
    <form
      onSubmit={(event) =>
        void form.form.handleSubmit(() =>
          // What nobody else is asked to may be noted afterwards.
          span && draft.people.length > 0 ? ask(span, () => give()) : give(),
        )(event)
      }
      noValidate
      className="flex flex-1 flex-col gap-4"
    >
      {question}
      <FormNotices form={form} />
      {before}
      <Field label="Title" bare error={titleError}>
        <input
          value={draft.title}
          maxLength={200}
          placeholder="What is it about?"
          aria-invalid={!!titleError}
          onChange={(event) => set({ title: event.target.value })}
          autoFocus
          className="w-full border-b border-edge bg-transparent pb-1 font-head text-[20px] font-semibold placeholder:font-normal placeholder:text-ink-2 aria-[invalid=true]:border-alpenglow"
        />
      </Field>
      {isNew && (
        <WhoseField
          value={draft.whose}
          onChange={(whose) =>
            set((before) => ({
              whose,
              // Their time counts, as that of those who are asked does.
              people: whose
                ? joined(before.people, [required(whose)])
                : before.people.filter((one) => one.id !== before.whose),
            }))
          }
        />
      )}
      <TimesFields
        typed={draft.typed}
        change={(part) => set((before) => ({ typed: retyped(before.typed, part) }))}
        errors={timeErrors}
        allowZones={full}
      />
      {span && read.times!.zone !== me.zone && !read.times!.allDay && (
        <p className="text-ink-2">For you: {formatSpan(span, me.zone, me.clock)}</p>
      )}
      {gathering ? (
        <div className="grid gap-1.5">
          <PeopleField
            people={draft.people}
            gathering={gathering}
            span={span}
            onChange={(people) => set({ people })}
            place={{ value: draft.place, onChange: (place) => set({ place }) }}
          />
          {span && !read.times!.allDay && (
            <RoomsWithin
              gathering={gathering}
              span={span}
              onTake={(id) => addPeople([required(id)])}
            />
          )}
        </div>
      ) : (
        <PlaceField value={draft.place} onChange={(place) => set({ place })} />
      )}
      <FurtherParts
        draft={draft}
        set={set}
        full={full}
        repeats={repeats}
        mayGrant={mayGrant}
        startsAt={read.times?.startsAt ?? `${draft.typed.date}T00:00`}
        {...(cancelled && { cancelled })}
        problemOf={(field) => messageOf(errors[field as keyof Draft]) ?? problem?.field(field)}
      />
      {takenDates ? (
        <TakenDates
          dates={takenDates}
          zone={draft.typed.zone}
          busy={busy}
          take={(dates) => give({ dates })}
        />
      ) : taken ? (
        <Alternatives body={taken} busy={busy} take={take} />
      ) : (
        Boolean(error) && <Failure error={error} />
      )}
      {children}
      {/* At the bottom of a panel from the beginning, so that nothing read or said meanwhile moves it. */}
      <div className="sticky bottom-0 z-10 -mx-1 mt-auto flex flex-wrap items-center gap-x-4 gap-y-2 border-t border-edge bg-paper px-1 py-3">
        <Button look="act" type="submit" disabled={busy} className="max-sm:min-h-11">
          {busy ? 'Saving …' : action}
        </Button>
        {keep && (
          <Button
            disabled={busy}
            className="max-sm:min-h-11"
            onClick={() => void form.form.handleSubmit(() => give({ unsent: true }))()}
          >
            {keep}
          </Button>
        )}
        {told && <div className="min-w-40 flex-1 text-xs">{told}</div>}
      </div>
    </form>
  );
}

const messageOf = (error: unknown): string | undefined => {
  const message = (error as { message?: unknown } | undefined)?.message;
  return typeof message === 'string' ? message : undefined;
};

/** The server's word on the times, shown where they are typed. */
function endProblem(problem: ApiProblem | null, read: ReadTimes): { end?: string } {
  const message = problem?.field('times.endsAt');
  return message && !read.errors.end ? { end: message.replace('times.startsAt', 'the start') } : {};
}
