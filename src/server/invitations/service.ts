import type { InvitationDetail, Reply } from '../../contract/invitations.ts';
import type { Me } from '../../contract/session.ts';
import { closeness } from '../../core/availability/conflicts.ts';
import { occurrenceNamed, parseReply } from '../../core/icalendar/parse.ts';
import { HOUR } from '../../core/time/interval.ts';
import { addDays, dateAt, startOfDay, type WallTime } from '../../core/time/wall.ts';
import { transaction, type Database, type Transaction } from '../db/transaction.ts';
import { readCalendar } from '../calendar/service.ts';
import {
  detailFor,
  happensAt,
  insertLog,
  lockEvent,
  peopleOf,
  planOf,
  readEvent,
  replacePersonClaims,
  visibleEvent,
  type EventRecord,
} from '../events/index.ts';
import { invalid, Problem } from '../http/problem.ts';
import { announce } from '../live/hub.ts';
import type { Platform } from '../platform.ts';
import { findByUid, readOccurrenceReply, updateOccurrenceReply, updateReply } from './queries.ts';

const notInvited = () => new Problem(403, 'not-invited', 'You are not invited to this meeting.');

/** An invitation beside the invitee's own day, conflicts and near misses named. */
export async function invitation(
  db: Database,
  me: Me,
  eventId: string,
  now: number,
  occurrence?: WallTime,
): Promise<InvitationDetail> {
  const event = await visibleEvent(db, me, eventId, now, occurrence);
  const mine = event.attendees.find((attendee) => attendee.personId === me.id);
  if (!mine) throw notInvited();
  const own = occurrence && (await readOccurrenceReply(db, eventId, me.id, occurrence));
  const date = dateAt(event.start, me.zone);
  const lastDate = dateAt(event.end - 1, me.zone);
  const dayStart = startOfDay(date, me.zone);
  const dayEnd = startOfDay(addDays(lastDate, 1), me.zone);
  const around = await readCalendar(db, me.id, dayStart - HOUR, dayEnd + HOUR);
  const others = around.filter((item) => item.eventId !== eventId);
  const conflicts = others.flatMap((item) => {
    const kind = item.occupancy === 'free' ? null : closeness(item, event);
    return kind ? [{ title: item.title, start: item.start, end: item.end, kind }] : [];
  });
  return {
    event: await detailFor(db, event, me),
    myReply: own ? own.reply : mine.reply,
    myNote: own ? own.note : mine.note,
    day: others.filter((item) => item.start < dayEnd && item.end > dayStart),
    dayStart,
    dayEnd,
    conflicts: conflicts.sort(
      (a, b) => Number(b.kind === 'overlap') - Number(a.kind === 'overlap'),
    ),
  };
}

/**
 * Keeps my answer and claims or frees my time accordingly.
 * @throws Problem 403 when I am not invited or organise it myself, 409 when it is cancelled
 */
export async function replyTo(
  tx: Transaction,
  platform: Platform,
  me: Me,
  eventId: string,
  answer: { reply: Reply; note: string; occurrence?: WallTime | undefined },
): Promise<EventRecord> {
  await lockEvent(tx, eventId);
  const event = await visibleEvent(tx, me, eventId, platform.clock.now());
  if (!event.attendees.some((one) => one.personId === me.id && one.role !== 'organizer')) {
    throw notInvited();
  }
  return keepReply(tx, platform, event, {
    ...answer,
    occurrence: answer.occurrence ?? null,
    email: me.email,
    personId: me.id,
  });
}

async function keepReply(
  tx: Transaction,
  platform: Platform,
  event: EventRecord,
  answer: {
    reply: Reply;
    note: string;
    occurrence: WallTime | null;
    email: string;
    personId: number | null;
  },
): Promise<EventRecord> {
  if (event.status === 'cancelled') {
    throw new Problem(
      409,
      'cancelled',
      'This meeting has been cancelled; there is nothing to answer.',
    );
  }
  const now = platform.clock.now();
  const { occurrence } = answer;
  if (
    occurrence !== null &&
    !(event.rule && happensAt(planOf({ ...event, rule: event.rule }), occurrence))
  ) {
    throw invalid([{ field: 'occurrence', message: 'must be an occurrence of the series' }]);
  }
  const kept =
    occurrence === null
      ? await updateReply(tx, { ...answer, eventId: event.id, now })
      : await updateOccurrenceReply(tx, { ...answer, occurrence, eventId: event.id, now });
  if (!kept) throw notInvited();
  if (answer.personId !== null) await replacePersonClaims(tx, event.id, answer.personId);
  await insertLog(tx, {
    at: now,
    actorId: answer.personId,
    action: `reply.${answer.reply}`,
    eventId: event.id,
    details: { email: answer.email, ...(occurrence && { occurrence }) },
  });
  await announce(tx, ['calendar', 'invitations', 'replies'], peopleOf(event));
  return (await readEvent(tx, event.id, now, occurrence ?? undefined))!;
}

/**
 * Counts a REPLY that came back by mail (RFC 5546 section 3.2.3).
 * @param calendar the text/calendar part
 * @throws Problem 422 saying why it cannot be counted
 */
export async function receiveReply(platform: Platform, calendar: string): Promise<void> {
  const message = readReply(calendar);
  await transaction(platform.pool, async (tx) => {
    const known = await findByUid(tx, message.uid);
    if (!known)
      throw new Problem(422, 'unknown-meeting', 'The answer is for a meeting not known here.');
    await lockEvent(tx, known.id);
    const event = (await readEvent(tx, known.id, platform.clock.now()))!;
    if (message.sequence < event.sequence) {
      throw new Problem(422, 'outdated', 'The answer is for an earlier time of this meeting.');
    }
    const attendee = event.attendees.find((one) => one.email.toLowerCase() === message.email);
    if (!attendee || attendee.role === 'organizer') throw notInvited();
    await keepReply(tx, platform, event, {
      reply: message.reply,
      occurrence:
        event.rule !== null && message.recurrenceId !== null
          ? occurrenceNamed(message.recurrenceId, event.zone)
          : null,
      note: message.comment,
      email: message.email,
      personId: attendee.personId,
    });
  });
}

function readReply(calendar: string) {
  try {
    return parseReply(calendar);
  } catch (error) {
    const why = error instanceof Error ? error.message : 'It cannot be read.';
    throw new Problem(422, 'not-a-reply', why, {
      fields: [{ field: 'calendar', message: 'must be an iTIP REPLY' }],
    });
  }
}
