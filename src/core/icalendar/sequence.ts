import type { Meeting } from '../meetings/meeting.ts';
import { differOnlyInEnd, parseRule, type Rule } from '../recurrence/rule.ts';
import { same } from '../same.ts';
import type { WallTime } from '../time/wall.ts';

/** What of a meeting is a matter of SEQUENCE, as RFC 5546 section 2.1.4 lists it. */
const scheduled = ({ organizerId, timing, endZone, rule, except, overrides, status }: Meeting) => ({
  organizerId,
  timing,
  endZone,
  rule,
  except: [...except].sort(),
  status,
  overrides: overrides
    .filter((one) => one.cancelled || one.timing)
    .map(({ recurrenceId, cancelled, timing }) => [recurrenceId, cancelled, timing])
    .sort((a, b) => (String(a[0]) < String(b[0]) ? -1 : 1)),
});

/**
 * Whether a change is a new revision in the sense of RFC 5546 section 2.1.4: start, end, rule,
 * exceptions or status; or another organizer, as section 3.2.2.6 asks. Words, places and other people are none.
 */
export const isNewRevision = (before: Meeting, after: Meeting): boolean =>
  !same(scheduled(before), scheduled(after));

/** What people have to be asked about anew after a change. */
export interface AskAgain {
  /** The whole: its times or its rule changed, but for an end that comes earlier. */
  whole: boolean;
  /** Occurrences that were given other times by themselves. */
  occurrences: WallTime[];
}

/** Whom a change asks again: whatever was answered was an answer to other times. */
export function askAgain(before: Meeting, after: Meeting): AskAgain {
  const whole = !same(before.timing, after.timing) || !sameDates(before.rule, after.rule);
  if (whole) return { whole, occurrences: [] };
  const timingBefore = new Map(before.overrides.map((one) => [one.recurrenceId, one.timing]));
  const occurrences = after.overrides
    .filter(
      (one) => !one.cancelled && !same(timingBefore.get(one.recurrenceId) ?? null, one.timing),
    )
    .map((one) => one.recurrenceId);
  return { whole, occurrences };
}

/** Whether whoever accepted the one rule has accepted every date of the other. */
function sameDates(before: string | null, after: string | null): boolean {
  if (before === after) return true;
  if (before === null || after === null) return false;
  const [old, next] = [parseRule(before), parseRule(after)];
  return differOnlyInEnd(old, next) && endsNoLater(next, old);
}

/** Whether a rule ends no later than another of the same rhythm; where that cannot be told, no. */
function endsNoLater(rule: Rule, other: Rule): boolean {
  if (other.count === null && other.until === null) return true;
  if (rule.count !== null) return other.count !== null && rule.count <= other.count;
  if (rule.until === null) return false;
  // Cutting a counted series in two gives its head an UNTIL before the last that was counted.
  return other.count !== null || rule.until.slice(0, 10) <= other.until!.slice(0, 10);
}
