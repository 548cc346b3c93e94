import Router from '@koa/router';
import { changeCommentRequest, commentPath, commentRequest } from '../../contract/comments.ts';
import { eventPath } from '../../contract/events.ts';
import type { PersonActor } from '../actions/index.ts';
import type { Transaction } from '../db/transaction.ts';
import { act, makesAgain, read, readBody, requireActor } from '../http/index.ts';
import type { Platform } from '../platform.ts';
import { commentsFor, remove, rewrite, say } from './service.ts';

/** The kind of answers that are all that is said about a meeting. */
const COMMENTS = 'comments';

/** /api/events/:id/comments: what is said about a meeting, saying, changing and removing it. */
export function commentsRoutes(platform: Platform): Router {
  const router = new Router({ prefix: '/api/events/:id/comments' });

  const said = async (status: number, tx: Transaction, actor: PersonActor, id: string) => ({
    status,
    body: await commentsFor(tx, actor, id),
    again: { kind: COMMENTS, id },
  });
  makesAgain(COMMENTS, (tx, actor, { id }) => commentsFor(tx, actor, id as string));

  router.get('/', async (ctx) => {
    const { id } = read(eventPath, ctx.params);
    ctx.body = await commentsFor(platform.pool, requireActor(ctx), id);
  });

  router.post('/', async (ctx) => {
    const { id } = read(eventPath, ctx.params);
    const request = readBody(commentRequest, ctx);
    await act(ctx, platform, async (tx, actor) => {
      await say(tx, platform, actor, id, request);
      return said(201, tx, actor, id);
    });
  });

  router.patch('/:comment', async (ctx) => {
    const { id, comment } = read(commentPath, ctx.params);
    const { words } = readBody(changeCommentRequest, ctx);
    await act(ctx, platform, async (tx, actor) => {
      await rewrite(tx, platform, actor, id, comment, words);
      return said(200, tx, actor, id);
    });
  });

  router.delete('/:comment', async (ctx) => {
    const { id, comment } = read(commentPath, ctx.params);
    await act(ctx, platform, async (tx, actor) => {
      await remove(tx, platform, actor, id, comment, true);
      return said(200, tx, actor, id);
    });
  });

  router.post('/:comment/restore', async (ctx) => {
    const { id, comment } = read(commentPath, ctx.params);
    await act(ctx, platform, async (tx, actor) => {
      await remove(tx, platform, actor, id, comment, false);
      return said(200, tx, actor, id);
    });
  });

  return router;
}
