import Router from '@koa/router';
import { delegatePath, delegateRequest, type DelegatesResponse } from '../../contract/delegates.ts';
import type { Me } from '../../contract/session.ts';
import { invalid, Refusal } from '../../core/refusal.ts';
import type { Transaction } from '../db/transaction.ts';
import { act, read, readBody, requireActor } from '../http/index.ts';
import { plainMail, type Letter } from '../letters/index.ts';
import { announce, subjectOf } from '../live/index.ts';
import { postMails } from '../mail/index.ts';
import { findContacts, type Contact } from '../people/index.ts';
import type { Platform } from '../platform.ts';
import { deleteDelegate, putDelegate, readDelegates } from './queries.ts';

const MOST_DELEGATES = 20;

/** /api/delegates: who acts for me, and what they hear of. */
export function delegatesRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/delegates' });
  const { pool, clock } = platform;

  router.get('/', async (ctx) => {
    const { me } = requireActor(ctx);
    ctx.body = { delegates: await readDelegates(pool, me.id) } satisfies DelegatesResponse;
  });

  router.put('/:id', async (ctx) => {
    const { id } = read(delegatePath, ctx.params);
    const { receives } = readBody(delegateRequest, ctx);
    await act(ctx, platform, async (tx, { me }) => {
      const [delegate] = id === me.id ? [] : await findContacts(tx, { ids: [id] });
      if (!delegate)
        throw invalid([{ field: 'id', message: 'must be the id of somebody else of this place' }]);
      const before = await readDelegates(tx, me.id);
      if (before.length >= MOST_DELEGATES && !before.some((one) => one.id === id))
        throw invalid([{ field: 'id', message: `may be one of at most ${MOST_DELEGATES}` }]);
      const isNew = await putDelegate(tx, me.id, id, receives, clock.now());
      if (isNew) tell(tx, platform, me, delegate);
      return changed(tx, me, id);
    });
  });

  router.delete('/:id', async (ctx) => {
    const { id } = read(delegatePath, ctx.params);
    await act(ctx, platform, async (tx, { me }) => {
      if (!(await deleteDelegate(tx, me.id, id)))
        throw new Refusal('no-such-delegate', 'This person does not act for you.');
      return changed(tx, me, id);
    });
  });

  return router;
}

async function changed(tx: Transaction, me: Me, delegateId: number) {
  announce(tx, [subjectOf('person', me.id), subjectOf('person', delegateId)]);
  return {
    status: 200,
    body: { delegates: await readDelegates(tx, me.id) } satisfies DelegatesResponse,
  };
}

/** Whoever is given that much is told. */
function tell(tx: Transaction, { publicUrl, clock }: Platform, me: Me, delegate: Contact): void {
  const letter: Letter = {
    subject: `You may act for ${me.name}`,
    title: `You may act for ${me.name}`,
    opening: [
      `${me.name} lets you plan, answer and book in their name. What you do so is shown as yours, for ${me.name}.`,
    ],
    description: '',
    facts: [],
    link: { href: publicUrl, label: 'Open Marmot' },
  };
  postMails(tx, [plainMail(letter, delegate, me)], clock.now());
}
