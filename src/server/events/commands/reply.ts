import { parseReply, type ReplyMessage } from '../../../core/icalendar/parse.ts';
import { decideReply, notInvited, type ReplyCommand } from '../../../core/meetings/reply.ts';
import type { Decision } from '../../../core/meetings/decision.ts';
import { isSeries, type Meeting } from '../../../core/meetings/meeting.ts';
import { Refusal } from '../../../core/refusal.ts';
import type { WallTime } from '../../../core/time/wall.ts';
import { Levels } from '../../access/index.ts';
import type { PersonActor } from '../../actions/index.ts';
import { transaction, type Transaction } from '../../db/transaction.ts';
import { findByAddress } from '../../participants/index.ts';
import type { Platform } from '../../platform.ts';
import { lockVisibleMeeting } from '../read/visible.ts';
import { findByUid, lockMeeting } from '../store/read.ts';
import { carryOut, type Done } from './carryOut.ts';

/**
 * Keeps my answer, or that of somebody for whom I act, and claims or frees time accordingly.
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
    for?: number | undefined;
  },
): Promise<Done> {
  const meeting = await lockVisibleMeeting(tx, actor, eventId);
  const personId = answer.for ?? actor.me.id;
  const participant = meeting.participants.find((one) => one.personId === personId);
  if (!participant) throw notInvited();
  if (personId !== actor.me.id) {
    const levels = await Levels.of(tx, actor, [personId]);
    if (levels.calendar(personId) !== 'acts') {
      throw new Refusal('not-allowed', `You do not act for ${participant.name}.`, {
        fields: [{ field: 'for', message: 'must be somebody for whom you act' }],
      });
    }
  }
  const now = platform.clock.now();
  const command: ReplyCommand = {
    reply: answer.reply,
    note: answer.note,
    occurrence: answer.occurrence ?? null,
    stamp: now,
    sequence: null,
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

/**
 * Counts a REPLY that came back by mail (RFC 5546 section 3.2.3): each answer in it, all or none.
 * @param calendar the text/calendar part
 * @throws Refusal saying why it cannot be counted
 */
export async function receiveReply(platform: Platform, calendar: string): Promise<void> {
  const answers = readReply(calendar);
  await transaction(platform.pool, async (tx) => {
    const ids = await findByUid(
      tx,
      answers.map((one) => one.uid),
    );
    for (const answer of answers) await receiveAnswer(tx, platform, ids.get(answer.uid), answer);
  });
}

async function receiveAnswer(
  tx: Transaction,
  platform: Platform,
  id: string | undefined,
  answer: ReplyMessage,
): Promise<void> {
  const meeting = id === undefined ? null : await lockMeeting(tx, id);
  if (!meeting) {
    throw new Refusal('unknown-meeting', 'The answer is for a meeting not known here.');
  }
  const attendee = await findByAddress(tx, meeting.id, answer.email);
  if (attendee === null) throw notInvited();
  const now = platform.clock.now();
  const command: ReplyCommand = {
    reply: answer.reply,
    note: answer.comment,
    occurrence: isSeries(meeting) ? (answer.occurrence?.(meeting.timing.zone) ?? null) : null,
    stamp: answer.stamp ?? now,
    sequence: answer.sequence,
  };
  const decision = decideReply(meeting, attendee, command, now);
  await carryOut(tx, platform, { kind: 'system' }, meeting, decision);
}

function readReply(calendar: string): ReplyMessage[] {
  try {
    return parseReply(calendar);
  } catch (error) {
    const why = error instanceof Error ? error.message : 'It cannot be read.';
    throw new Refusal('not-a-reply', why, {
      fields: [{ field: 'calendar', message: 'must be an iTIP REPLY' }],
    });
  }
}
