import type { LedgerColumn, LedgerGroup } from '../../contract/ledger.ts';
import { addDays, isDate, startOfDay } from '../../core/time/wall.ts';
import { TITLE, type Statement } from './matchingQueries.ts';

/** By what a column is sorted, and of which type that is. */
export function sortOf(column: LedgerColumn, { seen }: Statement): { sql: string; type: string } {
  const text = (sql: string) => ({ sql, type: 'text' });
  switch (column) {
    case 'start':
      return { sql: 'r.starts_at', type: 'timestamptz' };
    case 'length':
      return { sql: 'r.minutes', type: 'int' };
    case 'place':
      return text('lower(place.name)');
    case 'kind':
      return text('resource.kind');
    case 'site':
      return text('lower(site.name)');
    case 'floor':
      return text(`lower(site.name || ' ' || resource.floor)`);
    case 'title':
      return text(`case when ${seen.title} then lower(${TITLE}) else '' end`);
    case 'holder':
      return text(`case when ${seen.holder} then coalesce(lower(holder.name), '') else '' end`);
    case 'state':
      return text('r.state');
  }
}

/** By what rows are put together: the key of a group, and what it is called. */
export function groupOf(
  group: LedgerGroup,
  statement: Statement,
  zone: string,
): { key: string; label: string } {
  const { seen } = statement;
  const same = (sql: string) => ({ key: sql, label: sql });
  // Asked for alone where it is needed: a parameter that nothing names has no type.
  const local = () => `(r.starts_at at time zone ${statement.param(zone)}::text)`;
  switch (group) {
    case 'day':
      return same(`${local()}::date`);
    case 'week':
      return same(`date_trunc('week', ${local()})::date`);
    case 'length':
      return same('r.minutes');
    case 'place':
      return { key: 'r.resource_id::text', label: 'place.name' };
    case 'kind':
      return same('resource.kind');
    case 'site':
      return { key: 'resource.site_id::text', label: 'site.name' };
    case 'floor':
      return {
        key: `resource.site_id || ':' || resource.floor`,
        label: `concat_ws(', ', site.name, nullif('floor ' || resource.floor, 'floor '))`,
      };
    case 'title':
      return {
        key: `case when ${seen.title} then 't' || ${TITLE} else '-' end`,
        label: `case when ${seen.title} then ${TITLE} end`,
      };
    case 'holder':
      return {
        key: `case when ${seen.holder} then coalesce(nullif(r.holder_id, 0)::text, '-') else '-' end`,
        label: `case when ${seen.holder} then holder.name end`,
      };
    case 'state':
      return same('r.state');
  }
}

/**
 * Leaves the bookings of a group alone, by what an index leads to where one can.
 * @returns whether there can be any: no group has such a key otherwise
 */
export function narrowToGroup(
  group: LedgerGroup,
  key: string,
  statement: Statement,
  zone: string,
): boolean {
  const { about, where, param } = statement;
  if (group === 'place') {
    if (!/^\d{1,9}$/.test(key)) return false;
    where.push(`r.resource_id = ${param(Number(key))}`);
  } else if (group === 'day' || group === 'week') {
    if (!isDate(key)) return false;
    const from = param(new Date(startOfDay(key, zone)));
    const to = param(new Date(startOfDay(addDays(key, group === 'day' ? 1 : 7), zone)));
    where.push(`r.starts_at >= ${from} and r.starts_at < ${to}`);
  } else {
    const conditions = group === 'title' || group === 'holder' ? about!.where : where;
    conditions.push(`(${groupOf(group, statement, zone).key})::text = ${param(key)}`);
  }
  return true;
}
