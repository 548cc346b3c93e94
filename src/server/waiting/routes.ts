import { waitingRoutes } from '../../contract/waiting.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { implement } from '../http/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import { readWaited } from './queries.ts';
import { takeOffer, waitFor, waitNoMore } from './service.ts';

const announceOwn = (tx: Transaction, { me }: PersonActor) =>
  announce(tx, [subjectOf('person', me.id)]);

export const waitingApi = implement(waitingRoutes, (platform) => ({
  'GET /api/waiting': async ({ actor }) => ({
    waiting: await readWaited(platform.pool, actor.me.id),
  }),
  'POST /api/waiting': async (tx, { actor, body }) => {
    const kept = await waitFor(tx, platform, actor, body);
    announceOwn(tx, actor);
    return kept;
  },
  'POST /api/waiting/:id/take': async (tx, { actor, params }) => {
    const taken = await takeOffer(tx, platform, actor, params.id);
    announceOwn(tx, actor);
    return taken;
  },
  'DELETE /api/waiting/:id': async (tx, { actor, params }) => {
    await waitNoMore(tx, platform, actor, params.id);
    announceOwn(tx, actor);
    return { waits: false };
  },
}));
