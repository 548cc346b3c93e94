import { describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { ChangeEventRequest } from '../../contract/events.ts';
import type { InvitationDetail } from '../../contract/invitations.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();

let day = 1;
/** A meeting on a day of its own, with guests by their names. */
async function meetingWith(guests: string[], extra = {}): Promise<EventDetail> {
  const ines = await server.as('ines.aldabe');
  const date = `2027-04-${String(day++).padStart(2, '0')}`;
  const { body } = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: `With others, ${date}`,
      times: bergenTimes(`${date}T10:00`, `${date}T11:00`),
      attendees: await invitees(guests),
      ...extra,
    }),
  );
  await newLetters(body);
  return body;
}

async function invitees(names: string[], role: 'required' | 'optional' = 'required') {
  return Promise.all(
    names.map(async (name) =>
      name.includes('@') ? { email: name, role } : { personId: await server.id(name), role },
    ),
  );
}

async function change(meeting: EventDetail, request: Partial<ChangeEventRequest>) {
  const ines = await server.as('ines.aldabe');
  return ines.patch<EventDetail>(`/api/events/${meeting.id}`, {
    version: meeting.version,
    ...request,
  });
}

const seen = new Set<string>();
/** Letters about a meeting that were not looked at before, by receiver. */
async function newLetters(meeting: EventDetail) {
  const rows = await server.sql<{
    id: string;
    to: string;
    method: string;
    text: string;
    calendar: string;
  }>(
    `select id, recipient_email as "to", method, body_text as text, calendar from mail
     where strpos(calendar, $1) > 0 order by recipient_email`,
    [meeting.uid],
  );
  const fresh = rows.filter((one) => !seen.has(one.id));
  for (const one of rows) seen.add(one.id);
  return fresh;
}

const claimed = async (meeting: EventDetail) =>
  (
    await server.sql<{ name: string }>(
      `select subject.name from claim
       join occurrence on occurrence.id = claim.occurrence_id
       join subject on subject.id = claim.subject_id
       where occurrence.event_id = $1 order by subject.name`,
      [meeting.id],
    )
  ).map((row) => row.name);

const namesOf = (meeting: EventDetail) => meeting.attendees.map((one) => one.name).sort();

describe('the people of a sent meeting', () => {
  it('are added and removed, each told what concerns them, their time taken and given back', async () => {
    const meeting = await meetingWith(['Tomas Okafor', 'Mika Sandoval']);
    const tomas = await server.as('tomas.okafor');
    await tomas.post(`/api/invitations/${meeting.id}/reply`, { reply: 'accepted' });
    const { status, body } = await change(meeting, {
      attendees: [
        ...(await invitees(['Tomas Okafor', 'Hal Teague'])),
        ...(await invitees(['jon@skau.example'], 'optional')),
      ],
      message: 'Hal knows the winch',
    });
    expect(status).toBe(200);
    expect(namesOf(body)).toEqual([
      'Hal Teague',
      'Ines Aldabe',
      'Tomas Okafor',
      'jon@skau.example',
    ]);
    const replies = new Map(body.attendees.map((one) => [one.name, one.reply]));
    expect(replies.get('Tomas Okafor')).toBe('accepted');
    expect(replies.get('Hal Teague')).toBe('needs-action');
    expect(await claimed(meeting)).toEqual(['Hal Teague', 'Ines Aldabe', 'Tomas Okafor']);

    const letters = await newLetters(meeting);
    expect(letters.map(({ to, method }) => `${method} ${to}`).sort()).toEqual([
      'CANCEL mika.sandoval@ternrock.example',
      'REQUEST hal.teague@ternrock.example',
      'REQUEST jon@skau.example',
      'REQUEST tomas.okafor@ternrock.example',
    ]);
    const to = (who: string) => letters.find((one) => one.to.startsWith(who))!;
    expect(to('hal').text).toContain('invites you');
    expect(to('hal').text).toContain('Hal knows the winch');
    expect(to('mika').text).toContain('no longer asks you');
    // Whoever left learns nothing of who came.
    expect(to('mika').calendar).not.toContain('hal.teague');
    expect(to('tomas').text).toContain('Asked as well: Hal Teague and jon@skau.example.');
    expect(to('tomas').text).toContain('Not asked any more: Mika Sandoval.');

    // It is out of Mika's hands, and in Hal's.
    const mika = await server.as('mika.sandoval');
    expect(
      (await mika.post(`/api/invitations/${meeting.id}/reply`, { reply: 'accepted' })).status,
    ).toBe(404);
    const hal = await server.as('hal.teague');
    expect(
      (await hal.post(`/api/invitations/${meeting.id}/reply`, { reply: 'accepted' })).status,
    ).toBe(200);
  });

  it('who stay are not told where only those concerned are; roles change without asking anew', async () => {
    const meeting = await meetingWith(['Tomas Okafor', 'Mika Sandoval']);
    const { body } = await change(meeting, {
      attendees: [
        ...(await invitees(['Tomas Okafor'], 'optional')),
        ...(await invitees(['Mika Sandoval', 'Hal Teague'])),
      ],
      tell: 'concerned',
    });
    expect(body.attendees.find((one) => one.name === 'Tomas Okafor')?.role).toBe('optional');
    expect((await newLetters(meeting)).map((one) => one.to)).toEqual([
      'hal.teague@ternrock.example',
    ]);
    const quiet = await change(body, {
      attendees: await invitees(['Mika Sandoval']),
      tell: 'nobody',
    });
    expect(quiet.status).toBe(200);
    expect(await newLetters(meeting)).toEqual([]);
    expect(await claimed(meeting)).toEqual(['Ines Aldabe', 'Mika Sandoval']);
  });

  it('read what was written to them, and nothing that was meant for others alone', async () => {
    const meeting = await meetingWith(['Tomas Okafor', 'Mika Sandoval'], { message: 'For all' });
    const messageTo = async (mailbox: string) => {
      const client = await server.as(mailbox);
      const { body } = await client.get<InvitationDetail>(`/api/invitations/${meeting.id}`);
      return body.message;
    };
    const { body } = await change(meeting, {
      attendees: await invitees(['Tomas Okafor', 'Hal Teague']),
      tell: 'concerned',
      message: 'Hal goes in place of Mika',
    });
    expect(await messageTo('hal.teague')).toBe('Hal goes in place of Mika');
    expect(await messageTo('tomas.okafor')).toBe('For all');
    const ines = await server.as('ines.aldabe');
    const hal = body.attendees.find((one) => one.name === 'Hal Teague')!;
    const nudged = await ines.post(`/api/events/${meeting.id}/nudge`, {
      attendees: [hal.id],
      message: 'Please, Hal',
    });
    expect(nudged.status).toBe(200);
    expect(await messageTo('hal.teague')).toBe('Please, Hal');
    expect(await messageTo('tomas.okafor')).toBe('For all');
  });

  it('are as they were once it is taken back, with the answers that stood', async () => {
    const meeting = await meetingWith(['Tomas Okafor', 'Mika Sandoval']);
    const tomas = await server.as('tomas.okafor');
    await tomas.post(`/api/invitations/${meeting.id}/reply`, { reply: 'tentative', note: 'Late' });
    const changed = await change(meeting, { attendees: await invitees(['Hal Teague']) });
    await newLetters(meeting);
    expect(await claimed(meeting)).toEqual(['Hal Teague', 'Ines Aldabe']);
    const ines = await server.as('ines.aldabe');
    const { status, body } = await ines.post<EventDetail>(`/api/events/${meeting.id}/undo`, {
      version: changed.body.version,
      tell: 'everyone',
    });
    expect(status).toBe(200);
    expect(namesOf(body)).toEqual(['Ines Aldabe', 'Mika Sandoval', 'Tomas Okafor']);
    const back = body.attendees.find((one) => one.name === 'Tomas Okafor')!;
    expect(back).toMatchObject({ reply: 'tentative', note: 'Late' });
    expect(await claimed(meeting)).toEqual(['Ines Aldabe', 'Mika Sandoval', 'Tomas Okafor']);
    const last = (await newLetters(meeting)).map(({ to, method }) => `${method} ${to}`).sort();
    expect(last).toEqual([
      'CANCEL hal.teague@ternrock.example',
      'REQUEST mika.sandoval@ternrock.example',
      'REQUEST tomas.okafor@ternrock.example',
    ]);
  });

  it('of a series change for all of it or what follows, not for one date', async () => {
    const meeting = await meetingWith(['Tomas Okafor'], {
      times: bergenTimes('2027-05-03T10:00', '2027-05-03T11:00'),
      repeats: { rule: 'FREQ=WEEKLY;COUNT=4', except: [] },
    });
    const asked = { attendees: await invitees(['Tomas Okafor', 'Hal Teague']) };
    const one = await change(meeting, { ...asked, scope: 'one', occurrence: '2027-05-10T10:00' });
    expect(one.status).toBe(400);
    expect((one.body as unknown as ProblemBody).fields).toEqual([
      { field: 'attendees', message: 'can be changed only for "following" or "all"' },
    ]);
    const following = await change(meeting, {
      ...asked,
      scope: 'following',
      occurrence: '2027-05-17T10:00',
    });
    expect(following.status).toBe(200);
    expect(namesOf(following.body)).toEqual(['Hal Teague', 'Ines Aldabe', 'Tomas Okafor']);
    const hals = await server.sql<{ start: number }>(
      `select lower(during) as start from claim join occurrence on occurrence.id = occurrence_id
       join event on event.id = event_id
       where subject_id = $1 and event.title = $2 order by 1`,
      [await server.id('Hal Teague'), meeting.title],
    );
    expect(hals.map((row) => new Date(row.start).toISOString().slice(0, 10))).toEqual([
      '2027-05-17',
      '2027-05-24',
    ]);
  });

  it('move with it in one change: those who stay are asked about the new time, those who are new once', async () => {
    const meeting = await meetingWith(['Tomas Okafor']);
    const { body } = await change(meeting, {
      times: bergenTimes('2027-06-29T14:00', '2027-06-29T15:00'),
      attendees: await invitees(['Tomas Okafor', 'Hal Teague']),
    });
    expect(body.sequence).toBe(1);
    const letters = await newLetters(meeting);
    expect(letters.map((one) => one.to)).toEqual([
      'hal.teague@ternrock.example',
      'tomas.okafor@ternrock.example',
    ]);
    expect(letters[1]!.text).toContain('It was ');
    expect(letters[0]!.text).not.toContain('It was ');
  });

  it('are named where they are none', async () => {
    const meeting = await meetingWith(['Tomas Okafor']);
    const { status, body } = await change(meeting, {
      attendees: [{ personId: 99_999, role: 'required' }],
    });
    expect(status).toBe(400);
    expect((body as unknown as ProblemBody).fields).toEqual([
      { field: 'attendees.0.personId', message: 'must be the id of a person' },
    ]);
    const tomas = await server.as('tomas.okafor');
    const theirs = await tomas.patch(`/api/events/${meeting.id}`, {
      version: meeting.version,
      attendees: [],
    });
    expect(theirs.status).toBe(403);
  });
});
