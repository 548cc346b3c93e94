import { addressKey } from '../mailAddress.ts';
import type { Invited } from './create.ts';
import type { ChangeKind, ChangeFact } from './meetingFacts.ts';
import type { Meeting, Participant } from './meeting.ts';

/** Somebody who takes part in two meetings is known by their number, or their address. */
export const participantKey = ({ personId, email }: Pick<Participant, 'personId' | 'email'>) =>
  personId === null ? addressKey(email) : String(personId);

/** Somebody who has just been asked. */
export const askedAt = (one: Invited, now: number): Participant => ({
  ...one,
  id: 0,
  reply: 'needs-action',
  note: '',
  askedAt: now,
  repliedAt: null,
  stamp: null,
  nudgedAt: null,
  proposals: [],
  occurrences: {},
});

/**
 * Who takes part once exactly those are invited: whoever was there before keeps their answers, whoever
 * is new is asked.
 * @param now epoch milliseconds
 */
export function withInvited(
  before: readonly Participant[],
  invited: readonly Invited[],
  now: number,
): Participant[] {
  const known = new Map(before.map((one) => [participantKey(one), one]));
  const organizers = before.filter((one) => one.role === 'organizer');
  const others = invited
    .filter((one) => known.get(participantKey(one))?.role !== 'organizer')
    .map((one) => {
      const there = known.get(participantKey(one));
      return there ? { ...there, role: one.role } : askedAt(one, now);
    });
  return [...organizers, ...others];
}

/** Who came to a meeting and who left it between two of its versions. */
export interface PeopleChange {
  added: Participant[];
  removed: Participant[];
}

export function peopleChange(before: Meeting, after: Meeting): PeopleChange {
  const without = (some: Meeting, others: Meeting) => {
    const keys = new Set(others.participants.map(participantKey));
    return some.participants.filter((one) => !keys.has(participantKey(one)));
  };
  return { added: without(after, before), removed: without(before, after) };
}

/** Whom a change is told: all, only those who were added or removed, or nobody. */
export type NotifyScope = 'everyone' | 'concerned' | 'nobody';

/**
 * A change as facts: those who are new are invited, those who left are told so, and it is a change for
 * those who stay.
 */
export function factsOfChange(
  { before, after }: { before: Meeting; after: Meeting },
  change: ChangeFact,
  told: NotifyScope,
): ChangeFact[] {
  const { added, removed } = peopleChange(before, after);
  if (added.length + removed.length === 0) return [{ ...change, tell: told === 'everyone' }];
  const isNew = new Set(added.map(participantKey));
  const staying = after.participants.filter((one) => !isNew.has(participantKey(one)));
  const about = (kind: ChangeKind, people: Participant[]): ChangeFact[] =>
    people.length ? [{ ...change, kind, occurrence: null, tell: told !== 'nobody', people }] : [];
  return [
    { ...change, tell: told === 'everyone', people: staying },
    ...about('invited', added),
    ...about('uninvited', removed),
  ];
}
