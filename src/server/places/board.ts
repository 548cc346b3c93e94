import type { BoardQuery, BoardResponse } from '../../contract/places.ts';
import { rulesInWords } from '../../core/booking/ruleWords.ts';
import { Refusal } from '../../core/refusal.ts';
import { addDays, startOfDay } from '../../core/time/wall.ts';
import { Levels, projectBooking } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database } from '../db/transaction.ts';
import { readClosures, readTeamNames } from '../reservations/index.ts';
import { readBoardPlaces, readBookings, readFavourites, readSites } from './queries.ts';

/**
 * Many places over a day, or one over several, with everything that has them then, as far as the
 * asker may see it. What is kept free before and after follows from each place.
 * @throws Refusal when the one place that is asked for is none
 */
export async function placesBoard(
  db: Database,
  actor: PersonActor,
  query: BoardQuery,
): Promise<BoardResponse> {
  const [{ places, total }, sites, favourites] = await Promise.all([
    readBoardPlaces(db, query),
    readSites(db),
    readFavourites(db, actor.me.id),
  ]);
  const [first] = places;
  if (query.place !== undefined && !first) {
    throw new Refusal('no-such-place', 'There is no such place.', {
      fields: [{ field: 'place', message: 'must be the id of a room or another resource' }],
    });
  }
  const site = query.site ?? (query.place === undefined ? undefined : first!.siteId);
  const zone = sites.find((one) => one.id === site)?.zone ?? actor.me.zone;
  const edges = Array.from({ length: query.days + 1 }, (_, k) =>
    startOfDay(addDays(query.date, k), zone),
  );
  const ids = places.map((one) => one.id);
  const shown = { start: edges[0]!, end: edges.at(-1)! };
  const [rows, closures, teamNames] = await Promise.all([
    readBookings(db, actor.principals, ids, shown.start, shown.end),
    readClosures(db, ids, shown),
    readTeamNames(
      db,
      places.flatMap(({ rules }) => rules.teams ?? []),
    ),
  ]);
  const levels = await Levels.of(
    db,
    actor,
    rows.map((row) => row.organizerId),
  );
  const words = { clock: actor.me.clock, teamNames };
  return {
    places: places.map((place) => ({
      ...place,
      ruleWords: rulesInWords(place.rules, place, words),
      isFavourite: favourites.includes(place.id),
    })),
    total,
    bookings: rows.map((row) => ({
      ...projectBooking(row, levels),
      resourceId: row.resourceId,
    })),
    closures,
    sites,
    zone,
    edges,
  };
}
