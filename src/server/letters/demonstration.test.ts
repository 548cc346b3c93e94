import { expect, it } from 'vitest';
import { faultsOf } from '../../../tests/support/readCalendars.ts';
import { useServer } from '../../../tests/support/server.ts';

const server = useServer({ works: false });

it('the letters of the demonstration are read by a parser that is not Marmot’s own', async () => {
  const rows = await server.sql<{ calendar: string }>(
    'select distinct calendar from mail where calendar is not null',
  );
  expect(rows.length).toBeGreaterThan(3);
  expect(faultsOf(rows.map((row) => row.calendar))).toEqual([]);
});
