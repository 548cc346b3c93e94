import { invalid, Refusal } from '../refusal.ts';
import { DAY, MINUTE, type Interval } from '../time/interval.ts';
import type { WallTime } from '../time/wall.ts';
import { refuseCancelled } from './change.ts';
import { happensAt } from './dates.ts';
import type { Decision } from './decision.ts';
import type { MeetingFactDetails, MeetingFactKind } from './meetingFacts.ts';
import {
  isSeries,
  occurrenceOf,
  planOf,
  type Meeting,
  type Participant,
  type Proposal,
} from './meeting.ts';
import { notInvited } from './reply.ts';
import { MOST_PROPOSALS } from './rights.ts';

const LONGEST = 7 * DAY;
const FURTHEST = 366 * DAY;

export interface ProposeCommand {
  /** The date of a series that is meant; null for what happens once. */
  occurrence: WallTime | null;
  /** All the times that are asked for from now on; none takes them back. Epoch milliseconds. */
  times: readonly Interval[];
  note: string;
}

/**
 * Keeps which other times somebody asks for, in place of those they asked for before. Their answer
 * stays what it is.
 * @throws Refusal when they are not invited, it is cancelled or over, or naming a time that cannot be
 */
export function decidePropose(
  meeting: Meeting,
  participantId: number,
  { occurrence, times, note }: ProposeCommand,
  now: number,
): Decision {
  refuseCancelled(meeting);
  const participant = meeting.participants.find((one) => one.id === participantId);
  if (!participant || participant.role === 'organizer') throw notInvited();
  const at = dateMeant(meeting, occurrence);
  const present = occurrenceOf(meeting, at);
  if (present.end <= now)
    throw new Refusal('over', 'This meeting is over; no other time can be asked for.');
  if (times.length > MOST_PROPOSALS)
    throw invalid([{ field: 'times', message: `may name at most ${MOST_PROPOSALS} times` }]);
  times.forEach((time, k) => refuseTime(time, present, now, `times.${k}`));
  const unlike = times.filter((time, k) => times.findIndex((one) => isSame(one, time)) === k);
  const asked = unlike.map(({ start, end }): Proposal => {
    return { occurrence: at, start, end, note, madeAt: now };
  });
  const others = participant.proposals.filter((one) => one.occurrence !== at);
  return withProposals(meeting, participant, [...others, ...asked], {
    kind: 'proposed',
    occurrence: at,
    details: {
      attendee: participant.id,
      times: asked.map(({ start, end }): [number, number] => [start, end]),
    },
  });
}

/** Which of what somebody asked for is meant. */
export interface ProposalRef extends Interval {
  attendeeId: number;
  occurrence: WallTime | null;
}

/**
 * Says no to a time that somebody asked for: the meeting stays, and they are told.
 * @throws Refusal when nobody asks for it any more
 */
export function decideDeclineProposal(
  meeting: Meeting,
  asked: ProposalRef,
  message: string,
): Decision {
  refuseCancelled(meeting);
  const { participant, proposal } = findProposal(meeting, asked);
  const left = participant.proposals.filter((one) => one !== proposal);
  const { occurrence, start, end } = proposal;
  return withProposals(meeting, participant, left, {
    kind: 'proposal-declined',
    occurrence,
    details: { attendee: participant.id, times: [[start, end]] },
    message,
    tell: true,
  });
}

/** @throws Refusal when nobody asks for that time any more */
function findProposal(
  meeting: Meeting,
  { attendeeId, occurrence, start, end }: ProposalRef,
): { participant: Participant; proposal: Proposal } {
  const participant = meeting.participants.find((one) => one.id === attendeeId);
  const proposal = participant?.proposals.find(
    (one) => one.occurrence === occurrence && isSame(one, { start, end }),
  );
  if (participant && proposal) return { participant, proposal };
  throw new Refusal('not-asked-for', 'Nobody asks for this time any more; look at it again.');
}

function withProposals(
  meeting: Meeting,
  participant: Participant,
  proposals: Proposal[],
  fact: {
    kind: Extract<MeetingFactKind, 'proposed' | 'proposal-declined'>;
    occurrence: WallTime | null;
    details: MeetingFactDetails['proposed'];
    message?: string;
    tell?: boolean;
  },
): Decision {
  const after = { ...participant, proposals };
  const participants = meeting.participants.map((one) => (one === participant ? after : one));
  return {
    changes: [{ before: meeting, after: { ...meeting, participants } }],
    facts: [{ meetingId: meeting.id, message: '', tell: false, ...fact, people: [after] }],
    notes: [],
    answer: { id: meeting.id, occurrence: fact.occurrence },
    undo: null,
  };
}

/** @throws Refusal when no date of a series is named, or it does not happen then */
function dateMeant(meeting: Meeting, occurrence: WallTime | null): WallTime | null {
  if (!isSeries(meeting)) return null;
  if (occurrence === null || !happensAt(planOf(meeting), occurrence)) {
    throw invalid([{ field: 'occurrence', message: 'must be an occurrence of the series' }]);
  }
  return occurrence;
}

const isSame = (a: Interval, b: Interval): boolean => a.start === b.start && a.end === b.end;

function refuseTime(time: Interval, present: Interval, now: number, field: string): void {
  const refuse = (message: string) => invalid([{ field, message }]);
  if (time.end - time.start < 5 * MINUTE) throw refuse('must last at least 5 minutes');
  if (time.end - time.start > LONGEST) throw refuse('may last at most 7 days');
  if (time.start <= now) throw refuse('must lie in the future');
  if (time.start > now + FURTHEST) throw refuse('must lie within a year from now');
  if (isSame(time, present)) throw refuse('must be another time than the present one');
}

/** What of the times asked for still stands: dates that are gone, and times that are over, do not. */
export function standingProposals(
  meeting: Meeting,
  now: number,
): { participant: Participant; proposal: Proposal }[] {
  const stands = ({ occurrence, start }: Proposal) =>
    start > now &&
    (isSeries(meeting)
      ? occurrence !== null && happensAt(planOf(meeting), occurrence)
      : occurrence === null);
  return meeting.participants.flatMap((participant) =>
    participant.proposals.filter(stands).map((proposal) => ({ participant, proposal })),
  );
}
