import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from 'react-router';
import type { ProposeRequest } from '../../contract/asking.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { Beside, InvitationDetail } from '../../contract/invitations.ts';
import {
  formatHours,
  formatLength,
  formatNear,
  formatSpan,
  zoneCity,
} from '../../core/time/format.ts';
import {
  callApi,
  answerTo,
  Failure,
  forWhom,
  useMe,
  useNow,
  useShown,
  useChanged,
  useAddressQuery,
} from '../client/index.ts';
import { CommentsOn } from '../comments/index.ts';
import { Initials } from '../design/Initials.tsx';
import { Outline } from '../design/states.tsx';
import { Options } from '../design/ticks.tsx';
import { planPath } from '../lineUp/index.ts';
import { AnotherTime } from './AnotherTime.tsx';
import { AnswerForm } from './AnswerForm.tsx';
import { LinkButton } from '../design/controls.tsx';
import { coverOptions, datesFitWords, type Covers } from './coverage.ts';
import { InvitationDay } from './DayColumn.tsx';
import { REPLY_WORDS, ReplyMark, Undelivered } from './replyWords.tsx';
import { useAnswer } from './useAnswer.ts';
import { CancelButton, eventAddress } from '../meetings/index.ts';

/** Does it fit my day? The proposal in my zone, my day around it, what is in the way, and the answer. */
export function InvitationView() {
  const { id } = useParams();
  const [params, setParams] = useAddressQuery();
  const occurrence = params.get('occurrence');
  const me = useMe();
  const whom = forWhom(me).find((one) => String(one.id) === params.get('for')) ?? null;
  const now = useNow();
  useShown([`meeting:${id}`]);
  const query = useQuery(
    answerTo('GET /api/invitations/:id', {
      params: { id: id! },
      query: { occurrence: occurrence ?? undefined, for: whom?.id },
    }),
  );
  // Asked about one date, an answer is for it; asked about a series, for all of it; it can be chosen.
  // The choice stands in the address: a reload must not widen what an answer is for.
  const chosen = params.get('covers');
  const covers: Covers = chosen === 'one' || chosen === 'all' ? chosen : occurrence ? 'one' : 'all';
  const date = query.data?.event.series?.recurrenceId ?? null;
  const answer = useAnswer(
    {
      eventId: id!,
      occurrence: date && covers === 'one' ? date : null,
      organizer: query.data?.event.organizer.name ?? '',
      for: whom,
      ...(date && { covers }),
    },
    query.data && { reply: query.data.myReply, note: query.data.myNote },
  );
  if (query.isPending) {
    return (
      <main className="mx-auto w-full max-w-6xl px-4 py-5 md:px-6">
        <Outline what="the invitation" rows={4} />
      </main>
    );
  }
  if (query.isError) {
    return (
      <main className="mx-auto max-w-xl p-6">
        <Failure error={query.error} retry={() => void query.refetch()} />
      </main>
    );
  }
  const { event, day, myReply, myNote, message } = query.data;
  const mine = event.organizer.id === (whom ?? me).id;
  return (
    <main className="mx-auto w-full max-w-6xl px-4 py-5 md:px-6">
      <p className="text-ink-2">
        {mine ? 'You invite' : `${event.organizer.name} invites ${whom?.name ?? 'you'}`}
      </p>
      <h1 className="text-[26px] leading-tight">{event.title}</h1>
      <p className="mt-1 text-base">
        <b className="font-semibold">{formatSpan(event, me.zone, me.clock)}</b>,{' '}
        {formatLength(event.end - event.start)}
        {/* Times of elsewhere that are given as instants have no clock of their own. */}
        {event.zone !== me.zone && event.zone !== 'UTC' && (
          <span className="text-ink-2">
            {' '}
            · {formatSpan(event, event.zone, me.clock)} in{' '}
            {me.zoneNames[event.zone] ?? zoneCity(event.zone)}
          </span>
        )}
      </p>
      {event.series && (
        <p className="mt-1 text-ink-2">
          One date of a series: {event.series.sentence[0]!.toLowerCase()}
          {event.series.sentence.slice(1)}.
        </p>
      )}
      {event.status === 'cancelled' && (
        <p role="status" className="mt-3 rounded-sm bg-glow-wash px-3 py-2 font-semibold">
          This meeting has been cancelled.
        </p>
      )}
      <div className="mt-4">
        <Conflicts detail={query.data} />
      </div>
      <div className="mt-2 grid gap-x-8 gap-y-6 md:grid-cols-[minmax(0,1fr)_360px]">
        <section aria-labelledby="my-day" className="max-md:order-2">
          <h2 id="my-day" className="mb-2 text-[15px]">
            {whom ? `The day of ${whom.name} around it` : 'Your day around it'}
          </h2>
          <Around detail={query.data} />
          <InvitationDay items={day} proposed={event} title={event.title} />
        </section>
        <section className="grid content-start gap-5">
          {!mine && event.status === 'confirmed' && date && (
            <Options
              label="Your answer is for"
              value={covers}
              onChange={(next) =>
                setParams(
                  (after) => {
                    after.set('covers', next);
                    return after;
                  },
                  { replace: true },
                )
              }
              options={coverOptions(event, me)}
            />
          )}
          {!mine && event.status === 'confirmed' && (
            <AnswerForm
              key={`${covers} ${myReply}`}
              about={`${id} ${covers === 'one' ? date : ''}`}
              present={myReply}
              note={myNote}
              toWhom={event.organizer.name}
              mayBeQuiet
              picked={params.get('answer')}
              send={(reply, note, tell) => answer.mutateAsync({ reply, note, tell })}
            />
          )}
          {mine && <Organizing event={event} />}
          {message && (
            <blockquote className="border-l-[3px] border-gentian pl-3 whitespace-pre-line">
              {message}
              <footer className="mt-0.5 text-xs text-ink-2">{event.organizer.name}</footer>
            </blockquote>
          )}
          {!mine && event.status === 'confirmed' && !event.allDay && event.end > now && (
            <AnotherTimeFor event={event} whom={whom} />
          )}
          <Facts event={event} />
          <CommentsOn event={event} />
        </section>
      </div>
    </main>
  );
}

/** Other times that I ask for, of the date that is shown. */
function AnotherTimeFor({ event, whom }: { event: EventDetail; whom: { id: number } | null }) {
  const me = useMe();
  const changed = useChanged();
  const occurrence = event.series?.recurrenceId ?? null;
  const mine = event.attendees.find((one) => one.personId === (whom ?? me).id)?.proposals ?? [];
  return (
    <AnotherTime
      about={`${event.id} ${occurrence ?? ''}`}
      days={(asked) =>
        answerTo('GET /api/invitations/:id/days', {
          params: { id: event.id },
          query: { ...asked, occurrence: occurrence ?? undefined, for: whom?.id },
        })
      }
      zone={me.zone}
      clock={me.clock}
      present={event}
      mine={mine.filter((one) => one.occurrence === occurrence)}
      organizer={event.organizer.name}
      send={async (times, note) => {
        await callApi('PUT /api/invitations/:id/proposals', {
          params: { id: event.id },
          body: {
            ...(occurrence && { occurrence }),
            times,
            note,
            ...(whom && { for: whom.id }),
          } satisfies ProposeRequest,
        });
        await changed('meeting');
      }}
    />
  );
}

/** What its organizer does with it: change, move, cancel it, and look who comes. */
function Organizing({ event }: { event: EventDetail }) {
  const navigate = useNavigate();
  const occurrence = event.series?.recurrenceId ?? null;
  const open = event.canChange && event.status === 'confirmed';
  return (
    <div className="flex flex-wrap items-center gap-2" role="group" aria-label="Your meeting">
      {open && (
        <>
          <LinkButton to={eventAddress(event.id, occurrence)}>Change</LinkButton>
          {!event.allDay && (
            <LinkButton to={planPath({ eventId: event.id, occurrence })}>Another time</LinkButton>
          )}
          {event.canCancel && (
            <CancelButton event={event} onDone={() => void navigate('/replies')} />
          )}
        </>
      )}
      <Link className="font-semibold text-gentian underline" to="/replies">
        See all replies
      </Link>
    </div>
  );
}

function Conflicts({ detail: { event, conflicts, dates } }: { detail: InvitationDetail }) {
  const me = useMe();
  const ofAll = dates && dates.count > 1 && (
    <p
      className={`mb-3 rounded-sm px-3 py-2 font-semibold ${dates.fitting === dates.count ? 'bg-lichen-wash text-lichen-ink' : 'bg-glow-wash'}`}
    >
      The series {datesFitWords(dates, me.zone)}.
    </p>
  );
  if (conflicts.length === 0) {
    return (
      <>
        <p className="mb-3 rounded-sm bg-lichen-wash px-3 py-2 font-semibold text-lichen-ink">
          {dates ? 'This date fits' : 'It fits'}: nothing else is on at that time.
        </p>
        {ofAll}
      </>
    );
  }
  return (
    <>
      <ul className="mb-3 grid gap-1 rounded-sm bg-glow-wash px-3 py-2">
        {conflicts.map((conflict) => (
          <li key={`${conflict.title}${conflict.start}`}>
            <b className="font-semibold">
              {conflict.kind === 'overlap' ? 'At the same time' : 'Right beside it'}:
            </b>{' '}
            {conflict.title}, {formatHours(conflict, me.zone, me.clock, event.start)}
          </li>
        ))}
      </ul>
      {ofAll}
    </>
  );
}

/** What I have before it and after it, how long there is in between, and the way. */
function Around({ detail: { event, before, after } }: { detail: InvitationDetail }) {
  const me = useMe();
  const time = (instant: number) => formatNear(instant, event.start, me);
  const between = (length: number) => (length === 0 ? 'at once' : formatLength(length));
  const where = (beside: Beside, from: string) =>
    [beside.place && `, ${beside.place}`, beside.way && `; ${from} ${beside.way}`]
      .filter(Boolean)
      .join('');
  return (
    <dl className="mb-3 grid grid-cols-[4rem_1fr] gap-x-2 gap-y-0.5">
      <dt className="text-ink-2">Before</dt>
      <dd>
        {before ? (
          <>
            <b className="font-semibold">{before.title}</b> until {time(before.end)}
            {where(before, 'from there')}
            <span className="text-ink-2">
              {' '}
              ({between(event.start - before.end)}
              {before.end < event.start && ' in between'})
            </span>
          </>
        ) : (
          'nothing that day'
        )}
      </dd>
      <dt className="text-ink-2">After</dt>
      <dd>
        {after ? (
          <>
            <b className="font-semibold">{after.title}</b> from {time(after.start)}
            {where(after, 'from here')}
            <span className="text-ink-2">
              {' '}
              ({between(after.start - event.end)}
              {after.start > event.end && ' in between'})
            </span>
          </>
        ) : (
          'nothing that day'
        )}
      </dd>
    </dl>
  );
}

function Facts({ event }: { event: InvitationDetail['event'] }) {
  const where = [
    event.place,
    ...event.resources.map((place) => `${place.name} (${place.site})`),
  ].filter(Boolean);
  return (
    <div className="grid gap-4">
      {where.length > 0 && (
        <div>
          <h2 className="mb-1 text-[15px]">Where</h2>
          <p>{where.join(', ')}</p>
        </div>
      )}
      {event.description && (
        <div>
          <h2 className="mb-1 text-[15px]">About</h2>
          {/* Cleaned by the server when it was kept. */}
          <div className="prose-text" dangerouslySetInnerHTML={{ __html: event.description }} />
        </div>
      )}
      <div>
        <h2 className="mb-1 text-[15px]">Who</h2>
        <ul className="grid gap-1">
          {event.attendees.map((one) => (
            <li key={one.id} className="flex items-center gap-2">
              <Initials name={one.name} />
              <span>{one.name}</span>
              <ReplyMark reply={one.reply} />
              <span className="text-ink-2">
                {one.role === 'organizer' ? 'organizer' : REPLY_WORDS[one.reply]}
                {one.role === 'optional' ? ', optional' : ''}
                {one.undelivered && <Undelivered reason={one.undelivered} />}
              </span>
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
}
