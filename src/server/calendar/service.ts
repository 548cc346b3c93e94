import type {
  CalendarResponse,
  CancelledItem,
  FullnessResponse,
  LayerItem,
  SubjectCalendar,
} from '../../contract/calendar.ts';
import type { Me } from '../../contract/session.ts';
import { fullness } from '../../core/availability/fullness.ts';
import { parseRule } from '../../core/recurrence/rule.ts';
import { ruleSentence } from '../../core/recurrence/sentence.ts';
import { DAY } from '../../core/time/interval.ts';
import { addDays, startOfDay } from '../../core/time/wall.ts';
import { zoneTable } from '../../core/time/zoneTable.ts';
import type { Database } from '../db/transaction.ts';
import { Problem } from '../http/problem.ts';
import { Sharing } from '../sharing/service.ts';
import {
  readCalendar,
  readLayers,
  readSubjectFacts,
  readTaken,
  type LayerRows,
  type SubjectFacts,
} from './queries.ts';
import { readCancelled } from './searchQueries.ts';

export { readCalendar } from './queries.ts';

/** My calendar over a window, and those of others as far as I may see them, in the order asked. */
export async function calendar(
  db: Database,
  me: Me,
  { from, to, subjects: ids }: { from: number; to: number; subjects: number[] },
): Promise<CalendarResponse> {
  const [items, subjects] = await Promise.all([
    readCalendar(db, me.id, from, to),
    ids.length ? subjectCalendars(db, me, [...new Set(ids)], from, to) : [],
  ]);
  return { items, subjects };
}

async function subjectCalendars(
  db: Database,
  me: Me,
  ids: readonly number[],
  from: number,
  to: number,
): Promise<SubjectCalendar[]> {
  const facts = new Map((await readSubjectFacts(db, ids)).map((one) => [one.id, one]));
  const unknown = ids.filter((id) => !facts.has(id));
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
  const people = await Sharing.of(db, me, ids);
  const visible = ids.filter(
    (id) => facts.get(id)!.kind === 'resource' || people.seesBusyTimes(id),
  );
  const rows = new Map(
    (await readLayers(db, me.id, visible, from, to)).map((row) => [row.subjectId, row]),
  );
  // What a resource's booking is called depends on whose booking it is.
  const organizers = [...rows.values()].flatMap((row) => row.organizers);
  const sharing = await Sharing.of(db, me, [...new Set([...ids, ...organizers])]);
  return ids.map((id) =>
    subjectCalendar(facts.get(id)!, rows.get(id), visible.includes(id), sharing),
  );
}

function subjectCalendar(
  subject: SubjectFacts,
  rows: LayerRows | undefined,
  known: boolean,
  sharing: Sharing,
): SubjectCalendar {
  const { id, kind, name } = subject;
  if (!known) {
    return { id, knowledge: 'none', reason: `${name} shares nothing with you`, items: [] };
  }
  const sees = (k: number) =>
    rows!.takesPart[k]! ||
    sharing.seesTitle(kind === 'person' ? id : rows!.organizers[k]!, rows!.visibilities[k]!);
  const items = (rows?.starts ?? []).map((_, k) => layerItem(rows!, k, sees(k)));
  const titles = kind === 'resource' || sharing.seesTitle(id, 'default');
  return {
    id,
    knowledge: 'known',
    reason: titles ? null : `${name} shares only busy times with you`,
    items,
  };
}

const layerItem = (rows: LayerRows, k: number, seen: boolean): LayerItem => ({
  eventId: seen ? rows.events[k]! : null,
  occurrenceId: rows.occurrences[k]!,
  recurrenceId: seen ? rows.recurrences[k]! : null,
  title: seen ? rows.titles[k]! : null,
  place: seen ? rows.places[k]! : null,
  start: rows.starts[k]!,
  end: rows.ends[k]!,
  allDay: rows.allDays[k]!,
  occupancy: rows.occupancies[k]!,
});

/** How full each of my days is, in my zone. */
export async function dayFullness(
  db: Database,
  me: Me,
  { first, days }: { first: string; days: number },
): Promise<FullnessResponse> {
  const window = {
    start: startOfDay(first, me.zone),
    end: startOfDay(addDays(first, days), me.zone),
  };
  const taken = await readTaken(db, me.id, window.start, window.end);
  const table = zoneTable(me.zone, window);
  const spans = taken.map((one) => ({
    ...one,
    // Something that takes no time is counted and adds nothing.
    allDay: one.allDay || one.occupancy === 'free',
  }));
  return { first, ...fullness(spans, table, Date.parse(`${first}T00:00Z`), days) };
}

const KEPT_DAYS = 30;

/** What I cancelled in the last 30 days and can restore. */
export async function cancelledItems(db: Database, me: Me, now: number): Promise<CancelledItem[]> {
  const rows = await readCancelled(db, me.id, now - KEPT_DAYS * DAY);
  return rows.map(({ rule, startsAt, ...item }) => ({
    ...item,
    sentence: rule === null ? null : ruleSentence(parseRule(rule), startsAt),
  }));
}
