import type { FailingDate, WeeklyTime } from '../../core/planner/series.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import { PartHeading } from '../design/controls.tsx';
import { Select } from '../design/Select.tsx';
import type { Explained } from '../workers/index.ts';
import { blockerNames, type ConcessionNames } from './concessionWords.ts';
import type { Plan } from './usePlan.ts';
import { Reasons, reasonsOf } from './Reasons.tsx';
import { decisionFor, weeklyWords, type DateDecision } from './weekly.ts';

type Shown = ConcessionNames & Pick<Plan, 'me'>;

/** The weekly times that work on the most dates, and for the chosen one, what to do about the others. */
export function WeeklyPanel({
  plan,
  explained,
  decisions,
  decide,
}: {
  plan: Shown & Pick<Plan, 'repeating' | 'choose'>;
  explained: Explained | null;
  decisions: ReadonlyMap<number, DateDecision>;
  decide: (start: number, decision: DateDecision) => void;
}) {
  const chosen = explained?.chosenWeekly ?? null;
  if (!explained)
    return <p className="text-ink-2">Reading everybody’s time, and looking for weekly times …</p>;
  // A time chosen by hand stands before the ones found.
  const listed = chosen === null || explained.weekly.some((one) => isSame(one, chosen));
  const shown = listed ? explained.weekly : [chosen, ...explained.weekly];
  return (
    <section aria-label="Weekly times">
      <PartHeading remark={`of ${plan.repeating!.count} dates`}>Weekly times</PartHeading>
      {explained.weekly.length === 0 && (
        <p className="mb-2 text-ink-2" role="status">
          {explained.why ?? 'No weekly time works on any of these dates.'}
        </p>
      )}
      <ol className="grid gap-1">
        {shown.map((found) => {
          const on = isSame(found, chosen);
          // Of the chosen one, the dates from the chosen week on.
          const weekly = on ? chosen! : found;
          return (
            <li key={`${weekly.weekday} ${weekly.minute}`}>
              <WeeklyItem weekly={weekly} plan={plan} on={on} />
              {on && weekly.failing.length > 0 && (
                <ul className="bg-gentian-wash px-2.5 pb-1" aria-label="Dates that do not work">
                  {weekly.failing.map((date) => (
                    <Failing
                      key={date.start}
                      date={date}
                      plan={plan}
                      decision={decisionFor(date, decisions)}
                      decide={(decision) => decide(date.start, decision)}
                    />
                  ))}
                </ul>
              )}
            </li>
          );
        })}
      </ol>
    </section>
  );
}

const isSame = (a: WeeklyTime, b: WeeklyTime | null): boolean =>
  b !== null && a.weekday === b.weekday && a.minute === b.minute;

function WeeklyItem({
  weekly,
  plan,
  on,
}: {
  weekly: WeeklyTime;
  plan: Shown & Pick<Plan, 'choose'>;
  on: boolean;
}) {
  const { choose } = plan;
  const works = weekly.dates.length - weekly.failing.length;
  const reasons = weekly.typical ? reasonsOf(weekly.typical, plan) : [];
  const isOdd = reasons.some((reason) => reason.odd);
  const failing = failingWords(weekly, plan);
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={() => choose(weekly.dates[0]!)}
      className={`block w-full border-l-[3px] py-1 pr-1 pl-2.5 text-left ${on ? 'border-gentian bg-gentian-wash' : `${works > 0 && !isOdd ? 'border-lichen' : 'border-alpenglow'} hover:bg-sheet`}`}
    >
      <span className="font-semibold">{weeklyWords(weekly, plan.me.clock)}</span>{' '}
      <span className="text-xs">
        works on {works === weekly.dates.length ? 'all' : works} of {weekly.dates.length}
      </span>
      {reasons.length > 0 && <Reasons reasons={reasons} />}
      {failing && <span className="block text-xs leading-snug text-ink-2">{failing}</span>}
    </button>
  );
}

/** Who is in the way and how often: `Amara on Tue 1 Dec; Hal on 5 dates`. */
function failingWords({ failing }: WeeklyTime, plan: Shown): string {
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
  plan: Shown;
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
      <Select
        question={`What to do on ${day}`}
        look="word"
        value={decision}
        onChange={decide}
        options={[
          ...(date.instead
            ? [
                {
                  value: 'move' as const,
                  words: `that week on ${formatDay(date.instead.start, me.zone)} ${formatTime(date.instead.start, me.zone, me.clock)} instead`,
                },
              ]
            : []),
          { value: 'skip' as const, words: 'leave it out' },
          { value: 'keep' as const, words: `hold it without ${names}` },
        ]}
      />
    </li>
  );
}
