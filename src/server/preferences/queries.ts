import type { Category, PreferenceChange } from '../../contract/preferences.ts';
import type { Preferences } from '../../contract/session.ts';
import { NOTICE_KINDS } from '../../core/meetings/notices.ts';
import type { Database, Transaction } from '../db/transaction.ts';

/** How each kind of news is heard of until somebody chooses. */
const AT_ONCE = Object.fromEntries(
  NOTICE_KINDS.map((kind) => [kind, 'now']),
) as Preferences['hearing'];

/** What somebody has chosen, or what holds until they choose; hours apart. */
export async function readDeliveryChoices(
  db: Database,
  personId: number,
): Promise<Omit<Preferences, 'hours'>> {
  const { rows } = await db.query<
    Omit<Preferences, 'hours' | 'hearing'> & { hearing: Partial<Preferences['hearing']> }
  >(
    `select first_weekday as "firstWeekday", shown_from as "shownFrom", shown_to as "shownTo",
            default_minutes as "defaultMinutes", default_reminders as "defaultReminders",
            shift_minutes as "shiftMinutes", arrangement, hearing
     from preference where person_id = $1`,
    [personId],
  );
  const choices = rows[0] ?? {
    firstWeekday: 1,
    shownFrom: 420,
    shownTo: 1140,
    defaultMinutes: 30,
    defaultReminders: [{ minutes: 10, means: 'popup' }],
    shiftMinutes: 0,
    arrangement: 'over',
    hearing: {},
  };
  return { ...choices, hearing: { ...AT_ONCE, ...choices.hearing } };
}

/** Lets others who change what this person chose wait, so that what each leaves as it was stays so. */
export async function lockChoices(tx: Transaction, personId: number): Promise<void> {
  await tx.query('select from person where subject_id = $1 for no key update', [personId]);
}

export async function writeChoices(
  tx: Transaction,
  personId: number,
  choices: Omit<Preferences, 'hours'>,
): Promise<void> {
  await tx.query(
    `insert into preference (person_id, first_weekday, shown_from, shown_to, default_minutes,
                             default_reminders, arrangement, hearing, shift_minutes)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9)
     on conflict (person_id) do update
       set first_weekday = excluded.first_weekday, shown_from = excluded.shown_from,
           shown_to = excluded.shown_to, default_minutes = excluded.default_minutes,
           default_reminders = excluded.default_reminders, arrangement = excluded.arrangement,
           hearing = excluded.hearing, shift_minutes = excluded.shift_minutes`,
    [
      personId,
      choices.firstWeekday,
      choices.shownFrom,
      choices.shownTo,
      choices.defaultMinutes,
      JSON.stringify(choices.defaultReminders),
      choices.arrangement,
      JSON.stringify(choices.hearing),
      choices.shiftMinutes,
    ],
  );
}

export async function writePerson(
  tx: Transaction,
  personId: number,
  { zone, furtherZones, clock }: PreferenceChange,
): Promise<void> {
  await tx.query(
    `update person set zone = coalesce($2, zone), further_zones = coalesce($3, further_zones),
                       clock = coalesce($4, clock)
     where subject_id = $1`,
    [personId, zone ?? null, furtherZones ?? null, clock ?? null],
  );
}

export async function replaceHours(
  tx: Transaction,
  personId: number,
  hours: NonNullable<PreferenceChange['hours']>,
): Promise<void> {
  await tx.query('delete from working_shift where person_id = $1', [personId]);
  const shifts = hours.flatMap((day, k) => day.map((shift) => ({ weekday: k + 1, ...shift })));
  await tx.query(
    `insert into working_shift (person_id, weekday, start_minute, end_minute)
     select $1, * from unnest($2::int[], $3::int[], $4::int[])`,
    [
      personId,
      shifts.map((one) => one.weekday),
      shifts.map((one) => one.start),
      shifts.map((one) => one.end),
    ],
  );
}

export async function readCategories(db: Database, ownerId: number): Promise<Category[]> {
  const { rows } = await db.query<Category>(
    `select id, name, colour, pattern,
            (select count(*) from event_category where category_id = category.id) as events
     from category where owner_id = $1 order by name`,
    [ownerId],
  );
  return rows;
}

type CategoryFacts = Pick<Category, 'name' | 'colour' | 'pattern'>;

/** @returns false when the person has another category of that name */
export async function insertCategory(
  tx: Transaction,
  ownerId: number,
  { name, colour, pattern }: CategoryFacts,
): Promise<boolean> {
  const { rowCount } = await tx.query(
    `insert into category (owner_id, name, colour, pattern) values ($1, $2, $3, $4)
     on conflict (owner_id, name) do nothing`,
    [ownerId, name, colour, pattern],
  );
  return rowCount === 1;
}

/** @returns what came of it: `taken` when another category has that name */
export async function updateCategory(
  tx: Transaction,
  ownerId: number,
  id: number,
  { name, colour, pattern }: CategoryFacts,
): Promise<'changed' | 'missing' | 'taken'> {
  const other = await tx.query(
    'select 1 from category where owner_id = $1 and name = $2 and id <> $3',
    [ownerId, name, id],
  );
  if (other.rowCount) return 'taken';
  const { rowCount } = await tx.query(
    'update category set name = $3, colour = $4, pattern = $5 where owner_id = $1 and id = $2',
    [ownerId, id, name, colour, pattern],
  );
  return rowCount === 1 ? 'changed' : 'missing';
}

export async function deleteCategory(
  tx: Transaction,
  ownerId: number,
  id: number,
): Promise<boolean> {
  const { rowCount } = await tx.query('delete from category where owner_id = $1 and id = $2', [
    ownerId,
    id,
  ]);
  return rowCount === 1;
}
