import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { resolveWallTime } from '../../core/time/wall.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { often } from '../../../tests/support/effort.ts';

const server = useServer();
const ZONE = 'Europe/Oslo';
const LENGTH = 60;

/** A series as a plain list of what happens: nothing is derived, every edit touches each entry. */
interface Entry {
  id: string;
  wall: string;
  title: string | null;
  movedAlone: boolean;
  gone: boolean;
}
interface ListedEvent {
  eventId: string;
  title: string;
  entries: Entry[];
}
type Model = ListedEvent[];

const shifted = (wall: string, minutes: number) =>
  new Date(Date.parse(`${wall}Z`) + minutes * 60_000).toISOString().slice(0, 16);
const instant = (wall: string) => resolveWallTime(wall, ZONE).instant;

const SERIES = [
  { rule: 'FREQ=WEEKLY;COUNT=6', days: [0, 7, 14, 21, 28, 35] },
  { rule: 'FREQ=DAILY;INTERVAL=3;COUNT=6', days: [0, 3, 6, 9, 12, 15] },
  { rule: 'FREQ=WEEKLY;BYDAY=WE,FR;UNTIL=20270331', days: [0, 2, 7, 9, 14, 16, 21, 23, 28] },
];
/** A Wednesday; the clock of Oslo goes forward on 28 March 2027. */
const START = '2027-03-03T05:00';

const edits = fc.array(
  fc.record({
    kind: fc.constantFrom('move', 'rename', 'cancel', 'except', 'undo', 'undo'),
    scope: fc.constantFrom('one', 'following', 'all'),
    event: fc.nat(5),
    entry: fc.nat(20),
    minutes: fc.constantFrom(-1440, -60, 45, 90, 1440, 2 * 1440 + 30),
  }),
  { minLength: 2, maxLength: 7 },
);

type Edit = typeof edits extends fc.Arbitrary<(infer T)[]> ? T : never;

/** Tried in every run, so that undos and refusals never depend on what chance drew. */
const SURE: Edit[] = [
  { kind: 'rename', scope: 'all', event: 0, entry: 0, minutes: 45 },
  { kind: 'move', scope: 'following', event: 0, entry: 2, minutes: 90 },
  { kind: 'undo', scope: 'one', event: 0, entry: 0, minutes: 45 },
  { kind: 'undo', scope: 'one', event: 0, entry: 0, minutes: 45 },
  { kind: 'move', scope: 'one', event: 0, entry: 1, minutes: 7 * 1440 },
  { kind: 'except', scope: 'one', event: 0, entry: 3, minutes: 45 },
  { kind: 'undo', scope: 'one', event: 0, entry: 0, minutes: 45 },
];

/** The model after an edit. @param newId the id of the event that a split made */
function edited(
  model: Model,
  edit: Edit,
  target: { event: ListedEvent; entry: Entry },
  newId: string,
): Model {
  const { event, entry } = target;
  const present = event.entries.findIndex((one) => one.id === entry.id);
  const apply = (one: Entry, alone: boolean): Entry => {
    if (edit.kind === 'rename') return alone ? { ...one, title: 'Renamed' } : one;
    if (edit.kind === 'cancel') return { ...one, gone: true };
    if (edit.kind === 'except') return { ...one, gone: true };
    const delta = Date.parse(`${shifted(entry.wall, edit.minutes)}Z`) - Date.parse(`${entry.id}Z`);
    const id = shifted(one.id, delta / 60_000);
    if (alone) return { ...one, wall: shifted(entry.wall, edit.minutes), movedAlone: true };
    return one.movedAlone ? { ...one, id } : { ...one, id, wall: id };
  };
  const whole = (one: ListedEvent): ListedEvent => ({
    ...one,
    title: edit.kind === 'rename' ? 'Renamed' : one.title,
    entries: one.entries.map((each) => apply(each, false)),
  });
  return model.flatMap((one) => {
    if (one !== event) return [one];
    if (edit.scope === 'one' || edit.kind === 'except') {
      return [
        { ...one, entries: one.entries.map((each) => (each === entry ? apply(each, true) : each)) },
      ];
    }
    if (edit.scope === 'all' || present === 0) return [whole(one)];
    const head = { ...one, entries: one.entries.slice(0, present) };
    const tail = whole({ ...one, eventId: newId, entries: one.entries.slice(present) });
    return [head, tail];
  });
}

const happening = (model: Model) =>
  model.flatMap((event) => event.entries.filter((one) => !one.gone));

/** Whether two things would have the one room at the same time. */
function collides(model: Model): boolean {
  const starts = happening(model)
    .map((one) => instant(one.wall))
    .sort((a, b) => a - b);
  return starts.some((start, k) => k > 0 && start - starts[k - 1]! < LENGTH * 60_000);
}

async function check(model: Model, room: number) {
  const ids = model.map((event) => event.eventId);
  const expected = model
    .flatMap((event) =>
      event.entries
        .filter((one) => !one.gone)
        .map((one) => ({
          event: event.eventId,
          at: one.id,
          start: instant(one.wall),
          end: instant(one.wall) + LENGTH * 60_000,
          title: one.title ?? event.title,
        })),
    )
    .sort((a, b) => a.start - b.start || (a.at < b.at ? -1 : 1));
  const rows = await server.sql<{
    event: string;
    at: string;
    start: number;
    end: number;
    title: string;
  }>(
    `select event.id as event, occurrence.recurrence_at as at, occurrence.starts_at as start,
            occurrence.ends_at as "end",
            coalesce(own.title, event.title) as title
     from occurrence join event on event.id = occurrence.event_id and event.status = 'confirmed'
     left join occurrence_override own
       on own.event_id = event.id and own.recurrence_at = occurrence.recurrence_at
     where event.id = any($1)`,
    [ids],
  );
  rows.sort((a, b) => a.start - b.start || (a.at < b.at ? -1 : 1));
  expect(rows).toEqual(expected);
  // Two people and the room hold exactly those times.
  const claims = await server.sql<{ subject_id: number; exclusive: boolean; starts: number[] }>(
    `select subject_id, exclusive,
            array_agg(extract(epoch from lower(during))::int order by lower(during)) as starts
     from claim join occurrence on occurrence.id = claim.occurrence_id
     where event_id = any($1) group by 1, 2`,
    [ids],
  );
  const starts = expected.map((one) => one.start / 1000);
  if (starts.length === 0) expect(claims).toEqual([]);
  else {
    expect(claims).toHaveLength(3);
    for (const claim of claims) expect(claim.starts).toEqual(starts);
    expect(claims.filter((one) => one.exclusive).map((one) => one.subject_id)).toEqual([room]);
  }
}

describe('any sequence of edits of a series', () => {
  it('leaves exactly the occurrences and claims that a plain list of them says', async () => {
    const ines = await server.as('ines.aldabe');
    const room = await server.id('Gannet');
    const tomas = await server.id('Tomas Okafor');
    const done = { edits: 0, refusals: 0, undos: 0 };
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...SERIES), edits, async ({ rule, days }, list) => {
        await server.sql('delete from event where organizer_id = $1 and title in ($2, $3)', [
          await server.id('Ines Aldabe'),
          'Series',
          'Renamed',
        ]);
        const made = await ines.post<EventDetail>(
          '/api/events',
          meetingRequest({
            title: 'Series',
            times: bergenTimes(START, shifted(START, LENGTH)),
            repeats: { rule },
            attendees: [{ personId: tomas, role: 'required' }],
            resources: [room],
            send: false,
          }),
        );
        expect(made.status).toBe(201);
        let model: Model = [
          {
            eventId: made.body.id,
            title: 'Series',
            entries: days.map((day) => {
              const wall = shifted(START, day * 1440);
              return { id: wall, wall, title: null, movedAlone: false, gone: false };
            }),
          },
        ];
        const past: { model: Model; eventId: string }[] = [];
        const detail = async (id: string) =>
          (await ines.get<EventDetail>(`/api/events/${id}`)).body;
        await check(model, room);
        for (const edit of list) {
          if (edit.kind === 'undo') {
            const last = past.pop();
            if (!last) continue;
            const { version } = await detail(last.eventId);
            const answer = await ines.post(`/api/events/${last.eventId}/undo`, {
              version,
              tell: 'nobody',
            });
            expect(answer.status).toBe(200);
            await isAsRead(answer.body as EventDetail);
            model = last.model;
            done.undos++;
            await check(model, room);
            continue;
          }
          const event = model[edit.event % model.length]!;
          const left = event.entries.filter((one) => !one.gone);
          const entry = left[edit.entry % left.length];
          if (!entry) continue;
          const present = await detail(event.eventId);
          if (present.status === 'cancelled') continue;
          const part = { version: present.version, scope: edit.scope, occurrence: entry.id };
          const answer = await send(edit, part, event.eventId, entry, present);
          const body = answer.body as EventDetail;
          const tailOf =
            edit.kind === 'cancel' && edit.scope === 'following' ? await latestEvent() : body.id;
          const next = edited(model, edit, { event, entry }, tailOf);
          if (collides(next)) {
            expect(answer.status).toBe(409);
            done.refusals++;
          } else {
            expect(answer.status).toBe(200);
            await isAsRead(body);
            past.push({ model, eventId: event.eventId });
            model = next;
            done.edits++;
          }
          await check(model, room);
        }
      }),
      { numRuns: often(40), examples: [[SERIES[0]!, SURE]] },
    );
    expect(done.edits).toBeGreaterThanOrEqual(often(40));
    expect(done.undos).toBeGreaterThanOrEqual(SURE.filter((one) => one.kind === 'undo').length);
    expect(done.refusals).toBeGreaterThanOrEqual(1);

    /** What a command answers is what is read afterwards, notes about the command itself aside. */
    async function isAsRead({
      clockNotes: _,
      undo: __,
      ...said
    }: EventDetail & { undo?: unknown }) {
      const at = said.series?.recurrenceId;
      const { body } = await ines.get<EventDetail>(
        `/api/events/${said.id}${at ? `?occurrence=${at}` : ''}`,
      );
      const { clockNotes: ___, ...read } = body;
      expect(said).toEqual(read);
    }

    async function latestEvent() {
      const [row] = await server.sql<{ id: string }>(
        `select split_off->>'id' as id from revision where split_off is not null order by at desc, version desc limit 1`,
      );
      return row?.id ?? '';
    }

    async function send(
      edit: Edit,
      part: { version: number; scope: string; occurrence: string },
      id: string,
      entry: Entry,
      present: EventDetail,
    ) {
      const quiet = { tell: 'nobody' };
      if (edit.kind === 'cancel')
        return ines.post(`/api/events/${id}/cancel`, { ...part, ...quiet });
      if (edit.kind === 'rename')
        return ines.patch(`/api/events/${id}`, { ...part, title: 'Renamed', ...quiet });
      if (edit.kind === 'except') {
        const { rule, except } = present.series!;
        return ines.patch(`/api/events/${id}`, {
          version: part.version,
          repeats: { rule, except: [...except, entry.id] },
          ...quiet,
        });
      }
      const start = shifted(entry.wall, edit.minutes);
      return ines.patch(`/api/events/${id}`, {
        ...part,
        times: bergenTimes(start, shifted(start, LENGTH)),
        ...quiet,
      });
    }
  }, 180_000);
});
