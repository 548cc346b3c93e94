import { askAgain } from '../icalendar/sequence.ts';
import { same } from '../same.ts';
import type { WallTime } from '../time/wall.ts';
import { DATE_FIELD_NAMES, pickFields } from './fields.ts';
import { happensAt } from './dates.ts';
import { isSeries, occurrenceOf, planOf, type Meeting } from './meeting.ts';
import { participantKey } from './people.ts';

/** What a letter about a meeting is, as its receiver would call it. */
export const TIDING_KINDS = [
  'invited',
  'uninvited',
  'changed',
  'moved',
  'cancelled',
  'restored',
] as const;
export type TidingKind = (typeof TIDING_KINDS)[number];

/** One thing that somebody is told of a meeting; of one date of it, or of all. */
export interface Tiding {
  kind: TidingKind;
  occurrence: WallTime | null;
}

/** So many dates are told by themselves; of more a letter about all of it is written. */
export const MOST_DATES_TOLD = 5;

/**
 * What somebody has to be told who last heard of a meeting as it was, once it is as it is: nothing where all of that
 * was taken back in the meantime.
 * @param before as they last heard of it; null where they never did
 * @param after as it is; null where it is no more
 * @param key whose, as `participantKey` gives it
 * @param first what it is to somebody who never heard of it
 */
export function tidings(
  before: Meeting | null,
  after: Meeting | null,
  key: string,
  first: TidingKind = 'invited',
): Tiding[] {
  const all = (kind: TidingKind): Tiding[] => [{ kind, occurrence: null }];
  const knew = before !== null && isAsked(before, key);
  const isIn = after !== null && isAsked(after, key) && after.status === 'confirmed';
  if (!knew) return isIn ? all(first) : [];
  if (before.status === 'cancelled') return isIn ? all('restored') : [];
  if (!isIn) return all(after !== null && !isAsked(after, key) ? 'uninvited' : 'cancelled');
  const again = askAgain(before, after);
  if (!same(wholeOf(before), wholeOf(after))) {
    const moved = again.whole || again.occurrences.length > 0;
    return all(moved ? 'moved' : 'changed');
  }
  const dates = datesBetween(before, after);
  if (dates.length > MOST_DATES_TOLD)
    return all(again.occurrences.length > 0 ? 'moved' : 'changed');
  return dates.map((occurrence) => ({ kind: kindOf(before, after, occurrence), occurrence }));
}

/** Whether somebody is asked to a meeting, or was until it was cancelled. */
const isAsked = ({ participants, draft }: Meeting, key: string): boolean =>
  draft === null &&
  participants.some((one) => one.role !== 'organizer' && participantKey(one) === key);

/** What a letter about all of a meeting says, single dates aside. Answers are none of it. */
const wholeOf = (meeting: Meeting) => ({
  ...pickFields(DATE_FIELD_NAMES, meeting),
  visibility: meeting.visibility,
  timing: meeting.timing,
  endZone: meeting.endZone,
  rule: meeting.rule,
  except: [...meeting.except].sort(),
  resources: [...meeting.resources].sort((a, b) => a - b),
  participants: meeting.participants.map((one) => [participantKey(one), one.role].join(' ')).sort(),
});

/** The dates that are otherwise by themselves, whether they say so or the series does. */
function datesBetween(before: Meeting, after: Meeting): WallTime[] {
  if (!isSeries(after)) return [];
  const plan = { ...planOf(after), overrides: [] };
  const said = (meeting: Meeting, at: WallTime) => {
    const isOff = meeting.overrides.some((one) => one.recurrenceId === at && one.cancelled);
    const { resources, ...occurrence } = occurrenceOf(meeting, at);
    return isOff ? null : { ...occurrence, resources: [...resources].sort((a, b) => a - b) };
  };
  return [...new Set([...before.overrides, ...after.overrides].map((one) => one.recurrenceId))]
    .filter((at) => !same(said(before, at), said(after, at)) && happensAt(plan, at))
    .sort();
}

function kindOf(before: Meeting, after: Meeting, at: WallTime): TidingKind {
  const isOff = ({ overrides }: Meeting) =>
    overrides.some((one) => one.recurrenceId === at && one.cancelled);
  if (isOff(after)) return 'cancelled';
  if (isOff(before)) return 'restored';
  return same(occurrenceOf(before, at).timing, occurrenceOf(after, at).timing)
    ? 'changed'
    : 'moved';
}
