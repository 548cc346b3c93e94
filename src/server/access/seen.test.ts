import { expect, inject, test } from 'vitest';
import pg from 'pg';
import {
  eventLevel,
  seesBusyTimes,
  SHARING_LEVELS,
  showsTitle,
  type Shown,
} from '../../core/availability/busy.ts';
import { seesHolderSql, seesTitleSql } from './seen.ts';

const SHOWN: readonly Shown[] = ['default', 'public', 'private', 'draft'];

test('what the database finds to be seen of a booking is what is shown of it', async () => {
  const cases = [...SHARING_LEVELS, null].flatMap((level) =>
    SHOWN.flatMap((visibility) =>
      [true, false].map((takesPart) => ({ level, visibility, takesPart })),
    ),
  );
  const told = { level: 'level', visibility: 'visibility', takesPart: 'takes_part' };
  const client = new pg.Client({ connectionString: inject('adminUrl') });
  await client.connect();
  const { rows } = await client.query<{ title: boolean; holder: boolean; keeper: boolean }>(
    `select ${seesTitleSql(told)} as title, ${seesHolderSql(told, false)} as holder,
            ${seesHolderSql(told, true)} as keeper
     from unnest($1::text[], $2::text[], $3::boolean[]) with ordinality
       as booking (level, visibility, takes_part, place) order by place`,
    [
      cases.map((one) => one.level),
      cases.map((one) => one.visibility),
      cases.map((one) => one.takesPart),
    ],
  );
  await client.end();
  expect(rows).toEqual(
    cases.map(({ level, visibility, takesPart }) => ({
      title: showsTitle(eventLevel(level ?? 'nothing', visibility, takesPart)),
      holder: takesPart || seesBusyTimes(level ?? 'nothing'),
      keeper: true,
    })),
  );
});
