import type { Transaction } from '../../src/server/db/transaction.ts';
import { SITE_HOLIDAYS } from './holidays.ts';
import type { LoadedOrganization } from './load.ts';
import { SITES } from './organization.ts';

const CATEGORIES = [
  { name: 'Team', colour: 'lake', pattern: 'plain' },
  { name: 'Field work', colour: 'spruce', pattern: 'stripes' },
  { name: 'Quiet work', colour: 'ochre', pattern: 'dots' },
  { name: 'One to one', colour: 'heather', pattern: 'waves' },
];

/** Which made-up titles belong to which category, as patterns of SQL. */
const SORTED: [category: string, pattern: string][] = [
  ['Team', '(weekly|notices)$'],
  ['Field work', '(boat|cruise|sampling|mooring|survey|dive|drone|field|station)'],
  ['One to one', '^[^ ]+ and [^ ]+$'],
];

/** What people have made their own: categories, and for two of them layers; and their sites' holidays. */
export async function storePersonal(
  tx: Transaction,
  { people, resources }: LoadedOrganization,
  year: number,
): Promise<void> {
  await storeHolidays(tx, year);
  await tx.query(
    `insert into category (owner_id, name, colour, pattern)
     select person.subject_id, new.name, new.colour, new.pattern
     from person, jsonb_to_recordset($1) as new (name text, colour text, pattern text)
     where person.password_hash is not null`,
    [JSON.stringify(CATEGORIES)],
  );
  for (const [category, pattern] of SORTED) await sort(tx, category, 'event.title ~* $2', pattern);
  await sort(
    tx,
    'Quiet work',
    `$2 = '' and attendee.role = 'organizer' and event.shows_as <> 'away'
    and event.shows_as <> 'free'
    and not exists (select 1 from attendee other where other.event_id = event.id and other.id <> attendee.id)`,
    '',
  );
  const id = (name: string) =>
    people.find((one) => one.name === name)?.id ?? resources.find((one) => one.name === name)!.id;
  await tx.query(
    `insert into delegate (principal_id, delegate_id, receives, since)
     values ($1, $2, 'invitations', make_timestamptz($3, 1, 1, 0, 0, 0, 'UTC'))`,
    [id('Josephine Arseneau'), id('Beth Comeau'), year],
  );
  const layers: [owner: string, of: string, colour: string][] = [
    ['Ines Aldabe', 'Tomas Okafor', 'rowan'],
    ['Ines Aldabe', 'Gannet', 'lake'],
  ];
  for (const [position, [owner, of, colour]] of layers.entries()) {
    await tx.query(
      `insert into layer (owner_id, subject_id, colour, shown, position) values ($1, $2, $3, $4, $5)`,
      [id(owner), id(of), colour, position === 0, position],
    );
  }
}

const sort = (tx: Transaction, category: string, condition: string, pattern: string) =>
  tx.query(
    `insert into event_category (event_id, person_id, category_id)
     select event.id, attendee.person_id, category.id
     from event
     join attendee on attendee.event_id = event.id
     join category on category.owner_id = attendee.person_id and category.name = $1
     where ${condition}
     on conflict do nothing`,
    [category, pattern],
  );

async function storeHolidays(tx: Transaction, year: number) {
  for (const [k, site] of SITES.entries()) {
    const days = [year - 1, year, year + 1, year + 2].flatMap((each) => SITE_HOLIDAYS[k]!(each));
    await tx.query(
      `insert into holiday (site_id, date, name)
       select site.id, new.date, new.name
       from site, unnest($2::date[], $3::text[]) as new (date, name) where site.name = $1`,
      [site.name, days.map(([date]) => date), days.map(([, name]) => name)],
    );
  }
}
