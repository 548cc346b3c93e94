import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useMutation } from '@tanstack/react-query';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { ChangeEventRequest } from '../../contract/events.ts';
import { listNames } from '../../core/planner/words.ts';
import { formatSpan } from '../../core/time/format.ts';
import type { Interval } from '../../core/time/interval.ts';
import { Failure } from '../client/index.ts';
import { Button } from '../design/controls.tsx';
import type { LineUpEntry } from '../lineUp/index.ts';
import { takenIn, Alternatives } from '../places/index.ts';
import { NextBest, placesFor, sentTimes, type Placing } from './SendBar.tsx';
import { checkAgain, TakenSince } from './takenSince.ts';
import type { Plan } from './usePlan.ts';
import { AskDialog, type Question, useEventActions } from '../meetings/index.ts';

/** Whom the line-up asks besides the organizer, as a request names them; set aside is not left out. */
function guestsOf(
  { lineUp, members, me }: Pick<Plan, 'lineUp' | 'members' | 'me'>,
  event: EventDetail,
) {
  const places = new Set(members.flatMap((one) => (one.kind === 'resource' ? [one.id] : [])));
  const isInvited = event.attendees.some((one) => one.personId === me.id);
  type Guest = { key: string; role: LineUpEntry['role'] } & (
    { email: string } | { personId: number }
  );
  return lineUp.flatMap(({ id, email, role }): Guest[] => {
    if (email) return [{ key: email.toLowerCase(), email, role }];
    const isGuest = !places.has(id) && id !== event.organizer.id && (id !== me.id || isInvited);
    return isGuest ? [{ key: String(id), personId: id, role }] : [];
  });
}

/** Gives a meeting the chosen time, with whoever and whatever was added or left out, after asking which part of a series is meant and whom to tell. */
export function MoveBar({
  plan,
  event,
  next,
}: {
  plan: Placing &
    Pick<Plan, 'me' | 'chosen' | 'isChosenRead' | 'readAgain' | 'choose' | 'lineUp' | 'setLineUp'>;
  event: EventDetail;
  /** The best times, offered where the chosen one is taken meanwhile. */
  next: readonly Interval[];
}) {
  const { chosen, me } = plan;
  const actions = useEventActions();
  const navigate = useNavigate();
  const [question, setQuestion] = useState<Question | null>(null);
  const move = useMutation({
    mutationFn: async (request: ChangeEventRequest) => {
      await checkAgain(plan.members, [chosen!], plan.readAgain);
      await actions.change(
        event.id,
        request,
        same
          ? `“${event.title}” is changed.`
          : `“${event.title}” is moved to ${formatSpan(chosen!, me.zone, me.clock)}.`,
      );
    },
    onSuccess: () =>
      void navigate(`/calendar?date=${sentTimes(chosen!, me.zone).startsAt.slice(0, 10)}`),
  });
  const before = event.attendees
    .filter((one) => one.role !== 'organizer')
    .map(({ personId, email, role }) => ({
      key: personId === null ? email.toLowerCase() : String(personId),
      role,
    }));
  const guests = guestsOf(plan, event);
  const isPeopleChanged =
    guests.length !== before.length ||
    guests.some((one) => !before.some(({ key, role }) => key === one.key && role === one.role));
  const nameOf = (key: string) =>
    plan.members.find((one) => String(one.id) === key)?.name ??
    event.attendees.find((one) => String(one.personId) === key)?.name ??
    key;
  const missing = (some: { key: string }[], from: { key: string }[]) =>
    some.filter(({ key }) => !from.some((one) => one.key === key)).map(({ key }) => nameOf(key));
  const [added, left] = [missing(guests, before), missing(before, guests)];
  const others = new Set([...before, ...guests].map((one) => one.key)).size;
  const [isRefused, setIsRefused] = useState(false);
  const occurrence = event.series?.recurrenceId;
  const same = chosen?.start === event.start && chosen.end === event.end;
  const wanted = chosen ? placesFor(plan, chosen).map((place) => place.id) : [];
  const held = event.resources.map((one) => one.id);
  const isPlaceChanged = wanted.length !== held.length || wanted.some((id) => !held.includes(id));
  const act: Question['act'] = ({ scope, tell, message }) => {
    // Who is asked belongs to all dates or those that follow.
    setIsRefused(isPeopleChanged && scope === 'one' && occurrence !== undefined);
    if (isPeopleChanged && scope === 'one' && occurrence !== undefined) return;
    move.mutate({
      version: event.version,
      ...(event.series && { scope, ...(occurrence && { occurrence }) }),
      ...(!same && { times: sentTimes(chosen!, me.zone) }),
      ...(isPeopleChanged && { attendees: guests.map(({ key: _, ...one }) => one) }),
      ...(isPlaceChanged && { resources: wanted }),
      tell,
      message,
    });
  };
  const ask = () =>
    others === 0 && !event.series
      ? act({ scope: 'all', tell: 'nobody', message: '' })
      : setQuestion({
          title: same
            ? `Change who and what belongs to “${event.title}”?`
            : `Move “${event.title}” to ${formatSpan(chosen!, me.zone, me.clock)}?`,
          seriesStart: occurrence ? event.start : null,
          others,
          verb: same ? 'Change it' : 'Move it',
          act,
        });
  const taken = takenIn(move.error);
  return (
    <>
      <div className="text-right">
        <Button
          look="act"
          data-sends
          disabled={
            !plan.isChosenRead ||
            (same && !isPeopleChanged && !isPlaceChanged) ||
            move.isPending ||
            move.isSuccess
          }
          onClick={ask}
        >
          {same ? 'Change it' : 'Move it'}
          {others > 0 && `, ${others} to be told`}
        </Button>
        {same && <p className="mt-1 text-ink-2">That is when it is now.</p>}
        {added.length > 0 && <p className="mt-1">Asks {listNames(added, 3)} as well.</p>}
        {left.length > 0 && <p className="mt-1">Asks {listNames(left, 3)} no more.</p>}
        {isRefused && (
          <p role="alert" className="mt-1 font-semibold text-alpenglow">
            Who is asked can be changed for the whole series or for what follows.
          </p>
        )}
      </div>
      <div className="max-w-2xl basis-full empty:hidden">
        {!taken && move.isError && <Failure error={move.error} />}
        {move.error instanceof TakenSince && (
          <NextBest
            times={next.filter((one) => one.start !== chosen?.start)}
            onTake={(span) => {
              move.reset();
              plan.choose(span);
            }}
          />
        )}
        {taken && (
          <Alternatives
            body={taken}
            busy={false}
            take={(way) => {
              move.reset();
              if (way.kind === 'time') plan.choose(way);
              else
                plan.setLineUp(
                  plan.lineUp.map((one) =>
                    one.id === way.instead ? { ...one, id: way.resourceId } : one,
                  ),
                );
            }}
          />
        )}
      </div>
      {question && <AskDialog question={question} onClose={() => setQuestion(null)} />}
    </>
  );
}
