import { randomUUID } from 'node:crypto';
import type {
  Cancellation,
  EventAttendee,
  EventChange,
  Invitee,
  MyPartRequest,
  NewEvent,
} from '../../contract/events.ts';
import type { Me } from '../../contract/session.ts';
import type { Transaction } from '../db/transaction.ts';
import { invalid } from '../http/problem.ts';
import { announce } from '../live/hub.ts';
import { readContacts, readContactsByEmail } from '../people/service.ts';
import { checkResources } from '../places/service.ts';
import type { Platform } from '../platform.ts';
import { changeSeries, cancelPart, wholeOf } from './changeSeries.ts';
import { contentOf, settle, withChanges, type Changed } from './change.ts';
import { applyChoices } from './choices.ts';
import { layOut } from './layOut.ts';
import { writeToAttendees } from './letters.ts';
import { isSeries, planOf, type EventRecord } from './model.ts';
import { lockOwnEvent, recordAction, refuseCancelled } from './own.ts';
import { replaceOverrides } from './overrideQueries.ts';
import { putInCategory, readDefaultReminders, replaceReminders } from './personalQueries.ts';
import { visibleEvent } from './present.ts';
import {
  insertAttendees,
  insertEvent,
  readEvent,
  replaceReservations,
  resetReplies,
  updateEvent,
} from './queries.ts';
import { keepRevision } from './revisions.ts';
import { cleanHtml } from './richText.ts';
import { beginSeries, readTimes } from './timing.ts';

/**
 * Makes an event or a series, invites its people and reserves its resources, all or nothing.
 * @throws Problem 400 naming the field that is wrong; ResourcesTaken naming the dates
 */
export async function createEvent(
  tx: Transaction,
  platform: Platform,
  me: Me,
  request: NewEvent,
): Promise<Changed> {
  const now = platform.clock.now();
  const { timing: asked, endZone, span } = readTimes(request.times);
  const begun = request.repeats ? beginSeries(asked, request.repeats) : null;
  const timing = begun?.timing ?? asked;
  const invited = await resolveInvitees(tx, me, request.attendees);
  await checkResources(tx, request.resources);
  const domain = me.email.split('@')[1] ?? 'marmot.invalid';
  const series = request.repeats && {
    ...timing,
    rule: request.repeats.rule,
    except: request.repeats.except,
    overrides: [],
  };
  const plan = series && (await applyChoices(tx, series, request.dates, request.resources));
  const id = await insertEvent(
    tx,
    {
      ...timing,
      title: request.title,
      place: request.place,
      description: cleanHtml(request.description),
      agenda: cleanHtml(request.agenda),
      notes: cleanHtml(request.notes),
      endZone,
      rule: plan?.rule ?? null,
      exceptAt: plan?.except ?? [],
      showsAs: request.showsAs,
      visibility: request.visibility,
    },
    { organizerId: me.id, createdBy: me.id, uid: `${randomUUID()}@${domain}`, now },
  );
  await insertAttendees(tx, id, [organizerOf(me), ...invited], now);
  await replaceReservations(tx, id, request.resources);
  await replaceOverrides(tx, id, plan?.overrides ?? []);
  const reminders = request.reminders ?? (await readDefaultReminders(tx, me.id));
  await keepMyPart(tx, me, id, { categoryId: request.categoryId, reminders });
  await layOut(tx, (await readEvent(tx, id, now))!, now);
  const event = (await readEvent(tx, id, now))!;
  const mails = request.send
    ? await writeToAttendees(tx, platform, event, 'invited', request.message)
    : 0;
  await recordAction(tx, platform, me, event, 'create', { mails });
  return { event, notes: [...(begun?.notes ?? []), ...span.notes] };
}

const organizerOf = (me: Me) => ({
  personId: me.id,
  name: me.name,
  email: me.email,
  role: 'organizer' as const,
  reply: 'accepted' as const,
});

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
): Promise<Changed> {
  const before = await lockOwnEvent(tx, platform, me, id, change.version);
  refuseCancelled(before);
  await checkResources(tx, change.resources ?? []);
  if (isSeries(before)) return changeSeries(tx, platform, me, before, change);
  if (change.scope !== 'all' || change.occurrence !== undefined) {
    throw invalid([{ field: 'scope', message: 'must be "all": this event does not repeat' }]);
  }
  return changeSingle(tx, platform, me, before, change);
}

async function changeSingle(
  tx: Transaction,
  platform: Platform,
  me: Me,
  before: EventRecord,
  change: EventChange,
): Promise<Changed> {
  const now = platform.clock.now();
  const read = change.times ? readTimes(change.times) : null;
  const asked = read?.timing ?? before.whole;
  const begun = change.repeats ? beginSeries(asked, change.repeats) : null;
  const timing = begun?.timing ?? asked;
  const wanted = change.resources ?? before.resources.map((one) => one.id);
  const series = change.repeats && {
    ...timing,
    rule: change.repeats.rule,
    except: change.repeats.except,
    overrides: [],
  };
  const plan = series && (await applyChoices(tx, series, change.dates, wanted));
  const moved = read !== null && (read.span.start !== before.start || read.span.end !== before.end);
  await keepRevision(tx, before, now);
  if (moved) await resetReplies(tx, before.id, now);
  if (change.resources) await replaceReservations(tx, before.id, change.resources);
  await updateEvent(
    tx,
    {
      ...withChanges(contentOf(before), change),
      ...timing,
      endZone: read ? read.endZone : before.endZone,
      rule: plan?.rule ?? null,
      exceptAt: plan?.except ?? [],
      id: before.id,
      status: before.status,
      // RFC 5546 section 2.1.4: a new time or place is a new revision.
      sequence: before.sequence + Number(moved || change.place !== undefined || !!change.resources),
    },
    now,
  );
  await replaceOverrides(tx, before.id, plan?.overrides ?? []);
  const event = await settle(tx, platform, me, before, change, moved ? 'moved' : 'changed');
  return { event, notes: [...(begun?.notes ?? []), ...(read?.span.notes ?? [])] };
}

/** Takes an event, or a part of a series, out of every calendar and frees its resources. */
export async function cancelEvent(
  tx: Transaction,
  platform: Platform,
  me: Me,
  id: string,
  request: Cancellation,
): Promise<EventRecord> {
  const before = await lockOwnEvent(tx, platform, me, id, request.version);
  if (before.status === 'cancelled') return before;
  if (isSeries(before) && !wholeOf(before, request)) {
    return cancelPart(tx, platform, me, before, request);
  }
  if (!isSeries(before) && request.scope !== 'all') {
    throw invalid([{ field: 'scope', message: 'must be "all": this event does not repeat' }]);
  }
  return setStatus(tx, platform, me, before, 'cancelled', request);
}

/**
 * Takes a cancellation back, of the event or of one occurrence, claiming people and resources anew.
 * @throws ResourcesTaken when a resource has been taken in the meantime
 */
export async function restoreEvent(
  tx: Transaction,
  platform: Platform,
  me: Me,
  id: string,
  request: {
    version: number;
    occurrence?: string | undefined;
    tell: 'everyone' | 'nobody';
    message: string;
  },
): Promise<EventRecord> {
  const before = await lockOwnEvent(tx, platform, me, id, request.version);
  if (request.occurrence !== undefined) {
    refuseCancelled(before);
    return restoreOccurrence(tx, platform, me, before, request.occurrence, request);
  }
  if (before.status === 'confirmed') return before;
  return setStatus(tx, platform, me, before, 'confirmed', request);
}

async function restoreOccurrence(
  tx: Transaction,
  platform: Platform,
  me: Me,
  before: EventRecord,
  at: string,
  request: { tell: 'everyone' | 'nobody'; message: string },
): Promise<EventRecord> {
  const now = platform.clock.now();
  const override = before.overrides.find((one) => one.recurrenceId === at && one.cancelled);
  if (!isSeries(before) || !override) {
    throw invalid([{ field: 'occurrence', message: 'must be an occurrence that was cancelled' }]);
  }
  await keepRevision(tx, before, now);
  const { overrides } = planOf(before);
  const restored = {
    ...override,
    cancelled: false,
    details: { ...override.details, cancelledAt: null },
  };
  await replaceOverrides(tx, before.id, [...overrides.filter((one) => one !== override), restored]);
  await updateEvent(
    tx,
    {
      ...contentOf(before),
      ...before.whole,
      id: before.id,
      status: before.status,
      sequence: before.sequence + 1,
    },
    now,
  );
  return settle(tx, platform, me, before, request, 'restored', at);
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
  await keepRevision(tx, before, now);
  await updateEvent(
    tx,
    { ...contentOf(before), id: before.id, status, sequence: before.sequence + 1 },
    now,
  );
  return settle(
    tx,
    platform,
    me,
    before,
    request,
    status === 'cancelled' ? 'cancelled' : 'restored',
  );
}

/**
 * Keeps my own category and reminders of an event I may see.
 * @throws Problem 400 when the category is not mine
 */
export async function changeMyPart(
  tx: Transaction,
  platform: Platform,
  me: Me,
  id: string,
  request: MyPartRequest,
): Promise<EventRecord> {
  const event = await visibleEvent(tx, me, id, platform.clock.now());
  await keepMyPart(tx, me, id, request);
  await announce(tx, ['calendar'], [me.id]);
  return event;
}

async function keepMyPart(tx: Transaction, me: Me, id: string, request: MyPartRequest) {
  const { categoryId, reminders } = request;
  if (categoryId !== undefined && !(await putInCategory(tx, id, me.id, categoryId))) {
    throw invalid([{ field: 'categoryId', message: 'must be one of your own categories' }]);
  }
  if (reminders) await replaceReminders(tx, id, me.id, reminders);
}
