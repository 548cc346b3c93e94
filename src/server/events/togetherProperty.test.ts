import fc from 'fast-check';
import { expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { CreateEventRequest } from '../../contract/events.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { readPart } from '../../core/icalendar/part.ts';
import { transaction } from '../db/transaction.ts';
import { receiveAnswer } from './index.ts';
import {
  ATTENDEES,
  DATES,
  GUEST,
  LENGTH,
  OF_OTHERS,
  RARE,
  START,
  UNITS,
  apply,
  begin,
  copy,
  dates,
  heard,
  instant,
  invited,
  isDraft,
  isGone,
  nameOf,
  outdate,
  shifted,
  steps,
  takeBack,
  tell,
  wallOf,
  type Answer,
  type Asks,
  type Attendee,
  type Editor,
  type Made,
  type Reply,
  type Sets,
  type Step,
  type Twin,
} from '../../../tests/twins/together.ts';
import { expectKept } from '../../../tests/twins/togetherState.ts';
import { movedSets, setsOf } from '../../../tests/twins/togetherSteps.ts';

/* Several people at one series, against a twin that derives nothing; see tests/twins/together.ts. */
const server = useServer({ works: false });

it('after any sequence of changes, answers and undos by several people everything is as a plain list says', async () => {
  await server.sql(
    `update person set share_organization = 'edit' where email like 'ines.aldabe@%'`,
  );
  const ids = {
    ines: await server.id('Ines Aldabe'),
    tomas: await server.id('Tomas Okafor'),
    mika: await server.id('Mika Sandoval'),
    hal: await server.id('Hal Teague'),
    kit: await server.id('Sonar kit'),
    leila: await server.id('Leila Haddad'),
  };
  const clients = {
    ines: await server.as('ines.aldabe'),
    tomas: await server.as('tomas.okafor'),
    mika: await server.as('mika.sandoval'),
    hal: await server.as('hal.teague'),
    leila: await server.as('leila.haddad'),
  };
  await clients.mika.request('PUT', `/api/delegates/${ids.leila}`, { receives: 'nothing' });
  // All the kits are out for an hour on the second date, an hour and a half after the series.
  const taken = shifted(START, 7 * 1440 + 90);
  for (let unit = 0; unit < UNITS; unit++) {
    const answer = await clients.mika.post(
      '/api/events',
      meetingRequest({
        title: 'Kit is out',
        times: bergenTimes(taken, shifted(taken, LENGTH)),
        resources: [ids.kit],
      }),
    );
    expect(answer.status).toBe(201);
  }
  /** Whether some moment would need more kits than there are. */
  const collides = (twin: Twin) => {
    if (isDraft(twin)) return false;
    const spans = dates
      .filter((k) => !isGone(twin, k))
      .map((k) => instant(wallOf(twin, k)))
      .concat(Array.from({ length: UNITS }, () => instant(taken)));
    const length = LENGTH * 60_000;
    return spans.some((at) => spans.filter((one) => one <= at && at < one + length).length > UNITS);
  };

  const guests = (withHal: boolean): NonNullable<CreateEventRequest['attendees']> => [
    { personId: ids.tomas, role: 'required' },
    { personId: ids.mika, role: 'optional' },
    { email: GUEST, name: 'Jon', role: 'required' },
    ...(withHal ? [{ personId: ids.hal, role: 'required' as const }] : []),
  ];

  const { clock } = server.running.platform;
  const began = clock.now();
  const done: Record<string, number> = {};
  let moment = 0;

  await fc.assert(
    fc.asyncProperty(steps, fc.boolean(), async (list, asDraft) => {
      clock.now = () => began + moment * 1000;
      moment++;
      await server.sql(`delete from event where title like 'Together%'`);
      const created = await clients.ines.post<EventDetail>(
        '/api/events',
        meetingRequest({
          title: 'Together',
          times: bergenTimes(START, shifted(START, LENGTH)),
          repeats: { rule: `FREQ=WEEKLY;COUNT=${DATES}` },
          attendees: guests(false),
          resources: [ids.kit],
          ...(asDraft && { draft: { holds: false } }),
        }),
      );
      expect(created.status).toBe(201);
      const { id, uid } = created.body;
      let twin = begin(asDraft);
      const made: Made[] = [];
      await expectKept(server, ids, id, twin);
      for (const step of list) {
        moment++;
        const outcome = await take(step);
        done[outcome] = (done[outcome] ?? 0) + 1;
        await expectKept(server, ids, id, twin);
        // What was done while it was sent has no place in a draft.
        if (outcome === 'sent no more') return;
      }

      /** Takes a step on both sides. @returns what came of it, for the count */
      async function take(step: Step): Promise<string> {
        // Nobody else sees a draft.
        if (
          isDraft(twin) &&
          step.kind !== 'send' &&
          (step.by !== 'ines' || OF_OTHERS.has(step.kind))
        )
          return unseen(step);
        if (step.kind === 'undo') return undo(step.by);
        if (step.kind.startsWith('reply') || step.kind.startsWith('mail')) return answer(step);
        if (step.kind === 'by another')
          return answer({ ...step, kind: 'reply', who: 'mika' }, true);
        if (step.kind === 'send') return send();
        if (step.kind === 'nudge') return nudge();
        if (step.kind === 'counter') return counter(step);
        if (step.kind === 'take') return takeTime(step);
        if (step.kind === 'forward') return forward();
        const k = step.date;
        if (step.kind !== 'people' && isGone(twin, k) !== (step.kind === 'restore one'))
          return 'skipped';
        const request = requestOf(step, k);
        const next = apply(twin, setsOf(twin, step, k, moment));
        outdate(twin, next.twin);
        const sent = await clients[step.by].request<EventDetail & ProblemBody>(...request);
        if (collides(next.twin)) {
          expect(sent).toMatchObject({ status: 409, body: { code: 'resource-taken' } });
          return 'refused';
        }
        expect(sent.status).toBe(200);
        tell(twin, next.twin, step.by);
        twin = next.twin;
        // Asked anew, they may be reminded anew.
        if (step.kind === 'move all')
          for (const who of ATTENDEES) twin.values.set(`${who}.nudged`, false);
        made.push({ by: step.by, version: twin.version, sets: next.made });
        return step.kind;
      }

      /** What others do with a draft comes to nothing, as if it were not there. */
      async function unseen({ by, who, kind }: Step): Promise<string> {
        if (kind.startsWith('mail')) {
          expect(await mailed(null, 'accepted', twin.sequence)).toBe('not-invited');
          return 'unseen';
        }
        const other = by === 'ines' ? who : by;
        const seen = await clients[other].get<ProblemBody>(`/api/events/${id}`);
        expect([seen.status, seen.body.code]).toEqual([404, 'no-such-event']);
        return 'unseen';
      }

      async function send(): Promise<string> {
        const sent = await clients.ines.post<EventDetail & ProblemBody>(`/api/events/${id}/send`, {
          version: twin.version,
        });
        if (!isDraft(twin)) {
          expect(sent).toMatchObject({ status: 409, body: { code: 'sent-already' } });
          return 'sent already';
        }
        const asked: Answer = { reply: 'needs-action', mark: moment };
        const next = apply(twin, [
          ['sent', true],
          ...ATTENDEES.map((who): Sets[number] => [
            who,
            who !== 'hal' || twin.values.get('in.hal') === true ? asked : null,
          ]),
        ]);
        if (collides(next.twin)) {
          expect(sent).toMatchObject({ status: 409, body: { code: 'resource-taken' } });
          return 'refused';
        }
        expect(sent.status).toBe(200);
        tell(twin, next.twin, 'ines');
        twin = next.twin;
        twin.from = twin.sequence;
        made.push({ by: 'ines', version: twin.version, sets: next.made });
        return 'send';
      }

      async function nudge(): Promise<string> {
        const silent = invited(twin).filter(
          (who) =>
            (twin.values.get(who) as Answer).reply === 'needs-action' &&
            twin.values.get(`${who}.nudged`) === false,
        );
        const sent = await clients.ines.post<ProblemBody>(`/api/events/${id}/nudge`, {
          attendees: 'all',
        });
        if (silent.length === 0) {
          expect(sent.body.code).toBe('nobody-to-nudge');
          return 'nobody silent';
        }
        expect(sent.status).toBe(200);
        twin = copy(twin);
        twin.letters += silent.length;
        for (const who of silent) {
          twin.values.set(`${who}.nudged`, true);
          if (who !== 'guest') twin.news.push(heard(who, 'reminded', twin.version));
        }
        return 'nudge';
      }

      /** When somebody asks for a date to be, instead of when it is. */
      function instead(k: number, minutes: number) {
        const start = instant(shifted(wallOf(twin, k), minutes));
        return { start, end: start + LENGTH * 60_000 };
      }

      async function counter({ who, date: k, minutes }: Step): Promise<string> {
        const time = instead(k, minutes);
        const sent = await clients[who].request<ProblemBody>(
          'PUT',
          `/api/invitations/${id}/proposals`,
          { occurrence: nameOf(twin, k), times: [time] },
        );
        if (!invited(twin).includes(who)) {
          expect(sent.status).toBe(403);
          return 'not invited';
        }
        if (isGone(twin, k)) {
          expect(sent.body.code).toBe('invalid-request');
          return 'refused';
        }
        expect(sent.status).toBe(200);
        twin = copy(twin);
        const asks = (twin.values.get(`${who}.asks`) as Asks | null) ?? {};
        twin.values.set(`${who}.asks`, { ...asks, [k]: time.start });
        twin.news.push(heard('ines', 'asked', twin.version));
        return 'counter';
      }

      /** The organizer takes what somebody asked for: the date is moved there. */
      async function takeTime({ who }: Step): Promise<string> {
        const asks = twin.values.get(`${who}.asks`) as Asks | null;
        const [asked] = Object.entries(asks ?? {});
        if (!asked) return 'skipped';
        const [k, start] = [Number(asked[0]), asked[1]];
        const wall = shifted(wallOf(twin, k), (start - instant(wallOf(twin, k))) / 60_000);
        const next = apply(twin, movedSets(twin, k, wall, moment));
        outdate(twin, next.twin);
        // Another place would be had instead, which the twin does not know.
        if (isGone(twin, k) || collides(next.twin)) return 'skipped';
        const sent = await clients.ines.post<EventDetail>(`/api/replies/${id}/times`, {
          version: twin.version,
          occurrence: nameOf(twin, k),
          start,
          end: start + LENGTH * 60_000,
        });
        expect(sent.status).toBe(200);
        tell(twin, next.twin, 'ines');
        twin = next.twin;
        made.push({ by: 'ines', version: twin.version, sets: next.made });
        return 'take';
      }

      /** Hal is asked as well, and nobody else hears of it. */
      async function forward(): Promise<string> {
        const sent = await clients.ines.post<ProblemBody>(`/api/events/${id}/invite`, {
          attendees: [{ personId: ids.hal, role: 'required' }],
        });
        if (isDraft(twin)) {
          expect(sent.body.code).toBe('not-sent');
          return 'refused';
        }
        if (twin.values.get('in.hal') === true) {
          expect(sent.body.code).toBe('asked-already');
          return 'asked already';
        }
        expect(sent.status).toBe(200);
        const letters = twin.letters + 1;
        const next = apply(twin, setsOf(twin, { kind: 'people' } as Step, 0, moment));
        twin = { ...next.twin, letters };
        twin.news.push(heard('hal', 'invited', twin.version));
        made.push({ by: 'ines', version: twin.version, sets: next.made });
        return 'forward';
      }

      function requestOf({ kind, by, minutes }: Step, k: number): [string, string, object] {
        const { version } = twin;
        const occurrence = nameOf(twin, k);
        const one = { version, scope: 'one', occurrence };
        const times = (from: string) =>
          bergenTimes(shifted(from, minutes), shifted(from, minutes + LENGTH));
        const address = `/api/events/${id}`;
        switch (kind) {
          case 'rename':
            return ['PATCH', address, { version, title: `Together, ${by}` }];
          case 'rename one':
            return ['PATCH', address, { ...one, title: `Alone, ${by}` }];
          case 'place':
            return ['PATCH', address, { version, place: `Boathouse of ${by}` }];
          case 'people': {
            const comes = twin.values.get('in.hal') !== true;
            return ['PATCH', address, { version, attendees: guests(comes) }];
          }
          case 'cancel one':
            return ['POST', `${address}/cancel`, one];
          case 'restore one':
            return ['POST', `${address}/restore`, { version, occurrence }];
          case 'move one':
            return ['PATCH', address, { ...one, times: times(wallOf(twin, k)) }];
          default:
            return ['PATCH', address, { version, occurrence, times: times(occurrence) }];
        }
      }

      async function undo(by: Editor): Promise<string> {
        const index = made.map((one) => one.by).lastIndexOf(by);
        if (index < 0) return 'skipped';
        const change = made[index]!;
        const next = takeBack(twin, change);
        const sent = await clients[by].post<EventDetail & ProblemBody>(`/api/events/${id}/undo`, {
          version: twin.version,
          change: change.version,
        });
        if (!next) {
          expect(sent).toMatchObject({ status: 409, body: { code: 'changed-since' } });
          // Refused, it stays on the pile; the twin goes on without it.
          made.splice(index, 1);
          return 'left alone';
        }
        if (collides(next)) {
          expect(sent).toMatchObject({ status: 409, body: { code: 'resource-taken' } });
          return 'refused';
        }
        expect([sent.status, change.sets]).toEqual([200, change.sets]);
        made.splice(index, 1);
        const isUnsent = isDraft(next) && !isDraft(twin);
        tell(twin, next, by, change.version);
        twin = next;
        return isUnsent ? 'sent no more' : 'undo';
      }

      async function answer(
        { kind, who, date, reply, behind }: Step,
        byAnother = false,
      ): Promise<string> {
        const k = kind.endsWith(' one') ? date : null;
        const byMail = kind.startsWith('mail');
        const sequence = Math.max(0, twin.sequence - behind);
        const sent = byMail
          ? await mailed(k, reply, sequence)
          : (
              await clients[byAnother ? 'leila' : who].post<ProblemBody>(
                `/api/invitations/${id}/reply`,
                {
                  reply,
                  ...(byAnother && { for: ids.mika }),
                  ...(k !== null && { occurrence: nameOf(twin, k) }),
                },
              )
            ).body.code;
        if (!byMail && !invited(twin).includes(who)) {
          expect(sent).toBe('not-invited');
          return 'not invited';
        }
        if (k !== null && isGone(twin, k)) {
          expect(sent).toBe('invalid-request');
          return 'refused';
        }
        const from = (k === null ? undefined : twin.dateFrom.get(k)) ?? twin.from;
        if (byMail && sequence < from) {
          expect(sent).toBe('outdated');
          return 'outdated';
        }
        expect(sent).toBeUndefined();
        const name: Attendee = byMail ? 'guest' : who;
        const given: Answer = { reply, mark: moment };
        // Whoever has answered needs no more to hear that they are asked.
        twin.news = twin.news.map((one) =>
          one.who === name && (one.what === 'invited' || one.what === 'reminded')
            ? { ...one, isRead: true }
            : one,
        );
        twin.news.push(heard('ines', 'answered', twin.version));
        if (k !== null) twin.values.set(`${name}.${k}`, given);
        else {
          twin.values.set(name, given);
          for (const one of dates) {
            const alone = twin.values.get(`${name}.${one}`) as Answer | null;
            if (alone?.reply === 'needs-action') twin.values.set(`${name}.${one}`, null);
          }
        }
        return byAnother ? 'by another' : kind;
      }

      /** An answer by mail. @returns the code of its refusal */
      async function mailed(k: number | null, reply: Reply, sequence: number) {
        const stamp = new Date(clock.now()).toISOString().replaceAll(/[-:]|\.\d+/g, '');
        const lines = [
          'BEGIN:VCALENDAR',
          'VERSION:2.0',
          'METHOD:REPLY',
          'BEGIN:VEVENT',
          `UID:${uid}`,
          `SEQUENCE:${sequence}`,
          `DTSTAMP:${stamp}`,
          `ATTENDEE;PARTSTAT=${reply.toUpperCase()}:mailto:${GUEST}`,
          ...(k === null
            ? []
            : [`RECURRENCE-ID;TZID=Europe/Oslo:${nameOf(twin, k).replaceAll(/[-:]/g, '')}00`]),
          'END:VEVENT',
          'END:VCALENDAR',
        ];
        const { platform } = server.running;
        return transaction(platform.pool, (tx) =>
          receiveAnswer(tx, platform, readPart(lines.join('\r\n')), { how: 'hand', from: GUEST }),
        ).then(
          () => undefined,
          (error: { code: string }) => error.code,
        );
      }
    }),
    {
      // As many as it takes to walk every way.
      numRuns: 60,
      examples: Object.entries(RARE).map(([name, list]): [Step[], boolean] => [
        list,
        name === 'draft',
      ]),
    },
  );
  // Every way that a step can end was walked, most of them many times.
  const walked = ['undo', 'left alone', 'refused', 'move all', 'reply one', 'mail', 'outdated'];
  walked.push('people', 'not invited', 'send', 'sent already', 'sent no more', 'unseen', 'nudge');
  walked.push('counter', 'take', 'forward', 'by another');
  expect(walked.filter((outcome) => !done[outcome])).toEqual([]);
  expect(done.undo).toBeGreaterThan(10);
}, 240_000);
