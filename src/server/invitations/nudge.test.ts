import { describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { RepliesList } from '../../contract/invitations.ts';
import { attentionTo } from '../../core/meetings/attention.ts';
import { DAY } from '../../core/time/interval.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();

async function meetingOf(organizer: string, title: string, guests: string[]): Promise<EventDetail> {
  const client = await server.as(organizer);
  const { body } = await client.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title,
      times: bergenTimes('2027-03-02T10:00', '2027-03-02T11:00'),
      attendees: await Promise.all(
        guests.map(async (name) => ({
          personId: await server.id(name),
          role: 'required' as const,
        })),
      ),
    }),
  );
  return body;
}

const remindersOf = (meeting: EventDetail) =>
  server.sql<{ to: string; method: string; text: string }>(
    `select recipient_email as "to", method, body_text as text from mail
     where strpos(calendar, $1) > 0 and subject like 'Please answer:%' order by recipient_email`,
    [meeting.uid],
  );

describe('whoever has not answered', () => {
  it('is reminded once a day, by a letter with the invitation, and nobody else', async () => {
    const meeting = await meetingOf('kwame.boateng', 'Hydrophones', [
      'Tomas Okafor',
      'Mika Sandoval',
      'Hal Teague',
    ]);
    const tomas = await server.as('tomas.okafor');
    await tomas.post(`/api/invitations/${meeting.id}/reply`, { reply: 'accepted' });
    const kwame = await server.as('kwame.boateng');
    const nudge = (body: object) =>
      kwame.post<Pick<EventDetail, 'attendees'> & Required<Pick<ProblemBody, 'fields'>>>(
        `/api/events/${meeting.id}/nudge`,
        body,
      );
    const idOf = (name: string) => meeting.attendees.find((one) => one.name === name)!.id;

    const one = await nudge({ attendees: [idOf('Hal Teague')], message: 'By noon, please' });
    expect(one.status).toBe(200);
    expect(await remindersOf(meeting)).toMatchObject([
      { to: 'hal.teague@ternrock.example', method: 'REQUEST' },
    ]);
    expect((await remindersOf(meeting))[0]!.text).toContain('By noon, please');
    // The rest: Hal was reminded, and Tomas has answered.
    const all = await nudge({ attendees: 'all' });
    expect(all.status).toBe(200);
    expect((await remindersOf(meeting)).map((letter) => letter.to)).toEqual([
      'hal.teague@ternrock.example',
      'mika.sandoval@ternrock.example',
    ]);
    const nudged = all.body.attendees.filter((who) => who.nudgedAt !== null);
    expect(nudged.map((who) => who.name).sort()).toEqual(['Hal Teague', 'Mika Sandoval']);

    const again = await nudge({ attendees: 'all' });
    expect(again).toMatchObject({ status: 409, body: { code: 'nobody-to-nudge' } });
    const answered = await nudge({ attendees: [idOf('Tomas Okafor')] });
    expect(answered.status).toBe(400);
    expect(answered.body.fields[0]).toEqual({
      field: 'attendees.0',
      message: 'must not have answered, as Tomas Okafor has',
    });
    const resting = await nudge({ attendees: [idOf('Hal Teague')] });
    expect(resting.body.fields[0]!.message).toContain('within a day');
    const stranger = await nudge({ attendees: [999_999_999] });
    expect(stranger.body.fields[0]!.message).toBe('must be one of those who are invited');
    expect(await remindersOf(meeting)).toHaveLength(2);

    // A new time is a new question, of which nobody has been reminded.
    const moved = await kwame.patch<EventDetail>(`/api/events/${meeting.id}`, {
      version: meeting.version,
      times: bergenTimes('2027-03-03T10:00', '2027-03-03T11:00'),
    });
    expect(moved.body.attendees.every((who) => who.nudgedAt === null)).toBe(true);
    expect((await nudge({ attendees: 'all' })).status).toBe(200);
    expect(await remindersOf(meeting)).toHaveLength(5);
  });

  it('is reminded by whoever may change the meeting alone', async () => {
    const meeting = await meetingOf('kwame.boateng', 'Cables', ['Tomas Okafor']);
    const tomas = await server.as('tomas.okafor');
    expect((await tomas.post(`/api/events/${meeting.id}/nudge`, { attendees: 'all' })).status).toBe(
      403,
    );
  });
});

describe('what needs its organizer', () => {
  it('comes first, in the list as in the reckoning of the core', async () => {
    const ines = await server.as('ines.aldabe');
    // Some were asked days ago, and one that is close waits.
    await server.sql(
      `update attendee set invited_at = invited_at - interval '4 days'
       where id % 3 = 0 and reply = 'needs-action'`,
    );
    const { body } = await ines.get<RepliesList>('/api/replies?limit=50');
    const at = server.running.platform.clock.now();
    const needs = body.meetings.map((meeting) => attentionTo(meeting, at).length > 0);
    expect(body.meetings).toHaveLength(body.total);
    expect(needs.filter(Boolean)).toHaveLength(body.needing);
    expect(body.needing).toBeGreaterThan(0);
    expect(body.needing).toBeLessThan(body.total);
    expect(needs).toEqual([...needs].sort((a, b) => Number(b) - Number(a)));
  });

  it('is not a meeting that is soon whose people were asked this minute', async () => {
    const ines = await server.as('ines.aldabe');
    const needing = async () => (await ines.get<RepliesList>('/api/replies')).body.needing;
    const before = await needing();
    const made = await ines.post<EventDetail>(
      '/api/events',
      meetingRequest({
        title: 'Soon',
        times: bergenTimes('2026-11-24T17:00', '2026-11-24T17:30'),
        attendees: [{ personId: await server.id('Tomas Okafor'), role: 'required' }],
      }),
    );
    expect(await needing()).toBe(before);
    await server.sql(
      `update attendee set invited_at = invited_at - interval '3 hours'
       where event_id = $1 and role = 'required'`,
      [made.body.id],
    );
    expect(await needing()).toBe(before + 1);
  });

  it('is said, the gravest first', () => {
    const now = Date.UTC(2027, 2, 1, 12);
    const asked = (name: string, changes = {}) => ({
      name,
      role: 'required' as const,
      reply: 'needs-action' as const,
      invitedAt: now - 3 * DAY,
      nudgedAt: null,
      proposals: 0,
      ...changes,
    });
    const replies = [
      asked('Jon'),
      asked('Kabir', { nudgedAt: now - DAY }),
      asked('Samuel', { reply: 'declined' }),
      asked('Robine', { reply: 'declined', role: 'optional' }),
      asked('Priya', { role: 'optional', invitedAt: now - DAY }),
    ];
    expect(attentionTo({ start: now + 9 * DAY, replies }, now)).toEqual([
      { kind: 'declined', names: ['Samuel'] },
      { kind: 'silent', names: ['Jon'], since: now - 3 * DAY },
    ]);
    expect(attentionTo({ start: now + DAY / 2, replies }, now)).toEqual([
      { kind: 'declined', names: ['Samuel'] },
      { kind: 'soon', names: ['Jon', 'Kabir'] },
    ]);
    expect(attentionTo({ start: now + DAY, replies: [] }, now)).toEqual([]);
  });
});
