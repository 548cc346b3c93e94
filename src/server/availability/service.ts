import type {
  BusyRequest,
  BusyResponse,
  BusySpan,
  OpeningsRequest,
  OpeningsResponse,
} from '../../contract/availability.ts';
import type { Me } from '../../contract/session.ts';
import { allUnitsTaken } from '../../core/booking/units.ts';
import type { LineUpMember } from '../../core/planner/lineUp.ts';
import { openings } from '../../core/planner/openings.ts';
import { openingReasons } from '../../core/planner/words.ts';
import type { Database } from '../db/transaction.ts';
import { Problem } from '../http/problem.ts';
import { readHours } from '../people/service.ts';
import { Sharing } from '../sharing/service.ts';
import { readBusy, readSubjects } from './queries.ts';

/**
 * Busy times of people and resources as far as the asker may see them, in the order asked.
 * @throws Problem 404 naming the ids that nobody has
 */
export async function busyTimes(
  db: Database,
  me: Me,
  { subjects: ids, from, to }: BusyRequest,
): Promise<BusyResponse> {
  const [subjects, sharing, hours] = await Promise.all([
    readSubjects(db, ids),
    Sharing.of(db, me, ids),
    readHours(db, ids),
  ]);
  const unknown = ids.filter((id) => !subjects.has(id));
  if (unknown.length > 0) {
    throw new Problem(
      404,
      'unknown-subject',
      `There is no person or resource ${unknown.join(', ')}.`,
      {
        fields: [{ field: 'subjects', message: 'must name people and resources that exist' }],
      },
    );
  }
  const visible = ids.filter(
    (id) => subjects.get(id)!.kind === 'resource' || sharing.seesBusyTimes(id),
  );
  const busy = visible.length ? await readBusy(db, visible, from, to) : new Map<number, never>();
  const known = new Set(visible);
  return {
    subjects: ids.map((id) => {
      const { units, ...subject } = subjects.get(id)!;
      const claims = busy.get(id);
      return {
        ...subject,
        hours: subject.kind === 'person' ? hours.get(id)! : null,
        knowledge: known.has(id) ? 'known' : 'none',
        busy: claims ? spansOf(claims, units) : [],
      };
    }),
  };
}

/** A resource of several units is taken only while all of them are. */
function spansOf(claims: { spans: BusySpan[]; units: number[] }, units: number): BusySpan[] {
  if (units === 1) return claims.spans;
  const taken = claims.spans.map(([start, end], k) => ({ start, end, unit: claims.units[k]! }));
  return allUnitsTaken(taken, units).map(({ start, end }) => [start, end, 'busy']);
}

/** The planner's answer, computed by the same functions as in the browser. */
export async function findOpenings(
  db: Database,
  me: Me,
  request: OpeningsRequest,
  now: number,
): Promise<OpeningsResponse> {
  const { from, to, lineUp } = request;
  const { subjects } = await busyTimes(db, me, {
    subjects: lineUp.map((member) => member.id),
    from,
    to,
  });
  const members: LineUpMember[] = subjects.map((subject, k) => ({
    id: subject.id,
    name: subject.name,
    kind: subject.kind,
    role: lineUp[k]!.role,
    setAside: false,
    zone: subject.zone,
    hours: subject.hours,
    knowledge: subject.knowledge,
    busy: subject.busy.map(([start, end, occupancy]) => ({ start, end, occupancy })),
  }));
  const result = openings(members, {
    window: { start: from, end: to },
    notBefore: now,
    lengthMinutes: request.lengthMinutes,
    stepMinutes: 15,
    rule: request.rule,
    stretchMinutes: request.stretchMinutes,
    tentativeIsFree: request.tentativeIsFree,
    zone: me.zone,
    limit: request.limit,
  });
  return {
    count: result.count,
    openings: result.best.map((opening) => ({
      start: opening.start,
      end: opening.end,
      score: opening.score,
      reasons: openingReasons(opening, members, me.clock).map((reason) => reason.text),
    })),
  };
}
