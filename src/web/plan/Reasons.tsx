import type { Opening } from '../../core/planner/openings.ts';
import { openingReasons } from '../../core/planner/words.ts';
import type { Plan } from './usePlan.ts';
import { placeName } from './zoneNames.ts';

/** The reasons of an opening as the reader says times and places. */
export const reasonsOf = (opening: Opening, { me, members }: Pick<Plan, 'me' | 'members'>) =>
  openingReasons(opening, members, {
    clock: me.clock,
    placeOf: (zone) => placeName(zone, me.zoneNames),
  });

/** Why an opening is good, and what about it wants a second look. */
export const Reasons = ({ reasons }: { reasons: ReturnType<typeof reasonsOf> }) => (
  <span className="block text-xs leading-snug">
    {reasons.map((reason, k) => (
      <span key={reason.text} className={reason.odd ? 'font-medium text-alpenglow' : 'text-ink-2'}>
        {k > 0 && '; '}
        {reason.text}
      </span>
    ))}
  </span>
);
