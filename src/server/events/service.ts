import { randomUUID } from 'node:crypto';
import type {
  CancelEventRequest,
  EventAttendee,
  EventChange,
  EventTimes,
  Invitee,
  NewEvent,
} from '../../contract/events.ts';
import type { Me } from '../../contract/session.ts';
import { resolveSpan, type ResolvedSpan } from '../../core/time/eventTimes.ts';
import type { Transaction } from '../db/transaction.ts';
import { invalid, Problem } from '../http/problem.ts';
import { announce } from '../live/hub.ts';
import { readContacts, readContactsByEmail } from '../people/service.ts';
import { holdResources } from '../places/service.ts';
import type { Platform } from '../platform.ts';
import { writeToAttendees, type Occasion } from './letters.ts';
import { peopleOf, type EventRecord } from './model.ts';
import { detailFor, ownEvent } from './present.ts';
import {
  deleteClaims,
  insertAttendees,
  insertClaims,
  insertEvent,
  insertLog,
  lockEvent,
  readEvent,
  replaceReservations,
  resetReplies,
  updateDetails,
  updateTimes,
} from './queries.ts';

const LONGEST_DAYS = 62;

/**
 * The instants of an event's times.
 * @throws Problem 400 when the end does not come after the start, or lies too far behind it
 */
export function spanOf(times: EventTimes): ResolvedSpan {
  const span = resolveSpan(times);
  if (span.end <= span.start) {
    throw invalid([{ field: 'times.endsAt', message: 'must be later than times.startsAt' }]);
  }
  if (span.lengthMinutes > LONGEST_DAYS * 24 * 60) {
    throw invalid([
      { field: 'times.endsAt', message: `may be at most ${LONGEST_DAYS} days after the start` },
    ]);
  }
  if (times.allDay && !(times.startsAt.endsWith('T00:00') && times.endsAt.endsWith('T00:00'))) {
    throw invalid([{ field: 'times.allDay', message: 'needs both times to be midnights' }]);
  }
  return span;
}

/**
 * Makes an event, invites its people and reserves its resources, all or nothing.
 * @throws Problem 400 naming the field that is wrong; the constraint's error when a resource is taken
 */
export async function createEvent(
  tx: Transaction,
  platform: Platform,
  me: Me,
  request: NewEvent,
): Promise<{ event: EventRecord; notes: string[] }> {
  const now = platform.clock.now();
  const span = spanOf(request.times);
  const invited = await resolveInvitees(tx, me, request.attendees);
  const domain = me.email.split('@')[1] ?? 'marmot.invalid';
  const id = await insertEvent(tx, request, span, {
    organizerId: me.id,
    uid: `${randomUUID()}@${domain}`,
    now,
  });
  const organizer = {
    personId: me.id,
    name: me.name,
    email: me.email,
    role: 'organizer' as const,
    reply: 'accepted' as const,
  };
  await insertAttendees(tx, id, [organizer, ...invited], now);
  await replaceReservations(tx, id, await holdResources(tx, request.resources, span));
  await insertClaims(tx, [id]);
  const event = (await readEvent(tx, id, now))!;
  const mails = request.send
    ? await writeToAttendees(tx, platform, event, 'invited', request.message)
    : 0;
  await record(tx, platform, me, event, 'create', { mails });
  return { event, notes: span.notes };
}

/** People and outside addresses as attendees; an address that is a colleague's is that colleague. */
async function resolveInvitees(tx: Transaction, me: Me, invitees: readonly Invitee[]) {
  const ids = invitees.flatMap((one) => ('personId' in one ? [one.personId] : []));
  const emails = invitees.flatMap((one) => ('email' in one ? [one.email] : []));
  const contacts = await readContacts(tx, ids);
  const byEmail = await readContactsByEmail(tx, emails);
  const seen = new Set<string>([me.email.toLowerCase()]);
  const attendees: Pick<EventAttendee, 'personId' | 'name' | 'email' | 'role' | 'reply'>[] = [];
  invitees.forEach((one, k) => {
    const known =
      'personId' in one ? contacts.get(one.personId) : byEmail.get(one.email.toLowerCase());
    if ('personId' in one && !known) {
      throw invalid([{ field: `attendees.${k}.personId`, message: 'must be the id of a person' }]);
    }
    const email = known?.email ?? ('email' in one ? one.email : '');
    if (seen.has(email.toLowerCase())) return;
    seen.add(email.toLowerCase());
    attendees.push({
      personId: known?.id ?? null,
      name: known?.name ?? ('email' in one && one.name ? one.name : email),
      email,
      role: one.role,
      reply: 'needs-action',
    });
  });
  return attendees;
}

/**
 * Changes an event in place; its resources are never free in between.
 * @throws Problem 409 with the present state when `version` is not the present one
 */
export async function changeEvent(
  tx: Transaction,
  platform: Platform,
  me: Me,
  id: string,
  change: EventChange,
): Promise<{ event: EventRecord; notes: string[] }> {
  const before = await lockOwnEvent(tx, platform, me, id, change.version);
  if (before.status === 'cancelled') {
    throw new Problem(409, 'cancelled', 'This event is cancelled; restore it before changing it.');
  }
  if (before.rule && change.times) {
    throw invalid([
      {
        field: 'times',
        message: 'cannot be changed for a whole series yet; cancel it and make it anew',
      },
    ]);
  }
  const now = platform.clock.now();
  const span = change.times ? spanOf(change.times) : null;
  const moved = span !== null && (span.start !== before.start || span.end !== before.end);
  if (change.times && span) await updateTimes(tx, id, change.times, span);
  if (moved) await resetReplies(tx, id, now);
  const wanted = change.resources ?? before.resources.map((resource) => resource.id);
  const rebook = moved || change.resources !== undefined;
  const reclaim = rebook || change.showsAs !== undefined;
  if (reclaim) await deleteClaims(tx, id);
  if (rebook) {
    const held = await holdResources(tx, wanted, span ?? before);
    await replaceReservations(tx, id, held);
  }
  await updateDetails(
    tx,
    {
      id,
      title: change.title ?? before.title,
      description: change.description ?? before.description,
      place: change.place ?? before.place,
      showsAs: change.showsAs ?? before.showsAs,
      visibility: change.visibility ?? before.visibility,
      status: before.status,
      // RFC 5546 section 2.1.4: a new time or place is a new revision.
      sequence: before.sequence + (rebook || change.place !== undefined ? 1 : 0),
    },
    now,
  );
  if (reclaim) await insertClaims(tx, [id]);
  const event = (await readEvent(tx, id, now))!;
  const mails = await tell(tx, platform, event, moved ? 'moved' : 'changed', change);
  await record(tx, platform, me, event, 'change', { mails, before: before.version });
  return { event, notes: span?.notes ?? [] };
}

/** Takes an event out of every calendar and frees its resources; it can be restored. */
export async function cancelEvent(
  tx: Transaction,
  platform: Platform,
  me: Me,
  id: string,
  request: Required<CancelEventRequest>,
): Promise<EventRecord> {
  const before = await lockOwnEvent(tx, platform, me, id, request.version);
  if (before.status === 'cancelled') return before;
  await deleteClaims(tx, id);
  return setStatus(tx, platform, me, before, 'cancelled', request);
}

/**
 * Takes a cancellation back, claiming people and resources anew.
 * @throws the constraint's error when a resource has been taken in the meantime
 */
export async function restoreEvent(
  tx: Transaction,
  platform: Platform,
  me: Me,
  id: string,
  request: Required<CancelEventRequest>,
): Promise<EventRecord> {
  const before = await lockOwnEvent(tx, platform, me, id, request.version);
  if (before.status === 'confirmed') return before;
  const ids = before.resources.map((resource) => resource.id);
  await replaceReservations(tx, id, await holdResources(tx, ids, before));
  return setStatus(tx, platform, me, before, 'confirmed', request);
}

async function setStatus(
  tx: Transaction,
  platform: Platform,
  me: Me,
  before: EventRecord,
  status: EventRecord['status'],
  request: { tell: 'everyone' | 'nobody'; message: string },
): Promise<EventRecord> {
  const now = platform.clock.now();
  await updateDetails(tx, { ...before, status, sequence: before.sequence + 1 }, now);
  if (status === 'confirmed') await insertClaims(tx, [before.id]);
  const event = (await readEvent(tx, before.id, now))!;
  const occasion = status === 'cancelled' ? 'cancelled' : 'restored';
  const mails = await tell(tx, platform, event, occasion, request);
  await record(tx, platform, me, event, status === 'cancelled' ? 'cancel' : 'restore', { mails });
  return event;
}

async function lockOwnEvent(
  tx: Transaction,
  platform: Platform,
  me: Me,
  id: string,
  version: number,
): Promise<EventRecord> {
  await lockEvent(tx, id);
  const event = await ownEvent(tx, me, id, platform.clock.now());
  if (event.version !== version) {
    throw new Problem(409, 'stale', 'This event was changed meanwhile; look at it again.', {
      fields: [{ field: 'version', message: `must be ${event.version}, the present version` }],
      current: detailFor(event, me),
    });
  }
  return event;
}

function tell(
  tx: Transaction,
  platform: Platform,
  event: EventRecord,
  occasion: Occasion,
  request: { tell: 'everyone' | 'nobody'; message: string },
): Promise<number> {
  if (request.tell === 'nobody') return Promise.resolve(0);
  return writeToAttendees(tx, platform, event, occasion, request.message);
}

async function record(
  tx: Transaction,
  platform: Platform,
  me: Me,
  event: EventRecord,
  action: string,
  details: Record<string, unknown>,
): Promise<void> {
  await insertLog(tx, {
    at: platform.clock.now(),
    actorId: me.id,
    action: `event.${action}`,
    eventId: event.id,
    details: { ...details, version: event.version },
  });
  await announce(tx, ['calendar', 'invitations', 'replies'], peopleOf(event));
  if (event.resources.length > 0 || action === 'change') await announce(tx, ['places'], 'everyone');
}
