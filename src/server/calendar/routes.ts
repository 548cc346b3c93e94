import Router from '@koa/router';
import { z } from 'zod';
import {
  calendarQuery,
  changeLayerRequest,
  fullnessQuery,
  LAYER_COLOURS,
  MOST_LAYERS,
  newLayerRequest,
  searchCalendarQuery,
  type Holiday,
} from '../../contract/calendar.ts';
import { calendarDate, idInPath } from '../../contract/common.ts';
import { invalid } from '../../core/refusal.ts';
import { act, Problem, read, readBody, requireActor } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { deleteLayer, insertLayer, readLayerList, updateLayer } from './layerQueries.ts';
import { readHolidays } from './queries.ts';
import { findEvents } from './searchQueries.ts';
import { calendar, cancelledItems, dayFullness } from './service.ts';

const layerPath = z.strictObject({ id: idInPath });
const holidayQuery = z.strictObject({ first: calendarDate, last: calendarDate });
const noSuchLayer = () => new Problem(404, 'no-such-layer', 'You have no such layer.');

/** /api/calendar: what stands in calendars, how full days are, search, layers, what was cancelled. */
export function calendarRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/calendar' });
  const { pool, clock } = platform;

  router.get('/', async (ctx) => {
    const actor = requireActor(ctx);
    ctx.body = await calendar(pool, actor, read(calendarQuery, { ...ctx.query }));
  });

  router.get('/fullness', async (ctx) => {
    const actor = requireActor(ctx);
    ctx.body = await dayFullness(pool, actor, read(fullnessQuery, { ...ctx.query }));
  });

  router.get('/holidays', async (ctx) => {
    const { me } = requireActor(ctx);
    const { first, last } = read(holidayQuery, { ...ctx.query });
    const holidays: Holiday[] = me.siteId ? await readHolidays(pool, me.siteId, first, last) : [];
    ctx.body = { holidays };
  });

  router.get('/search', async (ctx) => {
    const { me } = requireActor(ctx);
    const search = read(searchCalendarQuery, { ...ctx.query });
    ctx.body = { found: await findEvents(pool, me.id, search, clock.now()) };
  });

  router.get('/cancelled', async (ctx) => {
    const actor = requireActor(ctx);
    ctx.body = { cancelled: await cancelledItems(pool, actor, clock.now()) };
  });

  router.get('/layers', async (ctx) => {
    ctx.body = { layers: await readLayerList(pool, requireActor(ctx).me.id) };
  });

  router.post('/layers', async (ctx) => {
    const request = readBody(newLayerRequest, ctx);
    await act(ctx, platform, async (tx, { me }) => {
      const layers = await readLayerList(tx, me.id);
      if (layers.length >= MOST_LAYERS) {
        throw invalid([
          { field: 'subjectId', message: `may be one of at most ${MOST_LAYERS} layers` },
        ]);
      }
      if (request.subjectId === me.id) {
        throw invalid([{ field: 'subjectId', message: 'must be somebody else: yours is there' }]);
      }
      // The colour that is used least, the first of those.
      const uses = (colour: string) => layers.filter((one) => one.colour === colour).length;
      const colour = [...LAYER_COLOURS].sort((a, b) => uses(a) - uses(b))[0]!;
      const of = { subjectId: request.subjectId ?? null, teamId: request.teamId ?? null };
      if (!(await insertLayer(tx, me.id, of, colour))) {
        const field = of.teamId === null ? 'subjectId' : 'teamId';
        throw invalid([{ field, message: 'must be the id of a person, a resource or a team' }]);
      }
      return { status: 201, body: { layers: await readLayerList(tx, me.id) } };
    });
  });

  router.patch('/layers/:id', async (ctx) => {
    const { id } = read(layerPath, ctx.params);
    const change = readBody(changeLayerRequest, ctx);
    await act(ctx, platform, async (tx, { me }) => {
      if (!(await updateLayer(tx, me.id, id, change))) throw noSuchLayer();
      return { status: 200, body: { layers: await readLayerList(tx, me.id) } };
    });
  });

  router.delete('/layers/:id', async (ctx) => {
    const { id } = read(layerPath, ctx.params);
    await act(ctx, platform, async (tx, { me }) => {
      if (!(await deleteLayer(tx, me.id, id))) throw noSuchLayer();
      return { status: 200, body: { layers: await readLayerList(tx, me.id) } };
    });
  });

  return router;
}
