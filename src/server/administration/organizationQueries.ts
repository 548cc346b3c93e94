import type { OrganizationDetail } from '../../contract/administration.ts';
import type { StartStep } from '../../core/people/firstHour.ts';
import type { Database, Transaction } from '../db/transaction.ts';

const LATER = 'start-later';
/** That somebody looked at the first site, and left it as it was. */
const SITE_IS_RIGHT = 'start-site-is-right';

/** The organization with what it holds, and the steps of its first hour that were left for later. */
export async function readOrganization(db: Database): Promise<
  Pick<OrganizationDetail, 'name' | 'firstWeekday' | 'clock' | 'people' | 'places'> & {
    later: StartStep[];
    sites: number;
  }
> {
  const { rows } = await db.query<
    Pick<OrganizationDetail, 'name' | 'firstWeekday' | 'clock' | 'people' | 'places'> & {
      later: StartStep[];
      sites: number;
    }
  >(
    `select name, first_weekday as "firstWeekday", clock,
            (select count(*) from person
             where organization_id = organization.id and account not in ('ended', 'removed')) as people,
            (select count(*) from resource join site on site.id = resource.site_id
             where site.organization_id = organization.id and retired_at is null) as places,
            (select count(*) from site where organization_id = organization.id and removed_at is null
               and (version > 1 or exists (select from holiday where site_id = site.id)
                    or exists (select from setting where key = '${SITE_IS_RIGHT}'))) as sites,
            coalesce((select value from setting where key = '${LATER}'), '[]') as later
     from organization where is_home`,
  );
  return rows[0]!;
}

export function updateOrganization(
  tx: Transaction,
  id: number,
  { name, firstWeekday, clock }: { name?: string; firstWeekday?: number; clock?: '24' | '12' },
): void {
  tx.send(
    `update organization set name = coalesce($2, name), first_weekday = coalesce($3, first_weekday),
                             clock = coalesce($4, clock)
     where id = $1`,
    [id, name ?? null, firstWeekday ?? null, clock ?? null],
  );
}

export function writeLater(tx: Transaction, steps: readonly StartStep[]): void {
  tx.send(
    `insert into setting (key, value) values ('${LATER}', $1)
     on conflict (key) do update set value = excluded.value`,
    [JSON.stringify(steps)],
  );
}

export function writeSiteIsRight(tx: Transaction): void {
  tx.send(
    `insert into setting (key, value) values ('${SITE_IS_RIGHT}', 'true') on conflict do nothing`,
  );
}
