import type { MyBooking, PresenceRequest, PresenceResponse } from '../../contract/bookings.ts';
import {
  cannotCheckIn,
  cannotCheckOut,
  checkInFrom,
  givenUpAt,
  type NotNow,
} from '../../core/booking/presence.ts';
import { Refusal } from '../../core/refusal.ts';
import { formatNear } from '../../core/time/format.ts';
import { MINUTE } from '../../core/time/interval.ts';
import { may } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { lockMeeting, noteOf, type StoredMeeting } from '../events/index.ts';
import type { Platform } from '../platform.ts';
import {
  checkIn,
  checkOut,
  holdResources,
  readReservation,
  ResourcesTaken,
  type HeldResources,
  type PlacedReservation,
} from '../reservations/index.ts';
import { readExpectedOf, isAttendee } from './queries.ts';
import { SHOWN_AHEAD_MS } from './limits.ts';

/** What stands in somebody's calendar of places that wait for somebody to check in. */
export async function myBookings(
  db: Database,
  actor: PersonActor,
  now: number,
): Promise<MyBooking[]> {
  const rows = await readExpectedOf(db, actor.me.id, { start: now, end: now + SHOWN_AHEAD_MS });
  return rows
    .filter((one) => one.end > now)
    .map(({ graceMinutes, since, ...one }) => ({
      ...one,
      from: checkInFrom(one),
      givenUpAt: givenUpAt({ start: Math.max(one.start, since), end: one.end }, graceMinutes),
    }));
}

interface Found {
  meeting: StoredMeeting;
  resources: HeldResources;
  reservation: PlacedReservation;
}

/**
 * What a date of a meeting has of a place, held, for somebody who takes part in it or looks after places.
 * @throws Refusal when there is none, or it is not theirs, which is one answer
 */
async function heldFor(
  tx: Transaction,
  actor: PersonActor,
  { eventId, occurrence = null, placeId }: PresenceRequest,
): Promise<Found> {
  const meeting = await lockMeeting(tx, eventId);
  const isSteward = may(actor, 'change', placeId);
  const mine = meeting && (isSteward || (await isAttendee(tx, eventId, actor.principals)));
  const resources = mine ? await holdResources(tx, [placeId], () => 'placeId') : null;
  const reservation = resources && (await readReservation(tx, eventId, occurrence, placeId));
  if (!meeting || !resources || !reservation) {
    throw new Refusal('no-such-booking', 'There is no such booking of yours.', {
      fields: [{ field: 'eventId', message: 'must be something that has this place then' }],
    });
  }
  return { meeting, resources, reservation };
}

/**
 * Keeps that somebody is there. Whoever left before has the rest of the time again, if it is free.
 * @throws Refusal naming why it cannot be now
 */
export async function arrive(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  request: PresenceRequest,
): Promise<PresenceResponse> {
  const found = await heldFor(tx, actor, request);
  const { meeting, reservation, resources } = found;
  const now = platform.clock.now();
  refuseNow(cannotCheckIn(reservation, reservation, now), found, actor, now);
  const resource = resources.get(reservation.resourceId)!;
  if (!(await checkIn(tx, reservation, resource, now))) {
    const { start, end } = reservation;
    throw new ResourcesTaken(
      [{ resourceId: resource.id, recurrenceId: request.occurrence ?? null, start, end }],
      { id: meeting.id, people: meeting.participants.length, resources: [resource.id] },
    );
  }
  await note(tx, platform, actor, found, request, 'checked-in');
  return { state: 'in-use', usedAt: reservation.usedAt ?? now, leftAt: null };
}

/**
 * Keeps that somebody left, and gives the rest of their time to others.
 * @throws Refusal naming why it cannot be now
 */
export async function leave(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  request: PresenceRequest,
): Promise<PresenceResponse> {
  const found = await heldFor(tx, actor, request);
  const { reservation, resources } = found;
  const now = platform.clock.now();
  refuseNow(cannotCheckOut(reservation, reservation, now), found, actor, now);
  checkOut(tx, reservation, resources.get(reservation.resourceId)!, now);
  await note(tx, platform, actor, found, request, 'checked-out');
  const leftAt = Math.max(now, reservation.start + MINUTE);
  return { state: 'in-use', usedAt: reservation.usedAt, leftAt };
}

const note = (
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  { meeting, reservation, resources }: Found,
  { occurrence = null }: PresenceRequest,
  kind: 'checked-in' | 'checked-out',
) => {
  const { id, name } = resources.get(reservation.resourceId)!;
  return noteOf(tx, platform, actor, meeting, kind, { place: name, resource: id }, { occurrence });
};

/** @throws Refusal unless there is no reason why it cannot be now */
function refuseNow(
  reason: NotNow | null,
  { reservation, resources }: Found,
  { me }: PersonActor,
  now: number,
): void {
  if (!reason) return;
  const { name } = resources.get(reservation.resourceId)!;
  const near = (instant: number) => formatNear(instant, now, me);
  const from = near(checkInFrom(reservation));
  const sentences: Record<NotNow, string> = {
    'too-early': `${name} can be checked in to from ${from} on.`,
    over: `This booking of ${name} is over.`,
    'not-agreed': `Nobody has agreed to this booking of ${name} yet.`,
    'there-already': `Somebody has checked in to ${name} already.`,
    'left-already': `${name} was left at ${near(reservation.leftAt ?? now)} already.`,
    'not-there': `Nobody has checked in to ${name}.`,
  };
  throw new Refusal(`check-in-${reason}`, sentences[reason]);
}
