import { expect, it } from 'vitest';
import type { CalendarItem, EventDetail } from '../../contract/eventDetail.ts';
import type { CalendarResponse } from '../../contract/calendar.ts';
import type { News } from '../../contract/invitations.ts';
import { useServer } from '../../../tests/support/server.ts';
import { readMail, receiveMail } from './receive.ts';

/* Days without a clock are days on the calendar of whoever is asked, wherever they are. */

const server = useServer();
const HOST = 'sunniva@fjordworks.example';
const ASKED = ['leila.haddad@ternrock.example', 'idris.kaya@ternrock.example'];

/** Two days, of which the second is that of the clock change in Oslo. */
const letter = (to: string) =>
  [
    `From: Sunniva Fjord <${HOST}>`,
    `To: ${to}`,
    'Subject: Open days',
    'Message-ID: <open-days@fjordworks.example>',
    'MIME-Version: 1.0',
    'Content-Type: text/calendar; charset=utf-8; method=REQUEST',
    '',
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Elsewhere//EN',
    'METHOD:REQUEST',
    'BEGIN:VEVENT',
    'UID:open-days@fjordworks.example',
    'DTSTAMP:20261124T080000Z',
    `ORGANIZER;CN=Sunniva Fjord:mailto:${HOST}`,
    ...ASKED.map((one) => `ATTENDEE;PARTSTAT=NEEDS-ACTION:mailto:${one}`),
    'DTSTART;VALUE=DATE:20270327',
    'DTEND;VALUE=DATE:20270329',
    'SUMMARY:Open days',
    'END:VEVENT',
    'END:VCALENDAR',
  ].join('\r\n');

const days = (start: string, end: string) => ({ start: Date.parse(start), end: Date.parse(end) });
const IN_OSLO = days('2027-03-27T00:00+01:00', '2027-03-29T00:00+02:00');
const IN_KOLKATA = days('2027-03-27T00:00+05:30', '2027-03-29T00:00+05:30');
const IN_LIMA = days('2027-03-27T00:00-05:00', '2027-03-29T00:00-05:00');

async function seenBy(mailbox: string) {
  const reader = await server.as(mailbox);
  const around = `from=${IN_OSLO.start - 172_800_000}&to=${IN_OSLO.end + 172_800_000}`;
  const { body: calendar } = await reader.get<CalendarResponse>(`/api/calendar?${around}`);
  const item = calendar.items.find((one: CalendarItem) => one.title === 'Open days')!;
  const { body: news } = await reader.get<News>('/api/invitations');
  const waiting = news.waiting.find((one) => one.title === 'Open days')!;
  const { body: detail } = await reader.get<EventDetail>(`/api/events/${item.eventId}`);
  const { body: search } = await reader.get<{ found: CalendarItem[] }>(
    '/api/calendar/search?q=Open%20days',
  );
  const found = search.found.find((one) => one.title === 'Open days')!;
  const [taken] = await server.sql<{ start: number; end: number }>(
    `select lower(during) as start, upper(during) as "end" from claim
     where occurrence_id = $1 and subject_id = $2`,
    [item.occurrenceId, await server.id(mailbox === 'idris.kaya' ? 'Idris Kaya' : 'Leila Haddad')],
  );
  return [item, waiting, detail, found, taken!].map(({ start, end }) => ({ start, end }));
}

it('whole days from elsewhere are days on each one’s own calendar, and go along to another zone', async () => {
  const idris = await server.as('idris.kaya');
  await idris.patch('/api/preferences', { zone: 'Asia/Kolkata' });
  for (const to of ASKED)
    await receiveMail(server.running.platform, await readMail(Buffer.from(letter(to))), to);
  const inOslo = await seenBy('leila.haddad');
  expect(inOslo).toEqual(inOslo.map(() => IN_OSLO));
  expect(await seenBy('idris.kaya')).toEqual(inOslo.map(() => IN_KOLKATA));
  await idris.patch('/api/preferences', { zone: 'America/Lima' });
  expect(await seenBy('idris.kaya')).toEqual(inOslo.map(() => IN_LIMA));
});
