import { describe, expect, it } from 'vitest';
import type { BusyResponse, OpeningsResponse } from '../../contract/availability.ts';
import type { ProblemBody } from '../../contract/common.ts';
import { bergenTimes, meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();
server.writesPastTheRules();
const window = { from: Date.UTC(2026, 11, 10), to: Date.UTC(2026, 11, 11) };

describe('a line-up that names somebody many times', () => {
  it('is answered as if it named them once', async () => {
    const ines = await server.as('ines.aldabe');
    const id = await server.id('Tomas Okafor');
    const from = Date.UTC(2026, 10, 23);
    const { body } = await ines.post<BusyResponse>('/api/availability/busy', {
      subjects: Array.from({ length: 400 }, () => id),
      from,
      to: from + 7 * 86_400_000,
    });
    expect(body.subjects.map((one) => one.id)).toEqual([id]);
    const openings = await ines.post<{ openings: unknown[] }>('/api/availability/openings', {
      lineUp: Array.from({ length: 100 }, () => ({ id, role: 'optional' })).concat({
        id,
        role: 'required',
      }),
      from,
      to: from + 7 * 86_400_000,
      lengthMinutes: 30,
    });
    expect(openings.status).toBe(200);
  });
});

describe('busy times', () => {
  it('tell how time is taken and by nothing else', async () => {
    const tomas = await server.as('tomas.okafor');
    const ines = await server.as('ines.aldabe');
    const id = await server.id('Tomas Okafor');
    await server.sql('delete from claim where subject_id = $1', [id]);
    await tomas.post('/api/events', meetingRequest({ title: 'Quiet word' }));
    await tomas.post(
      '/api/events',
      meetingRequest({
        title: 'Only a note',
        showsAs: 'free',
        times: bergenTimes('2026-12-10T14:00', '2026-12-10T15:00'),
      }),
    );
    const answer = await ines.post<BusyResponse>('/api/availability/busy', {
      subjects: [id],
      ...window,
    });
    expect(answer.body.subjects[0]).toMatchObject({
      name: 'Tomas Okafor',
      knowledge: 'known',
      busy: [[Date.UTC(2026, 11, 10, 9), Date.UTC(2026, 11, 10, 10), 'busy']],
    });
    expect(JSON.stringify(answer.body)).not.toContain('Quiet word');
  });

  it('of somebody who shares nothing are not told, which is not free', async () => {
    const oskar = await server.as('oskar.lindqvist');
    await oskar.post('/api/events', meetingRequest());
    const id = await server.id('Oskar Lindqvist');
    const asked = { subjects: [id], ...window };
    const seen = await (
      await server.as('ines.aldabe')
    ).post<BusyResponse>('/api/availability/busy', asked);
    expect(seen.body.subjects[0]).toMatchObject({ knowledge: 'none', busy: [] });
    const own = await oskar.post<BusyResponse>('/api/availability/busy', asked);
    expect(own.body.subjects[0]).toMatchObject({ knowledge: 'known' });
    const openings = await (
      await server.as('ines.aldabe')
    ).post<OpeningsResponse>('/api/availability/openings', {
      lineUp: [{ id, role: 'required' }],
      ...window,
      lengthMinutes: 30,
    });
    expect(openings.body).toMatchObject({ count: 0, openings: [] });
    expect(openings.body.why).toContain('Oskar Lindqvist shares nothing of when they are busy');
  });

  it.each([
    [{ subjects: [], ...window }, 'subjects'],
    [{ subjects: [1], from: 5, to: 4 }, 'to'],
    [{ subjects: [1], from: 0, to: 400 * 86_400_000 }, 'to'],
    [{ subjects: ['x'], ...window }, 'subjects.0'],
    [{ subjects: [1], ...window, except: { eventId: 'x' } }, 'except.eventId'],
  ])('%j is refused with the field named', async (body, field) => {
    const answer = await (
      await server.as('ines.aldabe')
    ).post<ProblemBody>('/api/availability/busy', body);
    expect(answer.status).toBe(400);
    expect(answer.body.fields!.map((one) => one.field)).toContain(field);
  });

  it('of nobody are not found', async () => {
    const answer = await (
      await server.as('ines.aldabe')
    ).post('/api/availability/busy', { subjects: [999_999], ...window });
    expect(answer).toMatchObject({ status: 404, body: { code: 'unknown-subject' } });
  });
});

describe('openings of the API', () => {
  it('avoid what is taken and say why they are good', async () => {
    const ines = await server.as('ines.aldabe');
    const lineUp = await Promise.all(
      ['Ines Aldabe', 'Wanjiru Keele', 'Puffin'].map(async (name) => ({
        id: await server.id(name),
        role: 'required',
      })),
    );
    const answer = await ines.post<OpeningsResponse>('/api/availability/openings', {
      lineUp,
      from: Date.UTC(2026, 10, 24),
      to: Date.UTC(2026, 11, 5),
      lengthMinutes: 45,
    });
    expect(answer.body.openings.length).toBeGreaterThan(2);
    for (const opening of answer.body.openings) {
      const clashes = await server.sql(
        `select 1 from claim where subject_id = any($1) and occupancy <> 'free' and during && tstzrange($2, $3)`,
        [lineUp.map((one) => one.id), new Date(opening.start), new Date(opening.end)],
      );
      expect(clashes).toHaveLength(0);
      expect(opening.reasons).toContain('Puffin free');
      expect(opening.start).toBeGreaterThanOrEqual(Date.UTC(2026, 10, 24, 8, 12));
    }
  });
});
