import { describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();
const PDF = Buffer.from('%PDF-1.4\n1 0 obj\n<<>>\nendobj\ntrailer\n<<>>\n%%EOF\n');

async function send(
  mailbox: string,
  eventId: string,
  name: string,
  content: Uint8Array<ArrayBuffer>,
) {
  const client = await server.as(mailbox);
  const response = await fetch(
    `${client.base}/api/events/${eventId}/attachments?name=${encodeURIComponent(name)}`,
    {
      method: 'POST',
      headers: { Cookie: client.cookie, 'Content-Type': 'application/octet-stream' },
      body: content,
    },
  );
  return {
    status: response.status,
    body: (await response.json()) as Pick<EventDetail, 'attachments'> & ProblemBody,
  };
}

async function make(changes = {}) {
  const ines = await server.as('ines.aldabe');
  return {
    ines,
    event: (await ines.post<EventDetail>('/api/events', meetingRequest(changes))).body,
  };
}

describe('attachments', () => {
  it('are kept, and come back as a file that is never shown as a page', async () => {
    const { ines, event } = await make();
    const added = await send('ines.aldabe', event.id, 'Łódź plan.pdf', new Uint8Array(PDF));
    expect(added.status).toBe(201);
    const [file] = added.body.attachments;
    expect(file).toMatchObject({
      name: 'Łódź plan.pdf',
      type: 'application/pdf',
      size: PDF.length,
    });
    const response = await fetch(`${ines.base}/api/events/${event.id}/attachments/${file!.id}`, {
      headers: { Cookie: ines.cookie },
    });
    expect(Buffer.from(await response.arrayBuffer())).toEqual(PDF);
    expect(response.headers.get('content-disposition')).toMatch(
      /^attachment; .*filename\*=UTF-8''%C5%81%C3%B3d%C5%BA%20plan\.pdf/,
    );
    expect(response.headers.get('content-security-policy')).toBe("default-src 'none'; sandbox");
    expect(response.headers.get('x-content-type-options')).toBe('nosniff');
    await ines.request('DELETE', `/api/events/${event.id}/attachments/${file!.id}`);
    expect((await ines.get<EventDetail>(`/api/events/${event.id}`)).body.attachments).toEqual([]);
  });

  it.each([
    ['script.html', '<script>alert(1)</script>'],
    ['picture.png', '%PDF-1.4 in disguise'],
    ['notes.txt', 'text\0with a binary part'],
    ['program.exe', 'MZ'],
    ['empty.txt', ''],
    ['../secret.txt', 'hello'],
  ])('%s is refused, saying what is allowed', async (name, content) => {
    const { event } = await make();
    const answer = await send('ines.aldabe', event.id, name, new TextEncoder().encode(content));
    expect(answer.status).toBe(400);
    expect(['file', 'name']).toContain(answer.body.fields![0]!.field);
  });

  it('for which the database has no room are refused, and leave nothing half done', async () => {
    const { event } = await make();
    await server.sql(
      `create function full_disk() returns trigger language plpgsql as
       $$ begin raise exception 'could not extend file' using errcode = '53100'; end $$`,
    );
    await server.sql(
      'create trigger full_disk before insert on stored_file execute function full_disk()',
    );
    const refused = await send('ines.aldabe', event.id, 'plan.pdf', new Uint8Array(PDF));
    expect(refused.status).toBe(507);
    expect(refused.body.code).toBe('no-room');
    await server.sql('drop function full_disk cascade');
    // There is room again: the same event, in the same version, takes it.
    const added = await send('ines.aldabe', event.id, 'plan.pdf', new Uint8Array(PDF));
    expect(added.status).toBe(201);
    expect(added.body.attachments).toHaveLength(1);
    const facts = await server.sql(`select 1 from fact where event_id = $1 and kind = 'attached'`, [
      event.id,
    ]);
    expect(facts).toHaveLength(1);
  });

  it('of more than 10 MB are refused', async () => {
    const { event } = await make();
    const large = new Uint8Array(10 * 1024 * 1024 + 1).fill(97);
    const answer = await send('ines.aldabe', event.id, 'large.txt', large);
    expect(answer).toMatchObject({ status: 413, body: { code: 'too-large' } });
    const whole = await send('ines.aldabe', event.id, 'fits.txt', large.subarray(1));
    expect(whole.status).toBe(201);
  });

  it('are for those who see the event, and changed by its organizer alone', async () => {
    const { event } = await make({
      attendees: [{ personId: await server.id('Tomas Okafor'), role: 'required' }],
    });
    const added = await send('ines.aldabe', event.id, 'a.txt', new TextEncoder().encode('hello'));
    const path = `/api/events/${event.id}/attachments/${added.body.attachments[0]!.id}`;
    expect((await (await server.as('tomas.okafor')).get(path)).body).toBe('hello');
    expect((await (await server.as('clara.weiss')).get(path)).status).toBe(404);
    const other = await send('tomas.okafor', event.id, 'b.txt', new TextEncoder().encode('hi'));
    expect(other.status).toBe(403);
    const stranger = await send('clara.weiss', event.id, 'c.txt', new TextEncoder().encode('hi'));
    expect(stranger.status).toBe(404);
  });
});

describe('what is typed about an event', () => {
  it('keeps a little form and nothing that could run', async () => {
    const { event } = await make({
      description:
        '<p onclick="x()">See <a href="javascript:alert(1)">this</a> <a href="https://ternrock.example" target="_blank">that</a></p>' +
        '<script>alert(1)</script><img src=x onerror=alert(1)><h1>Plan</h1><ul><li><b>one</b></li></ul>',
      agenda: '<p></p>',
      notes: '<style>body{display:none}</style>plain & simple',
    });
    expect(event.description).toBe(
      '<p>See <a>this</a> <a href="https://ternrock.example">that</a></p><h3>Plan</h3><ul><li><strong>one</strong></li></ul>',
    );
    expect(event.agenda).toBe('');
    expect(event.notes).toBe('plain &amp; simple');
  });

  it('is plain text in mail and in calendar files', async () => {
    const { event } = await make({
      title: 'With plain text',
      description:
        '<p>First &amp; last</p><ul><li>one</li><li><a href="https://a.example">two</a></li></ul>',
      attendees: [{ personId: await server.id('Tomas Okafor'), role: 'required' }],
    });
    const [mail] = await server.sql<{ body_text: string; calendar: string; body_html: string }>(
      'select body_text, body_html, calendar from mail where event_id = $1',
      [event.id],
    );
    expect(mail!.body_text).toContain('First & last\n- one\n- two (https://a.example)');
    expect(mail!.calendar.replaceAll(/\r?\n /g, '')).toContain('DESCRIPTION:First & last\\n- one');
    expect(mail!.body_html).toContain('<li>one</li>');
  });

  it('my reminders and my category are mine alone', async () => {
    const tomas = await server.as('tomas.okafor');
    const { event, ines } = await make({
      attendees: [{ personId: await server.id('Tomas Okafor'), role: 'required' }],
      reminders: [{ minutes: 30, means: 'mail' }],
    });
    expect(event.reminders).toEqual([{ minutes: 30, means: 'mail' }]);
    const { body } = await tomas.get<{ categories: { id: number }[] }>('/api/categories');
    const categoryId = body.categories[0]!.id;
    const kept = await tomas.request<EventDetail>('PUT', `/api/events/${event.id}/mine`, {
      categoryId,
      reminders: [{ minutes: 1440, means: 'popup' }],
    });
    expect(kept.body).toMatchObject({ categoryId, reminders: [{ minutes: 1440, means: 'popup' }] });
    const own = await ines.get<EventDetail>(`/api/events/${event.id}`);
    expect(own.body).toMatchObject({
      categoryId: null,
      reminders: [{ minutes: 30, means: 'mail' }],
    });
    const foreign = await ines.request<ProblemBody>('PUT', `/api/events/${event.id}/mine`, {
      categoryId,
    });
    expect(foreign.body.fields).toEqual([
      { field: 'categoryId', message: 'must be one of your own categories' },
    ]);
  });

  it('two under one key are two requests: the second is refused and nothing is lost', async () => {
    const { ines, event } = await make();
    const upload = async (name: string, content: Uint8Array<ArrayBuffer>) => {
      const response = await fetch(`${ines.base}/api/events/${event.id}/attachments?name=${name}`, {
        method: 'POST',
        headers: {
          Cookie: ines.cookie,
          'Content-Type': 'application/octet-stream',
          'Idempotency-Key': 'one-key-for-two',
        },
        body: content,
      });
      return { status: response.status, body: (await response.json()) as ProblemBody };
    };
    const other = new Uint8Array(Buffer.concat([PDF, Buffer.from('%more')]));
    expect((await upload('first.pdf', new Uint8Array(PDF))).status).toBe(201);
    expect(await upload('second.pdf', new Uint8Array(PDF))).toMatchObject({
      status: 422,
      body: { code: 'key-used' },
    });
    expect(await upload('first.pdf', other)).toMatchObject({ status: 422 });
    // The very same again is answered again, and done once.
    expect((await upload('first.pdf', new Uint8Array(PDF))).status).toBe(201);
    const { body } = await ines.get<EventDetail>(`/api/events/${event.id}`);
    expect(body.attachments.map((file) => file.name)).toEqual(['first.pdf']);
  });

  it('go along when a part of a series becomes a series of its own, and once when it goes back', async () => {
    const { ines, event } = await make({ repeats: { rule: 'FREQ=WEEKLY;COUNT=4' } });
    await send('ines.aldabe', event.id, 'before.pdf', new Uint8Array(PDF));
    const tail = await ines.patch<EventDetail & { undo: { version: number } }>(
      `/api/events/${event.id}`,
      { version: 1, scope: 'following', occurrence: '2026-12-24T10:00', title: 'Later' },
    );
    await send('ines.aldabe', tail.body.id, 'since.pdf', new Uint8Array(PDF));
    const names = async (id: string) =>
      (await ines.get<EventDetail>(`/api/events/${id}`)).body.attachments
        .map((file) => file.name)
        .sort();
    expect(await names(tail.body.id)).toEqual(['before.pdf', 'since.pdf']);
    expect(await names(event.id)).toEqual(['before.pdf']);
    const undone = await ines.post(`/api/events/${event.id}/undo`, { version: 2 });
    expect(undone.status).toBe(200);
    expect(await names(event.id)).toEqual(['before.pdf', 'since.pdf']);
  });
});
