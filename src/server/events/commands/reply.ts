import type { AnswerMessage, CounterMessage, ReplyMessage } from '../../../core/icalendar/parse.ts';
import type { CalendarPart } from '../../../core/icalendar/part.ts';
import { namedIn } from '../../../core/icalendar/times.ts';
import { nextOccurrence } from '../../../core/meetings/next.ts';
import { decidePropose, type ProposeCommand } from '../../../core/meetings/propose.ts';
import { decideResend } from '../../../core/meetings/resend.ts';
import { decideReply, notInvited, type ReplyCommand } from '../../../core/meetings/reply.ts';
import type { Decision } from '../../../core/meetings/decision.ts';
import { isSeries, type Meeting } from '../../../core/meetings/meeting.ts';
import { Refusal } from '../../../core/refusal.ts';
import type { WallTime } from '../../../core/time/wall.ts';
import type { PersonActor } from '../../actions/index.ts';
import { transaction, type Database, type Transaction } from '../../db/transaction.ts';
import { findByAddress } from '../../participants/index.ts';
import type { Platform } from '../../platform.ts';
import { lockVisibleMeeting } from '../read/visible.ts';
import { findByUid, lockMeeting } from '../store/read.ts';
import { carryOut, type Done } from './carryOut.ts';
import { refuseTooOften } from './resend.ts';

/**
 * Keeps the actor's answer, and claims or frees time accordingly.
 * @throws Refusal when they are not invited or organize it themselves, or when it is cancelled
 */
export async function replyTo(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  eventId: string,
  answer: {
    reply: ReplyCommand['reply'];
    note: string;
    occurrence?: WallTime | undefined;
    tell?: boolean | undefined;
  },
): Promise<Done> {
  const meeting = await lockVisibleMeeting(tx, actor, eventId);
  const participant = meeting.participants.find((one) => one.personId === actor.me.id);
  if (!participant) throw notInvited();
  const now = platform.clock.now();
  const command: ReplyCommand = {
    reply: answer.reply,
    note: answer.note,
    occurrence: answer.occurrence ?? null,
    stamp: now,
    sequence: null,
    quietly: answer.tell === false,
  };
  const decision = decideReply(meeting, participant.id, command, now);
  return carryOut(tx, platform, actor, meeting, decision);
}

/**
 * Does what is decided about a meeting by somebody who has no account, such as answering by a link.
 * @throws Refusal when there is no such meeting
 */
export async function answerAs(
  tx: Transaction,
  platform: Platform,
  id: string,
  decide: (meeting: Meeting) => Decision,
): Promise<void> {
  const meeting = await lockMeeting(tx, id);
  if (!meeting) throw notInvited();
  await carryOut(tx, platform, { kind: 'system' }, meeting, decide(meeting));
}

/** Who sent something back, as far as the road on which it came proves it. */
export interface ProvenSender {
  /** The attendee whose letter was answered; null where nothing says so. */
  attendeeId: number | null;
}

/**
 * Counts what somebody invited sent back by mail: a REPLY (RFC 5546 section 3.2.3), each answer in it,
 * all or none, a COUNTER (section 3.2.7), which asks for another time, or a REFRESH (section 3.2.6),
 * which is answered with the invitation once more.
 * @param calendar the text/calendar part, as it was read
 * @param sender where it is proven, it answers for nobody else
 * @param within the transaction that it is a part of; else it has its own
 * @returns the attendee it was from, and their meeting
 * @throws Refusal saying why it cannot be counted
 */
export async function receiveAnswer(
  platform: Platform,
  calendar: CalendarPart,
  sender: ProvenSender | null = null,
  within?: Transaction,
): Promise<{ eventId: string; attendeeId: number }> {
  const message = answerIn(calendar);
  const parts = partsOf(message);
  const count = async (tx: Transaction) => {
    const ids = await findByUid(
      tx,
      parts.map((one) => one.uid),
    );
    let from = { eventId: '', attendeeId: 0 };
    for (const part of parts) {
      const id = ids.get(part.uid);
      const meeting = id === undefined ? null : await lockMeeting(tx, id);
      if (!meeting)
        throw new Refusal('unknown-meeting', 'The answer is for a meeting not known here.');
      const attendeeId = await findByAddress(tx, meeting.id, part.email);
      if (attendeeId === null) throw notInvited();
      if (sender && sender.attendeeId !== attendeeId)
        throw new Refusal('not-theirs', `It answers for ${part.email}, whose letter this was not.`);
      const now = platform.clock.now();
      if (message.method === 'REFRESH') await refuseTooOften(tx, meeting.id, now);
      const decision =
        'reply' in part
          ? decideReply(meeting, attendeeId, commandOf(part, meeting, now), now)
          : 'start' in part
            ? decidePropose(meeting, attendeeId, timesOf(part, meeting, now), now)
            : decideResend(meeting, { ids: [attendeeId], message: '' });
      await carryOut(tx, platform, { kind: 'system' }, meeting, decision);
      from = { eventId: meeting.id, attendeeId };
    }
    return from;
  };
  return within ? count(within) : transaction(platform.pool, count);
}

/**
 * Which meeting an answer is about, and who of those invited it names.
 * @returns null where it is none that can be read, or of a meeting not known here
 */
export async function meetingAnswered(
  db: Database,
  calendar: CalendarPart,
): Promise<{ eventId: string; attendeeId: number | null } | null> {
  if (calendar.kind !== 'answer') return null;
  const part = partsOf(calendar.message)[0]!;
  const eventId = (await findByUid(db, [part.uid])).get(part.uid);
  if (eventId === undefined) return null;
  return { eventId, attendeeId: await findByAddress(db, eventId, part.email) };
}

/** What is answered, each by itself. */
const partsOf = (
  message: AnswerMessage,
): (ReplyMessage | CounterMessage | Omit<ReplyMessage, 'reply'>)[] =>
  message.method === 'REPLY'
    ? message.answers
    : [message.method === 'COUNTER' ? message.counter : message.refresh];

/** Which date of a series is meant; null for all of it, or for what happens once. */
const dateOf = ({ occurrence }: Pick<ReplyMessage, 'occurrence'>, meeting: Meeting) =>
  isSeries(meeting) && occurrence ? namedIn(occurrence, meeting.timing.zone) : null;

/** What they say, and who says it in their stead. */
const noteOf = ({ comment, sentBy }: Pick<ReplyMessage, 'comment' | 'sentBy'>): string =>
  [comment, sentBy && `(answered by ${sentBy})`].filter(Boolean).join(' ');

const commandOf = (answer: ReplyMessage, meeting: Meeting, now: number): ReplyCommand => ({
  reply: answer.reply,
  note: noteOf(answer),
  occurrence: dateOf(answer, meeting),
  stamp: answer.stamp ?? now,
  sequence: answer.sequence,
});

const timesOf = (counter: CounterMessage, meeting: Meeting, now: number): ProposeCommand => ({
  // Of a series its next date is meant where none is named.
  occurrence: dateOf(counter, meeting) ?? nextOccurrence(meeting, now),
  times: [{ start: counter.start, end: counter.end }],
  note: noteOf(counter),
});

function answerIn(calendar: CalendarPart): AnswerMessage {
  if (calendar.kind === 'answer') return calendar.message;
  const why =
    calendar.kind === 'unreadable'
      ? calendar.why
      : 'The calendar part is an invitation, not a REPLY.';
  throw new Refusal('not-a-reply', why, {
    fields: [{ field: 'calendar', message: 'must be an iTIP REPLY or COUNTER' }],
  });
}
