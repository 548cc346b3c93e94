import type { Meeting } from '../../../core/meetings/meeting.ts';
import { isSeries, occurrenceOf, planOf, wantedResources } from '../../../core/meetings/meeting.ts';
import { happenings } from '../../../core/recurrence/series.ts';
import { Refusal } from '../../../core/refusal.ts';
import { breather, type Actor } from '../../actions/index.ts';
import type { Transaction } from '../../db/transaction.ts';
import {
  reserve,
  ResourcesTaken,
  type HeldResources,
  type Wanting,
  type ReservationRequest,
} from '../../reservations/index.ts';
import { claimAnew } from './claims.ts';
import { layOutDates, type Dated, type Laying } from './dates.ts';
import { PAST_MS } from '../limits.ts';
import { syncBusyTime, insertOccurrences, type StoredOccurrence } from './queries.ts';
import { MOST_BOOKINGS, MOST_BOOKINGS_TOGETHER } from '../limits.ts';

interface LayingOut {
  /** Holds the resources that are wanted until the transaction ends. */
  hold: () => Promise<HeldResources>;
  actor: Actor;
  now: number;
  agreesToNothing?: boolean | undefined;
}

/**
 * Brings the occurrences of meetings, their reservations and the claims on people's time in line with
 * what they say, by difference: what stays the same keeps its rows. All together, in so many statements as
 * one of them takes.
 * @returns the resources to which a steward has yet to agree, by id, meeting by meeting
 * @throws ResourcesTaken naming every occurrence to come for which a resource is taken, of the first such meeting
 */
export async function expandOccurrences(
  tx: Transaction,
  layings: readonly Laying[],
  { hold, actor, now, agreesToNothing }: LayingOut,
): Promise<number[][]> {
  const dated = await layOutDates(tx, layings, now);
  refuseTooMany(dated);
  const breathe = breather();
  const wanting: Wanting[] = [];
  for (const { change, occurrences, placesChange } of dated) {
    const { before, after } = change;
    const wishes = wishesOf(after, occurrences);
    await breathe();
    if (!placesChange || (wishes.length === 0 && !wantedAny(before))) continue;
    wanting.push({
      eventId: after.id,
      holderId: after.organizerId,
      wishes,
      isNew: before === null,
      released: after.status === 'cancelled',
    });
  }
  const reserved =
    wanting.length > 0 ? await reserve(tx, wanting, { hold, actor, now, agreesToNothing }) : [];
  const became = new Map(wanting.map(({ eventId }, k) => [eventId, reserved[k]!]));
  for (const { change } of dated)
    refuseTaken(change, became.get(change.after.id)?.taken ?? [], now);
  claimAnew(tx, dated);
  return dated.map(({ change }) => became.get(change.after.id)?.asked ?? []);
}

/** @throws ResourcesTaken where a resource is taken at a time to come */
function refuseTaken(
  { before, after }: Laying['change'],
  taken: readonly ReservationRequest[],
  now: number,
) {
  // What is over is left as it was when a series changes; what is entered anew is refused.
  const refused = taken.filter((wish) => wish.end > now || !before || !isSeries(after));
  if (refused.length === 0) return;
  throw new ResourcesTaken(refused, {
    id: after.id,
    people: after.participants.length,
    resources: wantedResources(after),
  });
}
/** @throws Refusal saying how many bookings it would be, and how they get fewer */
function refuseTooMany(dated: readonly Dated[]): void {
  const n = (count: number) => count.toLocaleString('en');
  let together = 0;
  for (const { change, occurrences } of dated) {
    const places = change.after.resources.length;
    const dates = occurrences.length;
    together += dates * places;
    if (dates * places <= MOST_BOOKINGS) continue;
    throw tooMuch(
      `${n(dates)} dates of ${places} places are ${n(dates * places)} bookings, and at most ` +
        `${n(MOST_BOOKINGS)} are made at once. Let it end earlier, or book fewer places.`,
      `may be at most ${Math.floor(MOST_BOOKINGS / dates)} for so many dates`,
    );
  }
  if (together <= MOST_BOOKINGS_TOGETHER) return;
  throw tooMuch(
    `What is changed together has ${n(together)} bookings in all, and at most ${n(MOST_BOOKINGS_TOGETHER)} are ` +
      'looked through at once. Change fewer of them together.',
    'must be of fewer events',
  );
}

const tooMuch = (sentence: string, message: string) =>
  new Refusal('too-much', `${sentence} Nothing was changed.`, {
    fields: [{ field: 'resources', message }],
  });

const wantedAny = (meeting: Meeting | null) =>
  !!meeting &&
  (meeting.resources.length > 0 || meeting.overrides.some((one) => one.details.resources?.length));
/** What each occurrence is to have; nothing while a draft holds nothing. */
export const wishesOf = (
  meeting: Meeting,
  occurrences: readonly StoredOccurrence[],
): ReservationRequest[] =>
  wantedAny(meeting) && meeting.draft?.holds !== false
    ? occurrences.flatMap(({ id, ...span }) =>
        occurrenceOf(meeting, span.recurrenceId).resources.map((resourceId) => ({
          ...span,
          occurrenceId: id,
          resourceId,
        })),
      )
    : [];
/**
 * Adds occurrences of a series up to a new horizon, with all that can be had.
 * @param since what starts before this is laid out already
 * @returns the wishes for resources that are taken
 */
export async function extendLayout(
  tx: Transaction,
  meeting: Meeting & { rule: string },
  resources: HeldResources,
  { since, until, now }: { since: number | null; until: number; now: number },
): Promise<{ added: number; taken: ReservationRequest[] }> {
  const spans = happenings(planOf(meeting), { start: since ?? now - PAST_MS, end: until });
  if (spans.length === 0) return { added: 0, taken: [] };
  const added = await insertOccurrences(
    tx,
    spans.map((span) => ({ ...span, eventId: meeting.id })),
  );
  const wanting: Wanting = {
    eventId: meeting.id,
    holderId: meeting.organizerId,
    wishes: wishesOf(meeting, added),
    isNew: true,
    released: false,
  };
  const [reserved] = await reserve(tx, [wanting], {
    hold: () => Promise.resolve(resources),
    actor: { kind: 'system' },
    now,
  });
  syncBusyTime(tx, [meeting.id]);
  return { added: added.length, taken: reserved!.taken };
}
