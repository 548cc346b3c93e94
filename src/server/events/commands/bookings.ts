import {
  decideBookings,
  type BookedDate,
  type BookingsChange,
} from '../../../core/meetings/bookings.ts';
import type { Actor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import type { Platform } from '../../platform.ts';
import { holdResources } from '../../reservations/index.ts';
import type { StoredMeeting } from '../store/read.ts';
import type { ChangeOf } from '../../facts/index.ts';
import { carryOutTogether } from './carryOut.ts';
import { newMeetingId } from './create.ts';

/** What came of bookings that were changed together. */
export interface ChangedBookings {
  cancelled: number;
  without: number;
  moved: number;
  undo: ChangeOf[];
}

/**
 * Changes bookings of several meetings together, whoever may change them: all of it, or nothing.
 * @param dates by the id of their meeting, all of which are held
 * @throws ResourcesTaken where a place is taken at its new time
 */
export async function changeBookings(
  tx: Transaction,
  platform: Platform,
  actor: Actor,
  meetings: ReadonlyMap<string, StoredMeeting>,
  dates: ReadonlyMap<string, readonly BookedDate[]>,
  change: BookingsChange,
  message: string,
): Promise<ChangedBookings> {
  const wanted = [...dates.values()].flat().map((one) => one.placeId);
  const held = await holdResources(
    tx,
    change.kind === 'place' ? [change.placeId, ...wanted] : wanted,
    (k) => (change.kind === 'place' && k === 0 ? 'change.placeId' : 'bookings'),
  );
  const now = platform.clock.now();
  const nameOf = (id: number) => held.get(id)!.name;
  const decided = [...dates].map(([id, some]) => {
    const before = meetings.get(id)!;
    const known = { now, newId: newMeetingId(before.uid) };
    return decideBookings(before, some, change, message, nameOf, known);
  });
  await carryOutTogether(tx, platform, actor, meetings, decided, { held, areUndoneApart: true });
  const sum = (count: (one: (typeof decided)[number]) => number) =>
    decided.reduce((all, one) => all + count(one), 0);
  return {
    cancelled: sum((one) => one.cancelled),
    without: sum((one) => one.without),
    moved: sum((one) => one.moved),
    undo: decided.map(({ after }) => ({ id: after.id, version: after.version })),
  };
}
