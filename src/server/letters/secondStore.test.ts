import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { keptElsewhere, type Life } from '../../../tests/support/attendeesCalendar.ts';
import { guestCalendar } from '../guests/service.ts';
import { guestKey, guestToken } from '../participants/index.ts';
import { ItipStore } from '../../../tests/twins/itipStore.ts';

/*
 * A whole life of messages to somebody elsewhere, whose calendar is written from the standards alone,
 * leaves it as Marmot's own: what they are told is what is so; whether each letter leaves at once, or is held for a
 * while in which more becomes of the meeting.
 */
const GUEST = 'ola@elsewhere.example';
const START = '2027-03-08T09:00';

const shifted = (wall: string, minutes: number) =>
  new Date(Date.parse(`${wall}Z`) + minutes * 60_000).toISOString().slice(0, 16);
const times = (wall: string, zone = 'Europe/Oslo') => ({
  ...bergenTimes(wall, shifted(wall, 60)),
  zone,
});

const steps = fc.array(
  fc.record({
    kind: fc.constantFrom(
      'rename',
      'move all',
      'move one',
      'move one',
      'rename one',
      'cancel one',
      'restore one',
      'following',
      'leave out',
      'take out',
      'ask again',
      'cancel',
      'restore',
      'undo',
      'undo',
      'let go',
    ),
    zone: fc.constantFrom('Europe/Oslo', 'Europe/Oslo', 'America/Halifax', 'Australia/Hobart'),
    date: fc.nat(4),
    minutes: fc.constantFrom(-60, 45, 90, 1440),
    part: fc.nat(2),
  }),
  { minLength: 3, maxLength: 9 },
);
type Step = typeof steps extends fc.Arbitrary<(infer T)[]> ? T : never;

/** What was asked of a date by itself is no date any more once the series goes back to its old time. */
const TAKEN_BACK_TWICE: Step[] = (['move all', 'move one', 'undo', 'undo'] as const).map(
  (kind) => ({
    kind,
    date: 2,
    minutes: -60,
    part: 0,
    zone: 'Europe/Oslo',
  }),
);

describe.each([
  ['at once', 0],
  ['held', 30],
])('letters that leave %s', (_, holdSeconds) => {
  const server = useServer({ works: false }, holdSeconds);
  server.writesPastTheRules();

  it('of a whole life leave a calendar elsewhere as it is here', async () => {
    const ines = await server.as('ines.aldabe');
    const { clock } = server.running.platform;
    const began = clock.now();
    let moment = 0;
    const lives: (Life & { here: object[] })[] = [];
    const done: Record<string, number> = {};
    const attendees = (asked: boolean) =>
      asked ? [{ email: GUEST, name: 'Ola', role: 'required' as const }] : [];

    await fc.assert(
      fc.asyncProperty(steps, fc.boolean(), async (list, repeats) => {
        await server.sql(`delete from event where title like 'Life%'`);
        await server.sql('delete from mail where recipient_email = $1', [GUEST]);
        const store = new ItipStore();
        const seen = new Set<string>();
        const letters: string[] = [];
        let here: object[] = [];
        clock.now = () => began + ++moment * 1000;
        const made = await ines.post<EventDetail>(
          '/api/events',
          meetingRequest({
            title: 'Life',
            times: times(START),
            ...(repeats && { repeats: { rule: 'FREQ=WEEKLY;COUNT=5' } }),
            attendees: attendees(true),
          }),
        );
        expect(made.status).toBe(201);
        const parts = [made.body.id];
        await compare();
        for (const step of list) {
          const outcome = await take(step);
          done[outcome] = (done[outcome] ?? 0) + 1;
          if (holdSeconds === 0 || step.kind === 'let go') await compare();
        }
        await compare();
        lives.push({ letters, files: await guestFiles(), here });

        async function take({ kind, date, minutes, part, zone }: Step): Promise<string> {
          const id = parts[part % parts.length]!;
          const { body: event, status } = await ines.get<EventDetail>(`/api/events/${id}`);
          // A part that was taken back is gone.
          if (status === 404) return 'skipped';
          const address = `/api/events/${id}`;
          const { version, series } = event;
          const names = (
            await server.sql<{ at: string }>(
              'select recurrence_at as at from occurrence where event_id = $1 order by 1',
              [id],
            )
          ).map((one) => one.at);
          const occurrence = series ? names[date % names.length] : undefined;
          const one = { version, scope: 'one', occurrence };
          const send = async (method: string, path: string, body: object) => {
            const answer = await ines.request<EventDetail>(method, path, body);
            if (answer.status === 200 && !parts.includes(answer.body.id))
              parts.push(answer.body.id);
            return answer.status === 200 ? kind : 'refused';
          };
          const wall = series ? series.startsAt : event.startsAt;
          switch (kind) {
            case 'let go':
              return kind;
            case 'rename':
              return send('PATCH', address, { version, title: `Life ${moment}, with; signs\\` });
            case 'move all':
              return send('PATCH', address, { version, times: times(shifted(wall, minutes)) });
            case 'move one':
              if (!occurrence) return 'skipped';
              return send('PATCH', address, {
                ...one,
                times: times(shifted(occurrence, minutes), zone),
              });
            case 'rename one':
              if (!occurrence) return 'skipped';
              return send('PATCH', address, { ...one, title: `Life alone ${moment}` });
            case 'cancel one':
              if (!occurrence) return 'skipped';
              return send('POST', `${address}/cancel`, one);
            case 'restore one':
              if (!series?.cancelled.length) return 'skipped';
              return send('POST', `${address}/restore`, {
                version,
                occurrence: series.cancelled[0],
              });
            case 'following':
              if (!occurrence || names.indexOf(occurrence) === 0) return 'skipped';
              return send('PATCH', address, {
                version,
                scope: 'following',
                occurrence,
                title: `Life after ${moment}`,
              });
            case 'leave out':
              if (!series || !occurrence) return 'skipped';
              return send('PATCH', address, {
                version,
                repeats: { rule: series.rule, except: [...series.except, occurrence] },
              });
            case 'take out':
              return send('PATCH', address, { version, attendees: attendees(false) });
            case 'ask again':
              return send('PATCH', address, { version, attendees: attendees(true) });
            case 'cancel':
              return send('POST', `${address}/cancel`, { version });
            case 'restore':
              return send('POST', `${address}/restore`, { version });
            default:
              return send('POST', `${address}/undo`, { version });
          }
        }

        /** What the pages of all meetings to which the guest is asked give for their calendar. */
        async function guestFiles(): Promise<string[]> {
          const asked = await server.sql<{ id: number }>(
            `select attendee.id from attendee
             join event on event.id = event_id and event.status = 'confirmed'
             where attendee.email = $1 and title like 'Life%'`,
            [GUEST],
          );
          const { platform } = server.running;
          const key = await guestKey(platform.pool);
          // The page itself answers one address so often a minute.
          return Promise.all(asked.map(({ id }) => guestCalendar(platform, guestToken(key, id))));
        }

        /** Hands over what was written since, and holds the one calendar against the other. */
        async function compare() {
          const mails = await server.sql<{ id: string; calendar: string }>(
            `select id, calendar from mail where recipient_email = $1 and calendar is not null
           order by number`,
            [GUEST],
          );
          await server.sql('update mail set sent_at = created_at where recipient_email = $1', [
            GUEST,
          ]);
          await server.sql(`delete from job where kind = 'letter'`);
          for (const { id, calendar } of mails) {
            if (seen.has(id)) continue;
            seen.add(id);
            store.receive(calendar);
            letters.push(calendar);
          }
          here = await server.sql(
            `select event.uid, occurrence.starts_at as start, occurrence.ends_at as end, occurrence.title
           from effective_occurrence occurrence
           join event on event.id = occurrence.event_id and event.status = 'confirmed'
           join attendee on attendee.event_id = event.id and attendee.email = $1
           where event.title like 'Life%' order by 2, 1`,
            [GUEST],
          );
          expect(store.entries()).toEqual(here);
        }
      }),
      { numRuns: holdSeconds === 0 ? 40 : 60, examples: [[TAKEN_BACK_TWICE, true]] },
    );
    expect(Object.keys(done).length).toBeGreaterThan(12);
    // Another program's calendar of the same letters, and of the guest's own pages.
    const kept = keptElsewhere(lives);
    for (const [k, { here }] of lives.entries())
      expect([kept[k]!.letters, kept[k]!.files]).toEqual([here, here]);
  }, 240_000);
});
