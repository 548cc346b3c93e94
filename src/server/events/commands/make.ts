import type { MadeEvent } from '../../../contract/eventDetail.ts';
import type { NewEvent } from '../../../contract/events.ts';
import { MOST_CHANGED } from '../../../contract/limits.ts';
import { may } from '../../access/index.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import type { Platform } from '../../platform.ts';
import { readBookingsOf, writeNote } from '../../reservations/index.ts';
import { actingFor, bookingFor } from '../../session/index.ts';
import { detailAgain } from '../read/again.ts';
import { createEvent, fieldNaming } from './create.ts';
import { holdTogether } from './holdTogether.ts';
import { makeRoom } from './makeRoom.ts';

/** Whether somebody who looks after places books one for somebody for whom they do not act. */
const isBookedForOthers = (actor: PersonActor, request: NewEvent): boolean =>
  request.for !== undefined &&
  !actor.principals.includes(request.for) &&
  request.resources.length > 0 &&
  request.resources.every((id) => may(actor, 'book-for', id)) &&
  request.attendees.length === 0 &&
  request.moving.length === 0 &&
  request.draft === null;

/**
 * Makes an event as it is asked for: of one's own, for somebody for whom one acts, or as a booking for
 * anybody; with what is moved for it, and with what those who look after its places are told.
 * @returns it as its asker may see it, and what that is made again from
 * @throws Refusal
 */
export async function makeEvent(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  request: NewEvent,
): Promise<{ made: MadeEvent; again: ReturnType<typeof detailAgain> & { more: object } }> {
  const { moving, resources } = request;
  const moves = moving.map((one) => one.eventId);
  const held =
    moves.length > 0 ? await holdTogether(tx, moves, resources, fieldNaming(resources)) : undefined;
  const moved = held ? await makeRoom(tx, platform, actor, moving, held) : [];
  const forOthers = isBookedForOthers(actor, request);
  const whose = forOthers
    ? await bookingFor(tx, actor, request.for!)
    : await actingFor(tx, actor, request.for);
  const event = await createEvent(tx, platform, whose, request, held);
  if (request.forStewards) {
    const isMine = whose.kind === 'person' && whose.by === null;
    writeNote(tx, event.id, request.forStewards, isMine ? actor.me.id : null);
  }
  if (forOthers) {
    // What its holder has of their own is theirs; the bookings are given back as any other's are.
    const bookings = await readBookingsOf(tx, event.id, MOST_CHANGED + 1);
    const more = { categoryId: null, reminders: [], bookings };
    return { made: { ...event, ...more }, again: { ...detailAgain(event.id), more } };
  }
  const more = moved.length > 0 ? { moved } : {};
  return {
    made: { ...event, ...more },
    again: { ...detailAgain(event.id, null, request.for), more },
  };
}
