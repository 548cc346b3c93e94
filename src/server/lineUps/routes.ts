import { lineUpsRoutes } from '../../contract/lineUps.ts';
import { DAY } from '../../core/time/interval.ts';
import { implement } from '../http/index.ts';
import { readLineUps, readMet } from './queries.ts';
import { forgetLineUp, ownersOf, rememberLineUp } from './service.ts';
import { MET_DAYS, MOST_MET } from './limits.ts';

export const lineUpsApi = implement(lineUpsRoutes, ({ pool }) => ({
  'GET /api/line-ups': async ({ actor: { me }, now }) => {
    const [lineUps, met] = await Promise.all([
      readLineUps(pool, me.id),
      readMet(pool, me.id, now - MET_DAYS * DAY, now, MOST_MET),
    ]);
    return { lineUps, met };
  },
  'PUT /api/line-ups': (tx, { actor, body }) => rememberLineUp(tx, actor.me.id, body),
  'DELETE /api/line-ups/:id': (tx, { actor, params }) => forgetLineUp(tx, actor.me.id, params.id),
  'POST /api/line-ups/addresses': ({ body }) => ownersOf(pool, body.emails),
}));
