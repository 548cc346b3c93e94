import { decideCancel } from './cancel.ts';
import { numbered, type Decision } from './decision.ts';
import type { MeetingFact } from './meetingFacts.ts';
import { isSeries, organizerHere, type Meeting, type Participant } from './meeting.ts';
import { nextOccurrence } from './next.ts';
import { askedAt } from './people.ts';
import type { Known } from './change.ts';
import { timingInterval } from '../recurrence/series.ts';

/** Somebody of this installation, by name and address. */
export type Successor = Pick<Participant, 'name' | 'email'> & { personId: number };

/** What is decided about a meeting of whoever leaves, without the rest of a decision. */
type Decided = Pick<Decision, 'changes' | 'facts'>;

/**
 * Gives a meeting, a draft or a booking to somebody else of this installation: they organize it from now on, under
 * the same UID and with the next SEQUENCE (RFC 5546 section 3.2.2.6). Whoever had it takes part no more; what
 * happened until now stays theirs. Those outside are told, since their calendar programs know the organizer.
 * @param now epoch milliseconds
 */
export function decideHandOver(
  before: Meeting,
  to: Successor,
  message: string,
  now: number,
): Decided {
  const from = organizerHere(before);
  if (to.personId === from) return { changes: [], facts: [] };
  const there = before.participants.find((one) => one.personId === to.personId);
  const host: Participant = {
    ...(there ?? askedAt({ ...to, role: 'required' }, now)),
    role: 'organizer',
    reply: 'accepted',
    note: '',
    repliedAt: now,
    proposals: [],
    occurrences: {},
  };
  const others = before.participants.filter(
    (one) => one.personId !== from && one.personId !== to.personId,
  );
  const draft = before.draft && {
    ...before.draft,
    invited: before.draft.invited.filter((one) => one.personId !== to.personId),
  };
  const after = numbered(before, {
    ...before,
    organizerId: to.personId,
    draft,
    participants: [host, ...others],
  });
  return {
    changes: [{ before, after, leftAt: now }],
    facts: [tellingOutsiders({ kind: 'changed', ...about(before, message) }, others, before)],
  };
}

/**
 * Takes whoever leaves out of a meeting that somebody else organizes. What happened until now keeps them; its
 * organizer elsewhere hears that they do not come.
 * @param now epoch milliseconds
 */
export function decideLeave(before: Meeting, personId: number, now: number): Decided {
  const gone = before.participants.find((one) => one.personId === personId);
  const invited = before.draft?.invited ?? [];
  if (!gone && !invited.some((one) => one.personId === personId)) return { changes: [], facts: [] };
  const after: Meeting = {
    ...before,
    version: before.version + 1,
    draft: before.draft && {
      ...before.draft,
      invited: invited.filter((one) => one.personId !== personId),
    },
    participants: before.participants.filter((one) => one !== gone),
  };
  const facts: MeetingFact[] = gone
    ? [{ kind: 'uninvited', ...about(before, ''), people: [gone] }]
    : [];
  return { changes: [{ before, after, leftAt: now }], facts };
}

/**
 * Ends what whoever leaves organizes from now on: what happens once, or a series from its next date on; what is
 * over stays.
 */
export function decideEnd(before: Meeting, message: string, known: Known): Decided {
  const next = nextOccurrence(before, known.now, 'not begun');
  const isAhead = isSeries(before)
    ? next !== null
    : timingInterval(before.timing).start >= known.now;
  const part =
    next === null
      ? ({ scope: 'all' } as const)
      : ({ scope: 'following', occurrence: next } as const);
  const decided = isAhead
    ? decideCancel(before, { ...part, tell: 'nobody', message }, known)
    : null;
  if (!decided) return { changes: [], facts: [] };
  const others = before.participants.filter((one) => one.role !== 'organizer');
  return {
    changes: decided.changes,
    facts: decided.facts.map((fact) => tellingOutsiders(fact, others, before)),
  };
}

const about = (meeting: Meeting, message: string) => ({
  meetingId: meeting.id,
  occurrence: null,
  tell: false,
  message,
});

/** Told to those outside alone: whoever is here has one letter about all of it. */
export function tellingOutsiders<Fact extends MeetingFact>(
  fact: Fact,
  others: readonly Participant[],
  { draft }: Pick<Meeting, 'draft'>,
): Fact {
  const outside = (fact.people ?? others).filter((one) => one.personId === null);
  return { ...fact, tell: outside.length > 0 && !draft, people: outside };
}
