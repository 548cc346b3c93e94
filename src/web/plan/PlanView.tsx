import { Failure } from '../app/index.ts';
import { useEffect, useMemo, useState } from 'react';
import type { EventDetail } from '../../contract/events.ts';
import { SeasonStrip } from '../calendar/index.ts';
import { usePlanner } from '../workers/index.ts';
import { BackToForm } from './BackToForm.tsx';
import { BlockersPanel } from './BlockersPanel.tsx';
import { ChosenHeader } from './ChosenHeader.tsx';
import { LineUpPanel } from './LineUpPanel.tsx';
import { MoveBar } from './MoveBar.tsx';
import { OpeningsPanel } from './OpeningsPanel.tsx';
import { moveChosen, RidgeBoard } from './RidgeBoard.tsx';
import { RoomsPanel } from './RoomsPanel.tsx';
import { SendBar } from './SendBar.tsx';
import { useMoving } from './useMoving.ts';
import { useOpeningKeys } from './useOpeningKeys.ts';
import { MOST_DAYS } from '../lineUp/index.ts';
import { usePlan, type Plan } from './usePlan.ts';
import type { DateDecision } from './weekly.ts';
import { WeeklyPanel } from './WeeklyPanel.tsx';
import { WishesPanel } from './WishesPanel.tsx';

/** When can these people and things come together, and if they can't, why? */
export function PlanView() {
  const plan = usePlan();
  const event = useMoving(plan);
  const { computed, explained } = useAnswers(plan);
  const { title, ...typing } = useTitle(plan, event);
  const [decisions, setDecisions] = useState<ReadonlyMap<number, DateDecision>>(new Map());
  const weekly =
    plan.repeating && explained?.chosenWeekly?.dates[0]!.start === plan.chosen?.start
      ? (explained?.chosenWeekly ?? null)
      : null;
  const steps = plan.repeating
    ? explained?.weekly.map((one) => one.dates[0]!)
    : computed?.openings.best;
  useOpeningKeys(steps ?? [], plan.chosen, plan.choose);
  const present = useMemo(() => (event ? { start: event.start, end: event.end } : null), [event]);
  return (
    <main className="flex flex-1 flex-col">
      <h1 className="sr-only">Plan</h1>
      <SeasonStrip
        date={plan.dates[0]!}
        dates={plan.dates}
        today={plan.today}
        onChoose={(week) => plan.set({ from: week <= plan.today ? null : week })}
      />
      <div className="flex flex-wrap items-start gap-x-6 gap-y-2 border-b border-edge px-4 py-2.5 md:px-6">
        <ChosenHeader plan={plan} title={title} typing={typing} weekly={weekly} present={present} />
        {event ? (
          <MoveBar plan={plan} event={event} />
        ) : (
          <>
            <BackToForm plan={plan} title={title} />
            <SendBar plan={plan} title={title} weekly={weekly} decisions={decisions} />
          </>
        )}
      </div>
      {plan.query.isError && (
        <Failure error={plan.query.error} retry={() => void plan.query.refetch()} />
      )}
      <div className="grid flex-1 grid-cols-1 lg:grid-cols-[236px_minmax(0,1fr)_272px]">
        <div className="px-4 py-2.5 lg:pl-6">
          <LineUpPanel plan={plan} />
          <WishesPanel plan={plan} />
        </div>
        {/* A day's rows are one control for a time; arrows move what is chosen in it. */}
        <div
          className="order-last border-edge bg-sheet lg:order-none lg:border-x"
          role="group"
          tabIndex={0}
          aria-label="Days. Arrows move the chosen time, with Shift its end"
          onKeyDown={(press) => press.target === press.currentTarget && moveChosen(plan, press)}
        >
          <RidgeBoard plan={plan} ridge={computed?.ridge ?? null} present={present} />
        </div>
        <div className="px-4 py-2.5 lg:pr-6">
          <Answers>
            {plan.repeating ? (
              <WeeklyPanel
                plan={plan}
                explained={explained}
                decisions={decisions}
                decide={(start, decision) =>
                  setDecisions((before) => new Map(before).set(start, decision))
                }
              />
            ) : (
              <OpeningsPanel plan={plan} computed={computed} explained={explained} />
            )}
            <BlockersPanel plan={plan} explained={explained} />
            <RoomsPanel plan={plan} />
          </Answers>
        </div>
      </div>
    </main>
  );
}

/** Times with what would help, or rooms: one of the two is shown. */
function Answers({ children: [times, blockers, rooms] }: { children: React.ReactNode[] }) {
  const [shown, setShown] = useState<'times' | 'rooms'>('times');
  return (
    <>
      <div className="mb-2 flex gap-3 border-b border-edge" role="group" aria-label="Show">
        {(['times', 'rooms'] as const).map((which) => (
          <button
            key={which}
            type="button"
            aria-pressed={shown === which}
            onClick={() => setShown(which)}
            className={`-mb-px border-b-2 pb-1 font-semibold ${shown === which ? 'border-lichen' : 'border-transparent text-ink-2 hover:text-ink'}`}
          >
            {which === 'times' ? 'Times' : 'Rooms for the time'}
          </button>
        ))}
      </div>
      {shown === 'times' ? (
        <>
          {times}
          {blockers}
        </>
      ) : (
        rooms
      )}
    </>
  );
}

/** The planner's answers to the plan as it is now. */
function useAnswers({
  data,
  lineUp,
  wishes,
  known,
  window,
  dayCount,
  repeating,
  me,
  chosen,
}: Plan) {
  const question = useMemo(() => ({ lineUp: [...lineUp], wishes }), [lineUp, wishes]);
  const at = repeating ? (chosen?.start ?? null) : null;
  // A week more is offered as long as the board has room for it.
  const furthest = dayCount + 7 <= MOST_DAYS ? known : window;
  const doubts = useMemo(
    () => ({ keep: [me.id], known, furthest, series: repeating && { ...repeating, at } }),
    [me.id, known, furthest, repeating, at],
  );
  return usePlanner(data, question, doubts);
}

/** The title while it is typed; once left, the address keeps it, so that a plan can be shared and reloaded. */
function useTitle({ asked, set }: Pick<Plan, 'asked' | 'set'>, event: EventDetail | null) {
  const kept = asked.title;
  const [title, setTitle] = useState(kept);
  useEffect(() => setTitle(kept), [kept]);
  const keep = () => title !== kept && set({ title });
  return { title: event ? event.title : title, setTitle, keep };
}
