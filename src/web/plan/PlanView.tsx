import { useTypedOver } from '../design/useTypedOver.ts';
import { ChevronDown } from 'lucide-react';
import { useMemo, useState } from 'react';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { Failure, useStable } from '../client/index.ts';
import { SeasonStrip } from '../time/index.ts';
import { Panel } from '../design/Panel.tsx';
import { usePhone } from '../design/usePhone.ts';
import { clip, contains } from '../../core/time/interval.ts';
import { usePlanner } from '../workers/index.ts';
import { BackToForm } from './BackToForm.tsx';
import { BlockersPanel } from './BlockersPanel.tsx';
import { ChosenHeader, ChosenWords, TitleField, TypedTimesFields } from './ChosenHeader.tsx';
import { LineUpPanel } from './LineUpPanel.tsx';
import { MoveBar } from './MoveBar.tsx';
import { OpeningsPanel } from './OpeningsPanel.tsx';
import { DaysBar, moveChosen, RidgeBoard } from './RidgeBoard.tsx';
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
  const phone = usePhone();
  const { event, ...moving } = useMoving(plan);
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
  const [whole, setWhole] = useState(false);
  const present = useMemo(() => (event ? { start: event.start, end: event.end } : null), [event]);
  const { chooseWeek } = useStable({
    chooseWeek: (week: string) => plan.set({ from: week <= plan.today ? null : week }),
  });
  const strip = (
    <SeasonStrip
      date={plan.dates[0]!}
      dates={plan.dates}
      today={plan.today}
      onChoose={chooseWeek}
    />
  );
  const next = plan.repeating ? [] : (computed?.openings.best ?? []);
  const acts = moving.isAwaited ? (
    !moving.error && (
      <p role="status" className="text-ink-2">
        Reading the meeting …
      </p>
    )
  ) : event ? (
    <MoveBar plan={plan} event={event} next={next} />
  ) : (
    <>
      <BackToForm plan={plan} title={title} />
      <SendBar plan={plan} title={title} weekly={weekly} decisions={decisions} next={next} />
    </>
  );
  const failure = moving.error ? (
    <Failure error={moving.error} retry={moving.retry} />
  ) : (
    plan.error !== null && <Failure error={plan.error} retry={plan.retry} />
  );
  const days = <DaysBar plan={plan} whole={whole} setWhole={setWhole} />;
  // A day's rows are one control for a time; arrows move what is chosen in it.
  const board = (
    <div
      className="border-edge bg-sheet lg:border-x"
      role="group"
      tabIndex={0}
      aria-label="Days. Arrows move the chosen time, with Shift its end"
      onKeyDown={(press) => press.target === press.currentTarget && moveChosen(plan, press)}
    >
      {!phone && days}
      <RidgeBoard plan={plan} ridge={computed?.ridge ?? null} present={present} whole={whole} />
    </div>
  );
  const answers = (
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
  );
  if (phone) {
    return (
      <main className="flex flex-1 flex-col">
        <h1 className="sr-only">Plan</h1>
        <div className="flex min-h-12 items-center gap-3 px-4">
          <TitleField
            title={title}
            typing={typing}
            moving={plan.moving !== null}
            className="min-w-0 flex-1 truncate text-[17px] leading-8"
          />
          <FoldedLineUp plan={plan} held={moving.isAwaited} />
        </div>
        {failure}
        {board}
        {/* As high as what comes will be, so that nothing below it moves. */}
        <div className="min-h-[70dvh] px-4 py-3">{answers}</div>
        {days}
        {strip}
        <div className="sticky bottom-0 z-20 mt-auto border-t border-edge bg-paper px-4 py-2">
          <ChosenWords plan={plan} weekly={weekly} present={present} />
          {(plan.chosen || moving.isAwaited) && (
            <div className="mt-1.5 flex flex-wrap gap-2">{acts}</div>
          )}
        </div>
      </main>
    );
  }
  return (
    <main className="flex flex-1 flex-col">
      <h1 className="sr-only">Plan</h1>
      {strip}
      <div className="flex flex-wrap items-start gap-x-6 gap-y-2 border-b border-edge px-4 py-2.5 md:px-6">
        <ChosenHeader
          plan={plan}
          title={title}
          typing={typing}
          weekly={weekly}
          present={present}
          held={moving.isAwaited}
        />
        {acts}
      </div>
      {failure}
      <div className="grid flex-1 grid-cols-1 lg:grid-cols-[236px_minmax(0,1fr)_272px]">
        <div className="px-4 py-2.5 lg:pl-6">
          <LineUpPanel plan={plan} />
          <WishesPanel plan={plan} />
        </div>
        <div className="order-last grid lg:order-none">{board}</div>
        <div className="px-4 py-2.5 lg:pr-6">{answers}</div>
      </div>
    </main>
  );
}

/** Who and what is needed, in a word; all of it, the wishes and the time to be typed open from below. */
function FoldedLineUp({ plan, held }: { plan: Plan; held: boolean }) {
  const [open, setOpen] = useState(false);
  const people = plan.members.filter((one) => one.kind === 'person').length;
  const places = plan.members.length - people;
  return (
    <>
      <button
        type="button"
        aria-haspopup="dialog"
        onClick={() => setOpen(true)}
        className="flex min-h-11 shrink-0 items-center gap-1 rounded-full border border-edge bg-sheet px-3"
      >
        {people === 1 ? '1 person' : `${people} people`}
        {places > 0 && `, ${places === 1 ? '1 place' : `${places} places`}`}
        <ChevronDown size={14} aria-hidden="true" />
      </button>
      <Panel open={open} onClose={() => setOpen(false)} title="Who, and what counts">
        <div className="grid gap-4">
          <TypedTimesFields plan={plan} held={held} />
          <LineUpPanel plan={plan} />
          <WishesPanel plan={plan} />
        </div>
      </Panel>
    </>
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
            className={`reach -mb-px border-b-2 pb-1 font-semibold ${shown === which ? 'border-lichen' : 'border-transparent text-ink-2 hover:text-ink'}`}
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
  known: asked,
  read,
  searched,
  dayCount,
  repeating,
  me,
  chosen,
}: Plan) {
  const question = useMemo(() => ({ lineUp: [...lineUp], wishes }), [lineUp, wishes]);
  const at = repeating ? (chosen?.start ?? null) : null;
  // A week more is offered as long as the board has room for it.
  const known = useMemo(() => (read ? clip(asked, read) : null) ?? asked, [asked, read]);
  const furthest = dayCount + 7 <= MOST_DAYS ? known : (searched ?? known);
  const doubts = useMemo(
    () => ({ keep: [me.id], known, furthest, series: repeating && { ...repeating, at } }),
    [me.id, known, furthest, repeating, at],
  );
  const answers = usePlanner(data, question, doubts);
  // What is said of time that is not read would be said of nothing.
  if (!searched) return { computed: null, explained: null };
  const isWhole = repeating === null || (read !== null && contains(read, asked));
  return { computed: answers.computed, explained: isWhole ? answers.explained : null };
}

/** The title while it is typed: the address keeps it at once, the plan once the field is left. */
function useTitle(
  { asked, set, addressOnly }: Pick<Plan, 'asked' | 'set' | 'addressOnly'>,
  event: EventDetail | null,
) {
  const kept = asked.title;
  const [title, setTitle] = useTypedOver(kept);
  const keep = () => title !== kept && set({ title });
  const type = (typed: string) => {
    setTitle(typed);
    addressOnly({ title: typed });
  };
  return { title: event ? event.title : title, setTitle: type, keep };
}
