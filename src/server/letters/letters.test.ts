import { describe, expect, it } from 'vitest';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

/* What a letter is like in whatever reads it. */

const server = useServer();
const OUTSIDE = 'jon.skau@harbourworks.example';

async function letter(more: object = {}): Promise<{ text: string; html: string; id: string }> {
  const ines = await server.as('ines.aldabe');
  const made = await ines.post<EventDetail>(
    '/api/events',
    meetingRequest({
      title: 'Letter of letters',
      times: bergenTimes('2027-05-11T10:00', '2027-05-11T11:00'),
      attendees: [{ email: OUTSIDE, role: 'required' }],
      ...more,
    }),
  );
  const [mail] = await server.sql<{ text: string; html: string }>(
    'select body_text as text, body_html as html from mail where event_id = $1',
    [made.body.id],
  );
  return { ...mail!, id: made.body.id };
}

describe('a letter to somebody of a partner', () => {
  it('leads to the guest’s page, where they have no account, and to their invitation, where they do', async () => {
    const [partner] = await server.sql<{ id: number; email: string }>(
      `select subject_id as id, email from person
       join organization on organization.id = organization_id
       where not is_home order by subject_id limit 1`,
    );
    const { id, email } = partner!;
    const asks = { attendees: [{ personId: id, role: 'required' }] };
    const first = await letter(asks);
    const token = /\/guest\/([^\s?]+)\?answer=accepted/.exec(first.text)![1]!;
    const answer = await server
      .anonymous()
      .post(`/api/guest/${token}/reply`, { reply: 'accepted' });
    expect(answer.status).toBe(200);
    const ines = await server.as('ines.aldabe');
    const { body } = await ines.get<EventDetail>(`/api/events/${first.id}`);
    expect(body.attendees.find((one) => one.personId === id)!.reply).toBe('accepted');
    await server.sql(`update person set password_hash = 'x', account = 'active' where email = $1`, [
      email,
    ]);
    const second = await letter(asks);
    await server.sql(`update person set password_hash = null, account = 'none' where email = $1`, [
      email,
    ]);
    expect(second.text).toContain(`/invitations/${second.id}?answer=accepted`);
    expect(second.text).not.toContain('/guest/');
  });
});

describe('a letter', () => {
  it('fits a plain terminal: no line but an address is longer than it is wide', async () => {
    const { text } = await letter({
      message: `${'We look at every single one of the moorings, and then at the charts. '.repeat(6)}`,
      description: `<p>${'Bring what you know of the currents between the islands. '.repeat(8)}</p>`,
    });
    const long = text.split('\n').filter((line) => line.length > 80 && !line.includes('://'));
    expect(long).toEqual([]);
    expect(text).toContain('When: Tue 11 May 10:00–11:00 (Oslo time), 1 h');
  });

  it('carries a link for each answer, none of which answers by being followed', async () => {
    const { text, html, id } = await letter();
    const links = ['accepted', 'tentative', 'declined'].map(
      (answer) => new RegExp(`http\\S+/guest/\\S+\\?answer=${answer}`).exec(text)?.[0],
    );
    for (const link of links) expect(html).toContain(link);
    for (const link of links) {
      const { pathname, search } = new URL(link!);
      const token = pathname.split('/').at(-1)!;
      await fetch(`${server.base}${pathname}${search}`);
      await fetch(`${server.base}/api/guest/${token}${search}`);
      await fetch(`${server.base}/api/guest/${token}/reply${search}`);
    }
    const ines = await server.as('ines.aldabe');
    const { body } = await ines.get<EventDetail>(`/api/events/${id}`);
    expect(body.attendees.find((one) => one.email === OUTSIDE)!.reply).toBe('needs-action');
  });

  it('shows what was typed as text, and what was written with form without anything that runs', async () => {
    const { html } = await letter({
      title: '<img src=x onerror=alert(1)>',
      message: '<script>alert(2)</script>',
      description:
        '<p onclick="alert(3)">Fine</p><script>alert(4)</script><a href="javascript:alert(5)">x</a>',
    });
    expect(html).not.toMatch(/<script|<img|onclick|javascript:/i);
    expect(html).toContain('&lt;img src=x onerror=alert(1)&gt;');
  });

  it('says how it looks in the dark and on a narrow screen', async () => {
    const { html } = await letter();
    expect(html).toContain('<meta name="color-scheme" content="light dark">');
    expect(html).toMatch(/@media \(prefers-color-scheme:dark\)/);
    expect(html).toMatch(/@media \(max-width:480px\)/);
  });
});

describe('a date of a series that comes back', () => {
  it('after a letter about all left it out, is told with all of them', async () => {
    const ines = await server.as('ines.aldabe');
    const { id } = await letter({ repeats: { rule: 'FREQ=WEEKLY;COUNT=4' } });
    const gone = '2027-05-18T10:00';
    const detail = () => ines.get<EventDetail>(`/api/events/${id}`).then(({ body }) => body);
    const act = async (how: string, body: object) => {
      const { status } = await ines.request(
        how === '' ? 'PATCH' : 'POST',
        `/api/events/${id}${how}`,
        { version: (await detail()).version, ...body },
      );
      expect(status).toBe(200);
    };
    await act('/cancel', { scope: 'one', occurrence: gone });
    await act('', { title: 'Letter of all' });
    await act('/restore', { occurrence: gone });
    const letters = await server.sql<{ calendar: string; text: string }>(
      'select calendar, body_text as text from mail where event_id = $1 order by created_at, id',
      [id],
    );
    const whole = letters.filter((one) => one.calendar.includes('SUMMARY:Letter of all'));
    expect(whole).toHaveLength(2);
    const left = whole.map((one) => one.calendar.includes('EXDATE'));
    // The clock stands still, so either may be read first.
    expect(left.sort()).toEqual([false, true]);
    for (const one of whole) expect(one.calendar).toContain('RRULE:');
  });

  it('is the one that is shown next, however far ahead, and a cancelled one is not', async () => {
    const ines = await server.as('ines.aldabe');
    const { id } = await letter({
      times: bergenTimes('2027-05-11T10:00', '2027-05-11T11:00'),
      repeats: { rule: 'FREQ=YEARLY;INTERVAL=3;COUNT=3' },
    });
    const detail = async () => (await ines.get<EventDetail>(`/api/events/${id}`)).body;
    expect((await detail()).series!.recurrenceId).toBe('2027-05-11T10:00');
    const { version } = await detail();
    await ines.post(`/api/events/${id}/cancel`, {
      version,
      scope: 'one',
      occurrence: '2027-05-11T10:00',
    });
    expect(await detail()).toMatchObject({
      status: 'confirmed',
      series: { recurrenceId: '2030-05-11T10:00' },
    });
  });
});
