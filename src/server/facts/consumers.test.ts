import { expect, it } from 'vitest';
import { useServer } from '../../../tests/support/server.ts';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { FACT_KINDS } from '../../core/facts.ts';
import { PLACE_FACT_KINDS } from '../../core/booking/placeFacts.ts';
import { ORGANIZATION_FACT_KINDS } from '../../core/people/organizationFacts.ts';
import { PERSON_FACT_KINDS } from '../../core/people/personFacts.ts';
import { SITE_FACT_KINDS } from '../../core/people/siteFacts.ts';
import { TEAM_FACT_KINDS } from '../../core/people/teamFacts.ts';
import type { MeetingFact } from '../../core/meetings/meetingFacts.ts';
import type { FactConsumer } from './consumers.ts';

const server = useServer({ works: false });

/** What is kept, and told nobody: those who show a meeting or a place see it, as their windows hear of it. */
const TOLD_NOBODY = [
  'attached',
  'checked-in',
  'checked-out',
  'detached',
  ...ORGANIZATION_FACT_KINDS,
  ...PERSON_FACT_KINDS,
  ...PLACE_FACT_KINDS,
  ...SITE_FACT_KINDS,
  ...TEAM_FACT_KINDS,
].sort();

it('every kind of fact is read by somebody, or told nobody on purpose', () => {
  const read = new Set(server.running.platform.consumers.flatMap(({ kinds }) => kinds));
  expect(FACT_KINDS.filter((kind) => !read.has(kind)).sort()).toEqual(TOLD_NOBODY);
});

it('a consumer is given the kinds it reads, in the transaction, and no others', async () => {
  const { platform } = server.running;
  const taken: string[][] = [];
  const foreseen: string[][] = [];
  const consumer: FactConsumer<MeetingFact> = {
    name: 'a test',
    kinds: ['invited', 'cancelled'],
    foresee: (_, { facts }) => void foreseen.push(facts.map(({ kind }) => kind)),
    take: async (tx, _platform, _actor, { facts, meetings }) => {
      taken.push(facts.map(({ kind }) => kind));
      // What it tells of is there already, for whoever asks in the same transaction.
      const ids = facts.map(({ meetingId }) => meetingId);
      expect([...meetings.keys()]).toEqual(ids);
      const { rows } = await tx.query('select 1 from event where id = any($1)', [ids]);
      expect(rows).toHaveLength(ids.length);
    },
  };
  const before = platform.consumers;
  platform.consumers = [...before, consumer];
  try {
    const ines = await server.as('ines.aldabe');
    const made = await ines.post<{ id: string; version: number }>('/api/events', meetingRequest());
    const { id, version } = made.body;
    await ines.request('PATCH', `/api/events/${id}`, { version, title: 'Reed' });
    await ines.post(`/api/events/${id}/cancel`, { version: version + 1 });
  } finally {
    platform.consumers = before;
  }
  expect(taken).toEqual([['invited'], ['cancelled']]);
  expect(foreseen).toEqual(taken);
});

it('what a consumer refuses takes all of it back', async () => {
  const { platform } = server.running;
  const before = platform.consumers;
  platform.consumers = [
    ...before,
    {
      name: 'a test that fails',
      kinds: ['invited'],
      take: () => {
        throw new Error('it cannot be told');
      },
    },
  ];
  try {
    const ines = await server.as('ines.aldabe');
    const refused = await ines.post('/api/events', meetingRequest({ title: 'Told nobody' }));
    expect(refused.status).toBe(500);
  } finally {
    platform.consumers = before;
  }
  expect(await server.sql(`select 1 from event where title = 'Told nobody'`)).toEqual([]);
});
