import type {
  Closure,
  ClosurePreview,
  ClosureRequest,
  ClosureResponse,
} from '../../contract/closures.ts';
import { MOST_DISPLACED, replace, type Alternative } from '../../core/booking/replacing.ts';
import type { Edit } from '../../core/edits.ts';
import type { ThingFact } from '../../core/facts.ts';
import { grouped } from '../../core/grouped.ts';
import { Refusal } from '../../core/refusal.ts';
import { DAY, type Interval } from '../../core/time/interval.ts';
import { titleIn, titlesSeen } from '../access/index.ts';
import { actorId, type PersonActor } from '../actions/index.ts';
import { requireKeeper, requireSteward } from '../access/index.ts';
import type { Database, Transaction } from '../db/transaction.ts';
import { giveOtherPlaces, lockMeetings } from '../events/index.ts';
import { commitThings, type ChangeOf, type ThingChange } from '../facts/index.ts';
import { readCatalogue } from '../places/index.ts';
import type { Platform } from '../platform.ts';
import {
  deleteClosures,
  holdResources,
  insertClosures,
  readClaims,
} from '../reservations/index.ts';
import { readStanding, type StandingBooking } from './queries.ts';

/** What a booking is known by: a date of a meeting. */
const keyOf = (one: { eventId: string; occurrence?: string | null | undefined }): string =>
  `${one.eventId} ${one.occurrence ?? ''}`;

/**
 * What could become of the bookings of a place while it is out of use: another place each, all chosen
 * together.
 * @throws Refusal unless the actor looks after places
 */
export async function previewClosure(
  db: Database,
  actor: PersonActor,
  placeId: number,
  span: Interval,
): Promise<ClosurePreview> {
  requireSteward(actor);
  const [catalogue, { bookings, total }] = await Promise.all([
    readCatalogue(db, null),
    readStanding(db, [placeId], span, MOST_DISPLACED),
  ]);
  const home = catalogue.find((one) => one.id === placeId);
  if (!home) throw noSuchPlace();
  requireKeeper(actor, [home]);
  const seen = await titlesSeen(
    db,
    actor,
    bookings.map((one) => one.eventId),
  );
  const alike = catalogue.filter(
    (one) => one.kind === home.kind && one.siteId === home.siteId && one.id !== placeId,
  );
  const around = {
    start: Math.min(span.start, ...bookings.map((one) => one.start)) - DAY,
    end: Math.max(span.end, ...bookings.map((one) => one.end)) + DAY,
  };
  const claims = grouped(
    bookings.length > 0
      ? await readClaims(
          db,
          alike.map((one) => one.id),
          around,
        )
      : [],
    (one) => one.resourceId,
  );
  const refuges = alike.map((one): Alternative => ({ ...one, taken: claims.get(one.id) ?? [] }));
  const found = replace(
    bookings.map((one) => ({ ...one, id: keyOf(one), span: one })),
    home,
    refuges,
  );
  const moves = new Map(found.moves.map((one) => [one.id, one]));
  const places = new Map(alike.map((one) => [one.id, one]));
  return {
    total,
    isBest: found.isBest,
    bookings: bookings.map((one) => {
      const move = moves.get(keyOf(one));
      const place = move && places.get(move.placeId)!;
      const { eventId, occurrence, start, end, holder, people } = one;
      return {
        ...{ eventId, occurrence, start, end, holder },
        // Where those who are asked do not see who else is, nobody is told how many.
        people: one.listsAll ? people : 1,
        title: titleIn(seen, one),
        move:
          move && place
            ? {
                placeId: place.id,
                place: place.name,
                floor: place.floor,
                start: move.span.start,
                end: move.span.end,
                lacks: move.lacks,
              }
            : null,
      };
    }),
  };
}

/**
 * Takes a place out of use, and gives its bookings the places that were chosen for them, all in one
 * transaction; those who have them are told.
 * @throws Refusal as `closeFor` does
 */
export async function closePlace(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  placeId: number,
  request: ClosureRequest,
): Promise<ClosureResponse> {
  requireSteward(actor);
  const { closure, name, undo, moved, without } = await closeFor(
    ...([tx, platform, actor, placeId, request] as const),
  );
  const [change] = await commitThings(tx, platform, actor, [
    { fact: factOf(closure, name, 'place-shut'), edits: [closureEdit(closure)], meetings: undo },
  ]);
  return { closure, moved, without, change: change! };
}

/** That a place is out of use from now on, as it is taken back. */
export const closureEdit = ({ id, placeId: _place, ...span }: Closure): Edit => ({
  path: `closure/${id}`,
  from: null,
  to: span,
});

export const factOf = (
  { placeId, start, end, reason }: Closure,
  name: string,
  kind: 'place-shut' | 'place-reopened',
): ThingFact => ({
  ...{ thing: 'place', thingId: placeId, kind },
  details: { name, start, end, reason },
});

/** A place that is out of use now, and what became of its bookings. */
interface Closed {
  closure: Closure;
  name: string;
  /** By which each booking's change is taken back. */
  undo: ChangeOf[];
  moved: number;
  without: number;
}

/**
 * What makes a place unusable for a time, without a word of why: whoever does it says so.
 * @throws Refusal when its bookings are others than were looked at; ResourcesTaken where one of the
 *   other places is taken meanwhile
 */
export async function closeFor(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  placeId: number,
  request: ClosureRequest,
): Promise<Closed> {
  const { start, end, reason, moves = [], without = [], message = '' } = request;
  // Others who move or make bookings of it wait here; the order of ids is everybody's.
  const eventIds = [...new Set([...moves, ...without].map((one) => one.eventId))].sort();
  const meetings = await lockMeetings(tx, eventIds);
  const held = await holdResources(tx, [placeId, ...moves.map((one) => one.placeId)], (k) =>
    k === 0 ? 'id' : `moves.${k - 1}.placeId`,
  );
  requireKeeper(actor, [{ id: placeId, name: held.get(placeId)!.name }]);
  const { bookings } = await readStanding(tx, [placeId], request, MOST_DISPLACED + 1);
  refuseOthers(bookings, [...moves, ...without]);
  const place = held.get(placeId)!;
  const said = [reason, message].filter(Boolean).join('. ');
  const dates = [
    ...moves,
    ...without.map((one) => ({ ...one, placeId: null, ...timeOf(bookings, one) })),
  ];
  const { name } = place;
  const from = { id: placeId, name };
  const byMeeting = grouped(
    dates.map(({ occurrence = null, ...one }) => ({ ...one, occurrence, from })),
    (one) => one.eventId,
  );
  const undo = await giveOtherPlaces(tx, platform, actor, meetings, byMeeting, held, said);
  const closure = { placeId, start, end, reason };
  const by = { by: actorId(actor), now: platform.clock.now() };
  const ids = await insertClosures(tx, [{ id: placeId, units: place.units }], closure, by);
  const id = ids.get(placeId)!;
  return { closure: { ...closure, id }, name, undo, moved: moves.length, without: without.length };
}

const timeOf = (
  bookings: readonly StandingBooking[],
  one: { eventId: string; occurrence?: string | null | undefined },
): Interval => {
  const { start, end } = bookings.find((booking) => keyOf(booking) === keyOf(one))!;
  return { start, end };
};

/** @throws Refusal unless what stands in the place is what was decided about, and all of it */
function refuseOthers(
  standing: readonly StandingBooking[],
  decided: readonly { eventId: string; occurrence?: string | null | undefined }[],
): void {
  const asked = new Set(decided.map(keyOf));
  const there = new Set(standing.map(keyOf));
  const isSame = asked.size === there.size && [...there].every((key) => asked.has(key));
  if (isSame && asked.size === decided.length) return;
  throw new Refusal(
    'changed-since',
    standing.length > MOST_DISPLACED
      ? `More than ${MOST_DISPLACED} bookings stand in it then. Take it out of use for fewer days at once.`
      : 'Its bookings are others by now than those you decided about. Look at them again; nothing was changed.',
    {
      fields: [
        { field: 'moves', message: 'must be, with those without a place, all its bookings' },
      ],
    },
  );
}

/**
 * Puts a place to use again, before its time.
 * @returns by which that is taken back
 * @throws Refusal when it is not out of use
 */
export async function reopenPlace(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  placeId: number,
  id: number,
): Promise<number> {
  requireKeeper(actor, [{ id: placeId }]);
  const [closure] = await deleteClosures(tx, [{ placeId, id }]);
  if (closure?.isRetired) throw retiredPlace(closure.name);
  if (!closure) {
    throw new Refusal('no-such-closure', 'It is in use again already.', {
      fields: [{ field: 'closure', message: 'must be the number of a time out of use' }],
    });
  }
  const [change] = await commitThings(tx, platform, actor, [
    {
      fact: factOf(closure, closure.name, 'place-reopened'),
      edits: [{ ...closureEdit(closure), from: closureEdit(closure).to, to: null }],
    },
  ]);
  return change!;
}

/** A time out of use that came or went by a change that is taken back. */
export interface ClosureEdit {
  revision: number;
  /** How many bookings went elsewhere with it. */
  moved: number;
  placeId: number;
  /** The place's. */
  name: string;
  edit: Edit;
}

/**
 * Takes it back that places went out of use, or were put to use again before their time. A place that is
 * booked by now stays in use, and one that is in use again already is left alone.
 * @returns the revisions of which it was taken back, what happened by it, and what is left, in words
 */
export async function takeClosuresBack(
  tx: Transaction,
  platform: Platform,
  actor: PersonActor,
  edits: readonly ClosureEdit[],
  places: ReadonlyMap<number, { units: number }>,
): Promise<{ done: number[]; changes: ThingChange[]; left: string[] }> {
  const done: number[] = [];
  const changes: ThingChange[] = [];
  const left: string[] = [];
  const closed = edits.filter(({ edit }) => edit.to !== null);
  const idOf = ({ edit }: ClosureEdit) => Number(edit.path.split('/')[1]);
  const gone = await deleteClosures(
    tx,
    closed.map((one) => ({ placeId: one.placeId, id: idOf(one) })),
  );
  for (const one of closed) {
    const closure = gone.find(({ id }) => id === idOf(one));
    // What went elsewhere can come back all the same.
    if (closure || one.moved > 0) done.push(one.revision);
    if (!closure) {
      if (one.moved === 0) left.push(`${one.name}, which is in use again already`);
      continue;
    }
    changes.push({ fact: factOf(closure, one.name, 'place-reopened') });
  }
  // One at a time: nobody reopens many at once.
  for (const { revision, placeId, name, edit } of edits.filter((one) => one.edit.to === null)) {
    const span = edit.from as Pick<Closure, 'start' | 'end' | 'reason'>;
    const { total } = await readStanding(tx, [placeId], span, 1);
    if (total > 0) {
      left.push(`${name}, which is booked by now`);
      continue;
    }
    const by = { by: actorId(actor), now: platform.clock.now() };
    const closure = { placeId, ...span };
    const { units } = places.get(placeId)!;
    const id = (await insertClosures(tx, [{ id: placeId, units }], closure, by)).get(placeId)!;
    done.push(revision);
    changes.push({ fact: factOf({ ...closure, id }, name, 'place-shut') });
  }
  return { done, changes, left };
}

const retiredPlace = (name: string) =>
  new Refusal('place-retired', `${name} is retired. Bring it back to use it again.`, {
    fields: [{ field: 'id', message: 'must be the id of a place that is not retired' }],
  });

const noSuchPlace = () =>
  new Refusal('no-such-place', 'There is no such place.', {
    fields: [{ field: 'id', message: 'must be the id of a room or another resource' }],
  });
