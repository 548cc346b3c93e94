import { commentsRoutes } from '../../contract/comments.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { implement, MadeAgain, makesAgain } from '../http/index.ts';
import { commentsFor, remove, rewrite, say } from './service.ts';

/** The kind of answers that are all that is said about a meeting. */
const COMMENTS = 'comments';
makesAgain(COMMENTS, (tx, actor, { id }) => commentsFor(tx, actor, id as string));

const allOf = async (tx: Transaction, actor: PersonActor, id: string) =>
  new MadeAgain(await commentsFor(tx, actor, id), { kind: COMMENTS, id });

export const commentsApi = implement(commentsRoutes, (platform) => ({
  'GET /api/events/:id/comments': ({ actor, params }) =>
    commentsFor(platform.pool, actor, params.id),
  'POST /api/events/:id/comments': async (tx, { actor, params, body }) => {
    await say(tx, platform, actor, params.id, body);
    return allOf(tx, actor, params.id);
  },
  'PATCH /api/events/:id/comments/:comment': async (tx, { actor, params, body }) => {
    await rewrite(tx, platform, actor, params.id, params.comment, body.words);
    return allOf(tx, actor, params.id);
  },
  'DELETE /api/events/:id/comments/:comment': async (tx, { actor, params }) => {
    await remove(tx, platform, actor, params.id, params.comment, true);
    return allOf(tx, actor, params.id);
  },
  'POST /api/events/:id/comments/:comment/restore': async (tx, { actor, params }) => {
    await remove(tx, platform, actor, params.id, params.comment, false);
    return allOf(tx, actor, params.id);
  },
}));
