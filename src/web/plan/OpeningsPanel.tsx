import type { Concession } from '../../core/planner/blockers.ts';
import { openingReasons } from '../../core/planner/words.ts';
import { formatDay, formatTime } from '../../core/time/format.ts';
import { PartHeading } from '../design/controls.tsx';
import type { Computed } from '../workers/planner.worker.ts';
import type { Plan } from './usePlan.ts';

/** The best starts with their reasons, and what each single concession would add. */
export function OpeningsPanel({ plan, computed }: { plan: Plan; computed: Computed | null }) {
  const { me, members, chosen, choose } = plan;
  if (!computed) return <p className="text-ink-2">Looking for openings …</p>;
  const { best, count } = computed.openings;
  // The organizer cannot be set aside from their own meeting.
  const offers = computed.concessions.filter((one) => one.memberId !== me.id).slice(0, 6);
  return (
    <>
      <section aria-label="Openings">
        <PartHeading
          remark={count ? `${count} ${count === 1 ? 'start' : 'starts'}, best first` : undefined}
        >
          Openings
        </PartHeading>
        {count === 0 && (
          <p className="mb-2 text-ink-2">
            {members.length <= 1
              ? 'Add people and places to the line-up, and the best times show up here.'
              : 'No time in these ten days suits everyone who is required. What would help is below.'}
          </p>
        )}
        <ol className="grid gap-1.5">
          {best.map((opening) => {
            const on = chosen?.start === opening.start;
            return (
              <li key={opening.start}>
                <button
                  type="button"
                  aria-pressed={on}
                  onClick={() => choose(opening)}
                  className={`block w-full border-l-[3px] py-1.5 pr-1 pl-2.5 text-left ${on ? 'border-gentian bg-gentian-wash' : 'border-lichen hover:bg-sheet'}`}
                >
                  <span className="font-semibold">
                    {formatDay(opening.start, me.zone)}{' '}
                    {formatTime(opening.start, me.zone, me.clock)}
                  </span>
                  <span className="block text-xs leading-snug">
                    {openingReasons(opening, members, me.clock).map((reason, k) => (
                      <span
                        key={reason.text}
                        className={reason.odd ? 'font-medium text-alpenglow' : 'text-ink-2'}
                      >
                        {k > 0 && '; '}
                        {reason.text}
                      </span>
                    ))}
                  </span>
                </button>
              </li>
            );
          })}
        </ol>
      </section>
      {offers.length > 0 && (
        <section aria-label="Blockers" className="mt-5">
          <PartHeading remark="more starts">Blockers</PartHeading>
          <ul>
            {offers.map((concession) => (
              <li
                key={`${concession.kind}${concession.memberId ?? ''}`}
                className="flex items-baseline gap-2 border-t border-edge py-1.5"
              >
                <span className="min-w-0 flex-1">{wordsFor(concession, plan)}</span>
                <span className="font-semibold text-lichen-ink">+{concession.gains}</span>
                <button
                  type="button"
                  className="font-semibold text-gentian hover:underline"
                  onClick={() => apply(concession, plan)}
                  aria-label={`Try: ${wordsFor(concession, plan)}`}
                >
                  try
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

function wordsFor(concession: Concession, { members, minutes }: Plan): string {
  const name = members.find((one) => one.id === concession.memberId)?.name ?? '';
  return {
    setAside: `Without ${name}`,
    shorten: `${concession.minutes} minutes instead of ${minutes}`,
    stretch: `Up to ${concession.minutes} min outside people’s hours`,
    tentative: 'Over tentative time',
  }[concession.kind];
}

function apply(concession: Concession, { lineUp, setLineUp, set }: Plan): void {
  if (concession.kind === 'setAside') {
    setLineUp(
      lineUp.map((one) => (one.id === concession.memberId ? { ...one, setAside: true } : one)),
    );
  } else if (concession.kind === 'shorten') set({ minutes: concession.minutes! });
  else if (concession.kind === 'stretch') set({ stretch: concession.minutes! });
  else set({ tentative: 'free' });
}
