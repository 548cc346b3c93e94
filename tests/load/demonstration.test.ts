import { pino } from 'pino';
import { expect, it } from 'vitest';
import { loadDemonstration } from '../../demo/data/index.ts';
import { partnerCalendars } from '../../demo/stand-ins/partnerCalendars/calendars.ts';
import { readConfig } from '../../src/server/config.ts';
import { migrate } from '../../src/server/db/migrate.ts';
import { webCalendars } from '../../src/server/published/index.ts';
import { createPlatform } from '../../src/server/server.ts';
import { createTestDatabase } from '../support/database.ts';

it('the full demonstration can be loaded right before holidays, with all that goes on', async () => {
  const database = await createTestDatabase();
  const config = readConfig({ MARMOT_DATABASE_URL: database.url, MARMOT_NOW: '2026-12-23T19:00Z' });
  const platform = createPlatform(
    config,
    pino({ level: 'warn' }),
    partnerCalendars(config.clock, webCalendars),
  );
  try {
    await platform.pool.query('drop schema public cascade; create schema public');
    await migrate(database.url);
    await loadDemonstration(platform);
    const { rows } = await platform.pool.query<Record<string, number>>(
      `select (select count(*)::int from closure) as closures,
              (select count(*)::int from waiting) as waiting,
              (select count(*)::int from reservation where state = 'requested') as asked,
              (select count(*)::int from reservation where state = 'in-use' and ends_at < $1) as used,
              (select count(*)::int from reservation where state = 'released' and used_at is null)
                as missed,
              (select count(*)::int from claim join reservation on reservation.id = reservation_id
               where reservation.state = 'released') as kept`,
      [new Date(config.clock.now())],
    );
    const { closures, waiting, asked, used, missed, kept } = rows[0]!;
    expect({ closures, waiting, kept }).toEqual({ closures: 1, waiting: 1, kept: 0 });
    expect(asked).toBeGreaterThan(0);
    expect(missed).toBeGreaterThan(3);
    expect(used).toBeGreaterThan(missed!);
  } finally {
    await platform.pool.end();
    await database.drop();
  }
});
