import type { OtherTime } from '../../contract/invitations.ts';
import { standIns } from '../../core/booking/booking.ts';
import {
  isSeries,
  occurrenceOf,
  type Occurrence,
  type Participant,
} from '../../core/meetings/meeting.ts';
import { nextOccurrence } from '../../core/meetings/next.ts';
import { standingProposals } from '../../core/meetings/propose.ts';
import { fitOf } from '../../core/planner/fit.ts';
import type { LineUpMember } from '../../core/planner/lineUp.ts';
import type { Interval } from '../../core/time/interval.ts';
import type { WallTime } from '../../core/time/wall.ts';
import type { PersonActor } from '../actions/index.ts';
import { membersOf, readBusyTimes } from '../availability/index.ts';
import type { Database } from '../db/transaction.ts';
import type { StoredMeeting } from '../events/index.ts';
import type { ResourceFacts } from '../places/index.ts';

/** A meeting, and which of its dates is meant. */
export interface Meant {
  meeting: StoredMeeting;
  at: WallTime | null;
  present: Occurrence;
}

export function meantBy(meeting: StoredMeeting, at: WallTime | undefined, now: number): Meant {
  const asked = standingProposals(meeting, now)[0]?.proposal.occurrence;
  const date = isSeries(meeting) ? (at ?? asked ?? nextOccurrence(meeting, now)) : null;
  return { meeting, at: date, present: occurrenceOf(meeting, date) };
}

export const personIds = (participants: readonly Participant[]): number[] =>
  participants.flatMap(({ personId }) => personId ?? []);

/** How many seats are needed: those who have not declined. */
export const comers = (participants: readonly Participant[]): number =>
  participants.filter(({ reply }) => reply !== 'declined').length;

/** For each place that the meeting has, itself and what could stand in for it, best first. */
export function candidatesFor(
  wanted: readonly number[],
  catalogue: readonly ResourceFacts[],
  people: number,
): Map<number, ResourceFacts[]> {
  return new Map(
    wanted.map((id) => {
      const place = catalogue.find((one) => one.id === id)!;
      const alike = catalogue.filter((one) => one.kind === place.kind && !wanted.includes(one.id));
      const seats = place.capacity > 0 ? people : 0;
      return [id, [place, ...standIns(alike, place, seats)]];
    }),
  );
}

/** The people and candidate places of a meeting with their times, as if it were not there. */
export async function membersIn(
  db: Database,
  { actor, now }: { actor: PersonActor; now: number },
  { meeting, at, people = true }: Pick<Meant, 'meeting' | 'at'> & { people?: boolean },
  candidates: ReadonlyMap<number, ResourceFacts[]>,
  window: Interval,
): Promise<LineUpMember[]> {
  const places = [...candidates.values()].flat().map((one) => one.id);
  const subjects = [...new Set([...(people ? personIds(meeting.participants) : []), ...places])];
  if (subjects.length === 0) return [];
  const request = {
    subjects,
    from: window.start,
    to: window.end,
    except: { eventId: meeting.id, ...(at !== null && { occurrence: at }) },
  };
  const times = await readBusyTimes(db, actor, request, { actor, now });
  const optional = new Set(
    meeting.participants.flatMap((one) => (one.role === 'optional' ? one.personId : [])),
  );
  return membersOf(times.subjects, (id) => (optional.has(id) ? 'optional' : 'required'));
}

/** What becomes of each place of a meeting at a time: itself, another, or none. */
export function placesAt(
  members: readonly LineUpMember[],
  candidates: ReadonlyMap<number, ResourceFacts[]>,
  wanted: readonly number[],
  span: Interval,
): OtherTime['places'] {
  const given = new Set<number>();
  const places = members.filter((one) => one.kind === 'resource');
  const states = new Map(fitOf(places, span).map((fit) => [fit.id, fit.state]));
  return wanted.map((id) => {
    const [own, ...others] = candidates.get(id)!;
    const state = own && states.get(own.id);
    if (state === 'free') return 'free';
    const instead = others.find((one) => !given.has(one.id) && states.get(one.id) === 'free');
    if (!instead) return state === 'barred' ? 'barred' : 'taken';
    given.add(instead.id);
    return { instead: { id: instead.id, name: instead.name } };
  });
}
