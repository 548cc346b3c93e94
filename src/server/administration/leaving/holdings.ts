import type {
  Fate,
  HeldEvent,
  Holdings,
  HoldingsQuery,
  Successor,
} from '../../../contract/leaving.ts';
import { MOST_HELD } from '../../../contract/limits.ts';
import { shareOut } from '../../../core/people/shareOut.ts';
import { Refusal } from '../../../core/refusal.ts';
import { titleIn, titlesSeen } from '../../access/index.ts';
import type { PersonActor } from '../../actions/index.ts';
import type { Database } from '../../db/transaction.ts';
import { readStaffMember } from '../peopleQueries.ts';
import {
  readBelongings,
  readBusyAt,
  readComing,
  readHeirs,
  type ComingEvent,
  type Heir,
} from './queries.ts';

/**
 * What somebody has that is to come, in numbers and one by one, with who of a person or team would have each.
 * Whoever administers sees no more of it than others: titles as far as they are shared with them.
 * @throws Refusal where there is no such person, or successor
 */
export async function readHoldings(
  db: Database,
  actor: PersonActor,
  id: number,
  { person, team }: HoldingsQuery,
  now: number,
): Promise<Holdings> {
  const somebody = await readStaffMember(db, id);
  if (!somebody) throw noSuchPerson();
  const [coming, belongings] = await Promise.all([
    readAllComing(db, id, now),
    readBelongings(db, id),
  ]);
  const { meetings, bookings, own, invitations } = sorted(coming);
  const asked: Successor | null =
    person !== undefined ? { personId: person } : team !== undefined ? { teamId: team } : null;
  const shown = [...meetings, ...bookings];
  const [seen, shares] = await Promise.all([
    titlesSeen(
      db,
      actor,
      shown.map((one) => one.id),
    ),
    asked ? sharesOf(db, shown, asked, id, now, 'team') : null,
  ]);
  const heldOf = (event: ComingEvent): HeldEvent => {
    const share = shares?.get(event.id);
    return {
      id: event.id,
      title: titleIn(seen, { eventId: event.id, title: event.title }),
      places: event.places,
      start: event.start,
      recurring: event.recurring,
      draft: event.draft,
      others: event.others,
      isPrivate: event.isPrivate,
      to: share ? { id: share.heir.id, name: share.heir.name, free: share.free } : null,
    };
  };
  return {
    person: somebody,
    meetings: meetings.map(heldOf),
    bookings: bookings.map(heldOf),
    own: own.length,
    invitations: invitations.length,
    ...belongings,
  };
}

const noSuchPerson = () =>
  new Refusal('no-such-person', 'There is no such person.', {
    fields: [{ field: 'id', message: 'must be somebody here' }],
  });

/** @throws Refusal where there are more than are changed at once */
export async function readAllComing(
  db: Database,
  personId: number,
  now: number,
): Promise<ComingEvent[]> {
  const coming = await readComing(db, personId, now, MOST_HELD + 1);
  if (coming.length <= MOST_HELD) return coming;
  throw new Refusal(
    'too-much',
    `More than ${MOST_HELD} events to come name them, which is more than is changed at once. Let some of their series end, or hand some over first.`,
    {
      fields: [
        { field: 'id', message: `must be somebody with at most ${MOST_HELD} events to come` },
      ],
    },
  );
}

/** Events to come by what they are to whoever leaves. */
export function sorted(coming: readonly ComingEvent[]) {
  const theirs = coming.filter((one) => one.isTheirs);
  return {
    meetings: theirs.filter((one) => one.others > 0),
    bookings: theirs.filter((one) => one.others === 0 && one.places.length > 0),
    own: theirs.filter((one) => one.others === 0 && one.places.length === 0),
    invitations: coming.filter((one) => !one.isTheirs),
  };
}

/** Who has something then, and whether all its next dates suit them. */
export interface Share {
  heir: Heir;
  free: boolean;
}

/**
 * Whose each of some events is, where they go to a person or are shared out among a team; missing is what is private
 * and would be shown to somebody who takes no part in it.
 * @throws Refusal naming `field`, where there is nobody who could have them
 */
export async function sharesOf(
  db: Database,
  events: readonly ComingEvent[],
  to: Successor,
  leaverId: number,
  now: number,
  field: string,
): Promise<Map<string, Share>> {
  const heirs = await readHeirs(db, to, leaverId);
  if (heirs.length === 0)
    throw new Refusal('no-such-person', 'Nobody is there who could have it.', {
      fields: [
        {
          field,
          message: 'must be somebody here, or a team with somebody in it, besides whoever leaves',
        },
      ],
    });
  const byId = new Map(heirs.map((one) => [one.id, one]));
  const busy = await readBusyAt(
    db,
    events.map(({ id }) => id),
    [...byId.keys()],
    now,
  );
  const all = [...byId.keys()];
  const asked = (event: ComingEvent) => ({ id: event.id, busy: busy.get(event.id)! });
  const open = shareOut(events.filter((one) => !one.isPrivate).map(asked), all);
  // What is private is shown to nobody by giving it to them: only who takes part already can have it.
  const closed = events
    .filter((one) => one.isPrivate)
    .flatMap((one) => [
      ...shareOut(
        [asked(one)],
        all.filter((id) => one.people.includes(id)),
      ),
    ]);
  const whose = new Map([...open, ...closed]);
  return new Map(
    [...whose].map(([id, heir]) => [id, { heir: byId.get(heir)!, free: !busy.get(id)!.has(heir) }]),
  );
}

/** What becomes of each event, by its id: the heir, or that it ends. */
export async function fatesOf(
  db: Database,
  wanted: readonly { events: readonly ComingEvent[]; fate: Fate; field: string }[],
  leaverId: number,
  now: number,
): Promise<Map<string, Heir | 'end'>> {
  const fates = new Map<string, Heir | 'end'>();
  for (const { events, fate, field } of wanted) {
    if (events.length === 0) continue;
    if ('end' in fate) for (const { id } of events) fates.set(id, 'end');
    else {
      const shares = await sharesOf(db, events, fate.to, leaverId, now, `${field}.to`);
      for (const { id } of events) fates.set(id, shares.get(id)?.heir ?? 'end');
    }
  }
  return fates;
}
