import type {
  SiteClosurePreview,
  SiteClosureRequest,
  siteClosed,
} from '../../contract/closures.ts';
import type { z } from 'zod';
import { MOST_DISPLACED } from '../../core/booking/replacing.ts';
import { grouped } from '../../core/grouped.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import type { Interval } from '../../core/time/interval.ts';
import { requireKeeper, titleIn, titlesSeen } from '../access/index.ts';
import { actorId, type PersonActor } from '../actions/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { giveOtherPlaces, lockMeetings } from '../events/index.ts';
import { commitThings, type ChangeOf } from '../facts/index.ts';
import type { Platform } from '../platform.ts';
import { holdResources, insertClosures } from '../reservations/index.ts';
import { MOST_PLACES_CLOSED } from './limits.ts';
import { readPlacesAt, readStanding } from './queries.ts';
import { closureEdit, factOf } from './service.ts';

/** The places of a site that are in use, all of which the actor looks after. @throws Refusal where they do not */
async function placesAt(db: Database, actor: PersonActor, siteId: number) {
  const places = await readPlacesAt(db, siteId, MOST_PLACES_CLOSED + 1);
  if (places.length === 0)
    throw new Refusal('no-such-site', 'There is no such site, or it has no places.', {
      fields: [{ field: 'id', message: 'must be the number of a site with places' }],
    });
  if (places.length > MOST_PLACES_CLOSED)
    throw invalid([
      { field: 'id', message: `must be a site of at most ${MOST_PLACES_CLOSED} places` },
    ]);
  requireKeeper(actor, places);
  return places;
}

/**
 * What would become of the bookings of a site if all its places were closed for a time: they would go on without one.
 * @throws Refusal unless the actor looks after all of them
 */
export async function previewSiteClosure(
  db: Database,
  actor: PersonActor,
  siteId: number,
  span: Interval,
): Promise<SiteClosurePreview> {
  const places = await placesAt(db, actor, siteId);
  const names = new Map(places.map(({ id, name }) => [id, name]));
  const { bookings, total } = await readStanding(db, [...names.keys()], span, MOST_DISPLACED);
  const seen = await titlesSeen(
    db,
    actor,
    bookings.map((one) => one.eventId),
  );
  return {
    places: places.length,
    total,
    bookings: bookings.map((one) => {
      const { eventId, occurrence, start, end, holder, people, placeId } = one;
      return {
        ...{ eventId, occurrence, start, end, holder },
        place: names.get(placeId)!,
        people: one.listsAll ? people : 1,
        title: titleIn(seen, one),
      };
    }),
  };
}

/**
 * Takes all places of a site out of use for a time, in one transaction; what is booked there goes on without a place,
 * and whoever has it is told. Taken back as one.
 * @throws Refusal where more or fewer bookings stand there than were looked at, or too many at once
 */
export async function closeSite(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  siteId: number,
  { start, end, reason, message, seen }: SiteClosureRequest,
): Promise<z.output<typeof siteClosed>> {
  const span = { start, end };
  const ids = (await placesAt(tx, actor, siteId)).map(({ id }) => id);
  // Meetings before places, as everybody holds them; what was booked in between is found by its number.
  const before = await readStanding(tx, ids, span, MOST_DISPLACED + 1);
  const meetings = await lockMeetings(
    tx,
    [...new Set(before.bookings.map((one) => one.eventId))].sort(),
  );
  const held = await holdResources(tx, ids, () => 'id');
  const { bookings, total } = await readStanding(tx, ids, span, MOST_DISPLACED + 1);
  if (
    total !== seen ||
    bookings.length > MOST_DISPLACED ||
    bookings.some((one) => !meetings.has(one.eventId))
  )
    throw new Refusal(
      'changed-since',
      total > MOST_DISPLACED
        ? `More than ${MOST_DISPLACED} bookings stand there then. Close it for fewer days at once.`
        : 'Other bookings stand there by now than those you decided about. Look at them again; nothing was changed.',
      { fields: [{ field: 'seen', message: `must be ${total}, as many as there are` }] },
    );
  const said = [reason, message].filter(Boolean).join('. ');
  const dates = bookings.map((one) => ({
    ...one,
    placeId: null,
    from: { id: one.placeId, name: held.get(one.placeId)!.name },
  }));
  const undo = await giveOtherPlaces(
    ...([tx, platform, actor, meetings] as const),
    grouped(dates, (one) => one.eventId),
    ...([held, said] as const),
  );
  const closures = await insertClosures(
    tx,
    [...held].map(([id, { units }]) => ({ id, units })),
    { start, end, reason },
    { by: actorId(actor), now: platform.clock.now() },
  );
  // What became of a meeting is taken back with the first of its places.
  const placeOf = new Map<string, number>();
  for (const { eventId, from } of dates) if (!placeOf.has(eventId)) placeOf.set(eventId, from.id);
  const undoOf = grouped(undo, ({ id }: ChangeOf) => placeOf.get(id)!);
  const changes = await commitThings(
    tx,
    platform,
    actor,
    [...closures].map(([placeId, id]) => {
      const closure = { id, placeId, start, end, reason };
      return {
        fact: factOf(closure, held.get(placeId)!.name, 'place-shut'),
        edits: [closureEdit(closure)],
        meetings: undoOf.get(placeId) ?? [],
      };
    }),
  );
  return {
    places: closures.size,
    without: bookings.length,
    changes: changes.flatMap((one) => one ?? []),
  };
}
