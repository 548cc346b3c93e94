import type { Opening, Points } from '../../core/planner/openings.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import { PartHeading } from '../design/controls.tsx';
import type { Computed, Explained } from '../workers/index.ts';
import type { Plan } from './usePlan.ts';
import { Reasons, reasonsOf } from './Reasons.tsx';

/** What an opening in words needs, and choosing it. */
type Shown = Pick<Plan, 'me' | 'members' | 'choose'>;

/** The best starts with their reasons; the chosen one says how it was weighed. */
export function OpeningsPanel({
  plan,
  computed,
  explained,
}: {
  plan: Shown & Pick<Plan, 'wishes' | 'chosen'>;
  computed: Computed | null;
  explained: Explained | null;
}) {
  const { members, wishes } = plan;
  if (!computed) {
    return (
      <p className="text-ink-2" role="status">
        Reading everybody’s time …
      </p>
    );
  }
  const { best, count } = computed.openings;
  const least = count === 0 && best.length > 0;
  return (
    <section aria-label="Openings">
      <PartHeading
        remark={
          count
            ? `${count} ${count === 1 ? 'start' : 'starts'}, best first`
            : least
              ? 'least bad'
              : ''
        }
      >
        Openings
      </PartHeading>
      {count === 0 && (
        <p className="mb-2 text-ink-2" role="status">
          {members.length <= 1
            ? 'Add people and places to the line-up, and the best times show up here.'
            : (explained?.why ?? 'No time in these days suits all that is needed.')}
        </p>
      )}
      <ol className="grid gap-1">
        {best.map((opening) => (
          <OpeningItem
            key={opening.start}
            opening={opening}
            plan={plan}
            on={plan.chosen?.start === opening.start}
            odd={wishes.leastBad && opening.points.conflicts > 0}
          />
        ))}
      </ol>
    </section>
  );
}

function OpeningItem({
  opening,
  plan,
  on,
  odd,
}: {
  opening: Opening;
  plan: Shown;
  on: boolean;
  odd: boolean;
}) {
  const { me, choose } = plan;
  const edge = odd ? 'border-alpenglow' : 'border-lichen';
  return (
    <li>
      <button
        type="button"
        aria-pressed={on}
        onClick={() => choose(opening)}
        className={`block w-full border-l-[3px] py-1 pr-1 pl-2.5 text-left ${on ? 'border-gentian bg-gentian-wash' : `${edge} hover:bg-sheet`}`}
      >
        <span className="font-semibold">
          {formatDay(opening.start, me.zone)} {formatTime(opening.start, me.zone, me.clock)}
        </span>
        <Reasons reasons={reasonsOf(opening, plan)} />
      </button>
      {on && (
        <details className="bg-gentian-wash px-2.5 pb-1.5 text-xs">
          <summary className="min-h-6 cursor-pointer py-0.5 text-ink-2 max-sm:py-3">
            How it was weighed: {Math.round(opening.score)} points
          </summary>
          <ul className="mt-1">
            {weighed(opening.points).map(([words, points]) => (
              <li key={words} className="flex justify-between">
                <span>{words}</span>
                <span>{points}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </li>
  );
}

const POINT_WORDS: Record<keyof Points, string> = {
  conflicts: 'needed, but cannot come',
  missing: 'optional people missing',
  unknown: 'not known whether they can',
  hours: 'outside working hours',
  midday: 'over midday',
  backToBack: 'no break before or after',
  broken: 'quiet time broken up',
  waiting: 'days of waiting',
  notice: 'at short notice',
  odd: 'not on the half hour',
  rooms: 'empty seats and stairs',
};

/** What a score is made of, the heaviest first; fewer points are better. */
function weighed(points: Points): [words: string, points: string][] {
  const parts = (Object.keys(points) as (keyof Points)[])
    .filter((part) => points[part] > 0)
    .sort((a, b) => points[b] - points[a]);
  if (parts.length === 0) return [['nothing against it', '0']];
  return parts.map((part) => [POINT_WORDS[part], String(Math.round(points[part] * 10) / 10)]);
}
