import type { Running } from '../../contract/running.ts';
import type { Database } from '../db/transaction.ts';

/** What the database knows of how Marmot fares. */
export async function readRunning(
  db: Database,
): Promise<Pick<Running, 'database' | 'jobs' | 'backup'>> {
  const { rows } = await db.query<Pick<Running, 'database' | 'jobs' | 'backup'>>(
    `select json_build_object(
              'version', current_setting('server_version'),
              'bytes', pg_database_size(current_database()),
              'tables', coalesce((select name from migration order by name desc limit 1), '')) as database,
            coalesce((select json_agg(json_build_object('kind', kind, 'due', due, 'tries', tries,
                        'since', floor(extract(epoch from since) * 1000)::bigint) order by since)
                      from (select kind, count(*) as due, min(due_at) as since, max(tries) as tries
                            from job where due_at <= now() - interval '1 minute' group by kind) late), '[]') as jobs,
            (select json_build_object('at', value->'at', 'bytes', value->'bytes') from setting
             where key = 'last-backup') as backup`,
  );
  return rows[0]!;
}
