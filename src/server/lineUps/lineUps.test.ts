import { describe, expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { z } from 'zod';
import type { addressOwners, MetPerson, RememberedLineUp } from '../../contract/lineUps.ts';
import type { Vocabulary } from '../../contract/search.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer();
interface Mine {
  lineUps: RememberedLineUp[];
  met: MetPerson[];
}

describe('remembered line-ups', () => {
  it('are kept under a name, replaced by it, forgotten, and nobody else’s', async () => {
    const ines = await server.as('ines.aldabe');
    const mika = await server.id('Mika Sandoval');
    const array = { name: 'Array', members: [{ id: mika, role: 'required' }] };
    await ines.request('PUT', '/api/line-ups', array);
    const members = [...array.members, { email: 'jon@harbour.example', role: 'optional' }];
    await ines.request('PUT', '/api/line-ups', { name: 'Array', members });
    const { lineUps } = (await ines.get<Mine>('/api/line-ups')).body;
    expect(lineUps).toEqual([{ id: lineUps[0]!.id, name: 'Array', members }]);
    const tomas = await server.as('tomas.okafor');
    expect((await tomas.get<Mine>('/api/line-ups')).body.lineUps).toEqual([]);
    const id = lineUps[0]!.id;
    expect((await tomas.request('DELETE', `/api/line-ups/${id}`)).status).toBe(404);
    expect((await ines.request<Mine>('DELETE', `/api/line-ups/${id}`)).body.lineUps).toEqual([]);
  });

  it.each([
    [{ name: ' ', members: [{ id: 1, role: 'required' }] }, 'name'],
    [{ name: 'x', members: [] }, 'members'],
    [{ name: 'x', members: [{ id: 999_999, role: 'required' }] }, 'members.0.id'],
    [{ name: 'x', members: [{ id: 1, role: 'chief' }] }, 'members.0'],
  ])('%j is refused with the field named', async (body, field) => {
    const answer = await (
      await server.as('ines.aldabe')
    ).request<ProblemBody>('PUT', '/api/line-ups', body);
    expect(answer.status).toBe(400);
    expect(answer.body.fields!.map((one) => one.field)).toContain(field);
  });

  it('come with people met lately, the most often first and never oneself', async () => {
    const { met } = (await (await server.as('ines.aldabe')).get<Mine>('/api/line-ups')).body;
    expect(met).toHaveLength(8);
    expect(met.map((one) => one.name)).not.toContain('Ines Aldabe');
    const counts = await Promise.all(
      met.map(async ({ id }) => {
        const [row] = await server.sql<{ count: string }>(
          `select count(*) from claim mine
           join occurrence on occurrence.id = mine.occurrence_id
           join attendee on attendee.event_id = occurrence.event_id and attendee.person_id = $2
           where mine.subject_id = $1 and attendee.reply <> 'declined'
             and mine.during && tstzrange('2026-09-25 08:12Z', '2026-11-24 08:12Z')`,
          [await server.id('Ines Aldabe'), id],
        );
        return Number(row!.count);
      }),
    );
    expect(counts).toEqual([...counts].sort((a, b) => b - a));
    expect(counts.at(-1)).toBeGreaterThan(0);
  });
});

describe('addresses of a pasted list', () => {
  it('are told whose they are, and nothing of those outside', async () => {
    const answer = await (
      await server.as('ines.aldabe')
    ).post<z.output<typeof addressOwners>>('/api/line-ups/addresses', {
      emails: ['MIKA.sandoval@ternrock.example', 'jon@harbour.example'],
    });
    expect(answer.body).toEqual({
      people: [expect.objectContaining({ name: 'Mika Sandoval' })],
    });
  });
});

describe('the names that a sentence can mean', () => {
  it('are told to who is signed in, and hold nothing but names', async () => {
    expect((await server.anonymous().get('/api/search/names')).status).toBe(401);
    const { body } = await (await server.as('ines.aldabe')).get<Vocabulary>('/api/search/names');
    expect(body.people.map((one) => one.name)).toContain('Mika Sandoval');
    expect(body.teams.find((one) => one.name === 'Sea Ice')!.memberIds.length).toBeGreaterThan(3);
    expect(body.resources.find((one) => one.name === 'Gannet')).toMatchObject({ kind: 'room' });
    expect(Object.keys(body.people[0]!).sort()).toEqual(['detail', 'id', 'name']);
  });
});
