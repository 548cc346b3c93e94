import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useMutation } from '@tanstack/react-query';
import type { ChangeEventRequest, EventDetail } from '../../contract/events.ts';
import { formatSpan } from '../../core/time/format.ts';
import type { Interval } from '../../core/time/interval.ts';
import { Failure } from '../app/index.ts';
import { AskDialog, type Question, useEventActions } from '../events/index.ts';
import { Button } from '../design/controls.tsx';
import { takenIn, WaysOut } from '../places/index.ts';
import { NextBest, placesFor, timesOf, type Placing } from './SendBar.tsx';
import { checkAgain, TakenSince } from './takenSince.ts';
import type { Plan } from './usePlan.ts';

/** Gives a meeting the chosen time, after asking which part of a series is meant and whom to tell. */
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
        `“${event.title}” is moved to ${formatSpan(chosen!, me.zone, me.clock)}.`,
      );
    },
    onSuccess: () =>
      void navigate(`/calendar?date=${timesOf(chosen!, me.zone).startsAt.slice(0, 10)}`),
  });
  const others = event.attendees.filter((one) => one.role !== 'organizer').length;
  const occurrence = event.series?.recurrenceId;
  const same = chosen?.start === event.start && chosen.end === event.end;
  const act: Question['act'] = ({ scope, tell, message }) => {
    const wanted = placesFor(plan, chosen!).map((place) => place.id);
    const before = event.resources.map((one) => one.id);
    const otherPlaces =
      wanted.length !== before.length || wanted.some((id) => !before.includes(id));
    move.mutate({
      version: event.version,
      ...(event.series && { scope, ...(occurrence && { occurrence }) }),
      times: timesOf(chosen!, me.zone),
      ...(otherPlaces && { resources: wanted }),
      tell,
      message,
    });
  };
  const ask = () =>
    others === 0 && !event.series
      ? act({ scope: 'all', tell: 'nobody', message: '' })
      : setQuestion({
          title: `Move “${event.title}” to ${formatSpan(chosen!, me.zone, me.clock)}?`,
          seriesStart: occurrence ? event.start : null,
          others,
          verb: 'Move it',
          act,
        });
  const taken = takenIn(move.error);
  return (
    <>
      <div className="text-right">
        <Button
          look="act"
          data-sends
          disabled={!plan.isChosenRead || same || move.isPending || move.isSuccess}
          onClick={ask}
        >
          {others ? `Move it, ${others} to be told` : 'Move it'}
        </Button>
        {same && <p className="mt-1 text-ink-2">That is when it is now.</p>}
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
          <WaysOut
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
