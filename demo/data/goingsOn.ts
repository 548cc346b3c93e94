import { actsOf } from '../../src/server/access/index.ts';
import type { Interval } from '../../src/core/time/interval.ts';
import { addDays, dateAt, weekdayOf } from '../../src/core/time/wall.ts';
import { closeFor } from '../../src/server/closures/index.ts';
import type { Transaction } from '../../src/server/db/transaction.ts';
import type { Platform } from '../../src/server/platform.ts';
import { waitFor } from '../../src/server/waiting/index.ts';
import type { Calendars } from './calendars.ts';
import { isHoliday } from './everyday.ts';
import { spanAt } from './invent.ts';
import type { LoadedOrganization, LoadedResource } from './load.ts';
import { actorOf } from './openInvitations.ts';
import { SITES } from './organization.ts';

const CLOSED = { place: 'Guillemot', from: '13:00', minutes: 210, reason: 'New ventilation' };

/** When a place is out of use; nothing else is made up for that time. */
interface PlannedClosure {
  place: LoadedResource;
  span: Interval;
}

/** The first working day that is a week away or more, and on which nobody has the place then. */
export function plannedClosure(
  { resources }: LoadedOrganization,
  calendars: Calendars,
  now: number,
): PlannedClosure {
  const { zone } = SITES[0]!;
  const place = resources.find((one) => one.name === CLOSED.place)!;
  for (let date = addDays(dateAt(now, zone), 7); ; date = addDays(date, 1)) {
    const span = spanAt(`${date}T${CLOSED.from}`, zone, CLOSED.minutes);
    if (weekdayOf(date) > 5 || isHoliday(0, date) || !calendars.isResourceFree(place, span))
      continue;
    calendars.keep([], [place], span);
    return { place, span };
  }
}

/** What goes on with places at any time: one is out of use for a while, and one that is taken is waited for. */
export async function storeGoingsOn(
  tx: Transaction,
  platform: Platform,
  organization: LoadedOrganization,
  calendars: Calendars,
  { place, span }: PlannedClosure,
): Promise<void> {
  const now = platform.clock.now();
  const person = (name: string) => organization.people.find((one) => one.name === name)!;
  const ines = actorOf(person('Ines Aldabe'));
  // Who looks after every place.
  const steward = { ...ines, me: { ...ines.me, acts: actsOf('steward', null), keeps: null } };
  await closeFor(tx, platform, steward, place.id, { ...span, reason: CLOSED.reason });
  const waits = ['Mei Tanaka', 'Jonas Vågen', 'Robine Thys'].map(person);
  const wanted = calendars.events
    .filter(
      (one) =>
        one.resources.some(({ resource }) => resource.name === 'Gannet') &&
        one.occurrences.length === 1 &&
        one.occurrences[0]!.start > now + 20 * 3_600_000,
    )
    .sort((a, b) => a.occurrences[0]!.start - b.occurrences[0]!.start)[0];
  const waiting = waits.find(
    (one) => wanted && one !== wanted.organizer && !wanted.attendees.some((a) => a.person === one),
  );
  if (wanted && waiting) {
    const { start, end } = wanted.occurrences[0]!;
    await waitFor(tx, platform, actorOf(waiting), {
      placeId: wanted.resources.find(({ resource }) => resource.name === 'Gannet')!.resource.id,
      ...{ start, end, title: 'Short talk', wants: 'told' },
    });
  }
  await storePresence(tx, now);
}

/** One of so many who have to check in forgets to come. */
const NO_SHOW_EVERY = 7;

/** Where somebody is to check in, whoever had it did so; now and then nobody came, and it was given to others. */
async function storePresence(tx: Transaction, now: number): Promise<void> {
  await tx.query(
    `with past as (
       select reservation.id, reservation.starts_at, row_number() over (order by reservation.starts_at,
              reservation.id) % ${NO_SHOW_EVERY} = 0 as missed
       from reservation join resource on resource.subject_id = reservation.resource_id
       where resource.rules ? 'graceMinutes' and reservation.ends_at <= $1
         and reservation.state = 'held'
     ), given as (
       delete from claim using past where past.missed and claim.reservation_id = past.id
     )
     update reservation
     set state = case when past.missed then 'released' else 'in-use' end,
         used_at = case when past.missed then null else past.starts_at end,
         since = past.starts_at
     from past where past.id = reservation.id`,
    [new Date(now)],
  );
}
