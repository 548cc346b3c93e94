import type { TakenDate, TakenResource } from '../../contract/eventDetail.ts';
import { claimedTime } from '../../core/booking/booking.ts';
import type { UnitClaim } from '../../core/booking/units.ts';
import { Refusal } from '../../core/refusal.ts';
import { DAY, overlaps, type Interval } from '../../core/time/interval.ts';
import { formatDay, formatSpan } from '../../core/time/format.ts';
import { Levels, projectBooking, type BookingRow } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import { sqlState, type Database } from '../db/transaction.ts';
import { readClosures, ResourcesTaken } from '../reservations/index.ts';
import type { Closure } from '../../contract/closures.ts';
import {
  readBookingsNear,
  readEmails,
  readPlaceClaimsNear,
  readPlaceResources,
  type ResourceFacts,
} from './queries.ts';
import { standInsFor, alternatives, type RefusedWish } from './alternatives.ts';
import { LOOK_AROUND_MS } from './limits.ts';
import { MOST_DATES_DECIDED, MOST_DATES_NAMED } from './limits.ts';

const EXCLUSION_VIOLATION = '23P01';

/**
 * Says of a double booking that was refused what stands in the way, as far as the asker may see it,
 * and the nearest ways out, for each date of a series: three statements, however many dates. Called
 * after everything of the action was rolled back.
 * @returns null when the error is none of a double booking
 */
export async function explainTaken(
  db: Database,
  actor: PersonActor,
  error: unknown,
  now: number,
): Promise<Refusal | null> {
  if (sqlState(error) === EXCLUSION_VIOLATION) return takenMeanwhile();
  if (!(error instanceof ResourcesTaken)) return null;
  const starts = [...new Set(error.wishes.map((wish) => wish.start))];
  const dates = await explainDates(db, actor, error, starts.slice(0, MOST_DATES_DECIDED), now);
  const [first] = dates;
  if (!first?.taken[0]) return takenMeanwhile();
  return new Refusal('resource-taken', sentence(dates, starts.length, actor), {
    ...error.facts,
    taken: first.taken,
    alternatives: first.alternatives,
    ...(first.at && { dates, furtherDates: starts.length - dates.length }),
  });
}

const takenMeanwhile = () =>
  new Refusal(
    'resource-taken',
    'The place was taken at the same moment and is free again by now. Nothing was booked; try again.',
    {
      fields: [{ field: 'resources', message: 'must be free at that time' }],
      taken: [],
      alternatives: [],
    },
  );

async function explainDates(
  db: Database,
  actor: PersonActor,
  { wishes, meeting }: ResourcesTaken,
  starts: readonly number[],
  now: number,
): Promise<TakenDate[]> {
  const all = await readPlaceResources(db, null);
  const byId = new Map(all.map((one) => [one.id, one]));
  const missed = starts.map((start) => {
    const here = wishes.filter((wish) => wish.start === start);
    const { end, recurrenceId } = here[0]!;
    return { start, end, recurrenceId, resources: here.map((one) => one.resourceId) };
  });
  const wishOf = (wanted: ResourceFacts, one: (typeof missed)[number]): RefusedWish => ({
    wanted,
    resources: [...new Set([...one.resources, ...meeting.resources])],
    span: one,
    people: meeting.people,
  });
  const windows = missed.map(({ start, end }) => ({
    start: start - LOOK_AROUND_MS,
    end: end + LOOK_AROUND_MS,
  }));
  const wanted = [...new Set(missed.flatMap((one) => one.resources))].map((id) => byId.get(id)!);
  const near = missed.flatMap((one) =>
    one.resources.flatMap((id) => standInsFor(wishOf(byId.get(id)!, one), all)),
  );
  const ids = [...new Set([...wanted, ...near].map((one) => one.id)), ...meeting.resources];
  const claims = new Map<number, UnitClaim[]>();
  for (const claim of await readPlaceClaimsNear(db, ids, windows)) {
    claims.set(claim.resourceId, [...(claims.get(claim.resourceId) ?? []), claim]);
  }
  const bookings = (
    await readBookingsNear(
      db,
      actor.principals,
      wanted.map((one) => one.id),
      missed.map(({ start, end }) => ({ start: start - DAY, end: end + DAY })),
    )
  ).filter((row) => row.eventId !== meeting.id);
  const [emails, levels, closures] = await Promise.all([
    readEmails(
      db,
      bookings.flatMap((row) => row.organizerId ?? []),
    ),
    Levels.of(
      db,
      actor,
      bookings.map((row) => row.organizerId),
    ),
    readClosures(
      db,
      wanted.map((one) => one.id),
      {
        start: Math.min(...missed.map((one) => one.start)) - DAY,
        end: Math.max(...missed.map((one) => one.end)) + DAY,
      },
    ),
  ]);
  return missed.map((one) => {
    const inTheWay = one.resources.flatMap((id) => {
      const closed = closedIn(byId.get(id)!, one, closures);
      return closed
        ? [closed]
        : blocking(byId.get(id)!, one, bookings, { levels, emails, asker: actor.me.id });
    });
    const firstTaken = byId.get(inTheWay[0]?.resourceId ?? -1);
    return {
      at: one.recurrenceId ?? '',
      start: one.start,
      end: one.end,
      taken: inTheWay,
      alternatives: firstTaken
        ? alternatives(wishOf(firstTaken, one), { resources: all, claims, now })
        : [],
    };
  });
}

/** That a resource is out of use within a span; null where it is not. */
function closedIn(
  resource: ResourceFacts,
  span: Interval,
  closures: readonly Closure[],
): TakenResource | null {
  const claimed = claimedTime(span, resource);
  const closure = closures.find((one) => one.placeId === resource.id && overlaps(one, claimed));
  if (!closure) return null;
  const { start, end, reason } = closure;
  const { id, name } = resource;
  return { resourceId: id, name, start, end, title: null, holder: null, outOfUse: reason };
}

/** The bookings that leave no unit of a resource free for a span; none where one is free. */
function blocking(
  resource: ResourceFacts,
  span: Interval,
  bookings: readonly BookingRow[],
  { levels, emails, asker }: { levels: Levels; emails: Map<number, string>; asker: number },
): TakenResource[] {
  const claimed = claimedTime(span, resource);
  const inTheWay = bookings.filter(
    (row) => row.resourceId === resource.id && overlaps(claimedTime(row, resource), claimed),
  );
  if (inTheWay.length < resource.units) return [];
  return inTheWay.map((row) => {
    const { start, end, title, holder } = projectBooking(row, levels);
    const email = holder !== null && row.organizerId !== asker && emails.get(row.organizerId ?? 0);
    return {
      resourceId: resource.id,
      name: resource.name,
      start,
      end,
      title,
      holder,
      ...(email && { holderEmail: email }),
    };
  });
}

function sentence(dates: readonly TakenDate[], count: number, { me }: PersonActor): string {
  const first = dates[0]!;
  const taken = first.taken[0]!;
  if (count === 1) {
    const holder = taken.holder ? ` by ${taken.holder}` : '';
    if (taken.outOfUse)
      return `${taken.name} is out of use, ${formatSpan(taken, me.zone, me.clock)}: ${taken.outOfUse}. Nothing was booked.`;
    return `${taken.name} is taken${holder}, ${formatSpan(taken, me.zone, me.clock)}. Nothing was booked.`;
  }
  const days = dates.slice(0, MOST_DATES_NAMED).map((date) => formatDay(date.start, me.zone));
  const more = count > MOST_DATES_NAMED ? ` and ${count - MOST_DATES_NAMED} more` : '';
  return `${taken.name} is ${taken.outOfUse ? 'out of use or taken' : 'taken'} on ${count} dates: ${days.join(', ')}${more}. Nothing was booked.`;
}
