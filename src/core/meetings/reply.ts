import type { Reply } from '../icalendar/message.ts';
import { invalid, Refusal } from '../refusal.ts';
import type { WallTime } from '../time/wall.ts';
import { happensAt } from './dates.ts';
import type { Decision } from './decision.ts';
import { isSeries, planOf, type Answer, type Meeting, type Participant } from './meeting.ts';

export interface ReplyCommand {
  /** `needs-action` takes an answer back, as if none had been given. */
  reply: Reply;
  note: string;
  /** The one occurrence that is answered; null for all of it. */
  occurrence: WallTime | null;
  /** When the answer was made, epoch milliseconds (DTSTAMP); one in the future is taken for now. */
  stamp: number;
  /** The SEQUENCE that was answered; null for an answer given here, beside the present times. */
  sequence: number | null;
  /** Whether the organizer does not hear of it; they see it among the answers. */
  quietly?: boolean;
}

/**
 * Keeps an answer. To the whole it also answers the occurrences that asked again.
 * @param participantId whose answer it is
 * @throws Refusal when they are not invited, it is cancelled, or a newer answer or newer times came
 *   first (RFC 5546 section 2.1.5)
 */
export function decideReply(
  meeting: Meeting,
  participantId: number,
  command: ReplyCommand,
  now: number,
): Decision {
  const participant = meeting.participants.find((one) => one.id === participantId);
  if (!participant || participant.role === 'organizer') throw notInvited();
  if (meeting.status === 'cancelled') throw nothingToAnswer();
  const { occurrence } = command;
  if (occurrence !== null && !(isSeries(meeting) && happensAt(planOf(meeting), occurrence))) {
    throw invalid([{ field: 'occurrence', message: 'must be an occurrence of the series' }]);
  }
  refuseOutdated(meeting, participant, command);
  // Whoever answers from a clock that is fast, or in bad faith, does not silence later answers.
  const stamp = Math.min(command.stamp, now);
  const answered = withAnswer(participant, { ...command, stamp }, now);
  const participants = meeting.participants.map((one) => (one === participant ? answered : one));
  return {
    changes: [{ before: meeting, after: { ...meeting, participants } }],
    facts: [
      {
        kind: 'replied',
        meetingId: meeting.id,
        occurrence,
        tell: false,
        message: '',
        details: {
          attendee: participant.id,
          reply: command.reply,
          ...(command.quietly && { quietly: true }),
        },
      },
    ],
    notes: [],
    answer: { id: meeting.id, occurrence },
    undo: null,
  };
}

export const notInvited = (): Refusal =>
  new Refusal('not-invited', 'You are not invited to this meeting.');

const nothingToAnswer = () =>
  new Refusal('cancelled', 'This meeting has been cancelled; there is nothing to answer.');

function refuseOutdated(
  meeting: Meeting,
  participant: Participant,
  { occurrence, sequence, stamp }: ReplyCommand,
) {
  const own =
    occurrence === null
      ? null
      : meeting.overrides.find((one) => one.recurrenceId === occurrence)?.details.minReplySequence;
  // Given here, beside the present times, it is the newest.
  if (sequence === null) return;
  if (sequence < (own ?? meeting.minReplySequence)) {
    throw new Refusal('outdated', 'The answer is for an earlier time of this meeting.');
  }
  const kept =
    occurrence === null ? participant : (participant.occurrences[occurrence] ?? participant);
  if (kept.stamp !== null && kept.stamp > stamp) {
    throw new Refusal('outdated', 'A newer answer to this meeting came before this one.');
  }
}

function withAnswer(participant: Participant, command: ReplyCommand, now: number): Participant {
  const { reply, note, occurrence, stamp } = command;
  const answer = (before: Answer): Answer => ({
    askedAt: before.askedAt,
    reply,
    note,
    repliedAt: reply === 'needs-action' ? null : now,
    stamp,
  });
  if (occurrence !== null) {
    const before = participant.occurrences[occurrence] ?? participant;
    return {
      ...participant,
      occurrences: { ...participant.occurrences, [occurrence]: answer(before) },
    };
  }
  const answeredAlone = Object.entries(participant.occurrences).filter(
    ([, one]) => one.reply !== 'needs-action',
  );
  return {
    ...participant,
    ...answer(participant),
    occurrences: Object.fromEntries(answeredAlone),
  };
}
