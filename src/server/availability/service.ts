import type {
  BusyRequest,
  BusyResponse,
  BusySpan,
  OpeningsRequest,
  OpeningsResponse,
  RoomsRequest,
  RoomsResponse,
  SubjectBusy,
} from '../../contract/availability.ts';
import { mergedUnits } from '../../core/booking/freeing.ts';
import { claimedTime, type Buffers } from '../../core/booking/booking.ts';
import { allUnitsTaken, changeovers, type UnitClaim } from '../../core/booking/units.ts';
import { othersThan, type LineUpMember } from '../../core/planner/lineUp.ts';
import { openings } from '../../core/planner/openings.ts';
import { roomCandidate } from '../../core/planner/rooms.ts';
import { whyNothing } from '../../core/planner/refusals.ts';
import { usualLead, type Wishes } from '../../core/planner/wishes.ts';
import { openingReasons } from '../../core/planner/words.ts';
import { DAY, gaps, merge, MINUTE, overlaps, type Interval } from '../../core/time/interval.ts';
import { dateAt } from '../../core/time/wall.ts';
import { Refusal } from '../../core/refusal.ts';
import { Levels, type Viewer } from '../access/index.ts';
import { breather, type PersonActor } from '../actions/index.ts';
import type { Database } from '../db/transaction.ts';
import { changeableMeeting } from '../events/index.ts';
import { readHours } from '../people/index.ts';
import { readPublished, type PublishedTimes } from '../published/index.ts';
import { readTermsOf, type Asking } from './bookingTerms.ts';
import { pastMeetings } from './history.ts';
import {
  readBusy,
  readRooms,
  readSiteHolidays,
  readSubjects,
  type BusyRows,
  type SubjectRow,
} from './queries.ts';
import { AROUND_MINUTES, MOST_BUSY_TIMES } from './limits.ts';

/**
 * Busy times of people and resources as far as the asker may see them, in the order asked.
 * @throws Problem 404 naming the ids that nobody has; 403 or 404 for an event to leave out that
 *   is not the asker's
 */
export async function busyTimes(
  db: Database,
  actor: PersonActor,
  request: BusyRequest,
  now: number,
): Promise<BusyResponse> {
  if (request.except) await changeableMeeting(db, actor, request.except.eventId);
  return readBusyTimes(db, actor, request, { actor, now });
}

/**
 * The same, for whoever was let leave that event out.
 * @param asking who would book the places, where somebody would: what their rules bar counts as well
 */
export async function readBusyTimes(
  db: Database,
  viewer: Viewer,
  { subjects: ids, from, to, except }: BusyRequest,
  asking: Asking | null = null,
): Promise<BusyResponse> {
  const [subjects, levels, hours, published] = await Promise.all([
    readSubjects(db, ids),
    Levels.of(db, viewer, ids),
    readHours(db, ids),
    readPublished(db, ids, from, to),
  ]);
  refuseUnknown(ids, subjects);
  const sites = [...new Set([...subjects.values()].flatMap(({ siteId }) => siteId ?? []))];
  const visible = ids.filter(
    (id) => subjects.get(id)!.kind === 'resource' || levels.seesBusyTimes(id),
  );
  const window = { start: from, end: to };
  const around = withBuffers(window, [...subjects.values()]);
  const places = ids.filter((id) => subjects.get(id)!.kind === 'resource');
  const [busy, terms, holidays] = await Promise.all([
    readBusy(db, visible, around.start, around.end, except),
    asking ? readTermsOf(db, places, window, asking, except) : null,
    readSiteHolidays(db, sites, dateAt(from - DAY, 'UTC'), dateAt(to + DAY, 'UTC')),
  ]);
  refuseTooLong(busy);
  const seen = new Set(visible);
  return {
    subjects: ids.map((id): SubjectBusy => {
      const subject = subjects.get(id)!;
      const times = published.get(id);
      const isPerson = subject.kind === 'person';
      // What partners do elsewhere is known only where they publish it.
      const known = seen.has(id) && (!subject.isPartner || !!times?.covers);
      const claims = known ? busy.get(id) : undefined;
      const taken = isPerson || !claims ? [] : takenUnits(subject, claims);
      const spans = isPerson
        ? within(window, claims?.spans ?? [])
        : withBarred(within(window, spansOf(subject, taken)), terms?.get(id)?.barred);
      return {
        id,
        kind: subject.kind,
        name: subject.name,
        detail: subject.detail,
        zone: subject.zone,
        siteId: subject.siteId,
        floor: subject.floor,
        isRoom: subject.isRoom,
        seats: subject.seats,
        email: subject.email,
        hours: isPerson ? hours.get(id)! : null,
        holidays: (isPerson && subject.siteId && holidays.get(subject.siteId)) || [],
        knowledge: known ? 'known' : 'none',
        published: times && seen.has(id) ? { readAt: times.readAt, failing: times.failing } : null,
        busy: known && times ? withPublished(spans, times, window) : spans,
        changeovers: changeovers(taken, subject.units)
          .filter((one) => overlaps(one, window))
          .map(({ start, end }) => [start, end]),
        terms: terms?.get(id)?.terms ?? null,
      };
    }),
  };
}

/** @throws Refusal where the answer would be longer than anybody reads */
function refuseTooLong(busy: ReadonlyMap<number, { spans: readonly unknown[] }>): void {
  const times = [...busy.values()].reduce((sum, { spans }) => sum + spans.length, 0);
  if (times <= MOST_BUSY_TIMES) return;
  throw new Refusal(
    'too-much',
    `That is ${times.toLocaleString('en')} busy times, and at most ${MOST_BUSY_TIMES.toLocaleString('en')} are answered at once. Ask for fewer people or a shorter time.`,
    { fields: [{ field: 'to', message: 'must be earlier, or name fewer people and resources' }] },
  );
}

function refuseUnknown(ids: readonly number[], subjects: ReadonlyMap<number, SubjectRow>): void {
  const unknown = ids.filter((id) => !subjects.has(id));
  if (unknown.length === 0) return;
  throw new Refusal('unknown-subject', `There is no person or resource ${unknown.join(', ')}.`, {
    fields: [{ field: 'subjects', message: 'must name people and resources that exist' }],
  });
}

/** Those of some people whose busy times the asker may see. */
export async function visiblePeople(
  db: Database,
  actor: PersonActor,
  ids: readonly number[],
): Promise<number[]> {
  const levels = await Levels.of(db, actor, ids);
  return ids.filter((id) => levels.seesBusyTimes(id));
}

/** When each unit of a resource can be had by no meeting: one is prepared before it and cleared after. */
const takenUnits = (resource: SubjectRow, claims: BusyRows): UnitClaim[] =>
  mergedUnits(
    claims.spans.map(([start, end], k) => ({
      ...widened({ start, end }, resource),
      unit: claims.units[k]!,
    })),
  );

/** A resource is taken while no unit of it can be had. */
const spansOf = (resource: SubjectRow, taken: readonly UnitClaim[]): BusySpan[] =>
  allUnitsTaken(taken, resource.units).map(({ start, end }) => [start, end, 'busy']);

/**
 * A window, and around it as far as preparing and clearing of what is booked beyond its edges reach
 * into it.
 */
function withBuffers(window: Interval, resources: readonly Buffers[]): Interval {
  const reach = Math.max(
    0,
    ...resources.flatMap(({ prepareMinutes, clearMinutes }) => [prepareMinutes, clearMinutes]),
  );
  return { start: window.start - reach * MINUTE, end: window.end + reach * MINUTE };
}

/** Those of some spans that lie in a window, or reach into it. */
const within = (window: Interval, spans: readonly BusySpan[]): BusySpan[] =>
  spans.filter(([start, end]) => overlaps({ start, end }, window));

/** A meeting may not begin while another is cleared, nor end when the next is being prepared. */
export const widened = (
  claim: Interval,
  { prepareMinutes, clearMinutes }: Pick<SubjectRow, 'prepareMinutes' | 'clearMinutes'>,
): Interval => claimedTime(claim, { prepareMinutes: clearMinutes, clearMinutes: prepareMinutes });

/** When a place is taken, and when its rules do not give it away, by start. */
const withBarred = (taken: BusySpan[], barred: readonly Interval[] = []): BusySpan[] =>
  [...taken, ...barred.map(({ start, end }): BusySpan => [start, end, 'barred'])].sort(
    (a, b) => a[0] - b[0],
  );

/** Busy times with those that somebody publishes, and where that says nothing, `unknown`. */
function withPublished(spans: BusySpan[], times: PublishedTimes, window: Interval): BusySpan[] {
  const silent = gaps(times.covers ?? [], window);
  return [
    ...spans,
    ...times.busy,
    ...silent.map(({ start, end }): BusySpan => [start, end, 'unknown']),
  ].sort((a, b) => a[0] - b[0]);
}

/** The rooms of some sites with when they cannot be had. */
export async function readRoomTimes(
  db: Database,
  actor: PersonActor,
  { siteIds, from, to, except }: RoomsRequest,
  now: number,
): Promise<RoomsResponse> {
  if (except) await changeableMeeting(db, actor, except.eventId);
  const rooms = await readRooms(db, siteIds);
  const window = { start: from, end: to };
  const around = withBuffers(window, rooms);
  const ids = rooms.map((room) => room.id);
  const [busy, allTerms] = await Promise.all([
    readBusy(db, ids, around.start, around.end, except),
    readTermsOf(db, ids, window, { actor, now }, except),
  ]);
  return {
    rooms: rooms.map(({ prepareMinutes, clearMinutes, ...room }) => {
      const spans = busy.get(room.id)?.spans ?? [];
      const taken = spans.map(([start, end]) =>
        widened({ start, end }, { prepareMinutes, clearMinutes }),
      );
      const reaching = merge(taken).filter((span) => overlaps(span, window));
      const { barred = [], terms = null } = allTerms.get(room.id) ?? {};
      return { ...room, busy: pairsOf(reaching), barred: pairsOf(barred), terms };
    }),
  };
}

const pairsOf = (spans: readonly Interval[]) =>
  spans.map(({ start, end }): [start: number, end: number] => [start, end]);

/** Subjects' busy times as members of a line-up. */
export const membersOf = (
  subjects: readonly SubjectBusy[],
  roleOf: (id: number) => LineUpMember['role'],
): LineUpMember[] =>
  subjects.map((subject) => ({
    ...subject,
    role: roleOf(subject.id),
    setAside: false,
    busy: subject.busy.map(([start, end, occupancy]) => ({ start, end, occupancy })),
    changeovers: subject.changeovers.map(([start, end]) => ({ start, end })),
  }));

/** The planner's answer, computed by the same functions as in the browser. */
export async function findOpenings(
  db: Database,
  actor: PersonActor,
  request: OpeningsRequest,
  now: number,
): Promise<OpeningsResponse> {
  const { from, to, lineUp, features, leadMinutes, ...asked } = request;
  const ids = lineUp.map((member) => member.id);
  // What stands right before and after the window leaves no break either.
  const around = {
    from: from - AROUND_MINUTES * MINUTE,
    to: to + AROUND_MINUTES * MINUTE,
  };
  const { subjects } = await busyTimes(db, actor, { subjects: ids, ...around }, now);
  const roles = new Map(lineUp.map(({ id, role }) => [id, role]));
  // With hundreds of people each part of it takes the thread for a while: others are answered in between.
  const breathe = breather();
  const members = membersOf(subjects, (id) => roles.get(id)!);
  await breathe();
  const siteIds = [...new Set(members.flatMap((one) => one.siteId ?? []))];
  const { rooms } =
    request.places === 'fitting'
      ? await readRoomTimes(db, actor, { siteIds, from, to }, now)
      : { rooms: [] };
  const people = members.filter((one) => one.kind === 'person').map((one) => one.id);
  const { meetings: history } = await pastMeetings(db, actor, people, now);
  const surroundings = {
    history,
    rooms: rooms.map(roomCandidate),
  };
  await breathe();
  const wishes: Wishes = {
    ...asked,
    window: { start: from, end: to },
    notBefore: now + (leadMinutes ?? usualLead(othersThan(actor.me.id, members))) * MINUTE,
    askerId: actor.me.id,
    now,
    stepMinutes: 15,
    rooms: { features, text: '', without: [] },
    zone: actor.me.zone,
  };
  const result = openings(members, wishes, surroundings);
  await breathe();
  const speech = {
    clock: actor.me.clock,
    placeOf: (zone: string) => actor.me.zoneNames[zone] ?? zone,
  };
  return {
    count: result.count,
    openings: result.best.map((opening) => ({
      start: opening.start,
      end: opening.end,
      score: opening.score,
      reasons: openingReasons(opening, members, speech).map((reason) => reason.text),
      rooms: opening.rooms.flatMap(({ room }) => room?.id ?? []),
    })),
    why: whyNothing({ members, wishes, surroundings }),
  };
}
