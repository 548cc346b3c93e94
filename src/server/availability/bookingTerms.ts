import type { BookingTerms } from '../../core/booking/terms.ts';
import { barredTime, termsOfRules } from '../../core/booking/rules.ts';
import type { Interval } from '../../core/time/interval.ts';
import type { WallTime } from '../../core/time/wall.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database } from '../db/transaction.ts';
import { readHad, readResources, readTeams } from '../reservations/index.ts';
import { may } from '../access/index.ts';

/** Who would book the places that are asked for, and when they ask; epoch milliseconds. */
export interface Asking {
  actor: PersonActor;
  now: number;
}

/** What the rules of a place say of somebody's bookings. */
interface TermsOf {
  /** When they give it to none of them, however long; see `barredTime`. */
  barred: Interval[];
  /** What they ask of the others. */
  terms: BookingTerms | null;
}

/**
 * What the rules of places say of somebody's bookings within a window, by place. Whoever looks after a
 * place is not bound by its own.
 * @param except what is moved, which counts to no week's limit
 */
export async function readTermsOf(
  db: Database,
  ids: readonly number[],
  window: Interval,
  { actor, now }: Asking,
  except: { eventId: string; occurrence?: WallTime | undefined } | null = null,
): Promise<ReadonlyMap<number, TermsOf>> {
  const { id } = actor.me;
  const bound = ids.filter((place) => !may(actor, 'exceed', place));
  if (bound.length === 0) return new Map();
  const [places, teams] = await Promise.all([readResources(db, bound), readTeams(db, id)]);
  const limited = [...places.values()].filter(({ rules }) => rules.weeklyMinutes !== null);
  const limitedIds = limited.map((place) => place.id);
  const without = except && { eventIds: [except.eventId], occurrence: except.occurrence };
  const had = await readHad(db, id, limitedIds, window, without);
  return new Map(
    [...places.values()].map((place) => {
      const booker = { id, isSteward: false, teams, has: had.get(place.id) ?? [] };
      const barred = barredTime(place.rules, window, booker, { zone: place.zone, now });
      return [place.id, { barred, terms: termsOfRules(place.rules, window, booker, place.zone) }];
    }),
  );
}
