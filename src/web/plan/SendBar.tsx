import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { EventDetail, OfferedAlternative } from '../../contract/eventDetail.ts';
import type { CancelEventRequest, CreateEventRequest } from '../../contract/events.ts';
import { pickRooms } from '../../core/planner/rooms.ts';
import type { WeeklyTime } from '../../core/planner/series.ts';
import { formatSpan } from '../../core/time/format.ts';
import { HOUR, type Interval } from '../../core/time/interval.ts';
import { wallTimeAt } from '../../core/time/wall.ts';
import { errorText, Failure, offerUndo, useMe, callApi } from '../client/index.ts';
import { joined, required } from '../lineUp/index.ts';
import { Button } from '../design/controls.tsx';
import { usePastAsk } from '../time/index.ts';
import { tellUser } from '../design/notices.ts';
import { takenIn, Alternatives } from '../places/index.ts';
import { sendLabel } from './sendLabel.ts';
import { checkAgain, TakenSince } from './takenSince.ts';
import type { MakingRoom, Plan } from './usePlan.ts';
import { seriesParts, type DateDecision } from './weekly.ts';
import { TakenDates, WhoseField, takenDatesIn, versionNow } from '../meetings/index.ts';

const MOST_NEXT = 3;

/** What was sent, with what made room for it. */
type Sent = EventDetail & { moved?: CancelEventRequest['takeBack'] };

/** Says which of two equal wall times an instant is. */
export const foldOf = (instant: number, zone: string): 'earlier' | 'later' =>
  wallTimeAt(instant - HOUR, zone) === wallTimeAt(instant, zone) ? 'later' : 'earlier';

/** Times of a span as the API takes them, in the reader's zone. */
export const sentTimes = ({ start, end }: Interval, zone: string) => ({
  startsAt: wallTimeAt(start, zone),
  endsAt: wallTimeAt(end, zone),
  zone,
  fold: foldOf(start, zone),
});

/** What places are taken from. */
export type Placing = Pick<Plan, 'members' | 'wishes' | 'data'>;

/** Places of the line-up and rooms picked with the time. */
export function placesFor(plan: Placing, span: Interval) {
  const { members, wishes, data } = plan;
  const listed =
    wishes.places === 'ignored'
      ? []
      : members.filter((one) => one.kind === 'resource' && !one.setAside);
  const picked = pickRooms(members, wishes, data.rooms, span).flatMap(({ room }) => room ?? []);
  return [...listed.map(({ id, name, seats }) => ({ id, name, seats })), ...picked];
}

/** Makes the meeting of the chosen time: invites, reserves, and for a series takes the exceptions over. */
export function SendBar({
  plan,
  title,
  weekly,
  decisions,
  next,
}: {
  plan: Placing &
    Pick<
      Plan,
      | 'me'
      | 'chosen'
      | 'isChosenRead'
      | 'readAgain'
      | 'choose'
      | 'repeating'
      | 'lineUp'
      | 'setLineUp'
      | 'makingRoom'
      | 'setMakingRoom'
    >;
  title: string;
  /** The best times, offered where the chosen one is taken meanwhile. */
  next: readonly Interval[];
  weekly: WeeklyTime | null;
  decisions: ReadonlyMap<number, DateDecision>;
}) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const { me, members, chosen, repeating } = plan;
  const [whose, setWhose] = useState<number | null>(null);
  const guests = members.filter(
    (one) => one.kind === 'person' && !one.setAside && one.id !== (whose ?? me.id),
  );
  /** Whoever it is for belongs to the line-up; I come along only if I say so. */
  const actFor = (personId: number | null) => {
    setWhose(personId);
    const others = plan.lineUp
      .filter((one) => one.id !== whose)
      .map((one) => (one.id === me.id ? { ...one, setAside: personId !== null } : one));
    plan.setLineUp(personId === null ? others : joined(others, [required(personId)]));
  };
  const [tried, setTried] = useState(false);
  const [ask, question] = usePastAsk();
  const series = repeating ? (weekly ? seriesParts(weekly, decisions, plan) : null) : null;
  const places = chosen ? placesFor(plan, chosen) : [];
  const listed = members.filter((one) => one.kind === 'resource' && !one.setAside);
  const held = series
    ? [
        ...new Set([
          ...(plan.wishes.places === 'ignored' ? [] : listed.map((one) => one.id)),
          ...series.resources,
        ]),
      ]
    : places.map((place) => place.id);
  const seats = Math.max(0, ...places.map((place) => place.seats ?? 0));

  const send = useMutation({
    mutationFn: async (request: CreateEventRequest) => {
      const spans =
        weekly && series
          ? weekly.dates.filter(({ start }) => !weekly.failing.some((one) => one.start === start))
          : [chosen!];
      if (!request.draft) await checkAgain(members, spans, plan.readAgain);
      return callApi('POST /api/events', { body: request });
    },
    onSuccess: (event) => {
      void client.invalidateQueries();
      for (const note of event.clockNotes) tellUser(note);
      offerUndo(
        event.draft
          ? `“${event.title}” is kept as a draft; nobody else sees it.`
          : guests.length
            ? `Sent to ${guests.length === 1 ? '1 person' : `${guests.length} people`}. Their answers show up here.`
            : `“${event.title}” is in your calendar.`,
        () => takeBack(event),
      );
      void navigate(
        guests.length && !event.draft
          ? `/replies?meeting=${event.id}`
          : `/calendar?date=${event.startsAt.slice(0, 10)}`,
      );
    },
  });
  /** One undo takes all of it back: what was sent, and what made room for it. */
  const takeBack = async (event: Sent) => {
    await callApi('POST /api/events/:id/cancel', {
      params: { id: event.id },
      body: {
        version: versionNow(event.id) ?? event.version,
        takeBack: event.moved ?? [],
      } satisfies CancelEventRequest,
    }).then(
      () =>
        tellUser(
          event.moved
            ? 'Taken back, and what made room is where it was.'
            : `“${event.title}” is cancelled.`,
        ),
      (error: unknown) => tellUser(errorText(error)),
    );
    await client.invalidateQueries();
  };
  const request = (span: Interval, resources: number[]): CreateEventRequest => ({
    title: title.trim(),
    times: sentTimes(series ? weekly!.dates[0]! : span, me.zone),
    ...(series && { repeats: series.repeats, dates: series.dates }),
    attendees: guests.map(({ id, role, outside, email }) =>
      outside ? { email: email!, role } : { personId: id, role },
    ),
    resources,
    ...(whose !== null && { for: whose }),
    ...(plan.makingRoom && { moving: [plan.makingRoom.request] }),
  });
  const submit = (more: Partial<CreateEventRequest> = {}) => {
    setTried(true);
    if (title.trim() && chosen)
      ask(chosen, () => send.mutate({ ...request(chosen, held), ...more }));
  };
  const take = (way: OfferedAlternative) => {
    if (way.kind === 'time') {
      plan.choose(way);
      send.mutate(request(way, held));
    } else if (chosen) {
      const instead = (id: number) => (id === way.instead ? way.resourceId : id);
      plan.setLineUp(plan.lineUp.map((one) => (one.email ? one : { ...one, id: instead(one.id) })));
      send.mutate(request(chosen, held.map(instead)));
    }
  };
  const dates = takenDatesIn(send.error);
  const taken = takenIn(send.error);
  const waiting = repeating !== null && chosen !== null && !series;
  const heldNames = held.map((id) => places.find((one) => one.id === id)?.name ?? '1 place');
  const label = sendLabel(guests.length, heldNames);
  return (
    <>
      <div className="text-right">
        {plan.makingRoom && (
          <MakesRoom making={plan.makingRoom} dismiss={() => plan.setMakingRoom(null)} />
        )}
        <div className="mb-1 empty:hidden">
          <WhoseField value={whose} onChange={actFor} />
        </div>
        <Button
          look="act"
          data-sends
          disabled={send.isPending || send.isSuccess || !plan.isChosenRead || waiting}
          onClick={() => submit()}
        >
          {label}
        </Button>
        {guests.length > 0 && (
          <Button
            look="quiet"
            className="ml-1"
            disabled={send.isPending || send.isSuccess || !chosen || waiting}
            onClick={() => submit({ draft: { holds: false } })}
          >
            Keep as a draft
          </Button>
        )}
        {tried && !title.trim() && (
          <p role="alert" className="mt-1 font-semibold text-alpenglow">
            Give it a title first.
          </p>
        )}
        {seats > 0 && plan.wishes.places === 'listed' && seats < guests.length + 1 && (
          <p className="mt-1 text-alpenglow">
            {guests.length + 1} people, {seats} seats
          </p>
        )}
      </div>
      {question}
      <div className="basis-full max-w-2xl empty:hidden">
        {dates && series ? (
          <TakenDates
            dates={dates}
            zone={me.zone}
            busy={send.isPending}
            take={(choices) => {
              const again = request(chosen!, held);
              send.mutate({ ...again, dates: [...(again.dates ?? []), ...choices] });
            }}
          />
        ) : taken ? (
          <Alternatives body={taken} busy={send.isPending} take={take} />
        ) : (
          send.isError && (
            <>
              <Failure error={send.error} />
              {send.error instanceof TakenSince && (
                <NextBest
                  times={next.filter((one) => one.start !== chosen?.start)}
                  onTake={(span) => {
                    send.reset();
                    plan.choose(span);
                  }}
                />
              )}
            </>
          )
        )}
      </div>
    </>
  );
}

/** What is moved with it, and how to leave it where it is. */
function MakesRoom({ making, dismiss }: { making: MakingRoom; dismiss: () => void }) {
  const me = useMe();
  return (
    <p className="mb-1 max-w-80">
      Moves your “{making.title}” to {formatSpan(making.to, me.zone, me.clock)}
      {making.told > 0 && `, ${making.told} to be told`}.{' '}
      <button
        type="button"
        className="reach font-semibold text-gentian hover:underline"
        onClick={dismiss}
      >
        Leave it where it is
      </button>
    </p>
  );
}

/** The next best times, one click each. */
export function NextBest({
  times,
  onTake,
}: {
  times: readonly Interval[];
  onTake: (span: Interval) => void;
}) {
  const me = useMe();
  if (times.length === 0) return null;
  return (
    <div className="mt-1.5 flex flex-wrap items-center gap-1.5">
      <span className="text-ink-2">Still free for all:</span>
      {times.slice(0, MOST_NEXT).map(({ start, end }) => (
        <Button key={start} onClick={() => onTake({ start, end })}>
          {formatSpan({ start, end }, me.zone, me.clock)}
        </Button>
      ))}
    </div>
  );
}
