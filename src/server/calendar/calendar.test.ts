import { describe, expect, it } from 'vitest';
import type {
  CalendarResponse,
  FoundEvent,
  FullnessResponse,
  Layer,
} from '../../contract/calendar.ts';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();
const week = { from: Date.UTC(2027, 1, 1), to: Date.UTC(2027, 1, 8) };

const ask = async (mailbox: string, subjects: number[]) => {
  const client = await server.as(mailbox);
  return client.get<CalendarResponse>(
    `/api/calendar?from=${week.from}&to=${week.to}&subjects=${subjects.join(',')}`,
  );
};

async function meet(mailbox: string, title: string, day: string, changes = {}) {
  const client = await server.as(mailbox);
  const times = bergenTimes(`2027-02-${day}T11:00`, `2027-02-${day}T12:00`);
  const made = await client.post<EventDetail>(
    '/api/events',
    meetingRequest({ title, times, ...changes }),
  );
  expect(made.status).toBe(201);
  return made.body;
}

describe('calendars laid over mine', () => {
  it('show each as far as it is shared, and a meeting I take part in by its name', async () => {
    const [tomas, robine, oskar] = [
      await server.id('Tomas Okafor'),
      await server.id('Robine Thys'),
      await server.id('Oskar Lindqvist'),
    ];
    await meet('tomas.okafor', 'Secret of Tomas', '02');
    await meet('tomas.okafor', 'With Ines', '03', {
      attendees: [{ personId: await server.id('Ines Aldabe'), role: 'required' }],
    });
    await meet('tomas.okafor', 'Public of Tomas', '04', { visibility: 'public' });
    await meet('robine.thys', 'Open of Robine', '02');
    await meet('robine.thys', 'Private of Robine', '03', { visibility: 'private' });
    await meet('oskar.lindqvist', 'Unseen of Oskar', '02');
    const { status, body } = await ask('ines.aldabe', [tomas, robine, oskar]);
    expect(status).toBe(200);
    const [first, second, third] = body.subjects;
    const titles = (layer: typeof first) => layer!.items.map((item) => item.title);
    expect(titles(first)).toEqual(expect.arrayContaining([null, 'With Ines', 'Public of Tomas']));
    expect(titles(first)).not.toContain('Secret of Tomas');
    expect(first!.reason).toBe('Tomas Okafor shares only busy times with you');
    expect(titles(second)).toContain('Open of Robine');
    expect(titles(second)).not.toContain('Private of Robine');
    expect(third).toEqual({
      id: oskar,
      knowledge: 'none',
      reason: 'Oskar Lindqvist shares nothing with you',
      items: [],
    });
    // Nothing hidden is anywhere in the answer.
    expect(JSON.stringify(body)).not.toMatch(/Secret of|Private of|Unseen of/);
    const hidden = first!.items.find((item) => item.title === null)!;
    expect([hidden.eventId, hidden.place]).toEqual([null, null]);
  });

  it('of a resource name its bookings as their holders allow', async () => {
    const skua = await server.id('Skua');
    await meet('tomas.okafor', 'Hidden booking', '05', { resources: [skua] });
    await meet('robine.thys', 'Open booking', '06', { resources: [skua] });
    const { body } = await ask('idris.kaya', [skua]);
    const titles = body.subjects[0]!.items.map((item) => item.title);
    expect(titles).toEqual(expect.arrayContaining([null, 'Open booking']));
    expect(titles).not.toContain('Hidden booking');
  });

  it.each([
    ['from=5&to=4', 'to'],
    ['from=0&to=99999999999', 'to'],
    ['from=a&to=4', 'from'],
    ['from=0&to=4&subjects=x', 'subjects.0'],
    ['from=0&to=4&subjects=999999', 'subjects'],
  ])('refuse %s by the name of the field', async (query, field) => {
    const ines = await server.as('ines.aldabe');
    const answer = await ines.get<ProblemBody>(`/api/calendar?${query}`);
    expect([400, 404]).toContain(answer.status);
    expect(answer.body.fields![0]!.field).toBe(field);
  });

  it('are remembered, with their colours, until they are removed', async () => {
    const idris = await server.as('idris.kaya');
    interface Layers {
      layers: Layer[];
    }
    const tomas = await server.id('Tomas Okafor');
    const [team] = await server.sql<{ id: number }>(`select id from team where name = 'Sea Ice'`);
    await idris.post('/api/calendar/layers', { subjectId: tomas });
    const added = await idris.post<Layers>('/api/calendar/layers', { teamId: team!.id });
    const [person, group] = added.body.layers;
    expect([person!.kind, group!.kind]).toEqual(['person', 'team']);
    expect(person!.colour).not.toBe(group!.colour);
    expect(group!.subjectIds.length).toBeGreaterThan(3);
    await idris.patch(`/api/calendar/layers/${person!.id}`, { shown: false, colour: 'rose' });
    await idris.request('DELETE', `/api/calendar/layers/${group!.id}`);
    const kept = await idris.get<Layers>('/api/calendar/layers');
    expect(kept.body.layers).toEqual([{ ...person, shown: false, colour: 'rose' }]);

    const other = await server.as('ines.aldabe');
    const foreign = await other.patch(`/api/calendar/layers/${person!.id}`, { shown: true });
    expect(foreign.status).toBe(404);
    const wrong = await idris.patch<ProblemBody>(`/api/calendar/layers/${person!.id}`, {
      colour: 'pink',
    });
    expect(wrong.body.fields![0]!.field).toBe('colour');
  });
});

describe('search over all of my calendar', () => {
  const search = async (query: string) => {
    const clara = await server.as('clara.weiss');
    const answer = await clara.get<{ found: FoundEvent[] }>(`/api/calendar/search?${query}`);
    expect(answer.status).toBe(200);
    return answer.body.found;
  };

  it('finds words of the title, the text and people’s names, and nothing of others', async () => {
    await meet('clara.weiss', 'Plankton tow', '02', {
      description: '<p>Bring the <strong>fluorometer</strong></p>',
    });
    await meet('clara.weiss', 'Debrief', '03', {
      attendees: [{ personId: await server.id('Henrik Sæther'), role: 'required' }],
    });
    await meet('tomas.okafor', 'Plankton of others', '04');
    expect((await search('q=plank')).map((one) => one.title)).toEqual(['Plankton tow']);
    const [found] = await search('q=fluor');
    expect(found).toMatchObject({ title: 'Plankton tow', occurrences: 1 });
    expect(found!.excerpt).toContain('fluorometer');
    expect(
      (await search('q=debrief henrik')).length + (await search('q=henrik')).length,
    ).toBeGreaterThan(0);
    expect(await search('q=%27%3B--')).toEqual(await search('q=%26'));
  });

  it('narrows by category, organizer, reply, repetition and kind', async () => {
    const clara = await server.as('clara.weiss');
    interface Categories {
      categories: { id: number; name: string }[];
    }
    const { body } = await clara.get<Categories>('/api/categories');
    const categoryId = body.categories.find((one) => one.name === 'Field work')!.id;
    await meet('clara.weiss', 'Zooplankton net', '02', { categoryId });
    await meet('clara.weiss', 'Zooplankton count', '03', {
      repeats: { rule: 'FREQ=WEEKLY;COUNT=4' },
    });
    const me = await server.id('Clara Weiss');
    await meet('tomas.okafor', 'Zooplankton talk', '04', {
      attendees: [{ personId: me, role: 'required' }],
    });
    const titles = async (query: string) =>
      (await search(`q=zooplankton&${query}`)).map((one) => one.title).sort();
    expect(await titles('')).toHaveLength(3);
    expect(await titles(`category=${categoryId}`)).toEqual(['Zooplankton net']);
    expect(await titles('organizer=others')).toEqual(['Zooplankton talk']);
    expect(await titles('reply=needs-action')).toEqual(['Zooplankton talk']);
    expect(await titles('repeats=yes')).toEqual(['Zooplankton count']);
    expect(await titles('kind=meeting')).toEqual(['Zooplankton talk']);
    const [series] = await search('q=zooplankton&repeats=yes');
    expect(series!.occurrences).toBe(4);
  });

  it('finds a series by the answer to one of its dates, on that date', async () => {
    const attendees = [{ personId: await server.id('Clara Weiss'), role: 'required' }];
    const made = await meet('tomas.okafor', 'Nudibranch count', '05', {
      attendees,
      repeats: { rule: 'FREQ=WEEKLY;COUNT=4' },
    });
    const clara = await server.as('clara.weiss');
    const occurrence = '2027-02-19T11:00';
    await clara.post(`/api/invitations/${made.id}/reply`, { reply: 'declined', occurrence });
    const starts = async (reply: string) =>
      (await search(`q=nudibranch&reply=${reply}`)).map((one) => new Date(one.start).toISOString());
    expect(await starts('declined')).toEqual(['2027-02-19T10:00:00.000Z']);
    expect(await starts('needs-action')).toEqual(['2027-02-05T10:00:00.000Z']);
    expect(await starts('accepted')).toEqual([]);
  });

  it('asks for something to search', async () => {
    const clara = await server.as('clara.weiss');
    const answer = await clara.get<ProblemBody>('/api/calendar/search?q=');
    expect(answer.body.fields![0]!.field).toBe('q');
  });
});

describe('how full days are', () => {
  it('counts overlaps once, in my zone, and whole days apart', async () => {
    const yusuf = await server.as('yusuf.demir');
    const halifax = (from: string, to: string) => ({
      startsAt: `2029-09-${from}`,
      endsAt: `2029-09-${to}`,
      zone: 'America/Halifax',
    });
    for (const times of [
      halifax('06T09:00', '06T11:00'),
      halifax('06T10:00', '06T12:00'),
      halifax('06T23:00', '07T01:00'),
      { ...halifax('08T00:00', '09T00:00'), allDay: true },
    ]) {
      const made = await yusuf.post('/api/events', meetingRequest({ times }));
      expect(made.status).toBe(201);
    }
    const { body } = await yusuf.get<FullnessResponse>(
      '/api/calendar/fullness?first=2029-09-05&days=5',
    );
    expect(body.minutes).toEqual([0, 240, 60, 0, 0]);
    expect(body.counts).toEqual([0, 3, 1, 1, 0]);
  });
});

describe('one date of a series made a whole day', () => {
  it('is counted among whole days and fills no hours', async () => {
    const yusuf = await server.as('yusuf.demir');
    const made = await yusuf.post<EventDetail>(
      '/api/events',
      meetingRequest({
        times: {
          startsAt: '2029-10-01T09:00',
          endsAt: '2029-10-01T10:00',
          zone: 'America/Halifax',
        },
        repeats: { rule: 'FREQ=DAILY;COUNT=3' },
      }),
    );
    await yusuf.patch(`/api/events/${made.body.id}`, {
      version: 1,
      scope: 'one',
      occurrence: '2029-10-02T09:00',
      times: {
        startsAt: '2029-10-02T00:00',
        endsAt: '2029-10-03T00:00',
        zone: 'America/Halifax',
        allDay: true,
      },
    });
    const { body } = await yusuf.get<FullnessResponse>(
      '/api/calendar/fullness?first=2029-10-01&days=3',
    );
    expect(body).toMatchObject({ minutes: [60, 0, 60], counts: [1, 1, 1] });
  });
});

describe('public holidays', () => {
  it('are those of my site', async () => {
    const path = '/api/calendar/holidays?first=2026-12-01&last=2026-12-31';
    const names = async (mailbox: string) => {
      const client = await server.as(mailbox);
      const { body } = await client.get<{ holidays: { name: string }[] }>(path);
      return body.holidays.map((one) => one.name);
    };
    expect(await names('ines.aldabe')).toEqual(['Christmas Day', 'Second Day of Christmas']);
    expect(await names('wanjiru.keele')).toContain('Jamhuri Day');
  });

  it('shows what was declined where that is asked for, dates of a series too, and nowhere else', async () => {
    const ines = await server.as('ines.aldabe');
    const bao = await server.as('bao.nguyen');
    const attendees = [{ personId: await server.id('Bao Nguyen'), role: 'required' as const }];
    const make = async (title: string, more = {}) =>
      (
        await ines.post<EventDetail>(
          '/api/events',
          meetingRequest({
            title,
            attendees,
            times: bergenTimes('2027-10-05T10:00', '2027-10-05T11:00'),
            ...more,
          }),
        )
      ).body;
    const once = await make('Not for me');
    const series = await make('Some of them', { repeats: { rule: 'FREQ=DAILY;COUNT=3' } });
    await make('Coming');
    await bao.post(`/api/invitations/${once.id}/reply`, { reply: 'declined' });
    await bao.post(`/api/invitations/${series.id}/reply`, {
      reply: 'declined',
      occurrence: '2027-10-06T10:00',
    });
    const window = `from=${Date.UTC(2027, 9, 4)}&to=${Date.UTC(2027, 9, 9)}`;
    const shown = async (more: string) =>
      (await bao.get<CalendarResponse>(`/api/calendar?${window}${more}`)).body.items
        .filter((one) => one.organizer === 'Ines Aldabe')
        .map((one) => `${one.title} ${one.standing} ${new Date(one.start).getUTCDate()}`)
        .sort();
    expect(await shown('')).toEqual([
      'Coming needs-action 5',
      'Some of them needs-action 5',
      'Some of them needs-action 7',
    ]);
    expect((await shown('&declined=yes')).filter((one) => one.includes('declined'))).toEqual([
      'Not for me declined 5',
      'Some of them declined 6',
    ]);
    const wrong = await bao.get(`/api/calendar?${window}&declined=perhaps`);
    expect(wrong.status).toBe(400);
  });
});
