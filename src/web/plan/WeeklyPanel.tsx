import type { FailingDate, WeeklyTime } from '../../core/planner/series.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import { Choice, PartHeading } from '../design/controls.tsx';
import type { Explained } from '../workers/planner.worker.ts';
import { blockerNames } from './concessionWords.ts';
import type { Plan } from './usePlan.ts';
import { decisionFor, weeklyWords, type DateDecision } from './weekly.ts';

/** The weekly times that work on the most dates, and for the chosen one, what to do about the others. */
export function WeeklyPanel({
  plan,
  explained,
  decisions,
  decide,
}: {
  plan: Plan;
  explained: Explained | null;
  decisions: ReadonlyMap<number, DateDecision>;
  decide: (start: number, decision: DateDecision) => void;
}) {
  const chosen = explained?.chosenWeekly ?? null;
  if (!explained) return <p className="text-ink-2">Looking for weekly times …</p>;
  return (
    <section aria-label="Weekly times">
      <PartHeading remark={`of ${plan.repeating!.count} dates`}>Weekly times</PartHeading>
      {explained.weekly.length === 0 && (
        <p className="mb-2 text-ink-2" role="status">
          {explained.why ?? 'No weekly time works on any of these dates.'}
        </p>
      )}
      <ol className="grid gap-1">
        {explained.weekly.map((weekly) => (
          <WeeklyItem
            key={`${weekly.weekday} ${weekly.minute}`}
            weekly={weekly}
            plan={plan}
            on={chosen?.weekday === weekly.weekday && chosen.minute === weekly.minute}
          />
        ))}
      </ol>
      {chosen && chosen.failing.length > 0 && (
        <div className="mt-3">
          <PartHeading>{weeklyWords(chosen, plan.me.clock)}: what about these?</PartHeading>
          <ul>
            {chosen.failing.map((date) => (
              <Failing
                key={date.start}
                date={date}
                plan={plan}
                decision={decisionFor(date, decisions)}
                decide={(decision) => decide(date.start, decision)}
              />
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}

function WeeklyItem({ weekly, plan, on }: { weekly: WeeklyTime; plan: Plan; on: boolean }) {
  const { choose } = plan;
  const works = weekly.dates.length - weekly.failing.length;
  const failing = failingWords(weekly, plan);
  return (
    <li>
      <button
        type="button"
        aria-pressed={on}
        onClick={() => choose(weekly.dates[0]!)}
        className={`block w-full border-l-[3px] py-1 pr-1 pl-2.5 text-left ${on ? 'border-gentian bg-gentian-wash' : `${works > 0 ? 'border-lichen' : 'border-alpenglow'} hover:bg-sheet`}`}
      >
        <span className="font-semibold">{weeklyWords(weekly, plan.me.clock)}</span>{' '}
        <span className="text-xs">
          works on {works === weekly.dates.length ? 'all' : works} of {weekly.dates.length}
        </span>
        {failing && <span className="block text-xs leading-snug text-ink-2">{failing}</span>}
      </button>
    </li>
  );
}

/** Who is in the way and how often: `Amara on Tue 1 Dec; Hal on 5 dates`. */
function failingWords({ failing }: WeeklyTime, plan: Plan): string {
  const groups = new Map<string, FailingDate[]>();
  for (const date of failing) {
    const names = blockerNames(date.blockers, plan);
    groups.set(names, [...(groups.get(names) ?? []), date]);
  }
  const words = [...groups]
    .sort(([, a], [, b]) => b.length - a.length)
    .map(([names, dates]) =>
      dates.length === 1
        ? `${names} on ${formatDay(dates[0]!.start, plan.me.zone)}`
        : `${names} on ${dates.length} dates`,
    );
  return words.length ? `not for ${words.join('; ')}` : '';
}

function Failing({
  date,
  plan,
  decision,
  decide,
}: {
  date: FailingDate;
  plan: Plan;
  decision: DateDecision;
  decide: (decision: DateDecision) => void;
}) {
  const { me } = plan;
  const day = formatDay(date.start, me.zone);
  const names = blockerNames(date.blockers, plan);
  return (
    <li className="border-t border-edge py-1.5">
      <p>
        <b className="font-semibold">{day}</b> <span className="text-ink-2">not for {names}</span>
      </p>
      <Choice
        aria-label={`What to do on ${day}`}
        className="mt-0.5 w-full py-1 text-xs"
        value={decision}
        onChange={(event) => decide(event.target.value as DateDecision)}
      >
        {date.instead && (
          <option value="move">
            that week on {formatDay(date.instead.start, me.zone)}{' '}
            {formatTime(date.instead.start, me.zone, me.clock)} instead
          </option>
        )}
        <option value="skip">leave it out</option>
        <option value="keep">hold it without {names}</option>
      </Choice>
    </li>
  );
}
