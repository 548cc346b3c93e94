import type {
  MovableMeeting,
  MovableRequest,
  MovableResponse,
} from '../../contract/availability.ts';
import { freedBy } from '../../core/booking/freeing.ts';
import type { UnitClaim } from '../../core/booking/units.ts';
import { DAY } from '../../core/time/interval.ts';
import { breather, type PersonActor } from '../actions/index.ts';
import type { Database } from '../db/transaction.ts';
import { readBusy, readSubjects, type BusyRows } from './queries.ts';
import { busyTimes, widened } from './service.ts';
import { readMovable, type MovableRow } from './ownQueries.ts';
import { AROUND_MOVED_DAYS, MOST_MOVABLE_MEETINGS } from './limits.ts';

/** Meetings to come that the asker organizes, with the busy times of whom and what they take. */
export async function movableMeetings(
  db: Database,
  actor: PersonActor,
  { from, to }: MovableRequest,
  now: number,
): Promise<MovableResponse> {
  // What is over cannot move.
  if (to <= now) return { meetings: [], subjects: [] };
  const rows = await readMovable(db, actor.me.id, Math.max(from, now), to, MOST_MOVABLE_MEETINGS);
  if (rows.length === 0) return { meetings: [], subjects: [] };
  const ids = [
    ...new Set(rows.flatMap((one) => [...one.people.map(({ id }) => id), ...one.resources])),
  ];
  const [{ subjects }, meetings] = await Promise.all([
    busyTimes(db, actor, { subjects: ids, from, to }, now),
    withFreed(db, rows),
  ]);
  return { meetings, subjects };
}

const AROUND = AROUND_MOVED_DAYS * DAY;

/** The meetings with what of their resources' time would be free without each of them, and no more. */
async function withFreed(db: Database, rows: readonly MovableRow[]): Promise<MovableMeeting[]> {
  const ids = [...new Set(rows.flatMap((one) => one.held.map(({ id }) => id)))];
  if (ids.length === 0) return rows.map(({ held: _held, ...row }) => ({ ...row, frees: [] }));
  const first = Math.min(...rows.map((one) => one.start)) - AROUND;
  const last = Math.max(...rows.map((one) => one.end)) + AROUND;
  const [resources, busy] = await Promise.all([
    readSubjects(db, ids),
    readBusy(db, ids, first, last),
  ]);
  const breathe = breather();
  const meetings: MovableMeeting[] = [];
  for (const { held, ...row } of rows) {
    await breathe();
    const frees = [...new Set(held.map(({ id }) => id))].map((id) => {
      const resource = resources.get(id)!;
      const own = held.filter((one) => one.id === id);
      const claims = claimsOf(busy.get(id), own);
      const wide = (one: UnitClaim) => ({ ...widened(one, resource), unit: one.unit });
      const near = claims.filter(
        (one) => one.end > row.start - AROUND && one.start < row.end + AROUND,
      );
      return { id, ...freedBy(near.map(wide), own.map(wide), resource.units) };
    });
    meetings.push({ ...row, frees });
  }
  return meetings;
}

/** The claims on a resource that are not a meeting's own; those of one unit do not overlap. */
const claimsOf = (rows: BusyRows | undefined, own: readonly UnitClaim[]): UnitClaim[] =>
  (rows?.spans ?? []).flatMap(([start, end], k) => {
    const unit = rows!.units[k]!;
    const isOwn = own.some((one) => one.unit === unit && one.start === start && one.end === end);
    return isOwn ? [] : [{ start, end, unit }];
  });
