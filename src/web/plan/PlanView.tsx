import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import type { CreateEventRequest, EventDetail, WayOut } from '../../contract/events.ts';
import { wallTimeAt } from '../../core/time/wall.ts';
import { sendApi } from '../app/api.ts';
import { Button } from '../design/controls.tsx';
import { tellUser } from '../design/notices.ts';
import { Failure } from '../design/states.tsx';
import { takenIn, WaysOut } from '../places/WaysOut.tsx';
import { usePlanner } from '../workers/usePlanner.ts';
import { ChosenHeader } from './ChosenHeader.tsx';
import { LineUpPanel } from './LineUpPanel.tsx';
import { OpeningsPanel } from './OpeningsPanel.tsx';
import { moveChosen, RidgeBoard } from './RidgeBoard.tsx';
import { usePlan, type Plan } from './usePlan.ts';

/** When can these people and things come together, and if they can't, why? */
export function PlanView() {
  const plan = usePlan();
  const computed = usePlanner(plan.members, plan.wishes);
  const [title, setTitle] = useState('');
  const best = computed?.openings.best;
  const { chosen, choose } = plan;

  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (
        event.target instanceof HTMLElement &&
        /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName)
      )
        return;
      if (!best?.length || (event.key !== 'n' && event.key !== 'p')) return;
      const ordered = [...best].sort((a, b) => a.start - b.start);
      const next =
        event.key === 'n'
          ? (ordered.find((one) => one.start > (chosen?.start ?? 0)) ?? ordered[0]!)
          : (ordered.findLast((one) => one.start < (chosen?.start ?? Infinity)) ??
            ordered[ordered.length - 1]!);
      choose(next);
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [best, chosen, choose]);

  return (
    <main className="flex flex-1 flex-col">
      <h1 className="sr-only">Plan</h1>
      <SendBar plan={plan} title={title} setTitle={setTitle} />
      {plan.query.isError && (
        <Failure error={plan.query.error} retry={() => void plan.query.refetch()} />
      )}
      <div className="grid flex-1 grid-cols-1 lg:grid-cols-[230px_minmax(0,1fr)_270px]">
        <div className="px-4 py-3 lg:pl-6">
          <LineUpPanel plan={plan} />
        </div>
        {/* A day's rows are one control for a time; arrows move what is chosen in it. */}
        <div
          className="order-last border-edge bg-sheet lg:order-none lg:border-x"
          role="group"
          tabIndex={0}
          aria-label="Days. Arrows move the chosen time, with Shift its end"
          onKeyDown={(event) => event.target === event.currentTarget && moveChosen(plan, event)}
        >
          <RidgeBoard plan={plan} ridge={computed?.ridge ?? null} />
        </div>
        <div className="px-4 py-3 lg:pr-6">
          <OpeningsPanel plan={plan} computed={computed} />
        </div>
      </div>
    </main>
  );
}

function SendBar({
  plan,
  title,
  setTitle,
}: {
  plan: Plan;
  title: string;
  setTitle: (title: string) => void;
}) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const { me, members, chosen } = plan;
  const active = members.filter((member) => !member.setAside);
  const guests = active.filter((member) => member.kind === 'person' && member.id !== me.id);
  const places = active.filter((member) => member.kind === 'resource');
  const seats = Math.max(0, ...places.map((place) => place.seats ?? 0));
  const [tried, setTried] = useState(false);

  const send = useMutation({
    mutationFn: (request: CreateEventRequest) => sendApi<EventDetail>('POST', '/events', request),
    onSuccess: (event) => {
      void client.invalidateQueries();
      for (const note of event.notes) tellUser(note);
      tellUser(
        guests.length
          ? `Sent to ${guests.length} ${guests.length === 1 ? 'person' : 'people'}. Their answers show up here.`
          : `“${event.title}” is in your calendar.`,
      );
      void navigate(guests.length ? '/replies' : `/calendar?date=${event.startsAt.slice(0, 10)}`);
    },
  });
  const request = (
    span: { start: number; end: number },
    resources: number[],
  ): CreateEventRequest => ({
    title: title.trim(),
    times: {
      startsAt: wallTimeAt(span.start, me.zone),
      endsAt: wallTimeAt(span.end, me.zone),
      zone: me.zone,
      fold: foldOf(span.start, me.zone),
    },
    attendees: guests.map((guest) => ({ personId: guest.id, role: guest.role })),
    resources,
  });
  const ids = places.map((place) => place.id);
  const submit = () => {
    setTried(true);
    if (title.trim() && chosen) send.mutate(request(chosen, ids));
  };
  const take = (way: WayOut) => {
    if (way.kind === 'time') {
      plan.choose(way);
      send.mutate(request(way, ids));
    } else if (chosen) {
      plan.setLineUp(
        plan.lineUp.map((one) => (one.id === way.instead ? { ...one, id: way.resourceId } : one)),
      );
      send.mutate(
        request(
          chosen,
          ids.map((id) => (id === way.instead ? way.resourceId : id)),
        ),
      );
    }
  };
  const taken = takenIn(send.error);
  const label = [
    guests.length && `Send to ${guests.length} ${guests.length === 1 ? 'person' : 'people'}`,
    places.length &&
      `${guests.length ? 'hold' : 'Hold'} ${places.length === 1 ? places[0]!.name : `${places.length} places`}`,
  ]
    .filter(Boolean)
    .join(', ');
  return (
    <div className="border-b border-edge px-4 py-3 md:px-6">
      <div className="flex flex-wrap items-start gap-x-6 gap-y-3">
        <ChosenHeader plan={plan} title={title} setTitle={setTitle} />
        <div className="text-right">
          <Button look="act" disabled={send.isPending || !chosen} onClick={submit}>
            {label || 'Put it in my calendar'}
          </Button>
          {tried && !title.trim() && (
            <p role="alert" className="mt-1 font-semibold text-alpenglow">
              Give it a title first.
            </p>
          )}
          {seats > 0 && seats < guests.length + 1 && (
            <p className="mt-1 text-alpenglow">
              {guests.length + 1} people, {seats} seats
            </p>
          )}
        </div>
      </div>
      <div className="mt-2 max-w-2xl empty:hidden">
        {taken ? (
          <WaysOut body={taken} busy={send.isPending} take={take} />
        ) : (
          send.isError && <Failure error={send.error} />
        )}
      </div>
    </div>
  );
}

/** Says which of two equal wall times an instant is. */
function foldOf(instant: number, zone: string): 'earlier' | 'later' {
  return wallTimeAt(instant - 3_600_000, zone) === wallTimeAt(instant, zone) ? 'later' : 'earlier';
}
