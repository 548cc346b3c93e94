import { expect, it } from 'vitest';
import type { ProblemBody } from '../../contract/common.ts';
import type { EventDetail } from '../../contract/eventDetail.ts';
import type { Keeping } from '../../contract/keeping.ts';
import { meetingRequest } from '../../../tests/support/requests.ts';
import { useServer } from '../../../tests/support/server.ts';
import { housekeepingJob } from '../keeping/index.ts';

const server = useServer({ works: false });
const PATH = '/api/administration/keeping';
const tidy = () => housekeepingJob.work(server.running.platform, '', new AbortController().signal);

it('forgets what is past, said, written and logged after what is set, and nothing that is to come', async () => {
  const admin = await server.as('aksel.nordvik');
  const leila = await server.as('leila.haddad');
  const usual = (await admin.get<Keeping>(PATH)).body;
  expect(usual).toEqual({ past: null, comments: null, letters: 400, news: 60, log: 730 });
  const made = async (title: string) => {
    const answer = await leila.post<EventDetail>(
      '/api/events',
      meetingRequest({ title, attendees: [] }),
    );
    expect(answer.status).toBe(201);
    await leila.post(`/api/events/${answer.body.id}/comments`, { words: title, mentions: [] });
    return answer.body.id;
  };
  const [old, coming, series, touched] = [
    await made('Long past'),
    await made('To come'),
    await made('Goes on'),
    await made('Looked at lately'),
  ];
  const past = `timestamptz '2026-03-01 10:00Z'`;
  await server.sql(
    `update occurrence set starts_at = ${past}, ends_at = ${past} + interval '1 hour' where event_id = any($1)`,
    [[old, series, touched]],
  );
  await server.sql(`update event set updated_at = ${past} where id = any($1)`, [
    [old, coming, series],
  ]);
  await server.sql(
    `update claim set during = tstzrange(occurrence.starts_at, occurrence.ends_at) from occurrence
     where occurrence.id = occurrence_id and event_id = any($1)`,
    [[old, series, touched]],
  );
  // A series whose dates to come are not laid out yet goes on, whatever lies behind it.
  await server.sql(
    `update event set rule = 'FREQ=WEEKLY', is_laid_out_whole = false where id = $1`,
    [series],
  );
  await server.sql(`update comment set at = ${past} where event_id = $1`, [coming]);
  const there = async () =>
    (
      await server.sql<{ id: string }>('select id from event where id = any($1)', [
        [old, coming, series, touched],
      ])
    )
      .map(({ id }) => id)
      .sort();
  await tidy();
  expect(await there()).toHaveLength(4);
  const set = await admin.request<Keeping>('PUT', PATH, {
    ...usual,
    past: 90,
    comments: 90,
    log: 60,
  });
  expect(set.status, JSON.stringify(set.body)).toBe(200);
  await server.sql(
    `insert into fact (kind, actor_id, at, details, thing, thing_id)
     select kind, actor_id, timestamptz '2026-09-01 10:00Z', details, thing, thing_id from fact where thing is not null limit 1`,
  );
  const logged = () => server.sql(`select 1 from fact where at < timestamptz '2026-09-20'`);
  expect((await logged()).length).toBeGreaterThan(0);
  await tidy();
  expect(await there()).toEqual([coming, series, touched].sort());
  expect(await server.sql('select 1 from comment where event_id = $1', [coming])).toEqual([]);
  expect(await logged()).toEqual([]);
  await server.sql('delete from event where id = any($1)', [[series, touched]]);
  // It is said in the log, and set back.
  const log = await admin.get<{ entries: { what: string }[] }>(
    '/api/administration/log?what=organization',
  );
  expect(log.body.entries[0]!.what).toContain('what is past kept for ever → 90 days');
  expect((await admin.request('PUT', PATH, usual)).status).toBe(200);
  expect((await admin.get<Keeping>(PATH)).body).toEqual(usual);
});

it('is for administrators, within bounds that taking back needs', async () => {
  const admin = await server.as('aksel.nordvik');
  const usual = (await admin.get<Keeping>(PATH)).body;
  expect((await (await server.as('ines.aldabe')).get(PATH)).status).toBe(403);
  for (const [field, days] of [
    ['log', 29],
    ['log', null],
    ['past', 89],
    ['letters', 100_000],
    ['news', 1.5],
  ] as const) {
    const refused = await admin.request<ProblemBody>('PUT', PATH, { ...usual, [field]: days });
    expect([field, refused.status]).toEqual([field, 400]);
    expect(refused.body.fields?.[0]?.field).toBe(field);
  }
});
