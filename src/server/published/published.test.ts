import { describe, expect, it } from 'vitest';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { BusyResponse } from '../../contract/availability.ts';
import { useServer } from '../../../tests/support/server.ts';
import { refreshPublished } from './index.ts';
import { webCalendars } from './source.ts';

const server = useServer();
const window = { from: Date.UTC(2026, 10, 24), to: Date.UTC(2026, 11, 5) };

async function seenBy(who: string, name: string, asked = window) {
  const answer = await (
    await server.as(who)
  ).post<BusyResponse>('/api/availability/busy', { subjects: [await server.id(name)], ...asked });
  return answer.body.subjects[0]!;
}

describe('people of another organization', () => {
  it('are known by what they publish, with its age', async () => {
    const priya = await seenBy('ines.aldabe', 'Priya Raman');
    expect(priya).toMatchObject({
      knowledge: 'known',
      zone: 'Asia/Kolkata',
      published: { readAt: Date.UTC(2026, 10, 24, 8, 12), failing: false },
    });
    expect(priya.busy.length).toBeGreaterThan(8);
    expect(priya.busy.some(([, , occupancy]) => occupancy === 'unknown')).toBe(false);
  });

  it('are unknown beyond what they publish, and altogether where they publish nothing', async () => {
    const late = { from: Date.UTC(2027, 0, 25), to: Date.UTC(2027, 1, 10) };
    const { busy } = await seenBy('ines.aldabe', 'Priya Raman', late);
    const unknown = busy.find(([, , occupancy]) => occupancy === 'unknown')!;
    // Ten weeks from 24 November, on Kolkata's calendar.
    expect(unknown.slice(0, 2)).toEqual([Date.UTC(2027, 1, 1, 18, 30), late.to]);
    expect(await seenBy('ines.aldabe', 'Kabir Sethi')).toMatchObject({
      knowledge: 'none',
      published: null,
      busy: [],
    });
  });

  it('keep what was read before when it cannot be read, and say so', async () => {
    const id = await server.id('Priya Raman');
    const before = await seenBy('ines.aldabe', 'Priya Raman');
    await server.sql(
      'update published_calendar set address = $2, tried_at = null where person_id = $1',
      [id, 'https://calendars.nilgiriwater.example/freebusy/nobody.ifb'],
    );
    const answer = await (
      await server.as('ines.aldabe')
    ).post('/api/availability/refresh', { people: [id] });
    expect(answer.body).toEqual({ read: 0, failed: 1 });
    // It was tried just now: nobody makes the server ask again and again.
    const again = await (
      await server.as('tomas.okafor')
    ).post('/api/availability/refresh', { people: [id] });
    expect(again.body).toEqual({ read: 0, failed: 0 });
    const after = await seenBy('ines.aldabe', 'Priya Raman');
    expect(after.published).toEqual({ ...before.published, failing: true });
    expect(after.busy).toEqual(before.busy);
  });

  it('are read over the web by an address of it, and replaced whole', async () => {
    const text = [
      'BEGIN:VCALENDAR',
      'VERSION:2.0',
      'PRODID:-//x//x//EN',
      'BEGIN:VFREEBUSY',
      'DTSTART:20261124T000000Z',
      'DTEND:20261224T000000Z',
      'FREEBUSY:20261125T100000Z/PT1H',
      'END:VFREEBUSY',
      'END:VCALENDAR',
    ].join('\r\n');
    const web = createServer((request, response) => {
      response.statusCode = request.url === '/arjun.ifb' ? 200 : 404;
      response.end(text);
    });
    await new Promise<void>((resolve) => web.listen(0, '127.0.0.1', resolve));
    const base = `http://127.0.0.1:${(web.address() as AddressInfo).port}`;
    try {
      const id = await server.id('Arjun Nair');
      await server.sql(
        'update published_calendar set address = $2, tried_at = null where person_id = $1',
        [id, `${base}/arjun.ifb`],
      );
      expect(await refreshPublished(server.running.platform, [id])).toEqual({ read: 1, failed: 0 });
      const { busy } = await seenBy('ines.aldabe', 'Arjun Nair');
      expect(busy.filter(([, , occupancy]) => occupancy === 'busy')).toContainEqual([
        Date.UTC(2026, 10, 25, 10),
        Date.UTC(2026, 10, 25, 11),
        'busy',
      ]);
      await expect(webCalendars.read(`${base}/other.ifb`)).rejects.toThrow('404');
      await expect(webCalendars.read('file:///etc/passwd')).rejects.toThrow('not one of the web');
    } finally {
      web.close();
    }
  });

  it('who share nothing with partners are unknown, published or not', async () => {
    const id = await server.id('Lakshmi Iyer');
    await server.sql(`update person set share_partners = 'nothing' where subject_id = $1`, [id]);
    expect(await seenBy('ines.aldabe', 'Lakshmi Iyer')).toMatchObject({
      knowledge: 'none',
      published: null,
      busy: [],
    });
  });
});
