import { expect, inject, test } from 'vitest';
import pg from 'pg';
import { SHARING_LEVELS, type SharingLevel, type Shown } from '../../core/availability/busy.ts';
import type { Database } from '../db/transaction.ts';
import { Levels } from './levels.ts';
import { projectBooking } from './project.ts';
import { seesHolderSql, seesTitleSql } from './seen.ts';
import { unprojectedOf } from './unprojected.ts';

const SHOWN: readonly Shown[] = ['default', 'public', 'private', 'hidden', 'draft'];
const VIEWER = 1;
const OWNER = 2;
const PLACE = 3;

/** A database that knows what one person shares with another, and nothing else. */
const sharing = (level: SharingLevel | null): Database =>
  ({
    query: () =>
      Promise.resolve({ rows: level === null ? [] : [{ person_id: OWNER, level }], rowCount: 1 }),
  }) as unknown as Database;

/** Somebody who looks after places: all, some, or none. */
const viewer = (keeps: number[] | null) => ({
  ...{ id: VIEWER, keeps },
  acts: keeps?.length === 0 ? [] : (['see', 'change'] as const).slice(),
});

/** What of a booking is shown to somebody: by the same function as every answer. */
async function shownTo(
  keeps: number[] | null,
  {
    level,
    visibility,
    takesPart,
  }: { level: SharingLevel | null; visibility: Shown; takesPart: boolean },
) {
  const levels = await Levels.of(sharing(level), { me: viewer(keeps) }, [OWNER]);
  const booking = projectBooking(
    {
      ...{
        eventId: 'e',
        occurrence: null,
        resourceId: PLACE,
        unit: 1,
        start: 0,
        end: 1,
        mine: false,
      },
      ...{ state: 'held', organizerId: OWNER, visibility, takesPart },
      title: unprojectedOf('its title'),
      organizer: unprojectedOf('whose it is'),
    },
    levels,
  );
  return { title: booking.title !== null, holder: booking.holder !== null };
}

test('what the database finds to be seen of a booking is what is shown of it', async () => {
  const cases = [...SHARING_LEVELS, 'coordinates' as const, null].flatMap((level) =>
    SHOWN.flatMap((visibility) =>
      [true, false].map((takesPart) => ({ level, visibility, takesPart })),
    ),
  );
  const told = { level: 'level', visibility: 'visibility', takesPart: 'takes_part' };
  const client = new pg.Client({ connectionString: inject('adminUrl') });
  await client.connect();
  const { rows } = await client.query<Record<string, boolean>>(
    `select ${seesTitleSql(told)} as title, ${seesHolderSql(told, 'false')} as holder,
            ${seesHolderSql(told, 'true')} as keeper, ${seesHolderSql(told, `${PLACE} = any('{1, 3}')`)} as "itsKeeper",
            ${seesHolderSql(told, `${PLACE} = any('{1, 2}')`)} as "keeperOfOthers"
     from unnest($1::text[], $2::text[], $3::boolean[]) with ordinality
       as booking (level, visibility, takes_part, place) order by place`,
    [
      cases.map((one) => one.level),
      cases.map((one) => one.visibility),
      cases.map((one) => one.takesPart),
    ],
  );
  await client.end();
  const shown = await Promise.all(
    cases.map(async (one) => ({
      ...(await shownTo([], one)),
      keeper: (await shownTo(null, one)).holder,
      itsKeeper: (await shownTo([1, PLACE], one)).holder,
      keeperOfOthers: (await shownTo([1, 2], one)).holder,
    })),
  );
  expect(rows).toEqual(shown);
  // Both are seen and both are hidden, so that neither is compared with nothing.
  expect(new Set(shown.map((one) => one.title)).size).toBe(2);
  expect(new Set(shown.map((one) => one.holder)).size).toBe(2);
});
