import { expect, it } from 'vitest';
import { useServer } from '../../tests/support/server.ts';
import { errorForLog } from './logging.ts';

const server = useServer({ works: false });

it('an error in the log says where and of which kind, and quotes nobody', async () => {
  const failing: (() => Promise<unknown>)[] = [
    () => server.sql(`insert into setting (key, value) values ('a private matter', '{"half": ')`),
    () =>
      server.sql(
        `insert into category (owner_id, name, colour) values (-1, 'a private matter', 'moss')`,
      ),
    () => server.sql(`select 'a private matter'::int`),
    () => Promise.resolve().then(() => JSON.parse('{"a private matter') as unknown),
  ];
  for (const one of failing) {
    const error: unknown = await one().then(
      () => null,
      (failure: unknown) => failure,
    );
    const logged = errorForLog(error);
    expect(JSON.stringify(logged)).not.toContain('private matter');
    expect(logged.stack).toEqual(expect.arrayContaining([expect.stringMatching(/^at /)]));
  }
  expect(errorForLog(new Error('the disk is full'))).toMatchObject({ message: 'the disk is full' });
});
