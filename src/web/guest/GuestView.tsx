import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Suspense, useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import type {
  GuestInvitation,
  GuestProposeRequest,
  GuestReplyRequest,
} from '../../contract/guest.ts';
import { listNames } from '../../core/planner/words.ts';
import { formatHours, formatLongDay, formatSpan, type ClockStyle } from '../../core/time/format.ts';
import { zoneCalled, ZONES } from '../../core/time/zones.ts';
import { answerTo, ApiProblem, callApi, DemonstrationNote, Failure } from '../client/index.ts';
import { Button, Field, TextInput } from '../design/controls.tsx';
import { SearchSelect } from '../design/SearchSelect.tsx';
import { AnotherTimeLater } from '../invitations/index.ts';
import { Empty, Loading, Outline } from '../design/states.tsx';

type Answer = GuestReplyRequest['reply'];

const ANSWERS: readonly (readonly [Answer, string])[] = [
  ['accepted', 'Yes'],
  ['tentative', 'Perhaps'],
  ['declined', 'No'],
];

const SAID: Record<Answer, (organizer: string) => string> = {
  accepted: (organizer) => `${organizer} knows that you come.`,
  tentative: (organizer) => `${organizer} knows that you perhaps come.`,
  declined: (organizer) => `${organizer} knows that you do not come.`,
};

const invitationBy = (token: string) => answerTo('GET /api/guest/:token', { params: { token } });

/** Can I come? An invitation by the link in its letter, for people without an account. */
export function GuestView() {
  const { token = '' } = useParams();
  const query = useQuery({
    ...invitationBy(token),
    retry: false,
  });
  return (
    <>
      <DemonstrationNote />
      <main id="view" className="mx-auto w-full max-w-5xl px-5 py-8 max-sm:py-4">
        <p className="mb-6 flex items-center gap-2 font-head text-xl font-bold tracking-tight max-sm:mb-4">
          <img src="/marmot.svg" alt="" width={26} height={26} />
          Marmot
        </p>
        {query.isPending && <Loading what="the invitation" />}
        {query.isError &&
          (isNoLink(query.error) ? (
            <Empty title="This link does not lead to an invitation">
              It may have been cut off on its way, or whoever sent it asks you no more. Ask them for
              a new one.
            </Empty>
          ) : (
            <Failure error={query.error} retry={() => void query.refetch()} />
          ))}
        {query.data && <Invitation key={token} token={token} asked={query.data} />}
      </main>
    </>
  );
}

/** Cut off, made up, or of somebody who is asked no more. */
const isNoLink = (error: unknown): boolean =>
  error instanceof ApiProblem && [400, 404].includes(error.body.status);

const ZONE_GROUPS = [
  {
    heading: 'Time zones',
    options: ZONES.map((zone) => ({ value: zone, words: zone.replaceAll('_', ' ') })),
  },
];

/** Where a guest's browser keeps the zone that they chose, for whatever they are asked to next. */
const ZONE_KEY = 'marmot-guest-zone';

function rememberedZone(): string | null {
  try {
    const zone = localStorage.getItem(ZONE_KEY);
    return zone !== null && ZONES.includes(zone) ? zone : null;
  } catch {
    // Some browsers keep nothing.
    return null;
  }
}

function rememberZone(zone: string): void {
  try {
    localStorage.setItem(ZONE_KEY, zone);
  } catch {
    // It is chosen anew then.
  }
}

/** How this browser's owner reads times. */
function ownHabits(): { zone: string; clock: ClockStyle } {
  const { timeZone, hour12 } = new Intl.DateTimeFormat(undefined, {
    hour: 'numeric',
  }).resolvedOptions();
  return { zone: zoneCalled(timeZone), clock: hour12 ? '12' : '24' };
}

function Invitation({ token, asked }: { token: string; asked: GuestInvitation }) {
  const [habits] = useState(ownHabits);
  const [zone, setShownZone] = useState(() => rememberedZone() ?? habits.zone);
  const setZone = (next: string) => {
    setShownZone(next);
    rememberZone(next);
  };
  const { clock } = habits;
  const there = asked.zone !== zone && !asked.allDay;
  const others = [...asked.others, ...(asked.more > 0 ? [`${asked.more} more`] : [])];
  return (
    <>
      <p className="text-ink-2">
        {asked.organizer} of {asked.organization} asks you to
      </p>
      <h1 className="text-[34px] leading-tight max-sm:text-[26px]">{asked.title}</h1>
      <p className="mt-2 text-[20px] leading-snug max-sm:text-[17px]">
        <span className="bg-lichen-wash box-decoration-clone px-0.5">
          {formatLongDay(asked.start, zone)},{' '}
          {asked.allDay ? 'all day' : formatHours(asked, zone, clock)}
        </span>{' '}
        {!asked.allDay && 'your time'}
      </p>
      {asked.repeats && <p className="text-ink-2">{asked.repeats}; this is the next date.</p>}
      {there && (
        <p className="text-ink-2">
          {formatSpan(asked, asked.zone, clock)} in {asked.city}
        </p>
      )}
      {asked.place && <p className="text-ink-2">{asked.place}</p>}
      {!asked.allDay && (
        <div className="mt-2 flex items-center gap-2">
          <span className="whitespace-nowrap text-ink-2">Shown for</span>
          <Field label="Your time zone" bare className="w-64">
            <SearchSelect
              placeholder="Your time zone"
              value={zone}
              groups={ZONE_GROUPS}
              onChange={setZone}
            />
          </Field>
        </div>
      )}
      <div className="mt-7 grid gap-8 md:grid-cols-[1.3fr_1fr]">
        <div className="grid content-start gap-6">
          {asked.isOver ? (
            <p role="status" className="rounded-sm bg-glow-wash px-4 py-3 font-semibold">
              {asked.status === 'cancelled'
                ? `${asked.organizer} has cancelled this meeting.`
                : 'This meeting is over.'}
            </p>
          ) : (
            <AnswerPart token={token} asked={asked} />
          )}
        </div>
        <div className="grid content-start gap-6">
          {!asked.isOver && !asked.allDay && (
            <AnotherTimeByLink token={token} asked={asked} zone={zone} clock={clock} />
          )}
          {(asked.message || asked.description) && (
            <section>
              <h2 className="mb-1 text-[15px]">What it is about</h2>
              {asked.message && <p className="mb-2 whitespace-pre-line">“{asked.message}”</p>}
              <div className="prose-text" dangerouslySetInnerHTML={{ __html: asked.description }} />
            </section>
          )}
          {others.length > 0 && (
            <section>
              <h2 className="mb-1 text-[15px]">Who else</h2>
              <p>{listNames([asked.organizer, ...others], others.length + 1)}</p>
            </section>
          )}
        </div>
      </div>
      <p className="mt-8 border-t border-edge pt-4 text-xs text-ink-2">
        This page is for {asked.name}. The answer can be changed here until the meeting.
      </p>
    </>
  );
}

function AnotherTimeByLink({
  token,
  asked,
  zone,
  clock,
}: {
  token: string;
  asked: GuestInvitation;
  zone: string;
  clock: ClockStyle;
}) {
  const client = useQueryClient();
  return (
    <Suspense fallback={<Outline what="the days" rows={6} />}>
      <AnotherTimeLater
        about={`guest ${token}`}
        days={(query) => answerTo('GET /api/guest/:token/days', { params: { token }, query })}
        zone={zone}
        clock={clock}
        present={asked}
        mine={asked.proposals}
        organizer={asked.organizer}
        send={async (times, note) => {
          const now = await callApi('PUT /api/guest/:token/proposals', {
            params: { token },
            body: {
              times,
              note,
            } satisfies GuestProposeRequest,
          });
          client.setQueryData(invitationBy(token).queryKey, now);
        }}
      />
    </Suspense>
  );
}

function AnswerPart({ token, asked }: { token: string; asked: GuestInvitation }) {
  const client = useQueryClient();
  const given = asked.reply === 'needs-action' ? null : asked.reply;
  // What was picked in the letter waits to be confirmed: following a link answers nothing.
  const [params] = useSearchParams();
  const picked = ANSWERS.find(([reply]) => reply === params.get('answer'))?.[0] ?? null;
  const [chosen, setChosen] = useState<Answer | null>(picked ?? given);
  const [note, setNote] = useState(asked.note);
  const answer = useMutation({
    mutationFn: () =>
      callApi('POST /api/guest/:token/reply', {
        params: { token },
        body: {
          reply: chosen!,
          note,
        } satisfies GuestReplyRequest,
      }),
    onSuccess: (now) => client.setQueryData(invitationBy(token).queryKey, now),
  });
  const isSaid = given !== null && given === chosen && note === asked.note;
  return (
    <section aria-labelledby="can-you">
      <h2 id="can-you" className="mb-2 text-[17px]">
        Can you come?
      </h2>
      <div role="radiogroup" aria-labelledby="can-you" className="grid grid-cols-3 gap-2.5">
        {ANSWERS.map(([reply, words]) => (
          <button
            key={reply}
            type="button"
            role="radio"
            aria-checked={chosen === reply}
            onClick={() => setChosen(reply)}
            className={`min-h-13 rounded-sm border text-[16px] font-semibold ${chosen === reply ? 'border-ink bg-ink text-paper' : 'border-edge bg-sheet hover:border-ink-2'}`}
          >
            {words}
          </button>
        ))}
      </div>
      <form
        className="mt-3 grid gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (chosen) answer.mutate();
        }}
      >
        <Field label={`A word to ${asked.organizer}, if you like`} bare>
          <TextInput
            value={note}
            maxLength={2000}
            placeholder={`A word to ${asked.organizer}, if you like`}
            onChange={(event) => setNote(event.target.value)}
          />
        </Field>
        {answer.isError && <Failure error={answer.error} />}
        <div className="flex flex-wrap items-center gap-x-5 gap-y-2">
          <Button look="act" type="submit" disabled={chosen === null || answer.isPending || isSaid}>
            {given === null ? 'Answer' : 'Change the answer'}
          </Button>
          <a
            className="reach font-semibold text-gentian hover:underline"
            href={`/api/guest/${token}/calendar`}
          >
            Add it to your calendar (.ics)
          </a>
        </div>
        <p role="status" className="font-semibold text-lichen-ink">
          {isSaid && SAID[given](asked.organizer)}
        </p>
      </form>
    </section>
  );
}
