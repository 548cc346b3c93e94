import type { OtherTime, OtherTimes } from '../../contract/invitations.ts';
import type { Participant } from '../../core/meetings/meeting.ts';
import { participantKey } from '../../core/meetings/people.ts';
import { standingProposals } from '../../core/meetings/propose.ts';
import { LineUpFit, type Fit } from '../../core/planner/fit.ts';
import { othersThan, type LineUpMember } from '../../core/planner/lineUp.ts';
import { openings, type Opening } from '../../core/planner/openings.ts';
import {
  NO_ROOM_WISHES,
  USUAL_STRETCH_MINUTES,
  usualLead,
  type Wishes,
} from '../../core/planner/wishes.ts';
import { openingReasons } from '../../core/planner/words.ts';
import { DAY, MINUTE, contains, merge, type Interval } from '../../core/time/interval.ts';
import { addDays, dateAt, startOfDay, type WallTime } from '../../core/time/wall.ts';
import type { PersonActor } from '../actions/index.ts';
import { pastMeetings } from '../availability/index.ts';
import type { Database } from '../db/transaction.ts';
import { changeableMeeting } from '../events/index.ts';
import { readCatalogue } from '../places/index.ts';
import {
  candidatesFor,
  comers,
  meantBy,
  membersIn,
  personIds,
  placesAt,
  type Meant,
} from './exchange.ts';
import {
  LOOK_AHEAD_DAYS,
  MOST_OTHER_TIMES,
  MOST_STRETCH_MINUTES,
  READ_AROUND_MS,
} from './limits.ts';

const STEP = 15;

/**
 * The present time of a meeting, those that are asked for and Plan's best, with who could come to each,
 * what becomes of its places and what it costs.
 * @param at the date of a series; without it, the first for which another time is asked
 * @throws Refusal when there is no such meeting, or it is not the actor's to move
 */
export async function readOtherTimes(
  db: Database,
  actor: PersonActor,
  id: string,
  now: number,
  at?: WallTime,
): Promise<OtherTimes> {
  const meant = meantBy(await changeableMeeting(db, actor, id), at, now);
  const { meeting, present } = meant;
  const standing = standingProposals(meeting, now);
  const asked = standing
    .filter(({ proposal }) => proposal.occurrence === meant.at)
    .sort((a, b) => a.proposal.start - b.proposal.start);
  const spans = unlike(asked.map(({ proposal }) => proposal)).slice(0, MOST_OTHER_TIMES);
  const ahead = lookAhead(actor, present, now);
  const all = [present, ...spans];
  const windows = merge([...all.map(around), ahead]);
  const [catalogue, { meetings: history }] = await Promise.all([
    present.resources.length ? readCatalogue(db, null) : [],
    pastMeetings(db, actor, personIds(meeting.participants), now),
  ]);
  const candidates = candidatesFor(present.resources, catalogue, comers(meeting.participants));
  const known = await Promise.all(
    windows.map(async (window) => ({
      window,
      members: await membersIn(db, { actor, now }, meant, candidates, window),
    })),
  );
  const inWindow = (span: Interval) => known.find(({ window }) => contains(window, span))!;
  const best = bestIn(inWindow(ahead), ahead, meant, { actor, history, now });
  const isNew = best && !all.some((one) => one.start === best.start && one.end === best.end);
  const rowOf = (kind: OtherTime['kind'], span: Interval): OtherTime => {
    const from = asked
      .filter(({ proposal }) => proposal.start === span.start && proposal.end === span.end)
      .map(({ participant, proposal }) => ({
        attendeeId: participant.id,
        name: participant.name,
        note: proposal.note,
      }));
    const { window, members } = inWindow(span);
    const fits = fitsOf(meeting.participants, members, window, span, from);
    const opening =
      kind === 'present' ? null : costOf(members, window, span, { actor, history, now });
    return {
      kind,
      start: span.start,
      end: span.end,
      from,
      states: fits.map((one) => one.state),
      // What it has it keeps, whatever rules say of new bookings.
      places:
        kind === 'present'
          ? present.resources.map(() => 'free')
          : placesAt(members, candidates, present.resources, span),
      couldCome: fits.filter((one) => one.couldCome).length,
      isBest: false,
      reasons: opening ? costWords(opening, members, actor) : [],
    };
  };
  const rows = [
    rowOf('present', present),
    ...spans.map((span) => rowOf('asked', span)),
    ...(isNew ? [rowOf('best', { start: best.start, end: best.end })] : []),
  ];
  const scoreOf = (row: OtherTime) => {
    const { window, members } = inWindow(row);
    return planScore(members, window, row, { actor, history, now });
  };
  return {
    eventId: meeting.id,
    version: meeting.version,
    occurrence: meant.at,
    otherDates: [...new Set(standing.flatMap(({ proposal }) => proposal.occurrence ?? []))].filter(
      (date) => date !== meant.at,
    ),
    people: meeting.participants.map((one) => ({ key: participantKey(one), name: one.name })),
    places: present.resources.map((place) => ({
      id: place,
      name: catalogue.find((one) => one.id === place)?.name ?? '',
    })),
    rows: withBest(rows, scoreOf),
  };
}

/** Marks the best of the times that can be had: the earlier one of two that are as good. */
function withBest(
  rows: readonly OtherTime[],
  scoreOf: (row: OtherTime) => number | null,
): OtherTime[] {
  const scored = rows
    .filter(
      ({ kind, places, couldCome }) => kind !== 'present' && couldCome > 0 && canBeHad(places),
    )
    .flatMap((row) => {
      const score = scoreOf(row);
      return score === null ? [] : [{ row, score }];
    })
    .sort((a, b) => a.score - b.score || a.row.start - b.row.start);
  return rows.map((row) => ({ ...row, isBest: row === scored[0]?.row }));
}

const canBeHad = (places: OtherTime['places']): boolean =>
  places.every((one) => one !== 'taken' && one !== 'barred');

const around = ({ start, end }: Interval): Interval => ({
  start: start - READ_AROUND_MS,
  end: end + READ_AROUND_MS,
});

const lookAhead = ({ me }: PersonActor, present: Interval, now: number): Interval => {
  const first = dateAt(Math.max(now, present.start - (LOOK_AHEAD_DAYS / 2) * DAY), me.zone);
  return {
    start: startOfDay(first, me.zone),
    end: startOfDay(addDays(first, LOOK_AHEAD_DAYS), me.zone),
  };
};

const unlike = (spans: readonly Interval[]): Interval[] =>
  spans.filter(
    ({ start, end }, k) =>
      spans.findIndex((other) => other.start === start && other.end === end) === k,
  );

/** How everybody fits; who asks for a time and is not known otherwise, is taken at their word. */
function fitsOf(
  participants: readonly Participant[],
  members: readonly LineUpMember[],
  window: Interval,
  span: Interval,
  from: OtherTime['from'],
): Pick<Fit, 'state' | 'couldCome'>[] {
  const people = members.filter((one) => one.kind === 'person');
  const fit = new LineUpFit(people, window, USUAL_STRETCH_MINUTES);
  const fits = new Map(fit.at(span).map((one) => [one.id, one]));
  return participants.map(({ id, personId }) => {
    const found = personId === null ? undefined : fits.get(personId);
    if (found && found.state !== 'unknown') return found;
    const asks = from.some((one) => one.attendeeId === id);
    return { state: asks ? 'free' : 'unknown', couldCome: asks };
  });
}

interface Weighing {
  actor: PersonActor;
  history: { start: number; end: number; people: readonly number[] }[];
  now: number;
}

const wishesFor = (
  window: Interval,
  span: Interval,
  members: readonly LineUpMember[],
  { actor, now }: Weighing,
): Wishes => ({
  window,
  notBefore: now + usualLead(othersThan(actor.me.id, members)) * MINUTE,
  askerId: actor.me.id,
  now,
  lengthMinutes: Math.round((span.end - span.start) / MINUTE),
  stepMinutes: STEP,
  rule: 'required',
  places: 'ignored',
  rooms: NO_ROOM_WISHES,
  stretchMinutes: USUAL_STRETCH_MINUTES,
  stretches: {},
  tentativeIsFree: false,
  unknown: 'ignored',
  leastBad: false,
  zone: actor.me.zone,
  limit: 1,
});

/** The best time that Plan finds, with the meeting's own places as they are. */
function bestIn(
  { members }: { members: LineUpMember[] },
  window: Interval,
  { present }: Pick<Meant, 'present'>,
  weighing: Weighing,
): Opening | null {
  const needed = members.filter(
    (one) => one.kind === 'person' || present.resources.includes(one.id),
  );
  const wishes = { ...wishesFor(window, present, needed, weighing), places: 'listed' as const };
  const found = openings(needed, wishes, { rooms: [], history: weighing.history });
  return found.best[0] ?? null;
}

/**
 * The score that Plan gives one time, hours and days off as it counts them; null where nobody who is needed
 * could come.
 */
const planScore = (
  members: readonly LineUpMember[],
  window: Interval,
  span: Interval,
  weighing: Weighing,
): number | null => costOf(members, window, span, weighing, USUAL_STRETCH_MINUTES)?.score ?? null;

/**
 * What one time costs its people; null where the planner has nothing to say of it.
 * @param stretchMinutes by how much hours are left before it counts as not coming
 */
function costOf(
  members: readonly LineUpMember[],
  window: Interval,
  span: Interval,
  weighing: Weighing,
  stretchMinutes = MOST_STRETCH_MINUTES,
): Opening | null {
  const people = members.filter((one) => one.kind === 'person');
  const from =
    span.start - Math.floor((span.start - window.start) / (STEP * MINUTE)) * STEP * MINUTE;
  const grid = { start: from, end: window.end };
  const wishes: Wishes = {
    ...wishesFor(grid, span, people, weighing),
    notBefore: from,
    stretchMinutes,
    leastBad: true,
  };
  const slot = Math.round((span.start - from) / (STEP * MINUTE));
  const surroundings = { rooms: [], history: weighing.history };
  return openings(people, wishes, surroundings, (k) => k === slot).best[0] ?? null;
}

/** What is not perfect about a time, without who is free, which the row shows. */
function costWords(opening: Opening, members: readonly LineUpMember[], { me }: PersonActor) {
  const people = members.filter((one) => one.kind === 'person');
  const speech = { clock: me.clock, placeOf: (zone: string) => me.zoneNames[zone] ?? zone };
  return openingReasons(opening, people, speech)
    .filter(({ text }) => !/\bfree\b|nothing known/.test(text))
    .map((reason) => reason.text);
}
