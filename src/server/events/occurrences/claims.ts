import type { Meeting, Participant } from '../../../core/meetings/meeting.ts';
import type { WallTime } from '../../../core/time/wall.ts';
import type { Transaction } from '../../db/transaction.ts';
import type { Dated } from './dates.ts';
import { differs, presenceOf } from './parts.ts';
import { syncBusyTime, claimPeopleFirst, type Concerned } from './queries.ts';

/** Brings the claims on people's time in line, of meetings whose time or people are others. */
export function claimAnew(tx: Transaction, dated: readonly Dated[]): void {
  const whole: string[] = [];
  for (const { change, timesChange } of dated) {
    const { before, after } = change;
    if (!before) claimPeopleFirst(tx, after.id);
    else if (timesChange || differs(before, after, presenceOf)) whole.push(after.id);
    else {
      const concerned = answeredAnew(before, after);
      if (concerned) syncBusyTime(tx, [after.id], concerned);
    }
  }
  if (whole.length > 0) syncBusyTime(tx, whole);
}
/**
 * Whose answers are others, or who is asked or asked no more: theirs is the only time that is taken in
 * another way. Null where there is nobody; the dates where only single ones are answered anew.
 */
function answeredAnew(before: Meeting, after: Meeting): Concerned | null {
  const [was, is] = [before, after].map(
    ({ participants }) =>
      new Map(participants.flatMap((one) => (one.personId === null ? [] : [[one.personId, one]]))),
  ) as [Map<number, Participant>, Map<number, Participant>];
  const personIds = [...new Set([...was.keys(), ...is.keys()])];
  const dates = new Set<WallTime>();
  let isAll = false;
  const concerned = personIds.filter((id) => {
    const [one, other] = [was.get(id), is.get(id)];
    if (!one || !other || one.role !== other.role || one.reply !== other.reply) {
      isAll = true;
      return true;
    }
    const changed = datesBetween(one, other);
    for (const at of changed) dates.add(at);
    return changed.length > 0;
  });
  if (concerned.length === 0) return null;
  return { personIds: concerned, dates: isAll ? null : [...dates] };
}

/** The dates that somebody answers otherwise after a change. */
function datesBetween(one: Participant, other: Participant): WallTime[] {
  const dates = new Set([...Object.keys(one.occurrences), ...Object.keys(other.occurrences)]);
  return [...dates].filter((at) => one.occurrences[at]?.reply !== other.occurrences[at]?.reply);
}
