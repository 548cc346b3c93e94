import { addressKey } from '../../core/mailAddress.ts';
import Router from '@koa/router';
import {
  addressesRequest,
  lineUpPath,
  lineUpRequest,
  type ReadAddresses,
} from '../../contract/lineUps.ts';
import type { ReadAddressList } from '../../core/planner/addresses.ts';
import { DAY } from '../../core/time/interval.ts';
import { invalid } from '../../core/refusal.ts';
import { act, Problem, read, readBody, requireActor } from '../http/index.ts';
import { findContacts } from '../people/index.ts';
import type { Platform } from '../platform.ts';
import { reader } from '../reading/index.ts';
import { deleteLineUp, existing, readLineUps, readMet, upsertLineUp } from './queries.ts';

const MOST_LINE_UPS = 50;
const MET_DAYS = 60;
const MOST_MET = 8;

const readAddressList = reader<string, ReadAddressList>(
  new URL('./addresses.worker.ts', import.meta.url),
  'The list',
);

/** /api/line-ups: line-ups that I remember, people I met lately, and lists of addresses. */
export function lineUpsRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/line-ups' });
  const { pool, clock } = platform;

  router.get('/', async (ctx) => {
    const { me } = requireActor(ctx);
    const [lineUps, met] = await Promise.all([
      readLineUps(pool, me.id),
      readMet(pool, me.id, clock.now() - MET_DAYS * DAY, clock.now(), MOST_MET),
    ]);
    ctx.body = { lineUps, met };
  });

  router.put('/', async (ctx) => {
    const request = readBody(lineUpRequest, ctx);
    await act(ctx, platform, async (tx, { me }) => {
      const known = await existing(
        tx,
        request.members.flatMap((one) => ('id' in one ? [one.id] : [])),
      );
      const wrong = request.members.findIndex((one) => 'id' in one && !known.has(one.id));
      if (wrong >= 0)
        throw invalid([
          { field: `members.${wrong}.id`, message: 'must be a person or a resource' },
        ]);
      const before = await readLineUps(tx, me.id);
      if (before.length >= MOST_LINE_UPS && !before.some((one) => one.name === request.name))
        throw invalid([{ field: 'name', message: `may be one of at most ${MOST_LINE_UPS}` }]);
      await upsertLineUp(tx, me.id, request);
      return { status: 200, body: { lineUps: await readLineUps(tx, me.id) } };
    });
  });

  router.delete('/:id', async (ctx) => {
    const { id } = read(lineUpPath, ctx.params);
    await act(ctx, platform, async (tx, { me }) => {
      if (!(await deleteLineUp(tx, me.id, id)))
        throw new Problem(404, 'no-such-line-up', 'You remember no such line-up.');
      return { status: 200, body: { lineUps: await readLineUps(tx, me.id) } };
    });
  });

  router.post('/addresses', async (ctx) => {
    requireActor(ctx);
    const { text } = readBody(addressesRequest, ctx);
    const { found, unreadable } = await readAddressList(text);
    const contacts = await findContacts(pool, { emails: found.map((one) => one.email) });
    const known = new Map(contacts.map((one) => [addressKey(one.email), one]));
    const body: ReadAddresses = { people: [], outside: [], unreadable };
    for (const one of found) {
      const person = known.get(addressKey(one.email));
      if (person) body.people.push({ id: person.id, name: person.name, email: person.email });
      else body.outside.push(one);
    }
    ctx.body = body;
  });

  return router;
}
