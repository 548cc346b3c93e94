import { describe, expect, it } from 'vitest';
import type { Directory } from '../../contract/people.ts';
import type { PlacesResponse } from '../../contract/places.ts';
import type { ProblemBody } from '../../contract/common.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer({ works: false });

/** All of a list, read in parts of some size. */
async function inParts<Entry extends { id: number }>(
  read: (query: string) => Promise<{ entries: Entry[]; total: number }>,
  limit: number,
): Promise<Entry[]> {
  const all: Entry[] = [];
  for (;;) {
    const after = all.at(-1);
    const { entries, total } = await read(`limit=${limit}${after ? `&after=${after.id}` : ''}`);
    all.push(...entries);
    expect(entries.length).toBeLessThanOrEqual(limit);
    if (entries.length < limit) {
      expect(all).toHaveLength(total);
      return all;
    }
  }
}

describe('the directory', () => {
  const read = async (query: string) => {
    const ines = await server.as('ines.aldabe');
    const { body } = await ines.get<Directory>(`/api/people?${query}`);
    return { entries: body.people, total: body.total, teams: body.teams };
  };

  it.each([7, 50])('is the same in parts of %i as all at once, own site first', async (limit) => {
    const whole = (await read('limit=200')).entries;
    expect(await inParts(read, limit)).toEqual(whole);
    const sites = whole.map((one) => one.site ?? one.organization);
    expect(sites[0]).toBe('Skerry House');
    // Each site stands together, once, and by name within it.
    const blocks = sites.filter((site, k) => site !== sites[k - 1]);
    expect(new Set(blocks).size).toBe(blocks.length);
    const names = whole.filter((one) => one.site === 'Skerry House').map((one) => one.name);
    expect(names).toEqual([...names].sort((a, b) => (a < b ? -1 : 1)));
  });

  it('forgives spelling where nobody is spelt like that, and says so', async () => {
    const ines = await server.as('ines.aldabe');
    const asked = async (q: string) =>
      (await ines.get<Directory>(`/api/people?q=${encodeURIComponent(q)}`)).body;
    for (const [typed, meant] of [
      ['thomas okafer', 'Tomas Okafor'],
      ['Wanjeru', 'Wanjiru Keele'],
      ['sandovál', 'Mika Sandoval'],
    ] as const) {
      const found = await asked(typed);
      expect(found.isForgiven).toBe(true);
      expect(found.people.map((one) => one.name)).toContain(meant);
      const { body } = await ines.get<{ found: { name: string }[] }>(
        `/api/search?q=${encodeURIComponent(typed.split(' ').at(-1)!)}`,
      );
      expect(body.found[0]?.name).toBe(meant);
    }
    expect((await asked('okafor')).isForgiven).toBe(false);
    expect(await asked('xqzzwv')).toMatchObject({ total: 0, isForgiven: false });
  });

  it('finds by name, work, site and team, and takes signs for themselves', async () => {
    expect((await read('q=mika%20sand')).entries.map((one) => one.name)).toEqual(['Mika Sandoval']);
    const halifax = await read('q=Bluff%20Station&limit=200');
    expect(halifax.entries.length).toBeGreaterThan(3);
    expect(halifax.entries.every((one) => one.site === 'Bluff Station')).toBe(true);
    // People say where somebody is by the city.
    expect((await read('q=halifax&limit=200')).total).toBe(halifax.total);
    const [team] = (await read('')).teams;
    const members = await read(`q=${encodeURIComponent(team!.name)}&limit=200`);
    expect(members.total).toBe(team!.memberIds.length);
    expect((await read('q=%25')).total).toBe(0);
    expect((await read('q=_')).total).toBe(0);
  });

  it('gives the teams with the first part only, and refuses parts that cannot be', async () => {
    const first = await read('limit=5');
    expect(first.teams.length).toBeGreaterThan(3);
    expect((await read(`limit=5&after=${first.entries[4]!.id}`)).teams).toEqual([]);
    const ines = await server.as('ines.aldabe');
    const wrong = await ines.get<ProblemBody>('/api/people?limit=201');
    expect(wrong).toMatchObject({ status: 400, body: { fields: [{ field: 'limit' }] } });
  });
});

describe('the places', () => {
  const read = async (query: string) => {
    const ines = await server.as('ines.aldabe');
    const { body } = await ines.get<PlacesResponse>(`/api/places?${query}`);
    return { entries: body.places, ...body };
  };

  it('are the same in parts as all at once, own site first', async () => {
    const whole = (await read('limit=200')).entries;
    expect(await inParts(read, 9)).toEqual(whole);
    expect(whole[0]!.site).toBe('Skerry House');
  });

  it('are those of a kind, at a site, with some words, that are free', async () => {
    const rooms = await read('kind=room&limit=200');
    expect(rooms.entries.every((one) => one.kind === 'room')).toBe(true);
    const { siteId, site } = rooms.entries.at(-1)!;
    const there = await read(`kind=room&site=${siteId}&limit=200`);
    expect(there.entries).toEqual(rooms.entries.filter((one) => one.site === site));
    expect((await read('kind=room&q=hearing%20loop')).entries.map((one) => one.features)).toEqual(
      expect.arrayContaining([expect.arrayContaining(['hearing loop'])]),
    );

    const [free] = (await read('kind=room&free=now')).entries;
    const ines = await server.as('ines.aldabe');
    const before = await read('kind=room&free=now&limit=200');
    await ines.post(
      '/api/events',
      meetingRequest({
        times: bergenTimes('2026-11-24T09:05', '2026-11-24T09:40'),
        resources: [free!.id],
      }),
    );
    const after = await read('kind=room&free=now&limit=200');
    expect(after.total).toBe(before.total - 1);
    expect(after.entries.map((one) => one.id)).not.toContain(free!.id);
    expect((await read('kind=room')).free).toBe(after.total);
    expect(after.entries.every((one) => one.freeUnits > 0)).toBe(true);
  });

  it('one by itself is as it is in the list, and one that is not there is not found', async () => {
    const ines = await server.as('ines.aldabe');
    const [first] = (await read('limit=1')).entries;
    expect((await ines.get(`/api/places/${first!.id}`)).body).toEqual(first);
    expect(await ines.get('/api/places/999999')).toMatchObject({ status: 404 });
  });
});
