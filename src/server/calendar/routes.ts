import { calendarRoutes } from '../../contract/calendar.ts';
import { implement } from '../http/index.ts';
import { addLayer, changeLayer, removeLayer } from './layers.ts';
import { readLayerList } from './layerQueries.ts';
import { readHolidays } from './queries.ts';
import { findEvents } from './searchQueries.ts';
import { calendar, cancelledItems, dayFullness } from './service.ts';

export const calendarApi = implement(calendarRoutes, ({ pool }) => ({
  'GET /api/calendar': ({ actor, query }) => calendar(pool, actor, query),
  'GET /api/calendar/fullness': ({ actor, query }) => dayFullness(pool, actor, query),
  'GET /api/calendar/holidays': async ({ actor: { me }, query }) => ({
    holidays: me.siteId ? await readHolidays(pool, me.siteId, query.first, query.last) : [],
  }),
  'GET /api/calendar/search': async ({ actor, query, now }) => ({
    found: await findEvents(pool, actor.me.id, query, now),
  }),
  'GET /api/calendar/cancelled': async ({ actor, now }) => ({
    cancelled: await cancelledItems(pool, actor, now),
  }),
  'GET /api/calendar/layers': async ({ actor }) => ({
    layers: await readLayerList(pool, actor.me.id),
  }),
  'POST /api/calendar/layers': (tx, { actor, body }) => addLayer(tx, actor.me.id, body),
  'PATCH /api/calendar/layers/:id': (tx, { actor, params, body }) =>
    changeLayer(tx, actor.me.id, params.id, body),
  'DELETE /api/calendar/layers/:id': (tx, { actor, params }) =>
    removeLayer(tx, actor.me.id, params.id),
}));
