import { describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { CreateEventRequest } from '../../contract/events.ts';
import type { InvitationDetail, RepliesList } from '../../contract/invitations.ts';
import { readCalendars } from '../../../tests/support/readCalendars.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { readPart } from '../../core/icalendar/part.ts';
import { transaction } from '../db/transaction.ts';
import { receiveAnswer } from '../events/index.ts';

const server = useServer({ works: false });
const GUEST = 'jon@harbour.example';
let day = 1;

/** A meeting of Ines' with Tomas and somebody outside, on a day of its own. */
async function meet(changes: Partial<CreateEventRequest> = {}) {
  const ines = await server.as('ines.aldabe');
  const date = `2027-08-${String(day++).padStart(2, '0')}`;
  const made = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({
      times: bergenTimes(`${date}T09:00`, `${date}T10:00`),
      attendees: [
        { personId: await server.id('Tomas Okafor'), role: 'required' },
        { email: GUEST, name: 'Jon Skau', role: 'optional' },
      ],
      ...changes,
    }),
  );
  expect(made.status).toBe(201);
  const change = async (request: object) => {
    const answer = await ines.patch<EventDetail>(`/api/events/${made.body.id}`, request);
    expect(answer.status).toBe(200);
    return answer.body;
  };
  return { ines, tomas: await server.as('tomas.okafor'), event: made.body, date, change };
}

const read = async (id: string, occurrence?: string) => {
  const ines = await server.as('ines.aldabe');
  const query = occurrence ? `?occurrence=${occurrence}` : '';
  return (await ines.get<EventDetail>(`/api/events/${id}${query}`)).body;
};
const replyOf = (event: EventDetail, name: string) =>
  event.attendees.find((one) => one.name === name)!.reply;

const claimsOf = async (eventId: string, name: string) =>
  (
    await server.sql<{ occupancy: string }>(
      `select occupancy from claim join occurrence on occurrence.id = claim.occurrence_id
       where event_id = $1 and subject_id = $2 order by lower(during)`,
      [eventId, await server.id(name)],
    )
  ).map((row) => row.occupancy);

/** An answer as a mail program of the guest's would send it. */
function mail(
  event: Pick<EventDetail, 'uid'>,
  answers: {
    partstat: string;
    sequence?: number;
    stamp?: string;
    recurrence?: string;
    from?: string;
  }[],
): string {
  return [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//x//x//EN',
    'METHOD:REPLY',
    ...answers.flatMap(
      ({ partstat, sequence = 0, stamp = '20261123T090000Z', recurrence, from }) => [
        'BEGIN:VEVENT',
        `UID:${event.uid}`,
        `SEQUENCE:${sequence}`,
        `DTSTAMP:${stamp}`,
        `ATTENDEE;PARTSTAT=${partstat}:mailto:${from ?? GUEST}`,
        ...(recurrence ? [`RECURRENCE-ID${recurrence}`] : []),
        'END:VEVENT',
      ],
    ),
    'END:VCALENDAR',
    '',
  ].join('\r\n');
}
const receive = (text: string) =>
  transaction(server.running.platform.pool, (tx) =>
    receiveAnswer(tx, server.running.platform, readPart(text), { how: 'hand', from: '' }),
  );

describe('taking a change back', () => {
  it('leaves the answers that came in between, and what they claim', async () => {
    const { ines, tomas, event, date, change } = await meet();
    await tomas.post(`/api/invitations/${event.id}/reply`, { reply: 'accepted' });
    await change({ version: 1, times: bergenTimes(`${date}T13:00`, `${date}T14:00`) });
    await tomas.post(`/api/invitations/${event.id}/reply`, { reply: 'declined', note: 'At sea' });
    const undone = await ines.post<EventDetail>(`/api/events/${event.id}/undo`, { version: 2 });
    expect(undone.body).toMatchObject({ start: event.start });
    const attendee = undone.body.attendees.find((one) => one.name === 'Tomas Okafor');
    expect(attendee).toMatchObject({ reply: 'declined', note: 'At sea' });
    expect(await claimsOf(event.id, 'Tomas Okafor')).toEqual([]);
  });

  it('gives back the answers that the change itself asked for anew', async () => {
    const { ines, tomas, event, date, change } = await meet();
    await tomas.post(`/api/invitations/${event.id}/reply`, { reply: 'accepted' });
    await change({ version: 1, times: bergenTimes(`${date}T13:00`, `${date}T14:00`) });
    expect(replyOf(await read(event.id), 'Tomas Okafor')).toBe('needs-action');
    const undone = await ines.post<EventDetail>(`/api/events/${event.id}/undo`, { version: 2 });
    expect(replyOf(undone.body, 'Tomas Okafor')).toBe('accepted');
    expect(await claimsOf(event.id, 'Tomas Okafor')).toEqual(['busy']);
  });

  it('touches nothing that somebody else changed since', async () => {
    await server.sql(
      `update person set share_organization = 'edit' where email like 'ines.aldabe@%'`,
    );
    const { ines, tomas, event, change } = await meet({ title: 'First' });
    await change({ version: 1, title: 'Second', place: 'Boathouse' });
    const others = await tomas.patch(`/api/events/${event.id}`, { version: 2, title: 'Third' });
    expect(others.status).toBe(200);
    const undone = await ines.post<EventDetail>(`/api/events/${event.id}/undo`, {
      version: 3,
      change: 2,
    });
    expect(undone.body).toMatchObject({ title: 'Third', place: '' });
    expect(undone.body.clockNotes.join()).toMatch(/left alone: title/);
    // And of one that was changed again altogether nothing is left to take back.
    const titles = await ines.post<ProblemBody>(`/api/events/${event.id}/undo`, {
      version: 4,
      change: 2,
    });
    expect(titles).toMatchObject({ status: 409, body: { code: 'nothing-to-undo' } });
    await server.sql(
      `update person set share_organization = 'busy' where email like 'ines.aldabe@%'`,
    );
  });

  it('of a part split off keeps the answers given to that part', async () => {
    const { ines, tomas, event, date, change } = await meet({
      repeats: { rule: 'FREQ=WEEKLY;COUNT=4' },
    });
    await tomas.post(`/api/invitations/${event.id}/reply`, { reply: 'accepted' });
    const at = new Date(Date.parse(`${date}T09:00Z`) + 14 * 86_400_000).toISOString().slice(0, 16);
    const tail = await change({ version: 1, scope: 'following', occurrence: at, title: 'Later' });
    expect(replyOf(tail, 'Tomas Okafor')).toBe('accepted');
    await tomas.post(`/api/invitations/${tail.id}/reply`, { reply: 'declined' });
    const undone = await ines.post(`/api/events/${event.id}/undo`, { version: 2 });
    expect(undone.status).toBe(200);
    expect(await claimsOf(event.id, 'Tomas Okafor')).toEqual(['busy', 'busy']);
    expect(replyOf(await read(event.id), 'Tomas Okafor')).toBe('accepted');
    expect(replyOf(await read(event.id, at), 'Tomas Okafor')).toBe('declined');
  });
});

describe('an answer to one date of a series', () => {
  it('is seen in that date’s detail, by the organizer, in Replies and in the invitation', async () => {
    const { ines, tomas, event, date } = await meet({ repeats: { rule: 'FREQ=WEEKLY;COUNT=3' } });
    const next = new Date(Date.parse(`${date}T09:00Z`) + 7 * 86_400_000).toISOString().slice(0, 16);
    await tomas.post(`/api/invitations/${event.id}/reply`, { reply: 'accepted' });
    const answer = await tomas.post<EventDetail>(`/api/invitations/${event.id}/reply`, {
      reply: 'declined',
      note: 'On leave',
      occurrence: next,
    });
    expect(answer.body.myReply).toBe('declined');
    const own = await tomas.get<EventDetail>(`/api/events/${event.id}?occurrence=${next}`);
    expect(own.body.myReply).toBe('declined');
    const seen = (await read(event.id, next)).attendees.find((one) => one.name === 'Tomas Okafor');
    expect(seen).toMatchObject({ reply: 'declined', note: 'On leave' });
    expect(replyOf(await read(event.id, `${date}T09:00`), 'Tomas Okafor')).toBe('accepted');
    const invitation = await tomas.get<InvitationDetail>(
      `/api/invitations/${event.id}?occurrence=${next}`,
    );
    expect(invitation.body).toMatchObject({ myReply: 'declined', myNote: 'On leave' });
    const replies = await ines.get<RepliesList>(`/api/replies?event=${event.id}`);
    const meeting = replies.body.meetings[0]!;
    expect(meeting.dates).toMatchObject([
      { name: 'Tomas Okafor', occurrence: next, reply: 'declined', note: 'On leave' },
    ]);
    expect(await claimsOf(event.id, 'Tomas Okafor')).toEqual(['busy', 'busy']);
  });
});

describe('SEQUENCE (RFC 5546 section 2.1.4)', () => {
  it('rises with times, rule, exceptions and status, and with nothing else', async () => {
    const { ines, event, date, change } = await meet();
    const steps: [object, number][] = [
      [{ title: 'Other words', description: '<p>More</p>' }, 0],
      [{ place: 'Boathouse' }, 0],
      [{ resources: [await server.id('Skua')] }, 0],
      [{ times: bergenTimes(`${date}T11:00`, `${date}T12:00`) }, 1],
      [{ repeats: { rule: 'FREQ=WEEKLY;COUNT=5' } }, 2],
      [{ title: 'Words of a series' }, 2],
      [{ scope: 'one', occurrence: `${date}T11:00`, title: 'One of them' }, 2],
      [
        {
          scope: 'one',
          occurrence: `${date}T11:00`,
          times: bergenTimes(`${date}T15:00`, `${date}T16:00`),
        },
        3,
      ],
    ];
    let version = 1;
    for (const [request, sequence] of steps) {
      const changed = await change({ version: version++, ...request });
      expect([request, changed.sequence]).toEqual([request, sequence]);
    }
    const cancelled = await ines.post<EventDetail>(`/api/events/${event.id}/cancel`, { version });
    expect(cancelled.body.sequence).toBe(4);
    const restored = await ines.post<EventDetail>(`/api/events/${event.id}/restore`, {
      version: version + 1,
    });
    expect(restored.body.sequence).toBe(5);
  });

  it('an answer to an earlier letter counts unless time or rule changed since', async () => {
    const { ines, event, date, change } = await meet({ repeats: { rule: 'FREQ=WEEKLY;COUNT=4' } });
    const second = new Date(Date.parse(`${date}T09:00Z`) + 7 * 86_400_000)
      .toISOString()
      .slice(0, 16);
    await change({ version: 1, title: 'Renamed' });
    await change({
      version: 2,
      scope: 'one',
      occurrence: second,
      times: bergenTimes(`${second.slice(0, 10)}T12:00`, `${second.slice(0, 10)}T13:00`),
    });
    await receive(mail(event, [{ partstat: 'ACCEPTED' }]));
    expect(replyOf(await read(event.id), 'Jon Skau')).toBe('accepted');
    // That one date has other times since; an answer to its old ones says nothing of them.
    const old = { partstat: 'DECLINED', recurrence: `:${second.replaceAll(/[-:]/g, '')}00` };
    await expect(receive(mail(event, [old]))).rejects.toMatchObject({ code: 'outdated' });
    await receive(mail(event, [{ ...old, sequence: 1 }]));
    expect(replyOf(await read(event.id, second), 'Jon Skau')).toBe('declined');
    await ines.post(`/api/events/${event.id}/cancel`, { version: 3 });
    await ines.post(`/api/events/${event.id}/restore`, { version: 4 });
    await receive(mail(event, [{ partstat: 'TENTATIVE', stamp: '20261123T091000Z' }]));
    expect(replyOf(await read(event.id), 'Jon Skau')).toBe('tentative');
    await change({
      version: 5,
      occurrence: `${date}T09:00`,
      times: bergenTimes(`${date}T10:00`, `${date}T11:00`),
    });
    const late = mail(event, [{ partstat: 'ACCEPTED', sequence: 3, stamp: '20261124T080000Z' }]);
    await expect(receive(late)).rejects.toMatchObject({ code: 'outdated' });
  });

  it('of two answers the newer counts, whichever comes first', async () => {
    const { event } = await meet();
    await receive(mail(event, [{ partstat: 'ACCEPTED', stamp: '20261123T120000Z' }]));
    const older = mail(event, [{ partstat: 'DECLINED', stamp: '20261123T110000Z' }]);
    await expect(receive(older)).rejects.toMatchObject({ code: 'outdated' });
    expect(replyOf(await read(event.id), 'Jon Skau')).toBe('accepted');
    await receive(mail(event, [{ partstat: 'TENTATIVE', stamp: '20261123T130000Z' }]));
    expect(replyOf(await read(event.id), 'Jon Skau')).toBe('tentative');
  });
});

describe('an answer by mail', () => {
  it('of a day to come does not silence those that follow', async () => {
    const { event } = await meet();
    await receive(mail(event, [{ partstat: 'ACCEPTED', stamp: '20990101T000000Z' }]));
    await receive(mail(event, [{ partstat: 'DECLINED', stamp: '20990101T000000Z' }]));
    expect(replyOf(await read(event.id), 'Jon Skau')).toBe('declined');
  });

  it('for the series and for a date in one letter counts twice, in whatever zone it is named', async () => {
    const { event, date } = await meet({ repeats: { rule: 'FREQ=DAILY;COUNT=4' } });
    const next = new Date(Date.parse(`${date}T09:00Z`) + 86_400_000).toISOString().slice(0, 16);
    // 09:00 in Bergen in August is 17:00 in Hobart.
    const inHobart = `;TZID=Australia/Hobart:${next.slice(0, 10).replaceAll('-', '')}T170000`;
    await receive(
      mail(event, [{ partstat: 'ACCEPTED' }, { partstat: 'DECLINED', recurrence: inHobart }]),
    );
    expect(replyOf(await read(event.id, `${date}T09:00`), 'Jon Skau')).toBe('accepted');
    expect(replyOf(await read(event.id, next), 'Jon Skau')).toBe('declined');
  });

  it('of which one part cannot be counted counts not at all', async () => {
    const { event } = await meet({ repeats: { rule: 'FREQ=DAILY;COUNT=4' } });
    const wrong = { partstat: 'DECLINED', recurrence: ':20300101T090000Z' };
    await expect(receive(mail(event, [{ partstat: 'ACCEPTED' }, wrong]))).rejects.toMatchObject({
      code: 'invalid-request',
    });
    expect(replyOf(await read(event.id), 'Jon Skau')).toBe('needs-action');
  });

  it('counts from the address that was written to, though an administrator changed it since', async () => {
    const { event, tomas } = await meet();
    await server.sql(`update person set email = 'tomas.o@ternrock.example' where subject_id = $1`, [
      await server.id('Tomas Okafor'),
    ]);
    await receive(mail(event, [{ partstat: 'ACCEPTED', from: 'tomas.okafor@ternrock.example' }]));
    const seen = await read(event.id);
    expect(seen.attendees.find((one) => one.name === 'Tomas Okafor')).toMatchObject({
      reply: 'accepted',
      email: 'tomas.o@ternrock.example',
    });
    expect(await claimsOf(event.id, 'Tomas Okafor')).toEqual(['busy']);
    const here = await tomas.post<EventDetail>(`/api/invitations/${event.id}/reply`, {
      reply: 'tentative',
    });
    expect(here.body.myReply).toBe('tentative');
    await server.sql(
      `update person set email = 'tomas.okafor@ternrock.example' where subject_id = $1`,
      [await server.id('Tomas Okafor')],
    );
  });
});

describe('a letter', () => {
  it('says times in its reader’s own zone and clock, and carries the places as such', async () => {
    await server.sql(`update person set clock = '12' where email like 'hal.teague@%'`);
    const ines = await server.as('ines.aldabe');
    await ines.post(
      '/api/events',
      meetingRequest({
        title: 'Clock check',
        times: bergenTimes('2027-09-01T14:00', '2027-09-01T15:00'),
        attendees: [
          { personId: await server.id('Hal Teague'), role: 'required' },
          { personId: await server.id('Mika Sandoval'), role: 'required' },
        ],
        resources: [await server.id('Puffin')],
        visibility: 'private',
      }),
    );
    const rows = await server.sql<{ to: string; text: string; calendar: string }>(
      `select recipient_name as to, body_text as text, calendar from mail
       where subject like '%Clock check%' order by recipient_name`,
    );
    expect(rows.map((row) => row.to)).toEqual(['Hal Teague', 'Mika Sandoval']);
    expect(rows[0]!.text).toContain('Wed 1 Sep 10:00 pm–11:00 pm (Hobart time)');
    const [event] = readCalendars([rows[0]!.calendar])[0]!.events;
    expect(event).toMatchObject({ class: 'PRIVATE', transp: 'OPAQUE', sequence: 0 });
    expect(event!.attendees.at(-1)).toMatchObject({ CN: 'Puffin', CUTYPE: 'ROOM' });
  });
});
