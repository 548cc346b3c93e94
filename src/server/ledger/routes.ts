import { Readable } from 'node:stream';
import { ledgerRoutes, type LedgerExportQuery } from '../../contract/ledger.ts';
import { undoTogether } from '../events/index.ts';
import { implement, type Asked } from '../http/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import { changeLedger, changesMade } from './change.ts';
import { csvOf, icalendarOf } from './export.ts';
import { readCalendarNames, readViews } from './queries.ts';
import { exportedRows, forgetView, keepView, ledgerPage, reading } from './service.ts';

type Export = Pick<Asked<{ may: 'read shared' }>, 'actor' | 'now' | 'ctx'> & {
  query: LedgerExportQuery;
};

export const ledgerApi = implement(ledgerRoutes, (platform) => {
  const { pool } = platform;

  /** Sends all rows that are asked for as a file, a part at a time. */
  const send = async (
    name: string,
    type: string,
    { actor, query, now, ctx }: Export,
    write: (parts: Awaited<ReturnType<typeof exportedRows>>) => AsyncIterable<string>,
  ) => {
    const parts = await exportedRows(pool, actor, query, now);
    ctx.attachment(name);
    ctx.type = `${type}; charset=utf-8`;
    ctx.body = Readable.from(write(parts));
  };

  return {
    'GET /api/ledger': ({ actor, query, now }) =>
      reading(pool, (tx) => ledgerPage(tx, actor, query, now)),
    'GET /api/ledger/bookings.csv': (asked) =>
      send('bookings.csv', 'text/csv', asked, (parts) => csvOf(parts, asked.actor.me.zone)),
    'GET /api/ledger/bookings.ics': (asked) =>
      send('bookings.ics', 'text/calendar', asked, (parts) =>
        icalendarOf(parts, (ids) => reading(pool, (tx) => readCalendarNames(tx, ids)), asked.now),
      ),
    'POST /api/ledger/change': (tx, { actor, body }) => changeLedger(tx, platform, actor, body),
    'GET /api/ledger/changes': async ({ actor, now }) => ({
      made: await changesMade(pool, actor, now),
    }),
    'POST /api/ledger/undo': (tx, { actor, body }) =>
      undoTogether(tx, platform, actor, body.changes),
    'GET /api/ledger/views': async ({ actor }) => ({ views: await readViews(pool, actor.me.id) }),
    'POST /api/ledger/views': async (tx, { actor, body }) => {
      const kept = await keepView(tx, actor, body);
      announce(tx, [subjectOf('person', actor.me.id)]);
      return kept;
    },
    'DELETE /api/ledger/views/:id': async (tx, { actor, params }) => {
      await forgetView(tx, actor, params.id);
      announce(tx, [subjectOf('person', actor.me.id)]);
      return { kept: false };
    },
  };
});
