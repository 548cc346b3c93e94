import { Readable } from 'node:stream';
import Router from '@koa/router';
import {
  ledgerChange,
  ledgerExportQuery,
  ledgerQuery,
  ledgerViewRequest,
} from '../../contract/ledger.ts';
import { undoTogetherRequest } from '../../contract/events.ts';
import { placePath } from '../../contract/places.ts';
import { undoTogether } from '../events/index.ts';
import { act, read, requireActor } from '../http/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import type { Platform } from '../platform.ts';
import { changeLedger } from './change.ts';
import { csvOf, icalendarOf } from './export.ts';
import { readNamedBy, readViews } from './queries.ts';
import {
  forgetView,
  keepView,
  ledgerPage,
  ledgerRows,
  reading,
  refuseTooMany,
  refuseTooWide,
} from './service.ts';

/** /api/ledger: all bookings as a table, written out, and changed together. */
export function ledgerRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/ledger' });

  router.get('/', async (ctx) => {
    const actor = requireActor(ctx);
    const query = read(ledgerQuery, { ...ctx.query });
    const now = platform.clock.now();
    ctx.body = await reading(platform.pool, (tx) => ledgerPage(tx, actor, query, now));
  });

  for (const [name, type] of [
    ['bookings.csv', 'text/csv'],
    ['bookings.ics', 'text/calendar'],
  ] as const) {
    router.get(`/${name}`, async (ctx) => {
      const actor = requireActor(ctx);
      const query = read(ledgerExportQuery, { ...ctx.query });
      const now = platform.clock.now();
      const searched = await reading(platform.pool, async (tx) => {
        const named = await readNamedBy(tx, query.q);
        await refuseTooWide(tx, actor, { ...query, named }, now);
        await refuseTooMany(tx, actor, { ...query, named }, now);
        return { ...query, named };
      });
      const parts = ledgerRows(platform.pool, actor, searched, now);
      ctx.attachment(name);
      ctx.type = `${type}; charset=utf-8`;
      ctx.body = Readable.from(
        type === 'text/csv' ? csvOf(parts, actor.me.zone) : icalendarOf(parts, now),
      );
    });
  }

  router.post('/change', async (ctx) => {
    const request = read(ledgerChange, ctx.request.body);
    await act(ctx, platform, async (tx, actor) => ({
      status: 200,
      body: await changeLedger(tx, platform, actor, request),
    }));
  });

  router.post('/undo', async (ctx) => {
    const { changes } = read(undoTogetherRequest, ctx.request.body);
    await act(ctx, platform, async (tx, actor) => ({
      status: 200,
      body: await undoTogether(tx, platform, actor, changes),
    }));
  });

  router.get('/views', async (ctx) => {
    const { me } = requireActor(ctx);
    ctx.body = { views: await readViews(platform.pool, me.id) };
  });

  router.post('/views', async (ctx) => {
    const request = read(ledgerViewRequest, ctx.request.body);
    await act(ctx, platform, async (tx, actor) => {
      const kept = await keepView(tx, actor, request);
      announce(tx, [subjectOf('person', actor.me.id)]);
      return { status: 201, body: kept };
    });
  });

  router.delete('/views/:id', async (ctx) => {
    const { id } = read(placePath, ctx.params);
    await act(ctx, platform, async (tx, actor) => {
      await forgetView(tx, actor, id);
      announce(tx, [subjectOf('person', actor.me.id)]);
      return { status: 200, body: { kept: false } };
    });
  });

  return router;
}
