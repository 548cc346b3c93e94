import type {
  CalendarResponse,
  CancelledItem,
  FullnessResponse,
  LayerItem,
  SubjectCalendar,
} from '../../contract/calendar.ts';
import { fullness } from '../../core/availability/fullness.ts';
import { parseRule } from '../../core/recurrence/rule.ts';
import { ruleSentence } from '../../core/recurrence/sentence.ts';
import { DAY } from '../../core/time/interval.ts';
import { addDays, startOfDay } from '../../core/time/wall.ts';
import { zoneTable } from '../../core/time/zoneTable.ts';
import { Refusal } from '../../core/refusal.ts';
import { Levels, projectLayerItem } from '../access/index.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Database } from '../db/transaction.ts';
import {
  readCalendar,
  readDeclined,
  readLayers,
  readSubjectFacts,
  readTakenSpans,
  type LayerRows,
  type SubjectFacts,
} from './queries.ts';
import { readCancelled } from './searchQueries.ts';
import { CANCELLED_KEPT_DAYS } from './limits.ts';

/** My calendar over a window, and those of others as far as I may see them, in the order asked. */
export async function calendar(
  db: Database,
  actor: PersonActor,
  {
    from,
    to,
    subjects: ids,
    declined,
  }: { from: number; to: number; subjects: number[]; declined?: 'yes' | undefined },
): Promise<CalendarResponse> {
  const [items, gone, subjects] = await Promise.all([
    readCalendar(db, actor.me.id, from, to),
    declined ? readDeclined(db, actor.me.id, from, to) : [],
    ids.length ? subjectCalendars(db, actor, [...new Set(ids)], from, to) : [],
  ]);
  const all = gone.length > 0 ? [...items, ...gone].sort((a, b) => a.start - b.start) : items;
  return { items: all, subjects };
}

async function subjectCalendars(
  db: Database,
  actor: PersonActor,
  ids: readonly number[],
  from: number,
  to: number,
): Promise<SubjectCalendar[]> {
  const facts = new Map((await readSubjectFacts(db, ids)).map((one) => [one.id, one]));
  const unknown = ids.filter((id) => !facts.has(id));
  if (unknown.length > 0) {
    throw new Refusal('unknown-subject', `There is no person or resource ${unknown.join(', ')}.`, {
      fields: [{ field: 'subjects', message: 'must name people and resources that exist' }],
    });
  }
  const people = await Levels.of(db, actor, ids);
  const visible = ids.filter(
    (id) => facts.get(id)!.kind === 'resource' || people.seesBusyTimes(id),
  );
  const rows = new Map(
    (await readLayers(db, actor.principals, visible, from, to)).map((row) => [row.subjectId, row]),
  );
  // What an event shows depends on whose event it is.
  const organizers = [...rows.values()].flatMap((row) => row.organizers);
  const levels = await Levels.of(db, actor, [...ids, ...organizers]);
  return ids.map((id) =>
    subjectCalendar(facts.get(id)!, rows.get(id), visible.includes(id), levels),
  );
}

function subjectCalendar(
  subject: SubjectFacts,
  rows: LayerRows | undefined,
  known: boolean,
  levels: Levels,
): SubjectCalendar {
  const { id, kind, name } = subject;
  if (!known) {
    return { id, knowledge: 'none', reason: `${name} shares nothing with you`, items: [] };
  }
  const titles = kind === 'resource' || levels.showsTitles(id);
  const items = (rows?.starts ?? []).map((_, k) => layerItem(rows!, k, kind, levels));
  return {
    id,
    knowledge: 'known',
    reason: titles ? null : `${name} shares only busy times with you`,
    items,
  };
}

function layerItem(
  rows: LayerRows,
  k: number,
  kind: SubjectFacts['kind'],
  levels: Levels,
): LayerItem {
  const visibility = rows.visibilities[k]!;
  const takesPart = rows.takesPart[k]! || levels.answersFor(rows.subjectId, visibility);
  const facts = { organizerId: rows.organizers[k] ?? null, visibility, takesPart };
  const shown = takesPart || kind === 'resource' || levels.showsOn(rows.subjectId, visibility);
  const item = {
    eventId: rows.events[k]!,
    occurrenceId: rows.occurrences[k]!,
    recurrenceId: rows.recurrences[k]!,
    title: rows.titles[k]!,
    place: rows.places[k]!,
    start: rows.starts[k]!,
    end: rows.ends[k]!,
    allDay: rows.allDays[k]!,
    occupancy: rows.occupancies[k]!,
  };
  return projectLayerItem(item, levels.event(facts), shown);
}

/** How full each of my days is, in my zone. */
export async function dayFullness(
  db: Database,
  actor: PersonActor,
  { first, days }: { first: string; days: number },
): Promise<FullnessResponse> {
  const { me } = actor;
  const window = {
    start: startOfDay(first, me.zone),
    end: startOfDay(addDays(first, days), me.zone),
  };
  const taken = await readTakenSpans(db, me.id, window.start, window.end);
  const table = zoneTable(me.zone, window);
  const spans = taken.map((one) => ({
    ...one,
    // Something that takes no time is counted and adds nothing.
    allDay: one.allDay || one.occupancy === 'free',
  }));
  return { first, ...fullness(spans, table, Date.parse(`${first}T00:00Z`), days) };
}

/** What I cancelled in the last 30 days and can restore. */
export async function cancelledItems(
  db: Database,
  actor: PersonActor,
  now: number,
): Promise<CancelledItem[]> {
  const rows = await readCancelled(db, actor.me.id, now - CANCELLED_KEPT_DAYS * DAY);
  return rows.map(({ rule, startsAt, ...item }) => ({
    ...item,
    sentence: rule === null ? null : ruleSentence(parseRule(rule), startsAt),
  }));
}
