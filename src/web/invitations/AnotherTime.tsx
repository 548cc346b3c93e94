import { MOST_PROPOSALS } from '../../core/meetings/rights.ts';
import { useMutation, useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useState } from 'react';
import { formatSpan, type ClockStyle } from '../../core/time/format.ts';
import type { Interval } from '../../core/time/interval.ts';
import { addDays } from '../../core/time/wall.ts';
import { answerTo, Failure, useKept } from '../client/index.ts';
import { Button, Field, TextInput } from '../design/controls.tsx';
import { Outline } from '../design/states.tsx';
import { RidgeDays } from './RidgeDays.tsx';

const isSame = (a: Interval, b: Interval) => a.start === b.start && a.end === b.end;

/** How an answer with the days is asked for, by whichever route they are read. */
type DaysQuery = ReturnType<
  typeof answerTo<'GET /api/invitations/:id/days'> | typeof answerTo<'GET /api/guest/:token/days'>
>;

/**
 * Other times that would suit somebody who is invited better: picked with how many of the others are
 * free in view, a few at once. The organizer decides.
 */
export function AnotherTime({
  about,
  days,
  zone,
  clock,
  present,
  mine,
  organizer,
  send,
}: {
  /** What makes it one of a kind: what is chosen is kept under it. */
  about: string;
  /** How days around it are read, from one on. */
  days: (asked: { zone: string; from: string | undefined }) => DaysQuery;
  zone: string;
  clock: ClockStyle;
  /** When it is now. */
  present: Interval;
  /** What is asked for already. */
  mine: readonly Interval[];
  organizer: string;
  send: (times: Interval[], note: string) => Promise<void>;
}) {
  const asked = mine.map(({ start, end }) => ({ start, end }));
  const [chosen, choose, sent] = useKept<Interval[]>(`other times ${about}`, asked);
  const [note, setNote] = useState('');
  const [from, setFrom] = useState<string | null>(null);
  const query = useQuery({
    ...days({ zone, from: from ?? undefined }),
    placeholderData: (before) => before,
  });
  const propose = useMutation({
    mutationFn: () => send(chosen, note),
    onSuccess: sent,
  });
  const isAsked =
    chosen.length === asked.length && chosen.every((one) => asked.some((two) => isSame(one, two)));
  const toggle = (span: Interval) => {
    if (chosen.some((one) => isSame(one, span))) choose(chosen.filter((one) => !isSame(one, span)));
    else if (chosen.length < MOST_PROPOSALS)
      choose([...chosen, span].sort((a, b) => a.start - b.start));
  };
  const around = query.data?.days;
  return (
    <section aria-labelledby="another-time" className="grid content-start gap-2">
      <div>
        <h2 id="another-time" className="text-[15px]">
          Another time would suit you better?
        </h2>
        <p className="text-xs text-ink-2">
          {query.data && query.data.total > 0
            ? `How many of ${query.data.total} are free, in your time. `
            : ''}
          Choose one or several; {organizer} decides.
        </p>
      </div>
      {query.isPending && <Outline what="the days" rows={5} />}
      {query.isError && <Failure error={query.error} retry={() => void query.refetch()} />}
      {around && (
        <>
          <RidgeDays
            days={around}
            total={query.data!.total}
            zone={zone}
            clock={clock}
            present={present}
            chosen={chosen}
            onToggle={toggle}
          />
          <p className="flex gap-4">
            <button
              type="button"
              className="reach font-semibold text-gentian hover:underline"
              onClick={() => setFrom(addDays(around[0]!.date, -7))}
            >
              a week earlier
            </button>
            <button
              type="button"
              className="reach font-semibold text-gentian hover:underline"
              onClick={() => setFrom(addDays(around.at(-1)!.date, 1))}
            >
              later days
            </button>
          </p>
        </>
      )}
      {chosen.length > 0 && (
        <ul aria-label="Times chosen" className="flex flex-wrap gap-1.5">
          {chosen.map((one) => {
            const words = formatSpan(one, zone, clock);
            return (
              <li key={one.start}>
                <button
                  type="button"
                  aria-label={`Leave out ${words}`}
                  className="inline-flex min-h-7 items-center gap-1 rounded-full border border-gentian bg-gentian-wash px-3 max-sm:min-h-11"
                  onClick={() => toggle(one)}
                >
                  {words} <X size={13} aria-hidden="true" />
                </button>
              </li>
            );
          })}
        </ul>
      )}
      {!isAsked && (
        <form
          className="flex flex-wrap items-center gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            propose.mutate();
          }}
        >
          {chosen.length > 0 && (
            <Field label="Why, if you like" bare className="min-w-40 flex-1">
              <TextInput
                value={note}
                maxLength={2000}
                placeholder="Why, if you like"
                onChange={(event) => setNote(event.target.value)}
              />
            </Field>
          )}
          <Button type="submit" disabled={propose.isPending}>
            {chosen.length === 0
              ? 'Take back what you asked for'
              : `Propose ${chosen.length === 1 ? 'this time' : `${chosen.length} times`}`}
          </Button>
        </form>
      )}
      {propose.isError && <Failure error={propose.error} />}
      <p role="status" className="font-semibold text-lichen-ink empty:hidden">
        {isAsked && asked.length > 0 && `${organizer} sees what you propose.`}
      </p>
    </section>
  );
}
