import { showsEverything } from '../../core/availability/busy.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database } from '../db/transaction.ts';
import { Levels, isShownIt } from './levels.ts';
import { readMeetingFacts } from './queries.ts';

/**
 * Those of some subjects (`calendar:42`) of whose changes an actor may hear: what they may see. Of
 * resources everybody may see when they are taken.
 */
export async function canSubscribe(
  db: Database,
  actor: PersonActor,
  subjects: readonly string[],
): Promise<string[]> {
  const named = subjects.map((subject) => {
    const [kind = '', id = ''] = subject.split(':');
    return { subject, kind, id };
  });
  const of = (kind: string) => named.filter((one) => one.kind === kind).map((one) => one.id);
  const meetingIds = of('meeting');
  const meetings = meetingIds.length ? await readMeetingFacts(db, meetingIds) : [];
  const owners = of('calendar').map(Number);
  const levels = await Levels.of(db, actor, [...owners, ...meetings.map((one) => one.organizerId)]);
  const seen = new Set(
    meetings
      .filter((one) => showsEverything(levels.event({ ...one, takesPart: isShownIt(actor, one) })))
      .map((one) => one.id),
  );
  return named
    .filter(({ kind, id }) => {
      if (kind === 'calendar') return levels.seesBusyTimes(Number(id));
      if (kind === 'meeting') return seen.has(id);
      if (kind === 'person') return Number(id) === actor.me.id;
      return true;
    })
    .map((one) => one.subject);
}
