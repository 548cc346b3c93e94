import { type FindQuery, type FindResponse } from '../../contract/places.ts';
import { MOST_PLACES_FOUND } from '../../contract/limits.ts';
import {
  findPlaces,
  notThen,
  type FindablePlace,
  type NotThen,
} from '../../core/booking/finding.ts';
import { brokenInWords, rulesInWords } from '../../core/booking/ruleWords.ts';
import { grouped } from '../../core/grouped.ts';
import { DAY } from '../../core/time/interval.ts';
import { startOfDay } from '../../core/time/wall.ts';
import { may } from '../access/index.ts';
import { breather, type PersonActor } from '../actions/index.ts';
import type { Database } from '../db/transaction.ts';
import { readClaims, readTeamNames, readTeams } from '../reservations/index.ts';
import { readKind, readSites, readWhereabouts } from './queries.ts';

/** Clocks of the world lie so far apart at most. */
const APART = 15 * 60 * 60_000;

/**
 * Places of a kind that are to be had on a day for so long: free ones first, and what keeps the others
 * out. Who has the others is not looked at.
 * @param now epoch milliseconds
 */
export async function placesFound(
  db: Database,
  actor: PersonActor,
  query: FindQuery,
  now: number,
): Promise<FindResponse> {
  const { kind, date, from, to, seats, near, q } = query;
  const [resources, sites, teams, people] = await Promise.all([
    readKind(db, kind),
    readSites(db),
    readTeams(db, actor.me.id),
    near.length > 0 ? readWhereabouts(db, near) : [],
  ]);
  const noon = startOfDay(date, 'UTC');
  const around = { start: noon - APART - DAY, end: noon + 2 * DAY + APART };
  const claims = grouped(
    await readClaims(
      db,
      resources.map((one) => one.id),
      around,
    ),
    (one) => one.resourceId,
  );
  const places = resources.map((one): FindablePlace & typeof one => ({
    ...one,
    taken: claims.get(one.id) ?? [],
    isKept: may(actor, 'exceed', one.id),
  }));
  const wishes = {
    siteId: query.site ?? null,
    floor: query.floor ?? null,
    seats,
    features: query.with,
    text: q,
    time: { date, from, to, minutes: query.minutes ?? to - from },
    near: people,
  };
  const booker = { id: actor.me.id, teams, has: [] };
  const { found, excluded, isOver } = findPlaces(places, wishes, booker, now);
  const shown = found.slice(0, MOST_PLACES_FOUND);
  const teamNames = await readTeamNames(
    db,
    shown.flatMap(({ place }) => place.rules.teams ?? []),
  );
  const words = { clock: actor.me.clock, teamNames };
  const said = ({ why, instead }: NotThen, { rules }: FindablePlace) => ({
    why:
      why === 'over'
        ? 'over'
        : why === 'taken'
          ? 'is taken'
          : why.map((one) => brokenInWords(one, { ...words, rules })).join('; '),
    instead,
  });
  const atSite = resources.filter((one) => query.site === undefined || one.siteId === query.site);
  // A place after the other, so that those who wait meanwhile are answered.
  const breathe = breather();
  const reasons: FindResponse['places'][number]['notThen'][] = [];
  for (const { place, free } of shown) {
    await breathe();
    reasons.push(free ? null : said(notThen(place, wishes.time, booker, now), place));
  }
  return {
    places: shown.map(({ place, free, near: close }, k) => ({
      notThen: reasons[k]!,
      id: place.id,
      name: place.name,
      kind: place.kind,
      site: place.site,
      zone: place.zone,
      floor: place.floor,
      capacity: place.capacity,
      features: place.features,
      ruleWords: rulesInWords(place.rules, place, words),
      free,
      near: close,
    })),
    total: found.length,
    free: found.filter((one) => one.free).length,
    isOver,
    excluded,
    choices: {
      sites: sites.map(({ id, name }) => ({ id, name })),
      floors: [...new Set(atSite.map((one) => one.floor).filter(Boolean))].sort(),
      features: [...new Set(resources.flatMap((one) => one.features))].sort(),
    },
  };
}
